"""The page Levels: caps that keep an order of parts, and the volume that keeps loudness even."""

from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import CalmCombo
from vastzone.app.frame.rows import Row, row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.views.pedals.graphs import TravelGraph
from vastzone.core.errors import EditError
from vastzone.core.proof.check import scenes_compiled
from vastzone.core.response.loudness import ceilings, even
from vastzone.core.solve.caps import keep_even, write_caps
from vastzone.core.text import decimal, listed, quoted
from vastzone.desk.moved_controls import worked
from vastzone.desk.session import Desk

CAPS = ("Part", "At most", "Level", "0–100", "0–10")
ORDER = "Narrator 0, Keys 6, Loops 3"
RISES = "0 0, 50 5, 100 9"
WITHIN_DB = 0.5


class LevelsPage(QWidget):
    """Two questions with their answers, worked out while one types."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        box = QHBoxLayout(self)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(22)
        self.order, self.rises = QLineEdit(ORDER), QLineEdit(RISES)
        self.caps = reading_table(CAPS, "Highest volume of each part")
        header = self.caps.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.cap_words, self.even_words = quiet(""), quiet("")
        self.graph = TravelGraph()
        self.graph.title = "Volume along the travel"
        self.where: QComboBox = CalmCombo()
        self.where.setAccessibleName("Where the caps are written")
        self.where.addItem("into what is sent", "senders")
        self.where.addItem("into what receivers take", "receivers")
        self.write, self.even_out = Button("Write the caps"), Button("Keep it even")
        set_tip(self.write, "Names that are targets, or parts whose volume is sent, are capped")
        set_tip(self.even_out, "Let the chosen control take a volume down as its target rises")
        self.write.clicked.connect(self._write)
        self.even_out.clicked.connect(self._keep_even)
        box.addLayout(
            self._column(
                "Ceilings",
                "Loudest first, each with the dB that it stays below the one before",
                self.order,
                self.caps,
                self.cap_words,
                (self.write, self.where),
            ),
            1,
        )
        box.addLayout(
            self._column(
                "Even loudness",
                "Travel in % with how many dB louder it is there, measured or typed",
                self.rises,
                self.graph,
                self.even_words,
                (self.even_out,),
            ),
            1,
        )
        self.order.textChanged.connect(lambda _: self._work_out_caps())
        self.rises.textChanged.connect(lambda _: self._work_out_even())
        self._work_out_caps()
        self._work_out_even()

    @staticmethod
    def _column(
        title: str,
        asked: str,
        field: QLineEdit,
        answer: QWidget,
        words: QWidget,
        presses: tuple[QWidget, ...],
    ) -> QVBoxLayout:
        box = QVBoxLayout()
        box.setSpacing(6)
        head = Label(title)
        head.setProperty("role", "title")
        field.setAccessibleName(asked)
        for widget in (head, quiet(asked), field):
            box.addWidget(widget)
        box.addWidget(answer, 1)
        box.addWidget(words)
        row = QHBoxLayout()
        for press in presses:
            row.addWidget(press)
        row.addStretch()
        box.addLayout(row)
        return box

    def refresh(self) -> None:
        """Take what is known of the chosen control’s target."""
        held = next(
            (
                worked_control
                for worked_control in worked(self._desk)
                if worked_control.ref == self._desk.selection
            ),
            None,
        )
        known = (
            next((move.target for move in held.moves if move.target.louder), None) if held else None
        )
        self.even_out.setEnabled(known is not None)
        if known is not None:
            rises = ", ".join(f"{v / 1.27:.0f} {db:g}" for v, db in known.louder)
            self.graph.title = f"Volume against {known.name}"
            self.rises.setText(rises)

    def _write(self) -> None:
        compiled = scenes_compiled(self._desk.plan)
        try:
            caps = ceilings(named_numbers(self.order.text()))
            capped = write_caps(self._desk.plan, compiled, caps, self.where.currentData())
        except EditError as error:
            self.cap_words.setText(str(error))
            return
        self._perform(capped.edit)
        left = f" Not in this plan: {listed(capped.unknown)}." if capped.unknown else ""
        self.cap_words.setText(f"Capped: {listed(capped.written)}.{left}")

    def _keep_even(self) -> None:
        desk = self._desk
        try:
            self._perform(keep_even(desk.plan, desk.compiled, desk.selection, WITHIN_DB))
        except EditError as error:
            self.even_words.setText(str(error))

    def _work_out_caps(self) -> None:
        try:
            caps = ceilings(named_numbers(self.order.text()))
        except EditError as error:
            self.caps.show_rows(())
            self.cap_words.setText(str(error))
            return
        rows: list[Row] = []
        for cap in caps:
            line = (
                cap.name,
                str(cap.top),
                f"{cap.db:.1f} dB".replace("-", "−"),
                str(cap.percent),
                f"{cap.tenths:g}",
            )
            rows.append(row_of(line))
        self.caps.show_rows(rows)
        self.cap_words.setText(
            "With every control full up each part stays as far below as asked, or a little more: "
            "whole steps are rounded down."
        )

    def _work_out_even(self) -> None:
        try:
            points = [(x / 100, db) for x, db in number_pairs(self.rises.text())]
            evened = even(points, WITHIN_DB)
        except EditError as error:
            self.graph.show_points((), ())
            self.even_words.setText(str(error))
            return
        top = len(evened.volumes) - 1
        places = [(n / top, volume) for n, volume in enumerate(evened.volumes)]
        self.graph.show_points((), places)
        left = "within" if evened.reaches else "beyond"
        self.even_words.setText(
            f"Let the volume go from {evened.volumes[0]} to {evened.volumes[-1]} along this line: "
            f"at most {evened.worst_db:.2f} dB are left, {left} ±{WITHIN_DB} dB."
        )


def named_numbers(words: str) -> list[tuple[str, float]]:
    """«Narrator 0, Keys 6» as names with numbers.  Raises EditError where one is missing."""
    numbers = []
    for piece in (part.strip() for part in words.split(",")):
        name, _, number = piece.rpartition(" ")
        numbers.append((name.strip(), _number(number, piece)))
        if not name.strip():
            raise EditError(f"“{piece}” has no name: write a part and its dB, such as “Keys 6”.")
    return numbers


def number_pairs(words: str) -> list[tuple[float, float]]:
    """«0 0, 100 9» as pairs of numbers.  Raises EditError where one is missing."""
    pairs = []
    for piece in (part.strip() for part in words.split(",")):
        first, _, second = piece.partition(" ")
        pairs.append((_number(first, piece), _number(second.strip(), piece)))
        if not 0 <= pairs[-1][0] <= 100:
            raise EditError(f"“{piece}” is no place of the travel: write 0 to 100 %.")
    return pairs


def _number(words: str, piece: str) -> float:
    value = decimal(words)
    if value is None or not -200 <= value <= 200:
        raise EditError(f"“{quoted(piece)}” lacks a number: write for example “50 5”.")
    return value
