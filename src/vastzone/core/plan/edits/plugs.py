"""Edits of pads and plugs: plug in, pull out, set an input, take a whole plugging over."""

from collections.abc import Iterable, Mapping

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.drum_sounds import replugged
from vastzone.core.plan.edits.edit import Edit, add_item, set_item, set_thing
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import (
    Plug,
    Side,
    TriggerInput,
    TriggerPad,
    can_split,
    share_sockets,
    surviving,
)
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say
from vastzone.core.text import ALL, listed


def trigger_input(plan: Plan, ref: str) -> tuple[Device, TriggerInput]:
    """The device and input of ``device:input``.  Raises EditError."""
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return owner, lookup.by_id(
        owner.inputs, ident, say("input of {owner} called", owner=owner.name)
    )


def refusal(plan: Plan, pad: TriggerPad, ref: str) -> str:
    """Why a pad cannot go into an input; nothing when it can."""
    owner, wanted = trigger_input(plan, ref)
    there = say("{wanted} of {owner}", wanted=wanted.name, owner=owner.name)
    if not surviving(pad, wanted.type):
        return say(
            "{pad} cannot go into {there}: a hi-hat pedal needs the input of a hi-hat.",
            pad=pad.name,
            there=there,
        )
    known = lookup.by_ids(plan.pads)
    others = []
    for plug in plan.plugs:
        if plug.input == ref and plug.pad != pad.id:
            others.append(known[plug.pad])
    if share_sockets((*others, pad), wanted.type):
        return ""
    if wanted.type == "hi-hat":
        what = say("a pedal") if pad.sensor == "hi-hat" else say("a pad")
        return say(
            "{there} has one socket for {what}, and it is taken: pull that plug out first.",
            there=there,
            what=what,
        )
    if len(others) > 1:
        return say("{there} holds two pads already: pull one out first.", there=there)
    return say(
        "{pad} and {others} cannot share {there}: {why_not_split}",
        pad=pad.name,
        others=others[0].name,
        there=there,
        why_not_split=_why_not_split(pad, others[0]),
    )


def _why_not_split(pad: TriggerPad, other: TriggerPad) -> str:
    """Why two pads cannot share an input."""
    unknown = [each.name for each in (pad, other) if not each.model]
    if can_split(with_model(pad), with_model(other), "dual") and unknown:
        return say(
            "nobody said which make and model {unknown} is, and only two pads of one model share "
            "a dual input by a splitter.",
            unknown=listed(unknown, ALL),
        )
    return say("a splitter takes two single-zone pads of one make and model on a dual input.")


def with_model(pad: TriggerPad) -> TriggerPad:
    """A pad as it would be of one certain model."""
    return msgspec.structs.replace(pad, model="-")


def plug_in(plan: Plan, pad: str, ref: str) -> Edit:
    """Put a pad into an input, beside the one that is there where a splitter allows it.

    Raises EditError when it cannot be.
    """
    known = lookup.by_id(plan.pads, pad, "pad")
    why = refusal(plan, known, ref)
    if why:
        raise EditError(why)

    def apply(old: Plan) -> Plan:
        kept = []
        for plug in old.plugs:
            if plug.pad != pad:
                kept.append(plug)
        side: Side = ""
        _, jack = trigger_input(old, ref)
        for number, plug in enumerate(kept):
            if plug.input == ref and jack.type != "hi-hat":
                side = "tip" if plug.side == "ring" else "ring"
                kept[number] = msgspec.structs.replace(plug, side=plug.side or "tip")
        new = Plug(pad=pad, input=ref, side=side)
        return replugged(old, _sided((*kept, new)))

    return Edit(say("Plug {known} in", known=known.name), apply)


def _sided(plugs: Iterable[Plug]) -> tuple[Plug, ...]:
    """Plugs with their sides put right: alone in an input there is none."""
    listed = tuple(plugs)
    count = {}
    for item in listed:
        count[item.input] = sum(o.input == item.input for o in listed)
    plugged = []
    for item in listed:
        plugged.append(
            msgspec.structs.replace(item, side="") if count[item.input] == 1 and item.side else item
        )
    return tuple(plugged)


def pull_out(pad: str) -> Edit:
    """Take a pad out of its input."""
    return Edit(
        say("Pull plug"),
        lambda plan: replugged(plan, _sided(plug for plug in plan.plugs if plug.pad != pad)),
    )


def set_input(ref: str, kind: str) -> Edit:
    """Set an input to one of its types."""
    return change_input(ref, say("Set that input to {kind}", kind=say(kind)), type=kind)


def change_input(ref: str, label: str, **changes: object) -> Edit:
    """Change fields of an input: its type, its link, the thresholds of a hi-hat pedal."""
    device, ident = read_ref(ref)
    return set_thing(device, "inputs", ident, "input", label, **changes)


def take_over(plugs: tuple[Plug, ...], types: Mapping[str, str]) -> Edit:
    """A whole plugging with the types of its inputs, as one step."""

    def apply(plan: Plan) -> Plan:
        for ref, kind in types.items():
            plan = set_input(ref, kind).change(plan)
        return replugged(plan, plugs)

    return Edit(say("Fit pads to inputs"), apply)


def set_pad(pad: str, label: str, **changes: object) -> Edit:
    """Change fields of a pad: its sensor, model, how much it matters."""

    return set_item("pads", pad, "pad", label, **changes)


def add_pad(pad: TriggerPad) -> Edit:
    """Add a pad, under an id of its own."""
    return add_item("pads", pad)


def remove_pad(pad: str) -> Edit:
    """Take a pad away, its plug with it."""

    def apply(plan: Plan) -> Plan:
        plan = replugged(plan, _sided(plug for plug in plan.plugs if plug.pad != pad))
        left = []
        for other in plan.pads:
            if other.id != pad:
                pedal = None if other.pedal == pad else other.pedal
                left.append(msgspec.structs.replace(other, pedal=pedal))
        return msgspec.structs.replace(plan, pads=tuple(left))

    return Edit(say("Remove pad"), apply)
