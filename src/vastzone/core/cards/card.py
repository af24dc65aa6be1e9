"""Cards: per device, in the order that a person meets the settings on it.

The presses are an estimate to compare solutions by, from the ways of common devices: three to
reach a setting and one for each step of its value, though no more than twelve; two to select a
program, three to store one.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple

import msgspec

from vastzone.core.cache import derived
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.fields.dials import Dial, device_dials, dials_named, records
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.fields.words import field_words, thing_words, value_words
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device, PanelPath, Plan
from vastzone.core.plan.model.wishes import SettingRecord, State
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of_setting

MOST_STEPS, SELECT, STORE = 12, 2, 3
PENDING = ("planned", "sent")


class CardStep(NamedTuple):
    """One thing to dial: where, what, from, to; how far it has got; the settings that it is.

    ``path`` is the way to it on the device's panel, where that is known.
    """

    refs: tuple[str, ...]
    thing: str
    field: str
    before: str
    after: str
    state: State
    on: str
    why: str
    presses: int
    path: str = ""


class Section(NamedTuple):
    """The steps of one program, between selecting and storing it; or of the device as a whole."""

    title: str
    steps: tuple[CardStep, ...]
    closing: tuple[str, ...]


class Card(NamedTuple):
    """Everything to do at one device."""

    device: str
    name: str
    preparation: tuple[str, ...]
    sections: tuple[Section, ...]

    @property
    def steps(self) -> tuple[CardStep, ...]:
        """All steps in order."""
        steps: list[CardStep] = []
        for section in self.sections:
            steps.extend(section.steps)
        return tuple(steps)

    @property
    def presses(self) -> int:
        """Button presses for the whole card, estimated."""
        stored = sum(bool(section.closing) for section in self.sections)
        return sum(step.presses for step in self.steps) + stored * (SELECT + STORE)


def cards(plan: Plan, everything: bool = False) -> tuple[Card, ...]:
    """A card for each device with something to dial; all its settings where ``everything``."""
    all_cards = (card(plan, device, everything) for device in plan.devices)
    filled = []
    for c in all_cards:
        if c.steps:
            filled.append(c)
    return tuple(filled)


def card(
    plan: Plan, device: Device, everything: bool = False, also: frozenset[str] = frozenset()
) -> Card:
    """The card of one device: what is not stored yet and its settings ``also``, or everything."""
    groups: dict[int | None, list[CardStep]] = {}
    known = records(plan)
    written = False
    for task in _tasks(plan, device, everything, also):
        number = task[0].program
        groups.setdefault(number, []).append(_step(task, known, also))
        written = written or task[0].field.where_kept(task[0].owner) == "on write"
    sections = [
        _section(device, number, tuple(groups[number]), written)
        for number in sorted(groups, key=lambda n: -1 if n is None else n)
    ]
    preparation = (f"Switch {device.name} on and turn its volume down.", *device.preparation)
    return Card(device.id, device.name, preparation, tuple(sections))


class Left(NamedTuple):
    """How many steps a device has left, how many are done, and the presses for those left."""

    steps: int
    done: int
    presses: int


def left(
    plan: Plan, device: Device, everything: bool = False, also: frozenset[str] = frozenset()
) -> Left:
    """What ``card`` would hold, only counted."""
    known = records(plan)
    waiting = presses = done = 0
    for task in _tasks(plan, device, everything, also):
        setting = known.get(task[0].ref)
        if setting is not None and setting.state in PENDING:
            waiting += 1
            presses += _presses(task[0], setting.held)
        else:
            done += 1
    return Left(waiting, done, presses)


def _tasks(
    plan: Plan, device: Device, everything: bool, also: frozenset[str]
) -> Iterator[list[Dial]]:
    """The numbers to dial; those that are one in the device, in one program, together."""
    wanted = _pending(plan.settings).get(device.id, frozenset())
    # The same value while nothing is added: what came of it is found again.
    if not also <= wanted:
        wanted |= also
    if not everything and not wanted:
        return
    slots: dict[tuple[object, ...], list[Dial]] = {}
    for dial in device_dials(device) if everything else dials_named(device, wanted):
        if dial.ref in wanted or not dial.is_usual:
            slots.setdefault((dial.program, *dial.slot), []).append(dial)
    yield from slots.values()


@derived(8, whole=True)
def _pending(settings: tuple[SettingRecord, ...]) -> Mapping[str, frozenset[str]]:
    """The settings that are not stored yet, by device."""
    return by_device(setting.ref for setting in settings if setting.state in PENDING)


def by_device(refs: Iterable[str]) -> dict[str, frozenset[str]]:
    """References of settings by the device that they belong to."""
    refs_of: dict[str, set[str]] = {}
    for ref in refs:
        refs_of.setdefault(device_of_setting(ref), set()).add(ref)
    return {device: frozenset(wanted_refs) for device, wanted_refs in refs_of.items()}


def _presses(dial: Dial, before: Stored | None) -> int:
    """Presses to reach a setting on its device's panel and to turn it to its value."""
    path = panel_path(dial)
    reach = path.presses if path is not None else dial.field.presses
    value = dial.value
    if isinstance(value, int) and isinstance(before, int):
        return reach + min(MOST_STEPS, abs(value - before))
    return reach + MOST_STEPS


