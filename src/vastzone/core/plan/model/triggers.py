"""Trigger pads, the inputs of drum modules, and what survives when one is plugged into the other.

The table is the one of the field: a single piezo works anywhere, rims need a dual input, edges and
bells need switch inputs, and a hi-hat pedal has an input of its own.
"""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.controls import Zoned
from vastzone.core.plan.model.values import Byte, Id, Milliseconds, Name, Ref, Value

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
    "switch": {"piezo-switch": 2, "three-way": 2},
    "two switches": {"three-way": 3, "piezo-switch": 2},
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
    "foot splash": "pedal",
}
"""The zone of a sensor that tells of each way to strike; strokes on one zone differ by how."""


class TriggerPad(Value, frozen=True, kw_only=True):
    """A pad to be plugged in: its sensor, how much it matters, how much each zone does.

    ``model`` is what pads of one make and model share; ``weights`` go with the zones of the
    sensor, the main one counting 3 and the others 1 when none are given.
    """

    id: Id
    name: Name
    sensor: Sensor
    model: str = ""
    importance: Importance = "wanted"
    weights: tuple[Weight, ...] = ()

    @property
    def zones(self) -> tuple[str, ...]:
        """The zones that its sensor tells apart."""
        return ZONES[self.sensor]

    def weight(self, zone: int) -> int:
        """How much a zone matters, 0–9."""
        return self.weights[zone] if zone < len(self.weights) else (1 if zone else 3)


class TriggerInput(Value, frozen=True, kw_only=True):
    """A jack at the back of a drum module; ``types`` are all that it can be set to.

    A ``linked`` one sounds one instrument from all zones of its pad.  A hi-hat pedal, 0 when up
    and 127 when down, is half open from ``half`` and closed from ``closed``.  ``sensitivity``, the
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
    if (pad.sensor == "hi-hat") is not (kind == "hi-hat"):
        return ()
    if split:
        return pad.zones if can_split(pad, pad, kind) else ()
    return pad.zones[: FULL.get(pad.sensor, {}).get(kind, 1)]


def can_split(pad: TriggerPad, other: TriggerPad, kind: str) -> bool:
    """Whether two pads can share an input of a type by a splitter.

    Only single-zone pads of the same make and model, and only on a dual-piezo input: they share
    its sensitivity and threshold.
    """
    plain = len(pad.zones) == len(other.zones) == 1
    return kind == "dual" and plain and pad.model == other.model and pad.sensor != "hi-hat"


def hat_sound(jack: TriggerInput, position: int) -> Zoned:
    """What a hi-hat sounds with its pedal at 0 (up) to 127 (down)."""
    return "closed" if position >= jack.closed else "half" if position >= jack.half else "open"


def heard_zone(pad: TriggerPad, jack: TriggerInput, stroke: Zoned, split: bool = False) -> str:
    """The zone of its sensor that an input takes a stroke for; «» when it hears nothing.

    A zone that the input cannot tell apart sounds as the main one, as does a linked one.
    """
    zone, kept = SENSED[stroke], surviving(pad, jack.type, split)
    if not kept or (zone not in pad.zones and zone not in ("head", "bow")):
        return ""
    return zone if zone in kept and not jack.linked else kept[0]
