"""How long cables have to be, by where devices stand, and which of the usual lengths serves.

A cable goes along the floor at right angles, down from one device and up to the other, and is laid
with some slack so that nobody trips and nothing is pulled.
"""

from typing import NamedTuple

from vastzone.core.plan.model.plan import Cable, Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say

STANDARD = (0.3, 0.6, 1.0, 1.5, 2.0, 3.0, 5.0, 6.0, 10.0, 15.0, 20.0, 30.0, 50.0)
UP_AND_DOWN, SLACK = 1.0, 0.5
LONGEST = {"din": 15.0, "usb": 5.0}
"""Metres that the specifications allow: MIDI 1.0 over DIN 15 m (50 feet), USB 2.0 5 m."""
WITH_RINGS = frozenset(("continuous", "dual switch", "triple", "hi-hat"))
"""Pedals whose lead has three poles."""


class CableNeed(NamedTuple):
    """A cable: of what kind, from where to where, and how long; None where nobody knows.

    ``too_long`` says that no such cable works so far.
    """

    kind: str
    source: str
    dest: str
    metres: float | None
    too_long: bool = False


def distance(one: Device, other: Device) -> float | None:
    """Metres along the floor between two devices; None where one has no place."""
    if one.place is None or other.place is None:
        return None
    return abs(one.place.x - other.place.x) + abs(one.place.y - other.place.y)


def standard_length(metres: float) -> float:
    """The shortest usual cable that is long enough; whole tens beyond the longest."""
    for length in STANDARD:
        if length >= metres - 1e-9:
            return length
    return -(-metres // 10) * 10.0


def between(one: Device, other: Device, told: float | None) -> float | None:
    """How long a cable between two devices is: as it is said, or as they stand."""
    if told is not None:
        return told
    apart = distance(one, other)
    return None if apart is None else standard_length(apart + UP_AND_DOWN + SLACK)


def cable_needs(plan: Plan) -> tuple[CableNeed, ...]:
    """Every cable of the plan: MIDI and USB, audio, pedals; two streams share a USB cable."""
    needs = [*_midi(plan), *_audio(plan)]
    for plug in plan.pedal_plugs:
        pedal = lookup.find(plan.pedals, plug.pedal)
        owner = lookup.device(plan, device_of(plug.jack))
        if pedal is not None:
            kind = say("TRS jack") if pedal.kind in WITH_RINGS else say("jack")
            needs.append(CableNeed(kind, pedal.name, owner.name, None))
    for pad in plan.plugs:
        named = lookup.find(plan.pads, pad.pad)
        owner = lookup.device(plan, device_of(pad.input))
        if named is not None:
            needs.append(CableNeed(say("TRS jack"), named.name, owner.name, None))
    return tuple(needs)


def _midi(plan: Plan) -> list[CableNeed]:
    needs = []
    for cable in plan.cables:
        (one, port), (other, _) = (
            lookup.endpoint(plan, cable.source),
            lookup.endpoint(plan, cable.dest),
        )
        if port.link == "bluetooth":
            continue
        metres = between(one, other, cable.metres)
        kind = "USB" if port.link == "usb" else say("MIDI (DIN)")
        if cable.crossed:
            kind = say("MIDI (3.5 mm, A to B)")
        elif port.trs:
            kind = say("MIDI (3.5 mm, type {trs})", trs=port.trs)
        far = metres is not None and metres > LONGEST.get(port.link, 1e9)
        needs.append(CableNeed(kind, one.name, other.name, metres, far))
    return needs


def _audio(plan: Plan) -> list[CableNeed]:
    needs, shared = [], set()
    joined = {frozenset((device_of(c.source), device_of(c.dest))) for c in _usb_cables(plan)}
    for cable in plan.audio_cables:
        one = lookup.device(plan, device_of(cable.source))
        other = lookup.device(plan, device_of(cable.dest))
        output = lookup.by_id(one.outputs, cable.source.partition(":")[2], "output")
        metres = between(one, other, cable.metres)
        if output.kind == "usb":
            pair = frozenset((one.id, other.id))
            if pair in joined or pair in shared:
                continue
            shared.add(pair)
            needs.append(CableNeed("USB", one.name, other.name, metres))
            continue
        if cable.di:
            needs.append(CableNeed("jack", one.name, say("its DI box"), 1.0))
            needs.append(CableNeed("XLR", say("DI box"), other.name, metres))
        else:
            kind = "XLR" if one.kind == "interface" and other.kind == "desk" else say("jack")
            needs.append(CableNeed(kind, one.name, other.name, metres))
            if output.kind in ("pair", "headphones") and cable.leg == "both":
                needs.append(CableNeed(kind, one.name, other.name, metres))
    return needs


def _usb_cables(plan: Plan) -> list[Cable]:
    return [c for c in plan.cables if lookup.endpoint(plan, c.source)[1].link == "usb"]


def cable_list(plan: Plan) -> tuple[tuple[str, float | None, int], ...]:
    """Cables by kind and length, with how many of each, the longest of a kind first."""
    counts: dict[tuple[str, float | None], int] = {}
    for need in cable_needs(plan):
        key = (need.kind, need.metres)
        counts[key] = counts.get(key, 0) + 1
    rows = [(kind, metres, count) for (kind, metres), count in counts.items()]
    return tuple(sorted(rows, key=lambda row: (row[0], -(row[1] or 0.0))))
