"""Edits of pads and plugs: plug in, pull out, set an input, take a whole plugging over."""

from collections.abc import Iterable, Mapping

import msgspec

from vastzone.core.cache import derived, interned
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, add_item, set_item, set_thing
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import (
    SENSED,
    Plug,
    Side,
    TriggerInput,
    TriggerPad,
    can_split,
    heard_zone,
    surviving,
)
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to


def trigger_input(plan: Plan, ref: str) -> tuple[Device, TriggerInput]:
    """The device and input of ``device:input``.  Raises EditError."""
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return owner, lookup.by_id(owner.inputs, ident, f"input of {owner.name} called")


def refusal(plan: Plan, pad: TriggerPad, ref: str) -> str:
    """Why a pad cannot go into an input; nothing when it can."""
    owner, wanted = trigger_input(plan, ref)
    there = f"{wanted.name} of {owner.name}"
    if not surviving(pad, wanted.type):
        what = "a hi-hat pedal" if wanted.type == "hi-hat" else f"no {pad.sensor} pedal"
        return f"{pad.name} cannot go into {there}: that input is for {what}."
    plugged = {plug.pad for plug in plan.plugs if plug.input == ref} - {pad.id}
    if len(plugged) > 1:
        return f"{there} holds two pads already: pull one out first."
    for ident in plugged:
        other = lookup.by_id(plan.pads, ident, "pad")
        if not can_split(pad, other, wanted.type):
            return (
                f"{pad.name} and {other.name} cannot share {there}: a splitter takes two "
                "single-zone pads of one make and model on a dual input."
            )
    return ""


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
        for number, plug in enumerate(kept):
            if plug.input == ref:
                side = "tip" if plug.side == "ring" else "ring"
                kept[number] = msgspec.structs.replace(plug, side=plug.side or "tip")
        new = Plug(pad=pad, input=ref, side=side)
        return msgspec.structs.replace(old, plugs=_sided((*kept, new)))

    return Edit(f"Plug {known.name} in", apply)


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
        "Pull plug",
        lambda plan: msgspec.structs.replace(
            plan, plugs=_sided(plug for plug in plan.plugs if plug.pad != pad)
        ),
    )


def set_input(ref: str, kind: str) -> Edit:
    """Set an input to one of its types."""
    return change_input(ref, f"Set that input to {kind}", type=kind)


def change_input(ref: str, label: str, **changes: object) -> Edit:
    """Change fields of an input: its type, its link, the thresholds of a hi-hat pedal."""
    device, ident = read_ref(ref)
    return set_thing(device, "inputs", ident, "input", label, **changes)


def take_over(plugs: tuple[Plug, ...], types: Mapping[str, str]) -> Edit:
    """A whole plugging with the types of its inputs, as one step."""

    def apply(plan: Plan) -> Plan:
        for ref, kind in types.items():
            plan = set_input(ref, kind).change(plan)
        return msgspec.structs.replace(plan, plugs=plugs)

    return Edit("Fit pads to inputs", apply)


def set_pad(pad: str, label: str, **changes: object) -> Edit:
    """Change fields of a pad: its sensor, model, how much it matters."""

    return set_item("pads", pad, "pad", label, **changes)


def add_pad(pad: TriggerPad) -> Edit:
    """Add a pad, under an id of its own."""
    return add_item("pads", pad)


def remove_pad(pad: str) -> Edit:
    """Take a pad away, its plug with it."""
    return Edit(
        "Remove pad",
        lambda plan: msgspec.structs.replace(
            plan,
            pads=tuple(p for p in plan.pads if p.id != pad),
            plugs=_sided(plug for plug in plan.plugs if plug.pad != pad),
        ),
    )


Strokes = tuple[tuple[str, str], ...]
"""Controls of a module that sound as another one, or as none («»)."""


def strokes_as(plan: Plan, owner: Device) -> Strokes:
    """What strokes a module hears as something else, because of the pads in its inputs."""
    if not owner.inputs or not plan.plugs:
        return ()
    return _strokes_as(owner.id, owner.controls, owner.inputs, plan.pads, plan.plugs)


@derived(64)
def _strokes_as(
    owner: str,
    controls: tuple[Control, ...],
    inputs: tuple[TriggerInput, ...],
    pads: tuple[TriggerPad, ...],
    plugs: tuple[Plug, ...],
) -> Strokes:
    known, jacks = lookup.by_ids(pads), lookup.by_ids(inputs)
    plugged: dict[str, list[str]] = {}
    for plug in plugs:
        plugged.setdefault(plug.input, []).append(plug.pad)
    pairs = []
    for control in controls:
        jack = jacks.get(control.input or "")
        if jack is None or control.zone is None:
            continue
        pads_there = plugged.get(ref_to(owner, jack.id), [])
        heard = (
            heard_zone(known[pads_there[0]], jack, control.zone, len(pads_there) > 1)
            if pads_there
            else ""
        )
        other = _main(controls, control, heard)
        if other != control.id:
            pairs.append((control.id, other))
    return interned(tuple(pairs))


def _main(controls: tuple[Control, ...], control: Control, heard: str) -> str:
    """The control that tells of a zone of the same input: itself where it does."""
    if heard and control.zone and SENSED[control.zone] in (heard, _twin(heard)):
        return control.id
    for other in controls if heard else ():
        near = other.input == control.input and other.zone
        if near and SENSED[other.zone or "head"] in (heard, _twin(heard)):
            return other.id
    return ""


def _twin(zone: str) -> str:
    """The main zone is called head on drums and bow on cymbals."""
    return {"head": "bow", "bow": "head"}.get(zone, zone)


def pad_of(plan: Plan, owner: Device, control: Control) -> TriggerPad | None:
    """The pad in the input that a control of a module belongs to."""
    if control.input is None:
        return None
    ref = ref_to(owner.id, control.input)
    plug = next((g for g in plan.plugs if g.input == ref), None)
    return None if plug is None else next(pad for pad in plan.pads if pad.id == plug.pad)