def panel_path(dial: Dial) -> PanelPath | None:
    """How a setting is reached on its device's panel, where the device says so."""
    wanted = dial.field.full_name
    for path in dial.owner.device.panel:
        if path.field == wanted:
            return path
    return None


def _section(
    device: Device, number: int | None, steps: tuple[CardStep, ...], written: bool
) -> Section:
    if number is None:
        closing = ("Write the settings of the whole device.",) if written else ()
        return Section("The whole device", steps, closing)
    program = lookup.program(device, number)
    shown = slot_words(device, Slot(number=number))
    title = f"Program {shown}, {program.name}"
    also = (f"Store to slot {slot_words(device, slot)} too." for slot in program.also)
    return Section(title, steps, (f"Store to slot {shown}.", *also, f"Select slot {shown}."))


def slot_words(device: Device, slot: Slot) -> str:
    """A slot as its device counts: the number, after the bank where that is not the first."""
    number = str(slot.number + device.first_program)
    return f"{slot.bank + device.first_program}-{number}" if slot.bank else number


def _step(dials: list[Dial], known: Mapping[str, SettingRecord], also: frozenset[str]) -> CardStep:
    """One number as a step."""
    ref, now = dials[0].ref, dials[0].value
    setting = known.get(ref) or SettingRecord(ref=ref)
    waiting = setting.state in PENDING or ref in also
    before = setting.held if waiting else now
    path = panel_path(dials[0])
    return CardStep(
        tuple(item.ref for item in dials),
        thing_words(dials[0]),
        field_words(dials[0]),
        value_words(dials[0], before),
        value_words(dials[0], now),
        setting.state,
        setting.on,
        setting.why,
        _presses(dials[0], before),
        path.path if path is not None else "",
    )


def tick(refs: Iterable[str], state: State, today: str) -> Edit:
    """Move numbers on to *sent*, *stored* or *checked* (or back), with the date.

    Once stored, the device holds the plan's value.
    """
    wanted = tuple(refs)

    def apply(plan: Plan) -> Plan:
        known = dict(records(plan))
        for ref in wanted:
            old = known.get(ref) or SettingRecord(ref=ref)
            known[ref] = msgspec.structs.replace(old, state=state, on=today)
        return msgspec.structs.replace(plan, settings=tuple(known[r] for r in sorted(known)))

    return Edit(f"Mark as {state}", apply)


def effort(some: Iterable[Card]) -> tuple[int, int]:
    """Steps and button presses of some cards, to compare two solutions by."""
    steps = presses = 0
    for each in some:
        steps += len(each.steps)
        presses += each.presses
    return steps, presses
