"""The page Power: what feeds what, with its sums and a quarter in reserve; what dies first."""

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QLineEdit, QMenu, QVBoxLayout, QWidget

from vastzone.app.applying import Performer, refused
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, Row, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import reading_table, typing_table
from vastzone.app.frame.text import Button, Label, add_action, set_tip
from vastzone.app.theme.current import THEME
from vastzone.core.cards.dangers import cautions_for
from vastzone.core.plan.edits import power
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.bodies import PowerSource, SourceKind, Supply
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.power.sums import (
    SourceSum,
    UsbSum,
    feeder_of,
    own_batteries,
    source_sums,
    usb_sums,
    watts_of,
)
from vastzone.core.say import number, say
from vastzone.core.text import decimal, listed, whole_number
from vastzone.desk.session import Desk

DEVICES = (say("Device"), say("Powered by"), say("Fed by"), say("Takes"))
SOURCES = (say("Source"), say("Gives, V"), "mA", say("Wh"), say("Feeds"), say("Taken"))
KINDS: tuple[tuple[str, SourceKind], ...] = (
    (say("Mains strip"), "strip"),
    (say("Power brick"), "brick"),
    (say("USB hub with a supply"), "hub"),
    (say("USB charger"), "charger"),
    (say("Battery"), "battery"),
)
USUAL: dict[SourceKind, dict[str, object]] = {
    "strip": {"volts": 0.0, "outlets": 6, "milliamps": 10_000},
    "brick": {"volts": 9.0, "milliamps": 1000, "outlets": 1},
    "hub": {"volts": 5.0, "milliamps": 2000, "outlets": 4},
    "charger": {"volts": 5.0, "milliamps": 2400, "outlets": 2},
    "battery": {"volts": 5.0, "milliamps": 3000, "watt_hours": 50.0, "outlets": 2},
}
HELP = say(
    "Choose devices, then Feed from. What a device takes is said in its facts (Rig, Device)."
)


