"""Cards: what is left to dial into each device, line by line, in an order that works.

The presses are an estimate to compare solutions by, from the ways of common devices: three to
reach a setting and one for each step of its value, though no more than twelve; two to select a
program, three to store one.
"""

from collections.abc import Iterable
from typing import Literal, NamedTuple

from vastzone.core.cache import derived, interned
from vastzone.core.cards.dialling import Step, panel_path
from vastzone.core.cards.plugging import plugging
from vastzone.core.cards.sentences import learn_words, said
from vastzone.core.cards.steps import steps
from vastzone.core.memory.beginnings import wanted_program
from vastzone.core.memory.checks import checked_places, places_of
from vastzone.core.memory.differences import Difference
from vastzone.core.memory.model import DeviceMemory, Known, Memory
from vastzone.core.memory.operations import Operation
from vastzone.core.memory.provenance import known_of
from vastzone.core.memory.rig import memory_of
from vastzone.core.memory.states import State
from vastzone.core.plan.fields.dials import Dial, outside_programs, records
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.pedals import Pedal, PedalPlug
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import Plug, TriggerPad
from vastzone.core.plan.model.wishes import SettingRecord, Wish
from vastzone.core.plan.queries.slots import slot_words
from vastzone.core.say import say

LineKind = Literal["dial", "learn", "rest", "select", "store", "write", "close"]


class CardLine(NamedTuple):
    """One thing to do: in words, and as the operation that a tick on it performs.

    A line that dials says which ``thing``, what it is ``before`` and what ``after``.  ``known`` is
    who did it and when; ``why`` are the reasons of the numbers, ``path`` the way on the panel.
    """

    kind: LineKind
    words: str
    operation: Operation
    state: State
    thing: str = ""
    before: str = ""
    after: str = ""
    known: Known | None = None
    why: tuple[str, ...] = ()
    presses: int = 0
    path: str = ""

    @property
    def done(self) -> bool:
        """Whether the device holds it."""
        return self.state in ("stored", "checked")

    @property
    def waits(self) -> bool:
        """Whether there is something to do: what was sent only waits for the store."""
        return self.state == "planned"


class Section(NamedTuple):
    """The lines of one program, or of the device as a whole."""

    title: str
    lines: tuple[CardLine, ...]


class Card(NamedTuple):
    """Everything to do at one device.

    ``plugging`` says what goes into which of its jacks, as one stands behind it.
    """

    device: str
    name: str
    preparation: tuple[str, ...]
    sections: tuple[Section, ...]
    plugging: tuple[str, ...] = ()

    @property
    def lines(self) -> tuple[CardLine, ...]:
        """All lines in order."""
        lines: list[CardLine] = []
        for section in self.sections:
            lines.extend(section.lines)
        return tuple(lines)

    @property
    def presses(self) -> int:
        """Button presses for what is not done yet, estimated."""
        return sum(line.presses for line in self.lines if line.waits)


def cards(plan: Plan, memory: Memory, everything: bool = False) -> tuple[Card, ...]:
    """A card for each device with something to do, in an order that works across devices."""
    filled = []
    for device in in_order(plan):
        one = card(plan, memory, device, everything)
        if one.lines or (everything and one.plugging):
            filled.append(one)
    return tuple(filled)


def in_order(plan: Plan) -> tuple[Device, ...]:
    """The devices as they are dialled: those that learn from others after all the others."""
    return tuple(sorted(plan.devices, key=_has_learners))


@derived(1024)
def _has_learners(device: Device) -> bool:
    if any(part.receives == "learns" for part in device.parts):
        return True
    return any(target.receives == "learns" for target in device.targets)


def device_steps(
    plan: Plan,
    memory: Memory,
    device: Device,
    everything: bool = False,
    also: frozenset[str] = frozenset(),
) -> tuple[Step, ...]:
    """What is to be done at a device, without words."""
    held = memory_of(memory, device)
    return steps(device, held, wanted_program(plan, device), everything, also)


def card(
    plan: Plan,
    memory: Memory,
    device: Device,
    everything: bool = False,
    also: frozenset[str] = frozenset(),
) -> Card:
    """The card of one device: what is left and the settings ``also``, or everything."""
    held = memory_of(memory, device)
    listed = device_steps(plan, memory, device, everything, also)
    outside = interned(tuple(outside_programs(one) for one in plan.devices))
    plugs = (plan.pads, plan.plugs, plan.pedals, plan.pedal_plugs)
    named = _named(outside, plan.wishes, plan.settings, *plugs)
    return _in_words(named, device, held, listed)


@derived(16, whole=True)
def _named(
    devices: tuple[Device, ...],
    wishes: tuple[Wish, ...],
    settings: tuple[SettingRecord, ...],
    pads: tuple[TriggerPad, ...],
    plugs: tuple[Plug, ...],
    pedals: tuple[Pedal, ...],
    pedal_plugs: tuple[PedalPlug, ...],
) -> Plan:
    """All of a plan that words are taken from: it stays while programs change."""
    return Plan(
        name="Words",
        devices=devices,
        wishes=wishes,
        settings=settings,
        pads=pads,
        plugs=plugs,
        pedals=pedals,
        pedal_plugs=pedal_plugs,
    )


