"""The kinds of number and text that a plan is made of, with their limits.

Channels are 1–16 and banks from 1, as everyone says them; notes, velocities, controllers and
programs are 0–127, as on the wire.
"""

from typing import Annotated, Literal

import msgspec
from msgspec import Meta

Id = Annotated[str, Meta(pattern=r"^[a-z0-9][a-z0-9-]*$", max_length=48)]
Name = Annotated[str, Meta(min_length=1, max_length=80)]
Text = Annotated[str, Meta(max_length=4000)]
Byte = Annotated[int, Meta(ge=0, le=127)]
Velocity = Annotated[int, Meta(ge=1, le=127)]
Channel = Annotated[int, Meta(ge=1, le=16)]
Semitones = Annotated[int, Meta(ge=-60, le=60)]
Octaves = Annotated[int, Meta(ge=-5, le=5)]
Positive = Annotated[int, Meta(ge=1, le=512)]
Milliseconds = Annotated[float, Meta(ge=0, le=1000)]
Bend = Annotated[int, Meta(ge=0, le=48)]
Repitch = Annotated[int, Meta(ge=0, le=60)]
Kilograms = Annotated[float, Meta(ge=0, le=2000)]
Slew = Annotated[float, Meta(ge=0, le=10_000)]
Rate = Annotated[float, Meta(ge=0.1, le=60)]
Volts = Annotated[float, Meta(ge=-48, le=48)]
Tempo = Annotated[float, Meta(ge=30, le=300)]
Colour = Annotated[int, Meta(ge=0, le=7)]
Tag = Annotated[str, Meta(min_length=1, max_length=2)]
Level = Annotated[int, Meta(ge=0, le=127)] | Annotated[float, Meta(ge=0, le=127)]
"""A value sent: whole in a 7-bit message, in steps of 1/128 in one of 14 bits."""
Ref = Annotated[str, Meta(pattern=r"^[a-z0-9-]+:[a-z0-9-]+$")]

DeviceKind = Literal[
    "keyboard",
    "pads",
    "module",
    "sampler",
    "computer",
    "merger",
    "looper",
    "floorboard",
    "encoder",
    "interface",
    "desk",
]
ControlKind = Literal[
    "wheel",
    "lever",
    "switch",
    "pedal",
    "knob",
    "fader",
    "button",
    "pad",
    "shoe",
    "stop",
    "breath",
    "aftertouch",
    "source",
]
Receiving = Literal["set", "fixed", "learns", "takes all"]
"""How a receiver comes to its channel and number: they are set, cannot be changed, are learned from
what comes in, or there are none because it takes everything."""
Mode = Literal["momentary", "toggle", "trigger"]
Sending = Literal[
    "none", "note", "controller", "program", "bend", "pressure", "pair", "rpn", "nrpn"
]


class Value(
    msgspec.Struct,
    frozen=True,
    kw_only=True,
    omit_defaults=True,
    forbid_unknown_fields=True,
):
    """A frozen piece of a plan."""
