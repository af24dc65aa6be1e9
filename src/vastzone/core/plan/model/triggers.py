"""Trigger pads, the inputs of drum modules, and what survives when one is plugged into the other.

The table is the one of the field: a single piezo works anywhere, rims need a dual input, edges and
bells need switch inputs, and a hi-hat pedal has an input of its own.
"""

import re
from collections.abc import Sequence
from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.controls import Zoned
from vastzone.core.plan.model.values import Byte, Id, Milliseconds, Name, Ref, Value

HatState = Literal["open", "half", "closed"]

Sensor = Literal["single", "dual", "switch", "two switches", "hi-hat", "kick"]
InputType = Literal["mono", "dual", "piezo-switch", "three-way", "kick", "hi-hat"]
Importance = Literal["must", "wanted", "spare"]
Side = Literal["", "tip", "ring"]
Weight = Annotated[int, Meta(ge=0, le=9)]

ZONES: dict[str, tuple[str, ...]] = {
    "single": ("head",),
    "kick": ("head",),
    "dual": ("head", "rim"),
    "switch": ("bow", "edge"),
    "two switches": ("bow", "edge", "bell"),
    "hi-hat": ("pedal",),
}
"""The zones of each sensor, the main one first."""

FULL: dict[str, dict[str, int]] = {
    "dual": {"dual": 2},
    "switch": {"piezo-switch": 2, "three-way": 2, "hi-hat": 2},
    "two switches": {"three-way": 3, "piezo-switch": 2, "hi-hat": 2},
}
"""How many zones survive where more than the main one does."""


SENSED: dict[Zoned, str] = {
    "head": "head",
    "brush": "head",
    "bow": "bow",
    "open": "bow",
    "half": "bow",
    "closed": "bow",
    "rim": "rim",
    "cross-stick": "rim",
    "edge": "edge",
    "bell": "bell",
    "open edge": "edge",
    "half edge": "edge",
    "closed edge": "edge",
    "pedal": "pedal",
    "foot chick": "pedal",
    "foot splash": "pedal",
}
"""The zone of a sensor that tells of each way to strike; strokes on one zone differ by how."""

PLACES: dict[str, int] = {"head": 0, "bow": 0, "rim": 1, "edge": 1, "bell": 2, "pedal": 3}
"""Which zone of a jack each zone of a sensor is: an edge arrives where a rim would."""


class Waiting(Value, frozen=True, kw_only=True):
    """Where the sound of a stroke is while its pad is in no input that hears it: at a control."""

    stroke: Zoned
    at: Ref


class TriggerPad(Value, frozen=True, kw_only=True):
    """A pad to be plugged in: its sensor, how much it matters, how much each zone does.

    ``model`` is what pads of one make and model share, empty where it is not known; ``weights`` go
    with the zones of the sensor, the main one counting 3 and the others 1 when none are given.  A
    hat is played with a ``pedal``.  What it sounds ``waits`` somewhere while no input hears it.
    """

    id: Id
    name: Name
    sensor: Sensor
    model: str = ""
    importance: Importance = "wanted"
    weights: tuple[Weight, ...] = ()
    pedal: Id | None = None
    waits: tuple[Waiting, ...] = ()

    @property
    def zones(self) -> tuple[str, ...]:
        """The zones that its sensor tells apart."""
        return ZONES[self.sensor]

    def weight(self, zone: int) -> int:
        """How much a zone matters, 0–9."""
        return self.weights[zone] if zone < len(self.weights) else (1 if zone else 3)


class TriggerInput(Value, frozen=True, kw_only=True):
    """A jack at the back of a drum module; ``types`` are all that it can be set to.

    A ``linked`` one sounds one instrument from all zones of its pad.  That for a hi-hat has two
    sockets, pad and pedal; the pedal counts up to 127 when it is down, or down to 0 where the
    ``closed_end`` is low, and the hat is half open from ``half`` on and closed from ``closed`` on.
    ``sensitivity``, the
    ``threshold`` below which nothing counts, the ``mask_ms`` in which nothing counts after a strike
    and how much ``crosstalk`` is taken away are None where they are not known.
    """

    id: Id
    name: Name
    types: tuple[InputType, ...]
    type: InputType
    linked: bool = False
    half: Byte = 40
    closed: Byte = 96
    closed_end: Literal["high", "low"] = "high"
    sensitivity: Byte | None = None
    threshold: Byte | None = None
    mask_ms: Milliseconds | None = None
    crosstalk: Byte | None = None


class Plug(Value, frozen=True, kw_only=True):
    """A pad in an input ``device:input``; ``side`` tells which half of a splitter it is on."""

    pad: Id
    input: Ref
    side: Side = ""


def surviving(pad: TriggerPad, kind: str, split: bool = False) -> tuple[str, ...]:
    """The zones of a pad that an input of a type hears; none where it cannot be plugged in."""
    if pad.sensor == "hi-hat" and kind != "hi-hat":
        return ()
    if split:
        return pad.zones if can_split(pad, pad, kind) else ()
    return pad.zones[: FULL.get(pad.sensor, {}).get(kind, 1)]


def can_split(pad: TriggerPad, other: TriggerPad, kind: str) -> bool:
    """Whether two pads can share an input of a type by a splitter.

    Only single-zone pads of the same make and model, and only on a dual-piezo input: they share
    its sensitivity and threshold.  Of pads whose model is not known nobody can say that.
    """
    plain = len(pad.zones) == len(other.zones) == 1
    same = bool(pad.model) and pad.model == other.model
    return kind == "dual" and plain and same and pad.sensor != "hi-hat"


def share_sockets(pads: Sequence[TriggerPad], kind: str) -> bool:
    """Whether pads can be in one input: alone, split in two, or a hat’s pad beside its pedal."""
    if kind == "hi-hat":
        feet = sum(pad.sensor == "hi-hat" for pad in pads)
        return feet <= 1 and len(pads) - feet <= 1
    if len(pads) == 2:
        return can_split(pads[0], pads[1], kind)
    return len(pads) < 2


def hat_state(jack: TriggerInput, position: float) -> HatState:
    """How a hi-hat stands with its pedal at 0 (up) to 127 (down)."""
    if jack.closed_end == "high":
        if position >= jack.closed:
            return "closed"
        return "half" if position >= jack.half else "open"
    value = 127 - position
    if value <= jack.closed:
        return "closed"
    return "half" if value <= jack.half else "open"


def states_reached(jack: TriggerInput) -> frozenset[HatState]:
    """The states that some position of the pedal gives."""
    return frozenset(hat_state(jack, position) for position in range(128))


def pedal_of(pad: TriggerPad, pads: Sequence[TriggerPad]) -> str | None:
    """The hi-hat pedal that a pad is played with, by id.

    Where nobody said, the only pad that is called a hat goes with the only pedal.
    """
    if pad.sensor == "hi-hat":
        return None
    if pad.pedal is not None:
        return pad.pedal
    feet = [other.id for other in pads if other.sensor == "hi-hat"]
    hats = [other.id for other in pads if other.sensor != "hi-hat" and _is_called_hat(other)]
    told = any(other.pedal for other in pads)
    return feet[0] if len(feet) == 1 and hats == [pad.id] and not told else None


def _is_called_hat(pad: TriggerPad) -> bool:
    return "hat" in re.findall(r"[a-z]+", pad.name.lower())
