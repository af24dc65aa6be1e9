"""Settings in a device's own terms: whose they are, what they are called, what their values say."""

from collections.abc import Callable, Mapping

from vastzone.core.plan import lookup
from vastzone.core.plan.fields.owners import Owner, OwnerKind, owner_of
from vastzone.core.plan.fields.table import Field, fields_for
from vastzone.core.plan.model import Device
from vastzone.core.plan.refs import read_setting_ref


def _setting(device: Device, ref: str) -> tuple[Owner, Field]:
    """A setting’s owner and its field in the table."""
    owner = owner_of(device, ref)
    wanted = read_setting_ref(ref).field
    fields = fields_for(owner.kind)
    return owner, next(field for field in fields if owner.alone or field.id == wanted)


def value_words(device: Device, ref: str, value: int | None) -> str:
    """A value as the device shows it."""
    if value is None:
        return "not set"
    owner, field = _setting(device, ref)
    return field.say(owner, value)


def field_words(device: Device, ref: str) -> str:
    """What a setting is called on the card."""
    owner, field = _setting(device, ref)
    return field.name_on(owner)


def thing_words(device: Device, ref: str) -> str:
    """What a setting belongs to inside its device: ``Zone Viol``, ``Pad 3, bank 2``."""
    owner = owner_of(device, ref)
    return SAID[owner.kind](owner, ref)


def _named(what: str) -> Callable[[Owner, str], str]:
    return lambda owner, _: f"{what} {owner.held.name}"


def _passed_on(owner: Owner, _ref: str) -> str:
    return f"{owner.held.source.name} to {owner.held.dest.name}"


def _sound(owner: Owner, ref: str) -> str:
    kit = lookup.kit(owner.device, read_setting_ref(ref).ident)
    return f"{kit.name}, {owner.held.name}"


def _send(owner: Owner, ref: str) -> str:
    place = read_setting_ref(ref)
    return control_words(owner.device, place.control, place.bank)


SAID: Mapping[OwnerKind, Callable[[Owner, str], str]] = {
    "device": lambda owner, ref: "Whole device",
    "passed on": _passed_on,
    "input": _named("Input"),
    "jack": _named("Jack"),
    "zone": _named("Zone"),
    "send": _send,
    "part": _named("Part"),
    "sound": _sound,
    "target": _named("Target"),
}
"""How each kind of owner is said."""


def control_words(device: Device, control: str, ident: str) -> str:
    """A control with its bank, where it has several, and the layer above the first."""
    held = lookup.by_id(device.controls, control, "control")
    bank, _, layer = ident.partition(".")
    below = f", layer {int(layer) + 1}" if layer else ""
    return (f"{held.name}, bank {bank}" if held.banks > 1 else held.name) + below


def number_words(
    device: Device, ref: str, before: int | None, after: int
) -> tuple[str, str, str, str, str]:
    """A changed number in words: program as the device shows it («» for none), where, what,
    from, to."""
    number = read_setting_ref(ref).program
    return (
        "" if number is None else str(number + device.first_program),
        thing_words(device, ref),
        field_words(device, ref),
        value_words(device, ref, before),
        value_words(device, ref, after),
    )
