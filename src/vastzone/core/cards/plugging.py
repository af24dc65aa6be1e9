"""What goes into which jack of a device, in the order in which one stands behind it."""

from collections.abc import Iterator

from vastzone.core.plan.fields.dials import owner_dials
from vastzone.core.plan.fields.owners import input_owner
from vastzone.core.plan.fields.words import field_words, value_words
from vastzone.core.plan.model.pedals import Pedal, PedalJack
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import Sensor, TriggerInput, TriggerPad
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import EMPTY, Sockets, sockets_of
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.core.text import ALL, listed

SENSOR_WORDS: dict[Sensor, str] = {
    "single": say("single piezo"),
    "dual": say("dual piezo"),
    "switch": say("piezo and switch"),
    "two switches": say("piezo and two switches"),
    "hi-hat": say("hi-hat pedal"),
    "kick": say("kick"),
}


def plugging(plan: Plan, device: Device) -> tuple[str, ...]:
    """A sentence for each jack of a device that something is to be in, in the device’s order."""
    return (*_pads(plan, device), *_pedals(plan, device))


def _pads(plan: Plan, device: Device) -> Iterator[str]:
    held = sockets_of(plan.pads, plan.plugs)
    if not any(ref_to(device.id, jack.id) in held for jack in device.inputs):
        return
    for jack in device.inputs:
        here = held.get(ref_to(device.id, jack.id), EMPTY)
        if not any(here):
            yield say("{jack}: nothing.", jack=jack.name)
            continue
        yield f"{jack.name}: {_inside(here)}; {_set_to(device, jack)}."


def _inside(held: Sockets) -> str:
    """What goes into an input, leg by leg."""
    if held.is_split:
        legs = []
        for leg, pad in (("tip", held.pad), ("ring", held.ring)):
            legs.append(f"{leg} {_pad(pad)}" if pad is not None else say("{leg} free", leg=leg))
        return say("a splitter, {legs}", legs=", ".join(legs))
    pieces = []
    if held.pad is not None:
        pieces.append(_pad(held.pad))
    if held.pedal is not None:
        where = say("in the pedal’s socket") if held.pad is not None else ""
        pieces.append(f"{_pad(held.pedal)} {where}".strip())
    return listed(pieces, ALL)


def _pad(pad: TriggerPad) -> str:
    return f"{pad.name} ({SENSOR_WORDS[pad.sensor]})"


def _set_to(device: Device, jack: TriggerInput) -> str:
    """Everything that an input is set to, as far as it is known."""
    said = [say("set to {type}", type=say(jack.type))]
    for dial in owner_dials(input_owner(device, jack)):
        if dial.field.id == "type" or dial.is_usual:
            continue
        words = field_words(dial)
        said.append(f"{words[0].lower()}{words[1:]} {value_words(dial, dial.value)}")
    return ", ".join(said)


def _pedals(plan: Plan, device: Device) -> Iterator[str]:
    pedals = lookup.by_ids(plan.pedals)
    inside: dict[str, list[Pedal]] = {}
    for plug in plan.pedal_plugs:
        if plug.pedal in pedals:
            inside.setdefault(plug.jack, []).append(pedals[plug.pedal])
    for jack in device.jacks:
        here = inside.get(ref_to(device.id, jack.id), [])
        if here:
            mixed = say(" by a mixing lead") if len(here) > 1 else ""
            said = listed(_pedal(pedal, jack) for pedal in here)
            yield say("{jack} jack: {said}{mixed}.", jack=jack.name, said=said, mixed=mixed)


def _pedal(pedal: Pedal, jack: PedalJack) -> str:
    """A pedal with what matters of it in a jack."""
    if pedal.kind in ("switch", "latching switch", "dual switch"):
        said = say(
            "{pedal} ({kind}, {contact} at rest)",
            pedal=pedal.name,
            kind=say(pedal.kind),
            contact=say(pedal.contact),
        )
    elif pedal.kind == "continuous":
        said = say("{pedal} (wiper on the {wiper})", pedal=pedal.name, wiper=say(pedal.wiper))
    else:
        said = f"{pedal.name} ({pedal.kind})"
    if jack.sense == "at power-up":
        return say("{said}; nobody stands on it while the device is switched on", said=said)
    return said
