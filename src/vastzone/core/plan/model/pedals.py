"""Pedals, the jacks they go into, and how a pedal works in a jack.

Switch pedals are normally open or normally closed; continuous ones are potentiometers on a
three-pole plug with the wiper on its tip or on its ring; sources of voltage have a range.
"""

from typing import Annotated, Literal, NamedTuple

from msgspec import Meta, structs

from vastzone.core.plan.model.functions import PRESSED, SPRUNG_ONLY, SWEPT, Function
from vastzone.core.plan.model.triggers import Importance
from vastzone.core.plan.model.values import Byte, Id, Name, Ref, Value, Volts
from vastzone.core.say import say

PedalKind = Literal[
    "switch",
    "latching switch",
    "continuous",
    "dual switch",
    "triple",
    "hi-hat",
    "voltage",
    "breath",
]
Accepts = Literal["switch", "continuous", "dual switch", "triple", "hi-hat", "voltage", "breath"]
Contact = Literal["open", "closed"]
Sense = Literal["open", "closed", "at power-up"]
Wiper = Literal["tip", "ring"]
Ohms = Annotated[int, Meta(ge=100, le=1_000_000)]

TOP, WHOLE = 127, 120
"""The highest value, and how many of them are as good as all."""


class FootWish(Value, frozen=True, kw_only=True):
    """What a foot is to do: its function and how much that matters.

    It may name the ``device`` on which alone it counts; one that is ``tied`` stays with its pedal,
    others may be given to another pedal that does them better.
    """

    function: Function
    importance: Importance = "wanted"
    device: Id | None = None
    tied: bool = False


class Pedal(Value, frozen=True, kw_only=True):
    """A pedal under a foot: its kind, contact or wiper, and what is wanted of it.

    It has a first wish, in fields of its own, and may ``also`` serve others.  ``contact`` is that
    of a switch at rest, ``wiper`` the pole of the plug that a potentiometer’s wiper is on,
    ``ohms`` its resistance, ``low``–``high`` the volts of a source and ``source_ohms`` what it
    gives them through.
    """

    id: Id
    name: Name
    kind: PedalKind
    function: Function
    importance: Importance = "wanted"
    device: Id | None = None
    tied: bool = False
    also: Annotated[tuple[FootWish, ...], Meta(max_length=8)] = ()
    contact: Contact = "open"
    wiper: Wiper = "tip"
    ohms: Ohms = 10_000
    low: Volts = 0.0
    high: Volts = 5.0
    source_ohms: Ohms = 1_000

    @property
    def wishes(self) -> tuple[FootWish, ...]:
        """Everything that is wanted of it, the first wish first."""
        first = FootWish(
            function=self.function,
            importance=self.importance,
            device=self.device,
            tied=self.tied,
        )
        return (first, *self.also)


class PedalJack(Value, frozen=True, kw_only=True):
    """A jack for pedals: what it accepts, which functions it offers, the control that it moves.

    ``sense`` is the contact that it expects, «at power-up» when it looks for itself as the device
    is switched on; ``wiper`` the pole that it expects the wiper on.  ``senses`` and ``wipers`` are
    all that these can be set to; ``low``–``high`` is its rating in volts, ``ohms`` what a source of
    voltage sees there.  One that can be
    ``calibrated`` takes values ``heel``–``toe`` for its whole range and ignores what moves by no
    more than ``hysteresis``.
    """

    id: Id
    name: Name
    accepts: tuple[Accepts, ...]
    functions: tuple[Function, ...]
    control: Id | None = None
    sense: Sense = "open"
    senses: tuple[Contact, ...] = ()
    wiper: Wiper = "tip"
    wipers: tuple[Wiper, ...] = ()
    low: Volts = 0.0
    high: Volts = 5.0
    ohms: Ohms = 100_000
    calibrated: bool = False
    heel: Byte = 0
    toe: Byte = 127
    hysteresis: Byte = 0


class PedalPlug(Value, frozen=True, kw_only=True):
    """A pedal in a jack ``device:jack``."""

    pedal: Id
    jack: Ref


class Meeting(NamedTuple):
    """How a pedal works in a jack, and how that feels: «never» must not be connected at all."""

    works: Literal["works", "half", "not", "never"]
    feel: str = ""


def meeting(pedal: Pedal, jack: PedalJack) -> Meeting:
    """How a pedal works in a jack, its function left aside."""
    if pedal.kind == "voltage":
        return _voltage(pedal, jack)
    if pedal.kind in ("triple", "hi-hat", "breath"):
        own = pedal.kind in jack.accepts
        what = (
            say("a {kind} lead", kind=pedal.kind)
            if pedal.kind == "breath"
            else say("a {kind} pedal", kind=pedal.kind)
        )
        return Meeting(
            "works" if own else "not",
            "" if own else say("{what} needs a jack of its own", what=what),
        )
    if pedal.kind == "dual switch":
        return _dual(pedal, jack)
    if pedal.kind == "continuous":
        return _continuous(pedal, jack)
    return _switch(pedal, jack)