class PowerPage(QWidget):
    """Devices above, sources below; sums beside them."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self.devices = reading_table(DEVICES, say("What devices are powered by"))
        self.devices.choose_many()
        self.devices.setColumnWidth(0, 170)
        self.devices.setColumnWidth(1, 220)
        self.devices.setColumnWidth(2, 190)
        self.devices.horizontalHeader().setStretchLastSection(True)
        self.devices.chosen.connect(self._tell)
        self.sources = typing_table(SOURCES, say("Power sources"))
        header = self.sources.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(4, QHeaderView.ResizeMode.Stretch)
        self.sources.held.typed.connect(self._type)
        self.sources.chosen.connect(self._tell)
        self.add, self.feed = Button(say("Add source")), Button(say("Feed from"))
        set_tip(self.add, say("A strip, brick, charger or battery that feeds the chosen devices"))
        self._add_menu, self._feed_menu = QMenu(self), QMenu(self)
        for words, kind in KINDS:
            add_action(self._add_menu, words, partial(self._add, words, kind))
        self.add.setMenu(self._add_menu)
        self.feed.setMenu(self._feed_menu)
        self._feed_menu.aboutToShow.connect(self._fill_feed)
        self.drop = Button(say("Remove source"))
        self.drop.clicked.connect(self._drop)
        self.hours = QLineEdit()
        self.hours.setAccessibleName(say("Hours that batteries have to last"))
        bound(self.hours, "MaximumWidth", 60)
        self.hours.editingFinished.connect(self._last)
        self.words = quiet(HELP)
        self.words.setWordWrap(True)
        self._lay_out()

    def _lay_out(self) -> None:
        box, line = QVBoxLayout(self), QHBoxLayout()
        box.setContentsMargins(14, 2, 14, 8)
        box.setSpacing(7)
        for button in (self.add, self.feed, self.drop):
            line.addWidget(button)
        line.addStretch()
        line.addWidget(Label(say("Batteries last, hours")))
        line.addWidget(self.hours)
        box.addLayout(line)
        box.addWidget(self.devices, 3)
        box.addWidget(self.sources, 2)
        box.addWidget(self.words)

    def refresh(self) -> None:
        """Show what feeds what as it is now."""
        plan = self._desk.plan
        self.devices.show_rows([self._device(plan, device) for device in plan.devices])
        rows = [self._source(plan, told) for told in source_sums(plan)]
        rows += [self._usb(plan, told) for told in usb_sums(plan) if told.load.fed]
        self.sources.show_rows(rows)
        if not self.hours.hasFocus():
            self.hours.setText(number(plan.hours, "g"))
        self._tell()

    def _device(self, plan: Plan, device: Device) -> Row:
        source = feeder_of(plan, device.id)
        fed = source.name if source is not None else ""
        for told in usb_sums(plan):
            if device.id in told.load.fed:
                fed = say("{device}, USB", device=lookup.device(plan, told.host).name)
        watts = watts_of(device)
        takes = say("{watts:.1f} W", watts=watts) if watts else ""
        return row_of((device.name, supply_words(device.supply), fed, takes), device.id)

    def _source(self, plan: Plan, told: SourceSum) -> Row:
        source, load, colours = told.source, told.load, THEME.colours
        names = listed((name_of(plan, ident) for ident in source.feeds), 5)
        shade = colours.fault if told.overloaded else ""
        if told.without_reserve and not told.overloaded:
            shade = colours.caution
        taken = say("{milliamps} mA", milliamps=load.milliamps) if load.milliamps else ""
        if source.milliamps and load.milliamps:
            taken += say(", {milliamps:.0%}", milliamps=load.milliamps / source.milliamps)
        if told.hours is not None:
            taken += say(", {hours:.1f} h", hours=told.hours)
        cells = (
            Cell(source.name, typed=True),
            Cell(number(source.volts, "g") if source.volts else say("mains"), typed=True),
            Cell(str(source.milliamps) if source.milliamps else "", typed=True),
            Cell(number(source.watt_hours, "g") if source.watt_hours else "", typed=True),
            Cell(names),
            Cell(taken, colour=shade),
        )
        return row_of(cells, source.id)

    def _usb(self, plan: Plan, told: UsbSum) -> Row:
        """A port of a computer, or a hub, as a source that nobody has to plan."""
        host = lookup.device(plan, told.host)
        port = lookup.find(host.ports, told.port)
        name = (
            f"{host.name}, {port.name}" if port is not None else say("{host}, hub", host=host.name)
        )
        names = listed((lookup.device(plan, ident).name for ident in told.load.fed), 5)
        shade = THEME.colours.fault if told.overloaded else ""
        taken = Cell(say("{milliamps} mA", milliamps=told.load.milliamps), colour=shade)
        return row_of((name, "5", str(told.limit), "", names, taken))

    def _chosen(self) -> list[str]:
        plan = self._desk.plan
        rows = self.devices.chosen_rows
        return [plan.devices[row].id for row in rows if row < len(plan.devices)]

    def _tell(self) -> None:
        chosen = self._chosen()
        self.feed.setEnabled(bool(chosen) and bool(self._desk.plan.power))
        self.drop.setEnabled(bool(self.sources.chosen_ref))
        if chosen:
            self._desk.select(chosen[0])
        self.words.setText(" ".join((*self._dying(), HELP, cautions_for("power")[0])))

    def _dying(self) -> list[str]:
        """What dies first, and when."""
        told = []
        for one in own_batteries(self._desk.plan):
            if one.hours is not None:
                told.append(
                    say("{device} after {hours:.1f} h", device=one.device.name, hours=one.hours)
                )
        return [say("What dies first: {told}.", told=listed(told, 3))] if told else []

    def _do(self, edit: Edit) -> None:
        why = refused(edit, self._desk.plan)
        if why:
            self.words.setText(why)
        else:
            self._perform(edit)

    def _add(self, words: str, kind: SourceKind) -> None:
        """A source that suits the first chosen device, and feeds them all."""
        chosen = self._chosen()
        usual: dict[str, object] = dict(USUAL[kind])
        if chosen and kind == "brick":
            supply = lookup.device(self._desk.plan, chosen[0]).supply
            if supply.volts:
                usual |= {
                    "volts": supply.volts,
                    "polarity": supply.polarity,
                    "plug": supply.plug,
                }
            usual["outlets"] = max(1, len(chosen))
        count = sum(source.kind == kind for source in self._desk.plan.power)
        name = f"{words} {count + 1}" if count else words
        ident = lookup.free_id((), name)
        source = PowerSource(id=ident, name=name, kind=kind, feeds=tuple(chosen), **usual)  # type: ignore[arg-type]
        self._do(power.add_source(source))

    def _fill_feed(self) -> None:
        self._feed_menu.clear()
        chosen = tuple(self._chosen())
        for source in self._desk.plan.power:
            run = partial(self._do, power.feed(source.id, chosen))
            add_action(self._feed_menu, source.name, run)
        add_action(self._feed_menu, "nothing", partial(self._do, power.feed("", chosen)))

    def _drop(self) -> None:
        ident = str(self.sources.chosen_ref)
        if lookup.find(self._desk.plan.power, ident) is not None:
            self._do(power.remove_source(ident))

    def _type(self, row: int, column: int, words: str) -> None:
        if row >= len(self._desk.plan.power):
            return
        source = self._desk.plan.power[row]
        if column == 0:
            self._do(power.set_source(source.id, say("Rename a source"), name=words.strip()))
            return
        field = {1: "volts", 2: "milliamps", 3: "watt_hours"}[column]
        value = whole_number(words) if field == "milliamps" else decimal(words)
        if value is None:
            self.words.setText(say("“{words}” is no number: write one.", words=words.strip()))
            return
        self._do(power.set_source(source.id, say("Change a source"), **{field: value}))

    def _last(self) -> None:
        hours = decimal(self.hours.text())
        if hours is not None and hours != self._desk.plan.hours:
            self._do(power.set_hours(hours))


def name_of(plan: Plan, ident: str) -> str:
    """A device or source by name."""
    device = lookup.find(plan.devices, ident)
    if device is not None:
        return device.name
    source = lookup.find(plan.power, ident)
    return source.name if source is not None else ident


def supply_words(supply: Supply) -> str:
    """What a device is powered by, in words."""
    if supply.kind == "adapter":
        told = [
            say("{volts:g} V", volts=supply.volts),
            say("{milliamps} mA", milliamps=supply.milliamps),
            say(supply.polarity),
            supply.plug,
        ]
        return ", ".join(filter(None, told))
    if supply.kind == "usb":
        return say("USB, {milliamps} mA", milliamps=supply.milliamps) if supply.milliamps else "USB"
    if supply.kind == "battery":
        return say(
            "a battery of {watt_hours:g} Wh, {watts:g} W",
            watt_hours=supply.watt_hours,
            watts=supply.watts,
        )
    return {"mains": say("mains"), "none": say("nothing needed")}.get(supply.kind) or say(
        "not said"
    )
