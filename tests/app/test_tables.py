"""Tables share their room: whatever comes when, no column is cut to nothing."""

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtWidgets import QApplication, QHeaderView

from vastzone.app.drawn import grown
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.table import FEW_WORDS, reading_table

WORDS = st.sampled_from(["", "on", "Strings", "Great gallery of the travelling company " * 3])
ROWS = st.lists(st.tuples(WORDS, WORDS, WORDS), min_size=1, max_size=4)
STEPS = st.lists(
    st.one_of(
        ROWS.map(lambda rows: ("rows", rows)),
        st.integers(120, 900).map(lambda wide: ("wide", wide)),
        st.sampled_from([("show", None), ("hide", None)]),
    ),
    max_size=8,
)


def table_of_three():
    made = reading_table(("Name", "More", "Ticked"), "A table")
    header = made.horizontalHeader()
    header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
    return made


@settings(
    deadline=None, max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(STEPS)
def test_the_column_that_gives_way_keeps_room_for_a_few_words(qapp, steps):
    table = table_of_three()
    for what, given_ in steps:
        if what == "rows":
            table.show_rows([row_of(cells) for cells in given_])
        elif what == "wide":
            table.resize(given_, 200)
        else:
            table.setVisible(what == "show")
        QApplication.processEvents()
    table.show()
    for _ in range(3):
        QApplication.processEvents()
    wanted = min(grown(FEW_WORDS), table.sizeHintForColumn(0))
    assert table.columnWidth(0) >= wanted
    table.close()
