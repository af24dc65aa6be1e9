"""The Plays view: what is touched against what sounds; click to wish, right there."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLineEdit, QVBoxLayout

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.empty import EmptyState
from vastzone.app.frame.fields import offer
from vastzone.app.frame.sheets_touch import WISH
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.views.base import View
from vastzone.app.views.plays.matrix import Matrix
from vastzone.core.engine.report import Report
from vastzone.core.midi import pitch
from vastzone.core.pictures.grid_lines import SHOW, Filter, columns, lines
from vastzone.core.plan.edits import wishes
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.proof.grid import Grid, grid
from vastzone.core.proof.marking import Proof, prove
from vastzone.core.proof.words import end_name, place_words
from vastzone.core.say import say, say_many
from vastzone.core.text import first_to_last
from vastzone.desk.derivation import is_small
from vastzone.desk.session import Desk

EMPTY_TITLE = say("Nothing to play yet")
EMPTY = say(
    "Add what you play and what sounds in Rig. Then press where a row meets a column here: "
    "this plays that."
)


class PlaysView(View):
    """Filters above, the matrix, a line about what is pointed at."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__(desk)
        self._perform = perform
        self.ranges: tuple[WishPlace, ...] = ()
        self._low: tuple[str, int] | None = None
        self.matrix = Matrix(desk)
        self._empty = EmptyState(EMPTY_TITLE, EMPTY)
        self.line = Elided("muted", self.matrix)
        self.line.setContentsMargins(16, 1, 16, 3)
        bound(self.line, "MinimumHeight", 22)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(self._bar())
        box.addWidget(self.matrix, 1)
        box.addWidget(self._empty, 1)
        box.addWidget(self.line)
        self.matrix.pressed.connect(self._press)
        self.matrix.spanned.connect(self._wish_in_order)
        self.matrix.spanning.connect(self._span)
        self.matrix.taken_back.connect(self._take_back)
        self.matrix.pointed.connect(self._point)
        desk.stage.struck.connect(self._struck)
        self.lead = self.matrix

    def _bar(self) -> QHBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(14, 10, 14, 8)
        bar.setSpacing(8)
        self.scope = self._choice(
            say("Scenes"), ((say("This scene"), "one"), (say("All scenes"), "all"))
        )
        self.device = self._choice(say("Device"), ((say("All devices"), ""),))
        self.show_ = self._choice(say("Marks"), SHOW)
        self.text = QLineEdit()
        self.text.setPlaceholderText(say("Find a row"))
        self.text.setAccessibleName(say("Find a row"))
        self.text.setClearButtonEnabled(True)
        bound(self.text, "MinimumWidth", 56)
        bound(self.text, "MaximumWidth", 170)
        self.text.textChanged.connect(self._filter)
        self.range = Button(say("Range"))
        self.range.setCheckable(True)
        set_tip(self.range, say("Strike the lowest key and then the highest: they become a row"))
        self.range.toggled.connect(self._begin_range)
        self._count = Elided("muted")
        self._count.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        for widget in (self.scope, self.device, self.show_, self.text, self.range):
            bar.addWidget(widget)
        bar.addWidget(self._count, 1)
        return bar

    def _choice(self, name: str, choices: tuple[tuple[str, str], ...]) -> QComboBox:
        combo = CalmCombo()
        combo.setAccessibleName(name)
        combo.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        combo.setMinimumContentsLength(9)
        bound(combo, "MaximumWidth", 150)
        for words, value in choices:
            combo.addItem(words, value)
        combo.currentIndexChanged.connect(self._filter)
        return combo

    def attend(self) -> None:
        """Bring the cursor to the row or column of what is selected."""
        self.matrix.attend(self.desk.selection)

    def refresh(self) -> None:
        """Show the plan as it is now."""
        plan = self.desk.plan
        there = any(device.keybeds or device.controls for device in plan.devices)
        self.matrix.setVisible(there)
        self._empty.setVisible(not there)
        self._fill_devices()
        self._filter()

    def _fill_devices(self) -> None:
        wanted = [(say("All devices"), "")] + [
            (device.name, device.id)
            for device in self.desk.plan.devices
            if device.keybeds or device.controls
        ]
        offer(self.device, wanted)

    def found(self) -> Grid:
        """The grid of what is known: of the plan as it is, or as it was last proved."""
        desk = self.desk
        plan, proof = desk.plan, desk.proof
        if proof is None:
            proof = prove(plan, desk.memory) if is_small(plan) else Proof({"": ()})
        scene = None if self.scope.currentData() == "all" else (desk.scene.id if desk.scene else "")
        if scene is not None and scene not in proof.scenes:
            proof = Proof({scene: ()})
        return grid(plan, proof, scene, self.ranges)

    def _filter(self) -> None:
        plan, words_found = self.desk.plan, self.found()
        chosen = Filter(self.device.currentData() or "", self.show_.currentData(), self.text.text())
        shown = lines(plan, words_found, chosen)
        self.matrix.show_grid(words_found, shown, columns(plan, words_found))
        rows = []
        for ln in shown:
            if ln.row >= 0:
                rows.append(ln.row)
        inside = set(rows)
        bad = set()
        for (r, _), c in words_found.cells.items():
            if c.verdict != "as meant" and r in inside:
                bad.add(r)
        pending = say(" · proving") if self.desk.derivation.pending else ""
        self._count.show_text(
            say(
                "{rows}, {count} not as meant{pending}",
                rows=say_many("{count} row", "{count} rows", len(rows)),
                count=len(bad),
                pending=pending,
            )
        )

    def _scenes(self, everywhere: bool) -> tuple[str, ...]:
        """The scenes that a press is about."""
        everywhere = everywhere or self.scope.currentData() == "all"
        return () if everywhere or self.desk.scene is None else (self.desk.scene.id,)

    def _cell(self, line: int, column: int) -> tuple[WishPlace, str] | None:
        place = self.matrix.lines[line].place if line >= 0 else None
        return (place, self.matrix.columns[column].ref) if place and column >= 0 else None

    def _press(self, line: int, column: int, everywhere: bool) -> None:
        """Wish where nothing is wished; show the wish where there is one."""
        cell = self._cell(line, column)
        if cell is None:
            return
        place, end = cell
        plan, scenes = self.desk.plan, self._scenes(everywhere)
        held_wishes = wishes.held_at(plan, place, end, scenes)
        if not held_wishes:
            self._perform(wishes.make(plan, place, end, scenes))
            held_wishes = wishes.held_at(self.desk.plan, place, end, scenes)
        if held_wishes:
            self.desk.select(f"{WISH}{held_wishes[-1].id}")
        self._point(line, column)

    def _places(self, cells: list[tuple[int, int]]) -> list[tuple[WishPlace, str]]:
        """The rows and columns of some cells."""
        places = []
        for line, column in cells:
            cell = self._cell(line, column)
            if cell is not None:
                places.append(cell)
        return places

    def _span(self, cells: list[tuple[int, int]]) -> None:
        """Say what would be wished of what is spanned."""
        pairs = self._places(cells)
        if not pairs:
            return
        plan = self.desk.plan
        these = first_to_last((place_words(plan, place) for place, _ in pairs), 2)
        those = first_to_last((end_name(plan, end) for _, end in pairs), 2)
        self.line.show_text(
            say("{these} onto {those}, in order: let go to wish it.", these=these, those=those)
        )

    def _wish_in_order(self, cells: list[tuple[int, int]], everywhere: bool) -> None:
        """Wish the first row onto the first column, the second onto the second, in one step."""
        pairs = tuple(self._places(cells))
        if pairs:
            self._perform(wishes.make_in_order(pairs, self._scenes(everywhere)))
            self._point(*cells[-1])

    def _take_back(self, line: int, column: int) -> None:
        cell = self._cell(line, column)
        if cell is None:
            return
        place, end = cell
        scenes = self._scenes(False)
        if wishes.held_at(self.desk.plan, place, end, scenes):
            self._perform(wishes.take_back(place, end, scenes))
        self._point(line, column)

    def _point(self, line: int, column: int) -> None:
        cell = self._cell(line, column) if 0 <= line < len(self.matrix.lines) else None
        if cell is None:
            self.line.show_text("")
            return
        place, end = cell
        plan = self.desk.plan
        pointed = self.matrix.grid.cells.get((self.matrix.lines[line].row, column))
        owner = lookup.device(plan, device_of(end))
        words = say(
            "{place} and {end} in {owner}: ",
            place=place_words(plan, place),
            end=end_name(plan, end),
            owner=owner.name,
        )
        if pointed is None:
            self.line.show_text(
                say(
                    "{words}press to wish it, with Shift for all scenes; drag for many in order.",
                    words=words,
                )
            )
            return
        count = len(pointed.scenes)
        where = (
            say(" in {scenes}", scenes=say_many("{count} scene", "{count} scenes", count))
            if self.scope.currentData() == "all"
            else ""
        )
        some = say(", for some of it") if pointed.partly else ""
        hint = say(" Delete takes the wish back.") if pointed.wishes else ""
        self.line.show_text(f"{words}{say(pointed.verdict)}{where}{some}.{hint}")

    def _begin_range(self, on: bool) -> None:
        self._low = None
        self.line.show_text(say("Strike the lowest key of the range.") if on else "")

    def _struck(self, report: Report) -> None:
        """Find the row of what was struck; while a range is asked for, take its ends."""
        if not self.isVisible():
            return
        if self.range.isChecked() and report.key is not None:
            self._range_key(report.subject, report.key)
            return
        for n, line in enumerate(self.matrix.lines):
            place = line.place
            if place is None or place.source != report.subject or place.bank != report.bank:
                continue
            if report.key is None or place.low <= report.key <= place.high:
                self.matrix.go(n, self.matrix.at[1])
                return

    def _range_key(self, bed: str, key: int) -> None:
        owner = lookup.device(self.desk.plan, device_of(bed))
        if self._low is None or self._low[0] != bed:
            self._low = (bed, key)
            said = pitch.label(key, owner.octaves)
            self.line.show_text(say("From {said}. Now strike the highest key.", said=said))
            return
        low, high = sorted((self._low[1], key))
        place = WishPlace(bed, 1, low, high)
        self.ranges = (*(shown for shown in self.ranges if shown != place), place)
        self.range.setChecked(False)
        self._filter()
        row = next((n for n, ln in enumerate(self.matrix.lines) if ln.place == place), -1)
        if row >= 0:
            self.matrix.go(row, self.matrix.at[1])
            self.matrix.setFocus()
