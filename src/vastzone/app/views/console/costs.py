"""The page Ways: ways to a console with the person’s own prices, and what is still missing."""

import re

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.decimal_spin import DecimalSpin
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import typing_table
from vastzone.app.frame.text import Button, Label
from vastzone.app.views.console.shared import Bench
from vastzone.core.console.wires import compare
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Item, Way
from vastzone.core.say import number, say
from vastzone.core.text import amount, quoted

COLUMNS = (
    say("Way"),
    say("At once"),
    say("Hours"),
    say("Floor m²"),
    say("Skill"),
    say("Still missing"),
    say("Wired here"),
    say("Altogether"),
    say("Hours in all"),
)
EDITABLE, WIRED = 7, 6
MORE = "…"
"""Stands where something more can be typed."""
NARROW = 760
RATES = (
    (say("Minutes a joint"), "joint_minutes"),
    (say("Minutes a test"), "test_minutes"),
    (say("An hour costs"), "hour"),
    (say("A diode"), "diode"),
    (say("A connector"), "connector"),
    (say("A metre"), "metre"),
    (say("The encoder"), "encoder"),
)


class WaysPage(QWidget):
    """Every cell but the totals can be typed over."""

    def __init__(self, bench: Bench, perform: Performer) -> None:
        super().__init__()
        self._bench, self._perform = bench, perform
        self.rows = typing_table(COLUMNS, say("Ways to a console"))
        header = self.rows.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        for column in (4, 5):
            header.setSectionResizeMode(column, QHeaderView.ResizeMode.Stretch)
        self.rows.held.typed.connect(self._typed)
        self.rows.held.ticked.connect(self._ticked)
        self.rows.chosen.connect(self._show_missing)
        self.missing = typing_table(
            (say("Still missing"), say("Price")), say("What a way still misses")
        )
        self.missing.held.typed.connect(self._typed_missing)
        bound(self.missing, "MaximumHeight", 124)
        self.missing.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.currency = QLineEdit()
        self.currency.setAccessibleName(say("Currency"))
        self.currency.setPlaceholderText(say("Currency, in a word"))
        self.currency.setMaxLength(12)
        bound(self.currency, "MaximumWidth", 170)
        self.currency.editingFinished.connect(self._set_currency)
        self.words = quiet("")
        self.add, self.remove = Button(say("Add a way")), Button(say("Remove it"))
        self.add.clicked.connect(self._add)
        self.remove.clicked.connect(self._remove)
        head = Label(say("Your pace and prices"))
        head.setProperty("role", "heading")
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        self.rates: dict[str, DecimalSpin] = {}
        for n, (words, field) in enumerate(RATES):
            spin = self.rates[field] = DecimalSpin()
            spin.setRange(0, 1_000_000)
            spin.setAccessibleName(words)
            spin.valueChanged.connect(lambda value, f=field: self._rate(f, value))
            grid.addWidget(quiet(words), n // 4 * 2, n % 4)
            grid.addWidget(spin, n // 4 * 2 + 1, n % 4)
        row, box = QHBoxLayout(), QVBoxLayout(self)
        row.addWidget(self.add)
        row.addWidget(self.remove)
        row.addStretch()
        row.addWidget(self.currency)
        box.setContentsMargins(14, 0, 14, 8)
        box.setSpacing(7)
        box.addLayout(row)
        box.addWidget(self.rows, 1)
        box.addWidget(self.missing)
        box.addWidget(self.words)
        box.addWidget(head)
        box.addLayout(grid)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """In a narrow window floor, skill and wiring give way to what is still missing."""
        super().resizeEvent(event)
        for column in (3, 4, 6):
            self.rows.setColumnHidden(column, self.width() < NARROW)

    def refresh(self) -> None:
        """Show the ways as they are now."""
        owner, console = self._bench.owner, self._bench.console
        if owner is None:
            return
        totals = {t.name: t for t in compare(owner, console)}
        rows = []
        for way in console.ways:
            total = totals[way.name]
            missing = ", ".join(
                say("{hit} {price:g}", hit=hit.name, price=hit.price) for hit in way.missing
            )
            line = (
                way.name,
                number(way.price, "g"),
                number(way.hours, "g"),
                number(way.floor, "g"),
                way.skill,
                missing,
                "",
                number(total.price, ",.2f"),
                number(total.hours, "g"),
            )
            cells = [Cell(said, typed=column < EDITABLE) for column, said in enumerate(line)]
            cells[WIRED] = Cell("", ticked=way.wired)
            rows.append(row_of(cells))
        self.rows.show_rows(rows)
        self._show_missing()
        if not self.currency.hasFocus():
            self.currency.setText(console.currency)
        money = f" {console.currency}" if console.currency else ""
        best = min(totals.values(), key=lambda t: t.price, default=None)
        quick = min(totals.values(), key=lambda t: t.hours, default=None)
        self.words.setText(
            say(
                "Cheapest: {best}, {price:,.2f}{money}, {hours:g} hours. Least work: {quick}, "
                "{quick_hours:g} hours. What is missing counts in; so do this console’s materials "
                "and hours where it is wired here.",
                best=best.name,
                price=best.price,
                money=money,
                hours=best.hours,
                quick=quick.name,
                quick_hours=quick.hours,
            )
            if best and quick
            else say("Add the ways that you could go, with your own prices.")
        )
        for field, spin in self.rates.items():
            spin.blockSignals(True)
            spin.setValue(getattr(console.rates, field))
            spin.blockSignals(False)

    def _set(self, ways: tuple[Way, ...], label: str) -> Edit:
        owner = self._bench.owner
        return consoles.set_console(owner.id if owner is not None else "", label, ways=ways)

    def _add(self) -> None:
        ways = self._bench.console.ways
        names = {item.name for item in ways}
        name = next(say("Way {n}", n=n) for n in range(1, 999) if f"Way {n}" not in names)
        self._perform(self._set((*ways, Way(name=name)), say("Add a way")))

    def _remove(self) -> None:
        ways, row = self._bench.console.ways, self.rows.chosen_row
        if 0 <= row < len(ways):
            self._perform(self._set(ways[:row] + ways[row + 1 :], say("Remove a way")))

    def _ticked(self, row: int, _column: int, on: bool) -> None:
        ways = list(self._bench.console.ways)
        ways[row] = changed(ways[row], wired=on)
        self._perform(self._set(tuple(ways), say("Change a way")))

    @property
    def _way(self) -> Way | None:
        """The chosen way, or else the first."""
        ways, row = self._bench.console.ways, max(0, self.rows.chosen_row)
        return ways[row] if row < len(ways) else None

    def _show_missing(self) -> None:
        """What the chosen way still misses, a line each, and an empty line for more."""
        way = self._way
        self.missing.setVisible(way is not None)
        lines = [(item.name, number(item.price, "g")) for item in way.missing] if way else []
        rows = []
        for line in (*lines, (MORE, "")):
            rows.append(row_of([Cell(said, typed=True) for said in line]))
        self.missing.show_rows(rows)

    def _typed_missing(self, row: int, column: int, words: str) -> None:
        way = self._way
        if way is None:
            return
        items = list(way.missing)
        try:
            if row < len(items) and column == 0 and not words.strip():
                del items[row]
            elif row < len(items):
                change = {"name": words} if column == 0 else {"price": _number(words)}
                items[row] = changed(items[row], **change)
            elif column == 0 and words.strip() not in ("", MORE):
                items.append(Item(name=words.strip()))
            new = changed(way, missing=tuple(items))
        except EditError as error:
            self.refresh()
            self.words.setText(str(error))
            return
        ways = tuple(new if each is way else each for each in self._bench.console.ways)
        self._perform(self._set(ways, say("Change what is missing")))

    def _set_currency(self) -> None:
        owner, word = self._bench.owner, self.currency.text().strip()
        if owner is not None and word != self._bench.console.currency:
            self._perform(consoles.set_console(owner.id, say("Change currency"), currency=word))

    def _rate(self, field: str, value: float) -> None:
        owner, rates = self._bench.owner, self._bench.console.rates
        if owner is not None:
            new = changed(rates, **{field: value})
            self._perform(consoles.set_console(owner.id, say("Change rates"), rates=new))

    def _typed(self, row: int, column: int, words: str) -> None:
        ways = list(self._bench.console.ways)
        try:
            ways[row] = changed_way(ways[row], column, words)
            self._perform(self._set(tuple(ways), say("Change a way")))
        except EditError as error:
            self.refresh()
            self.words.setText(str(error))


BETWEEN = re.compile(r";|,(?!\d)")
"""What stands between things with their prices; a comma before a digit is a price's own."""


def changed_way(way: Way, column: int, words: str) -> Way:
    """A way with one cell typed over.  Raises EditError for what is no number or no price."""
    if column == 5:
        items = []
        for piece in (part.strip() for part in BETWEEN.split(words) if part.strip()):
            name, _, price = piece.rpartition(" ")
            if not name:
                raise EditError(
                    say("“{piece}” has no price: write such as “bench 90”.", piece=piece)
                )
            items.append(Item(name=name, price=_number(price)))
        return changed(way, missing=tuple(items))
    field = ("name", "price", "hours", "floor", "skill")[column]
    return changed(way, **{field: words if column in (0, 4) else _number(words)})


def _number(words: str) -> float:
    value = amount(words)
    if value is None:
        raise EditError(say("“{words}” is no number: write digits.", words=quoted(words)))
    return value
