"""Rules about stop tabs, which stay where they are put, and what flips at each message."""

from collections.abc import Iterator

from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.pedals import moved
from vastzone.core.say import say
from vastzone.core.text import listed


def held_tabs(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Stop tabs that stay where they are put, sent as toggles: they go out of step."""
    for owner in plan.devices:
        tabs = _tabs(owner)
        told = []
        for program in owner.programs if tabs else ():
            for send in program.sends:
                if send.control in tabs and send.mode == "toggle":
                    told.append((program, send))
        if told:
            names = listed(dict.fromkeys(tabs[s.control] for _, s in told))
            yield Remark(
                "toggle from a held tab",
                (ref_to(owner.id, told[0][1].control), owner.id),
                say(
                    "{names} of {owner} hold by themselves and send toggles: each needs two "
                    "moves, and "
                    "they go out of step.",
                    names=names,
                    owner=owner.name,
                ),
                (_on_and_off(owner, frozenset(tabs)),),
            )


def tabs_that_flip(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Stop tabs that move what flips at each message: pushed in, it stays as it was."""
    flipped: dict[str, dict[str, str]] = {}
    for owner, send, ref, target, _ in moved(plan, compiled):
        tabs = _tabs(owner)
        if send.control in tabs and target.mode == "toggle" and send.mode == "momentary":
            flipped.setdefault(ref_to(owner.id, send.control), {})[ref] = target.name
    by_device: dict[str, list[str]] = {}
    for ref in flipped:
        by_device.setdefault(device_of(ref), []).append(ref)
    for device, refs in by_device.items():
        owner = lookup.device(plan, device)
        tabs = _tabs(owner)
        targets: dict[str, str] = {}
        for ref in refs:
            targets.update(flipped[ref])
        yield Remark(
            "toggle from a held tab",
            (refs[0], owner.id),
            say(
                "{tabs} of {owner} stay where they are put, and {values} flip at each message: "
                "pushed in, they stay on.",
                tabs=listed((tabs[thing_of(ref)] for ref in refs), 4),
                owner=owner.name,
                values=listed(targets.values(), 4),
            ),
            (_not_flipping(targets),),
        )


def _tabs(owner: Device) -> dict[str, str]:
    """The stop tabs of a device, by id, with their names."""
    tabs = {}
    for control in owner.controls:
        if control_ability(control).stays:
            tabs[control.id] = control.name
    return tabs


def _on_and_off(owner: Device, tabs: frozenset[str]) -> Edit:
    return edit_sends(
        owner.id,
        say("Let held tabs send on and off"),
        lambda s: changed(s, mode="momentary") if s.control in tabs else s,
    )


def _not_flipping(targets: dict[str, str]) -> Edit:
    def apply(plan: Plan) -> Plan:
        for ref in targets:
            device, ident = device_of(ref), thing_of(ref)
            plan = set_thing(device, "targets", ident, "target", "", mode="momentary").change(plan)
        return plan

    return Edit(say("Let what tabs move be on or off as it is sent"), apply)
