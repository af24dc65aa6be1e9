"""What a device is as a thing that is carried and plugged in; sizes are in millimetres."""

from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.values import Id, Name, Value, Volts

Millimetres = Annotated[float, Meta(ge=0, le=4000)]
OutputKind = Literal["mono", "pair", "headphones", "usb"]
SupplyKind = Literal["", "mains", "adapter", "usb", "battery", "none"]
HearingWay = Literal["air", "wired ears", "wireless ears"]
Polarity = Literal["", "centre plus", "centre minus", "ac"]


class Spot(Value, frozen=True, kw_only=True):
    """Where something lies on a face, from its far left corner, and how large it is."""

    x: Millimetres
    y: Millimetres
    wide: Millimetres
    high: Millimetres

    @property
    def right(self) -> float:
        """Its right edge."""
        return self.x + self.wide

    @property
    def bottom(self) -> float:
        """Its edge that is next to the person."""
        return self.y + self.high


class Size(Value, frozen=True, kw_only=True):
    """How wide a device is, and how deep from its back to the person."""

    wide: Millimetres
    deep: Millimetres


class AudioOutput(Value, frozen=True, kw_only=True):
    """Where sound leaves a device: one jack, a pair, headphones, or over USB."""

    id: Id
    name: Name
    kind: OutputKind = "mono"


class AudioBuffer(Value, frozen=True, kw_only=True):
    """How long sound waits in a computer or a digital device before it leaves it.

    It works in ``periods`` of so many ``frames`` at a sampling ``rate``; turning numbers into
    voltage takes ``converter_ms``.
    """

    frames: Annotated[int, Meta(ge=1, le=16_384)] = 128
    rate: Annotated[int, Meta(ge=8_000, le=384_000)] = 48_000
    periods: Annotated[int, Meta(ge=1, le=8)] = 2
    converter_ms: Annotated[float, Meta(ge=0, le=50)] = 0.7

    @property
    def period_ms(self) -> float:
        """One period in milliseconds: 128 frames at 48 kHz take 2.67."""
        return self.frames * 1000.0 / self.rate


class Hearing(Value, frozen=True, kw_only=True):
    """How a player hears what is played: through so many ``metres`` of air, or on the ears.

    A wireless way takes ``wireless_ms``.
    """

    player: Name
    by: HearingWay = "air"
    metres: Annotated[float, Meta(ge=0, le=100)] = 1.0
    wireless_ms: Annotated[float, Meta(ge=0, le=50)] = 3.5


class Supply(Value, frozen=True, kw_only=True):
    """How a device is powered; nothing is known where its kind is empty.

    An adapter gives ``volts`` at ``milliamps`` through a ``plug``; a battery holds
    ``watt_hours``, and the device takes ``watts`` of it.
    """

    kind: SupplyKind = ""
    volts: Volts = 0.0
    milliamps: Annotated[int, Meta(ge=0, le=20_000)] = 0
    polarity: Polarity = ""
    plug: Annotated[str, Meta(max_length=40)] = ""
    watt_hours: Annotated[float, Meta(ge=0, le=2000)] = 0.0
    watts: Annotated[float, Meta(ge=0, le=5000)] = 0.0


SourceKind = Literal["brick", "strip", "hub", "charger", "battery"]


class PowerSource(Value, frozen=True, kw_only=True):
    """A thing that powers others: a brick, a mains strip, a USB hub or charger, or a battery.

    It gives ``volts`` of a ``polarity`` at ``milliamps`` in all, through so many ``outlets`` with a
    ``plug``; a battery holds ``watt_hours``.  It ``feeds`` devices, and sources that hang on it.
    """

    id: Id
    name: Name
    kind: SourceKind
    volts: Volts = 0.0
    milliamps: Annotated[int, Meta(ge=0, le=60_000)] = 0
    polarity: Polarity = ""
    plug: Annotated[str, Meta(max_length=40)] = ""
    watt_hours: Annotated[float, Meta(ge=0, le=5000)] = 0.0
    outlets: Annotated[int, Meta(ge=1, le=32)] = 1
    feeds: tuple[Id, ...] = ()


class Place(Value, frozen=True, kw_only=True):
    """Where a device stands on the stage, in metres from its front left corner as one plays."""

    x: Annotated[float, Meta(ge=0, le=60)]
    y: Annotated[float, Meta(ge=0, le=60)]


class PackedTick(Value, frozen=True, kw_only=True):
    """Something that was packed, put up or tested: what, when, and who says so."""

    what: Annotated[str, Meta(min_length=1, max_length=300)]
    on: Annotated[str, Meta(max_length=40)] = ""
    by: Annotated[str, Meta(max_length=80)] = ""
