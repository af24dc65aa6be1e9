"""The lines and columns of the overview: under their devices, filtered by what is asked."""

import pytest

from tests.rigs import joined, keyboard, module, pads, part, wish, zone
from vastzone.core.pictures.grid_lines import Filter, columns, lines
from vastzone.core.plan.model.parts import Target
from vastzone.core.proof.grid import grid
from vastzone.core.proof.marking import prove

BOX = module(
    part("piano", colour=3), part("two", 2), targets=(Target(id="mix", name="Mix", controller=20),)
)
PLAN = joined(
    keyboard(zone(), zone("more", channel=2)),
    pads(2),
    BOX,
    wishes=(
        wish("w", "box:piano", 36, 59),
        wish("p", "box:piano", sources=("pads:pad-1",), note=99),
    ),
)
GRID = grid(PLAN, prove(PLAN), None)


def words(**chosen):
    return [(line.row < 0, line.words) for line in lines(PLAN, GRID, Filter(**chosen))]


def test_every_row_stands_under_its_device():
    told = words()
    assert [w for head, w in told if head] == ["Board", "Pads"]
    assert [w for _, w in told].index("Pads") < [w for _, w in told].index("Pad 1")
    rows = [line.row for line in lines(PLAN, GRID, Filter()) if line.row >= 0]
    assert rows == list(range(len(GRID.rows)))
    for line in lines(PLAN, GRID, Filter()):
        assert (line.place is None) is (line.row < 0)
        assert line.place is None or line.place.source.startswith(f"{line.device}:")


def test_a_device_and_a_text_leave_what_they_name():
    assert {line.device for line in lines(PLAN, GRID, Filter(device="pads"))} == {"pads"}
    assert words(text="  PAD   2 ") == [(True, "Pads"), (False, "Pad 2")]
    assert words(text="pads pad 2") == [(True, "Pads"), (False, "Pad 2")]
    assert words(text="nothing like it") == []


def rows_shown(show):
    return {line.row for line in lines(PLAN, GRID, Filter(show=show)) if line.row >= 0}


def rows_of(*verdicts):
    return {row for (row, _), cell in GRID.cells.items() if cell.verdict in verdicts}


@pytest.mark.parametrize(
    ("show", "verdicts"),
    [
        ("bad", ("silent", "wrong", "extra", "double")),
        ("silent", ("silent", "wrong")),
        ("extra", ("extra", "double")),
    ],
)
def test_marks_are_shown_by_their_kind(show, verdicts):
    assert rows_shown(show) == rows_of(*verdicts) and rows_of(*verdicts)


def test_what_is_wished_and_what_is_free_are_all_there_is():
    wished = {row for (row, _), cell in GRID.cells.items() if cell.wishes}
    assert rows_shown("wished") == wished and wished
    assert rows_shown("free") == set(range(len(GRID.rows))) - wished
    assert rows_shown("all") == set(range(len(GRID.rows)))


def test_columns_have_tag_and_colour_of_what_sounds_or_moves():
    told = {c.ref: c for c in columns(PLAN, GRID)}
    assert [c.at for c in columns(PLAN, GRID)] == list(range(len(GRID.columns)))
    assert (told["box:piano"].tag, told["box:piano"].colour) == ("PI", 3)
    assert (told["box:mix"].tag, told["box:mix"].colour) == ("MI", None)
