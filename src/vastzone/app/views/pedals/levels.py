"""The page Levels: caps that keep an order of parts, and the volume that keeps loudness even."""

from collections.abc import Callable

from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.rows import Cell, Row
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.views.pedals.graphs import TravelGraph
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.check import scenes_compiled
from vastzone.core.response.levels import (
    SCALES,
    Scale,
    caps_of,
    kept_below,
    level_words,
    levels_of,
    read_ends,
    set_levels,
    share_in,
    wish_level,
)
from vastzone.core.response.loudness import even
from vastzone.core.response.together import is_level
from vastzone.core.say import number, say
from vastzone.core.solve.caps import keep_even, write_caps
from vastzone.core.text import decimal, listed, listed_pairs, quoted
from vastzone.desk.moved_controls import Worked, worked
from vastzone.desk.session import Desk

CEILINGS = (say("Target"), say("At most"), say("Below full"))
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
        self.rises = QLineEdit(RISES)
        self.scale: QComboBox = CalmCombo()
        self.scale.setAccessibleName(say("Scale of the ceilings"))
        for scale, words in SCALES:
            self.scale.addItem(words, scale)
        self.scale.activated.connect(lambda _: self._show_levels())
        self.caps = typing_table(CEILINGS, say("Highest level of each target"))
        self.caps.held.typed.connect(self._typed)
        header = self.caps.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.cap_words, self.even_words = quiet(""), quiet("")
        self.graph = TravelGraph()
        self.graph.title = say("Volume along the travel")
        self.graph.hint = say(
            "Type how much louder it gets: the line is the volume that evens it out."
        )
        self.where: QComboBox = CalmCombo()
        self.where.setAccessibleName(say("Where the caps are written"))
        self.where.addItem(say("into what is sent"), "senders")
        self.where.addItem(say("into what receivers take"), "receivers")
        self.write, self.even_out = Button(say("Write the caps")), Button(say("Keep it even"))
        set_tip(self.write, say("Ceilings go into numbers now, without working out all the others"))
        set_tip(self.even_out, say("Let the chosen control take a volume down as its target rises"))
        self.write.clicked.connect(self._write)
        self.even_out.clicked.connect(self._keep_even)
        box.addLayout(self._ceilings(), 1)
        evened = self._column(
            say("Even loudness"),
            say("Travel in % with how many dB louder it is there, measured or typed"),
            self.rises,
            self.graph,
            self.even_words,
            (self.even_out,),
        )
        evened.addWidget(quiet(say("A level that the chosen control moves besides")))
        evened.addLayout(self._beside())
        box.addLayout(evened, 1)
        self.rises.textChanged.connect(lambda _: self._work_out_even())
        self._work_out_even()

    def _beside(self) -> QHBoxLayout:
        """A level that the chosen control is wished to move besides: between which ends."""
        self.level: QComboBox = CalmCombo()
        self.level.setAccessibleName(say("The level that it moves besides"))
        self.ends = QLineEdit(say("0 to −3 dB"))
        self.ends.setAccessibleName(say("From where to where that level goes"))
        bound(self.ends, "FixedWidth", 96)
        self.wish = Button(say("Wish it"))
        set_tip(self.wish, say("The chosen control moves this level as well, from heel to toe"))
        self.wish.clicked.connect(self._wish_level)
        self.ends.returnPressed.connect(self._wish_level)
        row = QHBoxLayout()
        row.addWidget(self.level, 1)
        for widget in (self.ends, self.wish):
            row.addWidget(widget)
        return row

    def _wish_level(self) -> None:
        """Wish that the chosen control moves a level; what is not understood is said."""
        desk, ref = self._desk, self.level.currentData()
        bank = self._bank
        try:
            owner, ident = read_ref(ref)
            target = lookup.by_id(lookup.device(desk.plan, owner).targets, ident, "target")
            ends = read_ends(self.ends.text(), target)
            self._perform(wish_level(desk.plan, WishPlace(desk.selection, bank), ref, ends))
        except EditError as error:
            self.even_words.setText(str(error))
            return
        low, high = (number(end, ".4g").replace("-", "−") for end in ends)
        self.even_words.setText(
            say(
                "Wished: {target} from {low} to {high} {unit}. Work out numbers (Ctrl+Return) to "
                "have it sent.",
                target=target.name,
                low=low,
                high=high,
                unit=target.unit,
            )
        )

    def _ceilings(self) -> QVBoxLayout:
        """The targets of the plan with their ceilings, and what keeps one of them on top."""
        self.top: QComboBox = CalmCombo()
        self.top.setAccessibleName(say("What stays on top"))
        self.gap = QLineEdit(say("6 dB"))
        self.gap.setAccessibleName(say("How far the others stay below it"))
        bound(self.gap, "FixedWidth", 64)
        self.keep = Button(say("Keep the order"))
        set_tip(self.keep, say("All others stay so far below it when every control is full up"))
        self.keep.clicked.connect(self._keep_order)
        box = QVBoxLayout()
        box.setSpacing(6)
        head = Label(say("Ceilings"))
        head.setProperty("role", "title")
        row = QHBoxLayout()
        row.addWidget(head)
        row.addStretch()
        row.addWidget(self.scale)
        box.addLayout(row)
        box.addWidget(
            quiet(say("How high each target may go. They count when numbers are worked out."))
        )
        box.addWidget(self.caps, 1)
        box.addWidget(self.cap_words)
        box.addWidget(quiet(say("What stays on top, and how far the others stay below it")))
        order = QHBoxLayout()
        order.addWidget(self.top, 1)
        order.addWidget(self.gap)
        order.addWidget(self.keep)
        box.addLayout(order)
        writing = QHBoxLayout()
        writing.addWidget(self.write)
        writing.addWidget(self.where)
        writing.addStretch()
        box.addLayout(writing)
        return box

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
        """Show the ceilings as they are, and what is known of the chosen control’s target."""
        self._show_levels()
        held = self._held
        known = (
            next((move.target for move in held.moves if move.target.louder), None) if held else None
        )
        self._offer_levels(held)
        self.even_out.setEnabled(known is not None)
        if known is not None:
            rises = ", ".join(say("{v:.0f} {db:g}", v=v / 1.27, db=db) for v, db in known.louder)
            self.graph.title = say("Volume against {known}", known=known.name)
            self.rises.setText(rises)

    def _offer_levels(self, held: Worked | None) -> None:
        """Every level of the plan; one can be wished once a control is chosen."""
        levels = []
        for device in self._desk.plan.devices:
            for target in device.targets:
                if is_level(target):
                    levels.append((f"{target.name}, {device.name}", ref_to(device.id, target.id)))
        offer(self.level, levels)
        self.wish.setEnabled(bool(levels) and held is not None)

    @property
    def _held(self) -> Worked | None:
        """The chosen control, in the bank in which it is worked."""
        here = (one for one in worked(self._desk) if one.ref == self._desk.selection)
        return next(here, None)

    @property
    def _bank(self) -> int:
        held = self._held
        return 1 if held is None else held.bank

    @property
    def _scale(self) -> Scale:
        scale: Scale = self.scale.currentData()
        return scale

    def _show_levels(self) -> None:
        levels = levels_of(self._desk.planned)
        rows: list[Row] = []
        for level in levels:
            below = (
                ""
                if level.share >= 1
                else say("{decibels:.1f} dB", decibels=level.decibels).replace("-", "−")
            )
            typed = Cell(level_words(level, self._scale), typed=True, right=True)
            name = Cell(f"{level.name}, {level.device}")
            cells = (name, typed, Cell(below, right=True))
            rows.append(Row(cells, level.ref))
        self.caps.show_rows(rows)
        offer(self.top, [(f"{level.name}, {level.device}", level.ref) for level in levels])
        self.keep.setEnabled(len(levels) > 1)
        self.write.setEnabled(any(level.share < 1 for level in levels))
        if not levels:
            self.cap_words.setText(say("Nothing in this plan follows a travel yet."))

    def _typed(self, row: int, _column: int, words: str) -> None:
        level = levels_of(self._desk.planned)[row]
        self._do(
            lambda: {level.ref: share_in(words, level.target, self._scale)}, say("Set a ceiling")
        )

    def _keep_order(self) -> None:
        def shares() -> dict[str, float]:
            gap = decimal(self.gap.text().lower().removesuffix("db"))
            if gap is None:
                raise EditError(
                    say("“{gap}” is no number of dB: write such as 6.", gap=quoted(self.gap.text()))
                )
            return kept_below(levels_of(self._desk.planned), self.top.currentData(), gap)

        self._do(shares, say("Keep one on top"))

    def _do(self, shares: Callable[[], dict[str, float]], label: str) -> None:
        """Set ceilings that are worked out; say why not where they cannot be."""
        try:
            self._perform(set_levels(shares(), label))
        except EditError as error:
            self.cap_words.setText(str(error))
            return
        self.cap_words.setText("")

    def _write(self) -> None:
        compiled = scenes_compiled(self._desk.plan)
        caps = caps_of(levels_of(self._desk.planned))
        try:
            capped = write_caps(self._desk.plan, compiled, caps, self.where.currentData())
        except EditError as error:
            self.cap_words.setText(str(error))
            return
        self._perform(capped.edit)
        left = (
            say(" Nothing moves {unknown}.", unknown=listed(capped.unknown))
            if capped.unknown
            else ""
        )
        self.cap_words.setText(
            say("Capped: {written}.{left}", written=listed(capped.written), left=left)
        )

    def _keep_even(self) -> None:
        desk = self._desk
        key = (desk.selection, self._bank)
        try:
            self._perform(keep_even(desk.plan, desk.compiled, key, WITHIN_DB))
        except EditError as error:
            self.even_words.setText(str(error))

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
        left = say("within") if evened.reaches else say("beyond")
        self.even_words.setText(
            say(
                "Let the volume go from {volumes} to {evened_volumes} along this line: at most "
                "{worst_db:.2f} dB are left, {left} ±{within_db} dB.",
                volumes=evened.volumes[0],
                evened_volumes=evened.volumes[-1],
                worst_db=evened.worst_db,
                left=left,
                within_db=WITHIN_DB,
            )
        )


def number_pairs(words: str) -> list[tuple[float, float]]:
    """«0 0, 100 9» as pairs of numbers.  Raises EditError where one is missing."""
    pairs = []
    for piece in listed_pairs(words) or [""]:
        first, _, second = piece.partition(" ")
        pairs.append((_number(first, piece), _number(second.strip(), piece)))
        if not 0 <= pairs[-1][0] <= 100:
            raise EditError(
                say("“{piece}” is no place of the travel: write 0 to 100 %.", piece=piece)
            )
    return pairs


def _number(words: str, piece: str) -> float:
    value = decimal(words)
    if value is None or not -200 <= value <= 200:
        raise EditError(
            say("“{piece}” lacks a number: write for example “50 5”.", piece=quoted(piece))
        )
    return value