def _voltage(source: Pedal, jack: PedalJack) -> Meeting:
    if source.low < jack.low or source.high > jack.high:
        return Meeting("never", say("its voltage is beyond what the input may take"))
    if "voltage" not in jack.accepts:
        return Meeting("not", say("the jack takes no voltage"))
    first, last = values_given(source, jack)
    reach = abs(last - first)
    if jack.calibrated or reach >= WHOLE:
        return Meeting("works")
    return Meeting(
        "works" if reach >= TOP / 2 else "half",
        say("it only gives {first} to {last} of {top}", first=first, last=last, top=TOP),
    )


def values_given(source: Pedal, jack: PedalJack) -> tuple[int, int]:
    """The values 0–127 that a jack makes of both ends of a source of voltage.

    The input loads the source: it sees v · R_in / (R_in + R_source) (the voltage divider).
    """
    share = jack.ohms / (jack.ohms + source.source_ohms)
    wide = jack.high - jack.low
    values = []
    for volts in (source.low, source.high):
        value = TOP * (volts * share - jack.low) / wide if wide else 0.0
        values.append(round(min(TOP, max(0.0, value))))
    return values[0], values[1]


def _dual(pedal: Pedal, jack: PedalJack) -> Meeting:
    if "dual switch" in jack.accepts:
        return _sensed(pedal, jack)
    if "switch" in jack.accepts:
        return Meeting("half", say("only one of its two switches is heard"))
    return Meeting("not", say("the jack takes no switch"))


def _continuous(pedal: Pedal, jack: PedalJack) -> Meeting:
    if "continuous" in jack.accepts:
        if pedal.wiper == jack.wiper:
            return Meeting("works")
        feel = say(
            "its wiper is on the {wiper} and the jack wants it on the {jack_wiper}",
            wiper=say(pedal.wiper),
            jack_wiper=say(jack.wiper),
        )
        return Meeting(
            "half", say("{feel}: it jumps, or moves over a stub of its range", feel=feel)
        )
    if "switch" in jack.accepts:
        return Meeting("half", say("a sweep acts as a jump at one point"))
    return Meeting("not", say("the jack takes no sweep"))


def _switch(pedal: Pedal, jack: PedalJack) -> Meeting:
    if "switch" in jack.accepts or "dual switch" in jack.accepts:
        return _sensed(pedal, jack)
    if "continuous" in jack.accepts:
        return Meeting("half", say("it jumps from one end to the other"))
    return Meeting("not", say("the jack takes no switch"))


def _sensed(pedal: Pedal, jack: PedalJack) -> Meeting:
    if jack.sense in ("open", "closed") and jack.sense != pedal.contact:
        return Meeting("half", say("its sense is reversed: it is held until somebody steps on it"))
    if jack.sense == "at power-up":
        return Meeting("works", say("nobody may stand on it while the device is switched on"))
    return Meeting("works")


def serves(wish: FootWish, pedal: Pedal, jack: PedalJack, device: str | None = None) -> Meeting:
    """How a pedal does one wish in a jack of a device; any device where none is named."""
    service = meeting(pedal, jack)
    if service.works in ("not", "never"):
        return service
    if device is not None and wish.device not in (None, device):
        return Meeting("not", say("{function} is wanted on another device", function=wish.function))
    if wish.function != "any" and not {wish.function, "any"} & set(jack.functions):
        return Meeting(
            "not", say("the jack does not offer {function}", function=say(wish.function))
        )
    if pedal.kind == "latching switch" and wish.function in SPRUNG_ONLY:
        return Meeting("half", say("it stays on until it is pressed again"))
    swept = pedal.kind in ("continuous", "voltage", "hi-hat", "breath")
    if not swept and wish.function not in PRESSED:
        return Meeting("half", say("{function} only has its two ends", function=say(wish.function)))
    if swept and wish.function not in SWEPT and service.works == "works":
        return Meeting(
            "half", say("{function} acts at one point of the sweep", function=say(wish.function))
        )
    return service


def served(pedal: Pedal, jack: PedalJack, device: str | None = None) -> Meeting:
    """How a pedal does everything that is wanted of it in a jack of a device."""
    services = [serves(wish, pedal, jack, device) for wish in pedal.wishes]
    if len(services) == 1:
        return services[0]
    feels = []
    for wish, service in zip(pedal.wishes, services, strict=True):
        if service.feel and service.feel not in feels:
            about = "" if wish.function in service.feel else f"{wish.function}: "
            feels.append(f"{about}{service.feel}")
    kinds = {service.works for service in services}
    feel = "; ".join(dict.fromkeys(feels))
    if "never" in kinds:
        return Meeting("never", feel)
    if len(kinds) == 1:
        return Meeting(kinds.pop(), feel)
    return Meeting("half", feel)


def suited(pedal: Pedal, jack: PedalJack) -> PedalJack:
    """The jack set to the sense and the wiper of a pedal, as far as it can be."""
    sense = pedal.contact if pedal.contact in jack.senses else jack.sense
    wiper = pedal.wiper if pedal.wiper in jack.wipers else jack.wiper
    if (sense, wiper) == (jack.sense, jack.wiper):
        return jack
    return structs.replace(jack, sense=sense, wiper=wiper)
