"""Settings in a device's own terms: whose they are, what they are called, what their values say."""

from collections.abc import Callable, Mapping

from vastzone.core.plan.fields.dials import Dial
from vastzone.core.plan.fields.owners import Owner, OwnerKind
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.queries.sounds import sounds_in
from vastzone.core.say import say


def value_words(dial: Dial, value: Stored | None) -> str:
    """A value as the device shows it."""
    return say("not set") if value is None else dial.field.values.words(dial.owner, value)


def field_words(dial: Dial) -> str:
    """What a setting is called on the card."""
    return dial.field.name_on(dial.owner)


def thing_words(dial: Dial) -> str:
    """What a setting belongs to inside its device: ``Zone Viol``, ``Pad 3, bank 2``."""
    return SAID[dial.owner.kind](dial.owner)


def _named(what: str) -> Callable[[Owner], str]:
    return lambda owner: f"{what} {owner.thing.name}"


def _passed_on(owner: Owner) -> str:
    return say("{source} to {dest}", source=owner.thing.source.name, dest=owner.thing.dest.name)


def _sound(owner: Owner) -> str:
    return f"{owner.kit.name}, {owner.thing.name}" if owner.kit else str(owner.thing.name)


def _route(owner: Owner) -> str:
    route = owner.thing
    part = lookup.find(owner.device.parts, route.part)
    named = sounds_in(owner.device, part) if part is not None else {}
    return f"{part.name if part is not None else route.part}, {named.get(route.sound, route.sound)}"


def _shoe(owner: Owner) -> str:
    names = lookup.names_of(owner.device.controls)
    return names.get(owner.thing.control, str(owner.thing.control))


def _kit_choice(owner: Owner) -> str:
    names = lookup.names_of(owner.device.parts)
    return say("Part {names}", names=names.get(owner.thing.part, owner.thing.part))


def send_words(owner: Owner) -> str:
    """A control with its bank, where it has several, and the layer above the first."""
    send, control = owner.thing, owner.control
    below = say(", layer {layer}", layer=send.layer + 1) if send.layer else ""
    if control is None:
        return f"{send.control}{below}"
    return (
        say("{control}, bank {bank}", control=control.name, bank=send.bank)
        if control.banks > 1
        else control.name
    ) + below


SAID: Mapping[OwnerKind, Callable[[Owner], str]] = {
    "device": lambda owner: say("Whole device"),
    "switch": lambda owner: str(owner.thing.name),
    "passed on": _passed_on,
    "encoder": lambda owner: say("Encoder"),
    "block": _named(say("Keyboard")),
    "shoe": _shoe,
    "input": _named(say("Input")),
    "jack": _named(say("Jack")),
    "program": lambda owner: say("Program"),
    "zone": _named(say("Zone")),
    "send": send_words,
    "kit choice": _kit_choice,
    "part": _named(say("Part")),
    "sound": _sound,
    "route": _route,
    "target": _named(say("Target")),
    "coupler": _named(say("Coupler")),
    "combination": _named(say("Piston")),
    "crescendo": _named(say("Crescendo")),
}
"""How each kind of owner is said."""


def number_words(
    dial: Dial, before: Stored | None, after: Stored
) -> tuple[str, str, str, str, str]:
    """A changed number in words: program as the device shows it («» for none), where, what,
    from, to."""
    number = dial.program
    return (
        "" if number is None else program_words(dial.owner.device, number),
        thing_words(dial),
        field_words(dial),
        value_words(dial, before),
        value_words(dial, after),
    )
