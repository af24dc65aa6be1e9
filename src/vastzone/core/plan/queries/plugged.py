"""What is plugged into the inputs of drum modules, and which stroke reaches which control there."""

from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple

from vastzone.core.cache import derived, interned
from vastzone.core.plan.model.controls import Control, Zoned
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import (
    PLACES,
    SENSED,
    HatState,
    Plug,
    TriggerInput,
    TriggerPad,
    states_reached,
    surviving,
)
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to

Strokes = tuple[tuple[str, str], ...]
"""Controls of a module that sound as another one, or as none («»)."""
STATES: dict[Zoned, HatState] = {
    "open": "open",
    "half": "half",
    "closed": "closed",
    "open edge": "open",
    "half edge": "half",
    "closed edge": "closed",
}
"""How a hi-hat stands for each stroke that only sounds then."""
FEET: frozenset[Zoned] = frozenset(("pedal", "foot chick", "foot splash"))
MAIN: frozenset[Zoned] = frozenset(("head", "bow", "open"))
"""Plain strokes on the main zone of a pad, whatever it is called."""

HALVES: frozenset[Zoned] = MAIN | {"rim", "edge"}
"""What a splitter’s tip and ring are heard as: head and rim of one dual input."""


class Sockets(NamedTuple):
    """What is in an input: the pad in it or on the tip of a splitter, that on its ring, a pedal."""

    pad: TriggerPad | None = None
    ring: TriggerPad | None = None
    pedal: TriggerPad | None = None

    @property
    def is_split(self) -> bool:
        """Whether two pads share it by a splitter."""
        return self.ring is not None

    @property
    def names(self) -> tuple[str, ...]:
        """What is in it, by name."""
        return tuple(each.name for each in self if each is not None)


EMPTY = Sockets()


@derived(64)
def sockets_of(pads: tuple[TriggerPad, ...], plugs: tuple[Plug, ...]) -> Mapping[str, Sockets]:
    """What is in each input ``device:input`` that anything is in."""
    known = lookup.by_ids(pads)
    by_input: dict[str, Sockets] = {}
    for plug in plugs:
        pad, held = known.get(plug.pad), by_input.get(plug.input, EMPTY)
        if pad is None:
            continue
        if pad.sensor == "hi-hat":
            held = held._replace(pedal=pad)
        elif plug.side == "ring":
            held = held._replace(ring=pad)
        else:
            held = held._replace(pad=pad)
        by_input[plug.input] = held
    return by_input


def in_input(plan: Plan, ref: str) -> Sockets:
    """What is in an input ``device:input``."""
    return sockets_of(plan.pads, plan.plugs).get(ref, EMPTY)


def pad_of(plan: Plan, owner: Device, control: Control) -> TriggerPad | None:
    """The pad or pedal that a control of a module is struck by; None where there is none."""
    if control.input is None or control.zone is None:
        return None
    held = in_input(plan, ref_to(owner.id, control.input))
    return _struck_by(held, control.zone)


def stroke_rank(plan: Plan, owner: Device, control: Control) -> int:
    """Which strokes come first where sounds are few: plain ones, then a hat’s, then rims and more.

    Plain is a stroke on the main zone of a pad, or on either half of a splitter.
    """
    if control.input is None or control.zone is None:
        return 0
    split = in_input(plan, ref_to(owner.id, control.input)).is_split
    if control.zone in (HALVES if split else MAIN):
        return 0
    return 1 if control.zone in STATES or control.zone in FEET else 2


def _struck_by(held: Sockets, zone: Zoned) -> TriggerPad | None:
    place = PLACES[SENSED[zone]]
    if place == PLACES["pedal"]:
        return held.pedal
    if held.is_split:
        return (held.pad, held.ring)[place] if place < 2 else None
    return held.pad


def heard_zone(pad: TriggerPad, jack: TriggerInput, stroke: Zoned, split: bool = False) -> str:
    """The zone of its sensor that an input takes a stroke for; «» when it hears nothing.

    A zone that the input cannot tell apart sounds as the main one, as does a linked one.
    """
    kept, place = surviving(pad, jack.type, split), PLACES[SENSED[stroke]]
    if not kept:
        return ""
    for zone in pad.zones:
        if PLACES[zone] == place:
            return zone if zone in kept and not jack.linked else kept[0]
    return ""


