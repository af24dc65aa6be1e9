"""Settings in a device's own terms: whose they are, what they are called, what their values say."""

from collections.abc import Callable, Mapping

from vastzone.core.plan import lookup
from vastzone.core.plan.fields.owners import Owner, OwnerKind
from vastzone.core.plan.settings import Dial


def value_words(dial: Dial, value: int | None) -> str:
    """A value as the device shows it."""
    return "not set" if value is None else dial.field.say(dial.owner, value)


def field_words(dial: Dial) -> str:
    """What a setting is called on the card."""
    return dial.field.name_on(dial.owner)


def thing_words(dial: Dial) -> str:
    """What a setting belongs to inside its device: ``Zone Viol``, ``Pad 3, bank 2``."""
    return SAID[dial.owner.kind](dial.owner)


def _named(what: str) -> Callable[[Owner], str]:
    return lambda owner: f"{what} {owner.held.name}"


def _passed_on(owner: Owner) -> str:
    return f"{owner.held.source.name} to {owner.held.dest.name}"


def _sound(owner: Owner) -> str:
    return f"{owner.kit.name}, {owner.held.name}" if owner.kit else str(owner.held.name)


def send_words(owner: Owner) -> str:
    """A control with its bank, where it has several, and the layer above the first."""
    send = owner.held
    control = lookup.by_id(owner.device.controls, send.control, "control")
    below = f", layer {send.layer + 1}" if send.layer else ""
    return (f"{control.name}, bank {send.bank}" if control.banks > 1 else control.name) + below


SAID: Mapping[OwnerKind, Callable[[Owner], str]] = {
    "device": lambda owner: "Whole device",
    "passed on": _passed_on,
    "input": _named("Input"),
    "jack": _named("Jack"),
    "zone": _named("Zone"),
    "send": send_words,
    "part": _named("Part"),
    "sound": _sound,
    "target": _named("Target"),
}
"""How each kind of owner is said."""


def number_words(dial: Dial, before: int | None, after: int) -> tuple[str, str, str, str, str]:
    """A changed number in words: program as the device shows it («» for none), where, what,
    from, to."""
    number = dial.program
    return (
        "" if number is None else str(number + dial.owner.device.first_program),
        thing_words(dial),
        field_words(dial),
        value_words(dial, before),
        value_words(dial, after),
    )
