"""Facts of couplers that are wished, and of what pistons and shoes draw."""

from collections.abc import Callable, Iterable
from functools import partial
from typing import Any

from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.sheet import FactRow, Make, Press, Sheet
from vastzone.core.plan.edits import couplers
from vastzone.core.plan.fields.owners import owners
from vastzone.core.plan.model.organ import Coupling
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk

COUPLER, PISTON = "coupler ", "piston "
PITCHES = ((say("at pitch"), 0), (say("an octave up"), 12), (say("an octave down"), -12))
Choices = tuple[tuple[str, Any], ...]


def stops_in(devices: Iterable[Device]) -> Choices:
    """What can draw a coupler: everything at a console that is pulled or pressed."""
    return _things(devices, lambda device: _pressed(device) if device.keybeds else ())


def keys_in(devices: Iterable[Device]) -> Choices:
    """The keyboards of some devices."""
    return _things(devices, lambda device: device.keybeds)


def parts_in(devices: Iterable[Device]) -> Choices:
    """The parts of some devices."""
    return _things(devices, lambda device: device.parts)


def played_from(plan: Plan, console: Device) -> tuple[Device, ...]:
    """The devices that the keys of a console are wished to play; all where there are none."""
    played = set()
    for wish in plan.wishes:
        if wish.plays and any(device_of(source) == console.id for source in wish.sources):
            played.add(device_of(wish.plays))
    return tuple(device for device in plan.devices if device.id in played) or plan.devices


def _pressed(device: Device) -> tuple[Any, ...]:
    return tuple(each for each in device.controls if control_ability(each).pressed)


def _things(devices: Iterable[Device], of: Callable[[Device], tuple[Any, ...]]) -> Choices:
    """Things by name, with their device where several have some."""
    having = [device for device in devices if of(device)]
    choices = []
    for device in having:
        for thing in of(device):
            words = (
                thing.name
                if len(having) == 1
                else say("{thing} of {device}", thing=thing.name, device=device.name)
            )
            choices.append((words, ref_to(device.id, thing.id)))
    return tuple(choices)


def coupler_sheet(desk: Desk, ref: str) -> Sheet:
    """A wished coupler: what draws it, which keys, what they also play, where."""
    plan, ident = desk.plan, ref.removeprefix(COUPLER)
    one = lookup.find(plan.couplings, ident)
    if one is None:
        return Sheet(
            "", say("Coupler"), say("Coupler"), (), remark=say("This coupler has been taken back.")
        )

    def setter(words: str, field: str) -> Make:
        return lambda v: couplers.change_coupler(ident, words, **{field: v})

    rows = (
        FactRow(say("Name"), "text", one.name, setter(say("Rename a coupler"), "name")),
        _choice(
            say("While drawn"),
            one.stop,
            stops_in(plan.devices),
            setter(say("Change its stop"), "stop"),
        ),
        _choice(
            say("These keys"),
            one.keys,
            keys_in(plan.devices),
            setter(say("Change its keys"), "keys"),
        ),
        _choice(
            say("Also play"),
            one.plays,
            parts_in(plan.devices),
            setter(say("Change its part"), "plays"),
        ),
        _choice(say("Pitch"), one.shift, _pitches(one), setter(say("Change its pitch"), "shift")),
        _choice(
            say("In"), one.scenes, _scenes(plan, one), setter(say("Change its scenes"), "scenes")
        ),
    )
    presses = (
        Press(say("Hold it nowhere"), "x", lambda: couplers.without_holding(one)),
        Press(say("Take back"), "trash-2", lambda: couplers.drop_coupler(ident)),
    )
    return Sheet(ref, one.name, say("Coupler"), rows, presses)


def _choice(label: str, chosen: Any, choices: Choices, make: Make) -> FactRow:
    return FactRow(label, "choice", chosen, make, choices=choices)


def _pitches(one: Coupling) -> Choices:
    known = {shift for _, shift in PITCHES}
    return (
        PITCHES
        if one.shift in known
        else (*PITCHES, (say("{shift:+} semitones", shift=one.shift), one.shift))
    )


def _scenes(plan: Plan, one: Coupling) -> Choices:
    choices: list[tuple[str, Any]] = [(say("all scenes"), ())]
    for scene in plan.scenes:
        choices.append((say("only {scene}", scene=scene.name), (scene.id,)))
    if one.scenes and one.scenes not in [value for _, value in choices]:
        choices.append((say_many("{count} scene", "{count} scenes", len(one.scenes)), one.scenes))
    return tuple(choices)


def piston_sheet(desk: Desk, ref: str) -> Sheet:
    """What a piston or a shoe draws, and what sets it off."""
    device, ident = read_ref(ref.removeprefix(PISTON))
    owner = lookup.find(desk.plan.devices, device)
    for each in owners(owner) if owner is not None else ():
        if each.kind not in ("combination", "crescendo") or each.thing.id != ident:
            continue
        is_piston = each.kind == "combination"
        drop = couplers.remove_combination if is_piston else couplers.remove_crescendo
        remove = Press(say("Remove"), "trash-2", partial(drop, device, ident))
        said = (
            say("Piston of {device}", device=each.device.name)
            if is_piston
            else say("Crescendo of {device}", device=each.device.name)
        )
        return Sheet(ref, each.thing.name, said, tuple(field_rows(each)), (remove,))
    return Sheet("", say("Piston"), say("Piston"), (), remark=say("This has been removed."))