def strokes_as(plan: Plan, owner: Device) -> Strokes:
    """What strokes a module hears as something else, because of what is in its inputs."""
    if not owner.inputs or not plan.plugs:
        return ()
    return _strokes_as(owner.id, owner.controls, owner.inputs, plan.pads, plan.plugs)


@derived(64)
def _strokes_as(
    owner: str,
    controls: tuple[Control, ...],
    inputs: tuple[TriggerInput, ...],
    pads: tuple[TriggerPad, ...],
    plugs: tuple[Plug, ...],
) -> Strokes:
    jacks, held = lookup.by_ids(inputs), sockets_of(pads, plugs)
    pairs = []
    for control in controls:
        jack = jacks.get(control.input or "")
        if jack is None or control.zone is None:
            continue
        other = _sounds_as(controls, control, jack, held.get(ref_to(owner, jack.id), EMPTY))
        if other != control.id:
            pairs.append((control.id, other))
    return interned(tuple(pairs))


def _sounds_as(
    controls: tuple[Control, ...], control: Control, jack: TriggerInput, held: Sockets
) -> str:
    """The control that a stroke on this one sounds as: mostly itself; «» where nothing hears it."""
    zone = control.zone or "head"
    pad = _struck_by(held, zone)
    if pad is None or not _is_reached(zone, jack, held):
        return ""
    if held.is_split:
        return control.id if zone in HALVES else ""
    heard = heard_zone(pad, jack, zone)
    if heard and PLACES[heard] == PLACES[SENSED[zone]]:
        return "" if _is_outdone(controls, control, heard) else control.id
    return _main(controls, control.input) if heard else ""


def _is_reached(zone: Zoned, jack: TriggerInput, held: Sockets) -> bool:
    """Whether the pedal of a hi-hat lets a stroke be: without one it is open and no foot plays."""
    if jack.type != "hi-hat":
        return zone not in FEET
    if held.pedal is None:
        return STATES.get(zone, "open") == "open" and zone not in FEET
    return STATES.get(zone, "open") in states_reached(jack) or zone not in STATES


def _is_outdone(controls: tuple[Control, ...], control: Control, heard: str) -> bool:
    """Whether another control of the input tells of just the zone that this one stands in for."""
    sensed = SENSED[control.zone or "head"]
    if sensed == heard or PLACES[heard] == 0:
        return False
    return any(
        other.input == control.input and other.zone and SENSED[other.zone] == heard
        for other in controls
    )


def _main(controls: Iterable[Control], jack: str | None) -> str:
    """The control that tells of plain strokes on the main zone of an input."""
    first = ""
    for other in controls:
        if other.input != jack or other.zone is None or PLACES[SENSED[other.zone]]:
            continue
        if other.zone in MAIN:
            return other.id
        first = first or other.id
    return first


class Station(NamedTuple):
    """Where the sound of a stroke of a pad is: at a control of a module."""

    pad: str
    stroke: Zoned
    at: str


def stations(plan: Plan, plugs: tuple[Plug, ...]) -> Iterator[Station]:
    """Where what each pad sounds is kept when it is plugged so, stroke by stroke.

    A plain stroke on the main zone is called «head» wherever it is.
    """
    held = sockets_of(plan.pads, plugs)
    for device in plan.devices:
        jacks = lookup.by_ids(device.inputs)
        for control in device.controls:
            jack = jacks.get(control.input or "")
            if jack is None or control.zone is None:
                continue
            here = held.get(ref_to(device.id, jack.id), EMPTY)
            pad = _struck_by(here, control.zone)
            stroke = _stroke_at(pad, control.zone, here) if pad is not None else None
            if pad is not None and stroke is not None:
                yield Station(pad.id, stroke, ref_to(device.id, control.id))


def _stroke_at(pad: TriggerPad, zone: Zoned, held: Sockets) -> Zoned | None:
    """Which stroke of a pad a control is for; None for one that the pad has not got."""
    if held.is_split:
        return "head" if zone in HALVES else None
    if zone in MAIN:
        return "head"
    place = PLACES[SENSED[zone]]
    if place == 0 or any(PLACES[own] == place for own in pad.zones):
        return {"rim": "rim", "edge": "rim"}.get(zone, zone)  # type: ignore[return-value]
    return None