@derived(256, whole=True)
def _in_words(plan: Plan, device: Device, held: DeviceMemory, listed: tuple[Step, ...]) -> Card:
    """The steps at a device as its card."""
    sections: list[Section] = []
    gathered: list[CardLine] = []
    title = ""
    for step in listed:
        here = _title(device, step)
        if here != title and gathered:
            sections.append(Section(title, tuple(gathered)))
            gathered = []
        title = here
        gathered.append(line_of(plan, device, held, step))
    if device.storage.close_editor and gathered:
        gathered.append(_close(device, all(line.done for line in gathered)))
    if gathered:
        sections.append(Section(title, tuple(gathered)))
    preparation = (
        say("Switch {device} on and turn its volume down.", device=device.name),
        *device.preparation,
    )
    return Card(device.id, device.name, preparation, tuple(sections), plugging(plan, device))


def _close(device: Device, done: bool) -> CardLine:
    state: State = "stored" if done else "planned"
    words = say("Close the editor of {device}: it plays only without it.", device=device.name)
    return CardLine("close", words, Operation("none"), state, presses=1)


def _title(device: Device, step: Step) -> str:
    if step.learned:
        return say("What learns")
    if step.program is not None:
        number = _number(device, step.program)
        return say("Program {number}, {program}", number=number, program=step.program.name)
    return (
        say("The whole device") if step.operation.kind in ("dial", "write") else say("In the end")
    )


def _number(device: Device, program: Program) -> str:
    return slot_words(device, slots_of(program)[0])


def line_of(plan: Plan, device: Device, memory: DeviceMemory, step: Step) -> CardLine:
    """A step in words."""
    if step.operation.kind == "dial":
        return _dial_line(plan, memory, step)
    return _plain_line(device, memory, step)


def _plain_line(device: Device, memory: DeviceMemory, step: Step) -> CardLine:
    """Selecting, storing, writing, clearing."""
    operation = step.operation
    slot = operation.slot
    shown = "" if slot is None else slot_words(device, slot)
    kind: LineKind = "select"
    if operation.kind == "store":
        kind, words = "store", say("Store to slot {shown}.", shown=shown)
    elif operation.kind == "write":
        kind, words = "write", say("Write the settings of the whole device.")
    elif operation.kind == "clear the rest":
        kind, words = "rest", say("Clear or switch off whatever else is in this program.")
    else:
        words = say("Select slot {shown}.", shown=shown)
    where = "" if slot is None else f"{slot.bank}-{slot.number}"
    known = known_of(memory, where) if step.done and where else None
    return CardLine(kind, words, operation, step.state, known=known, presses=step.presses)


def _dial_line(plan: Plan, memory: DeviceMemory, step: Step) -> CardLine:
    first = step.differences[0].dial
    told = said(plan, step.differences)
    words = learn_words(plan, first) if step.learned else told.sentence
    return CardLine(
        "learn" if step.learned else "dial",
        words,
        step.operation,
        _state(memory, step),
        told.thing,
        told.before,
        told.after,
        _known(memory, step),
        _reasons(plan, step.differences),
        step.presses,
        _path(first),
    )


def _state(memory: DeviceMemory, step: Step) -> State:
    """Where a line stands: at the lowest of its fields."""
    if step.state != "stored":
        return step.state
    done = checked_places(memory)
    for difference in step.differences:
        if not all(place in done for place in places_of(difference.dial)):
            return "stored"
    return "checked"


def _known(memory: DeviceMemory, step: Step) -> Known | None:
    """Who did it and when, where it is done."""
    if step.state == "planned":
        return None
    dial = step.differences[0].dial
    places = places_of(dial)
    done = checked_places(memory)
    if places[0] in done:
        return memory.known[done[places[0]]]
    if step.state == "sent" and dial.program is not None:
        return known_of(memory, f"buffer/{places[0].split('/')[1]}")
    return known_of(memory, places[0])


def _reasons(plan: Plan, differences: Iterable[Difference]) -> tuple[str, ...]:
    known = records(plan)
    reasons = []
    for difference in differences:
        setting = known.get(difference.dial.ref)
        if setting is not None and setting.why:
            reasons.append(setting.why)
    return tuple(dict.fromkeys(reasons))


def _path(dial: Dial) -> str:
    path = panel_path(dial)
    return path.path if path is not None else ""


class Count(NamedTuple):
    """How many lines a device has left, how many are done, and the presses for those left."""

    steps: int
    done: int
    presses: int


def count(
    plan: Plan,
    memory: Memory,
    device: Device,
    everything: bool = False,
    also: frozenset[str] = frozenset(),
) -> Count:
    """What ``card`` would hold, only counted."""
    return counted(device_steps(plan, memory, device, everything, also))


@derived(256, whole=True)
def counted(listed: tuple[Step, ...]) -> Count:
    """Steps counted: left, done, presses."""
    waiting = done = presses = 0
    for step in listed:
        if step.state == "planned":
            waiting += 1
            presses += step.presses
        else:
            done += 1
    return Count(waiting, done, presses)


def effort(some: Iterable[Card]) -> tuple[int, int]:
    """Lines and button presses of some cards, to compare two solutions by."""
    listed = presses = 0
    for each in some:
        listed += len(each.lines)
        presses += each.presses
    return listed, presses
