"""What sounds go through: outputs, audio inputs, cables, and wishes for the desk."""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.values import Byte, Id, Name, Ref, Value

InputKind = Literal["mono", "pair", "usb"]
Leg = Literal["both", "left", "right"]
Wanted = Literal["alone", "apart", "stereo", "channel"]
OutputChoice = Annotated[
    str,
    Meta(pattern=r"^([a-z0-9][a-z0-9-]*(\+[a-z0-9][a-z0-9-]*)?)?$", max_length=97),
]
"""An output by its id, or two mono ones as a pair, «3+4»; empty is the first of the device."""
SoundName = Annotated[str, Meta(pattern=r"^[a-z0-9-]+:[a-z0-9-]+(/[a-z0-9-]+)?$", max_length=150)]
"""A part «device:part», or one sound of what it sounds, «device:part/sound»."""
Pan = Annotated[int, Meta(ge=-64, le=63)]
Metres = Annotated[float, Meta(ge=0, le=200)]


class SoundRoute(Value, frozen=True, kw_only=True):
    """Where one ``sound`` of a ``part`` goes, apart from the rest of it, how loud and to which
    side."""

    part: Id
    sound: Id
    output: OutputChoice = ""
    level: Byte = 100
    pan: Pan = 0


class AudioInput(Value, frozen=True, kw_only=True):
    """Where sound enters an interface, or a channel of a desk; ``phantom`` power may be on."""

    id: Id
    name: Name
    kind: InputKind = "mono"
    phantom: bool = False


class AudioPass(Value, frozen=True, kw_only=True):
    """What comes in at input ``source`` of a device leaves it at the output or pair ``dest``."""

    source: Id
    dest: OutputChoice


class AudioCable(Value, frozen=True, kw_only=True):
    """A cable from an output ``device:output`` to an input ``device:input``.

    Of a pair it carries ``both`` sides, or one.  A ``di`` box may stand in it.  ``metres`` is how
    long it is, None where that follows from where the devices stand.
    """

    source: Ref
    dest: Ref
    leg: Leg = "both"
    di: bool = False
    metres: Metres | None = None


class OutputWish(Value, frozen=True, kw_only=True):
    """How some sounds want to reach the desk.

    ``of`` want outputs ``alone``, which nothing else uses; ``apart`` from the sounds named there;
    in ``stereo``; or to arrive on a ``channel`` ``device:input``.  ``strength`` says how much that
    matters, 5 most.
    """

    id: Id
    name: Name
    of: Annotated[tuple[SoundName, ...], Meta(min_length=1, max_length=256)]
    want: Wanted
    apart: tuple[SoundName, ...] = ()
    channel: Ref | None = None
    strength: Annotated[int, Meta(ge=1, le=5)] = 3
