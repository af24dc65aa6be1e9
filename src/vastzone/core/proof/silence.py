"""Why is it silent?  The causes in the order in which a person would look for them.

It stops at the first cause that the plan shows; what only a person can look at comes after, as a
checklist.
"""

from collections.abc import Collection
from typing import NamedTuple

from vastzone.core.console.log import unexplained
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.network import network
from vastzone.core.engine.reach import joined_tree, reached_from
from vastzone.core.engine.receivers import Sources
from vastzone.core.engine.why import Cause, Reason, why_silent, why_unheard
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say
from vastzone.core.text import listed

ORDER: tuple[Cause, ...] = (
    "wiring",
    "no cable",
    "dead key",
    "not a key",
    "zone off",
    "channel",
    "outside 0–127",
    "note range",
    "kit",
    "zone velocity",
    "part velocity",
)


class Silence(NamedTuple):
    """The first cause that the plan shows, if any, and what is left to look at."""

    cause: Reason | None
    checklist: tuple[str, ...]


def why_is_it_silent(
    plan: Plan, scene: Scene | None, source: str, number: int, velocity: int = 96
) -> Silence:
    """Walk the causes for key ``number`` of a keybed, or for a control in bank ``number``."""
    device, thing = read_ref(source)
    owner = lookup.device(plan, device)
    compiled = compile_scene(plan, scene)
    if any(bed.id == thing for bed in owner.keybeds):
        reasons = list(why_silent(compiled, device, thing, number, velocity))
        elsewhere = _other_program(owner, scene, thing, number) if reasons else None
    else:
        reasons, elsewhere = _control(plan, scene, owner, thing, number, velocity), None
    reasons.sort(key=lambda reason: ORDER.index(reason.cause))
    cause = reasons[0] if reasons else None
    if elsewhere is not None and cause is not None and cause.cause in ("dead key", "zone off"):
        cause = elsewhere
    return Silence(cause, _checklist(plan, owner))


def _other_program(owner: Device, scene: Scene | None, bed: str, key: int) -> Reason | None:
    """Another program of the device would play this key."""
    here = lookup.program_number(scene, owner)
    for program in owner.programs:
        covered = any(
            zone.sends and zone.keybed == bed and zone.low <= key <= zone.high
            for zone in program.zones
        )
        if program.number != here and covered:
            shown = program_words(owner, program.number)
            return Reason(
                "dead key",
                ref_to(owner.id, bed),
                say(
                    "This key plays in program {shown}, {program}; {owner} is on another.",
                    shown=shown,
                    program=program.name,
                    owner=owner.name,
                ),
            )
    return None


def _control(
    plan: Plan, scene: Scene | None, owner: Device, control: str, bank: int, velocity: int
) -> list[Reason]:
    program = lookup.program_in(scene, owner)
    compiled = compile_scene(plan, scene)
    subject = ref_to(owner.id, control)
    sends = []
    for s in program.sends if program else ():
        if (s.control, s.bank) == (control, bank):
            sends.append(s)
    if not any(s.message != "none" for s in sends):
        return [
            Reason(
                "dead key",
                subject,
                say("{owner} sends nothing there in this program.", owner=owner.name),
            )
        ]
    notes = [s for s in sends if s.message == "note"]
    struck = [s for s in notes if s.vel_low <= velocity <= s.vel_high]
    if notes and not struck:
        return [
            Reason(
                "zone velocity",
                subject,
                say(
                    "{owner} sends nothing there at {velocity}.",
                    owner=owner.name,
                    velocity=velocity,
                ),
            )
        ]
    reasons = []
    for send in struck:
        tree = joined_tree(
            Sources(owner.id, owner.ports, owner.local), send.ports, compiled.world.network
        )
        reason = why_unheard(
            compiled, owner, tree, (send.channel or 1) - 1, send.number, velocity, subject
        )
        # What sounds by one of its layers is not silent.
        if reason is None:
            return []
        reasons.append(reason)
    return reasons


def _checklist(plan: Plan, owner: Device) -> tuple[str, ...]:
    """What only a person can look at, from the hands to the ears."""
    reached = reached_from(owner, network(plan))
    there = []
    for device in plan.devices:
        if device.id in {owner.id, *reached}:
            there.append(device)
    sounding = []
    for device in there:
        if _sounds(device, owner, reached):
            sounding.append(device.name)
    names = listed(sounding, 5) or say("the sound module")
    powered = listed(dict.fromkeys((owner.name, *sounding)), 6)
    usb = []
    for device in there:
        if "usb" in {port.link for port in device.ports}:
            usb.append(device.name)
    return (
        *_wiring(owner),
        (
            say("{powered} have power.", powered=powered)
            if sounding
            else say("{powered} has power.", powered=powered)
        ),
        say("Every cable is pushed home, from an output to an input."),
        *(
            say("{name}: its USB mode and its port are the ones planned.", name=name)
            for name in usb
        ),
        say("{names}: the program of this scene is selected, armed and not muted.", names=names),
        say("{names}: volume (controller 7) and expression (11) are up.", names=names),
        say("The output goes to the desk, and the desk’s channel is open."),
    )


def _wiring(owner: Device) -> tuple[str, ...]:
    """What was seen on a console that no known fault explains."""
    if owner.console is None or not unexplained(owner, owner.console):
        return ()
    return (
        say(
            "The wires of {owner}: what was seen on it otherwise is found and mended.",
            owner=owner.name,
        ),
    )


def _sounds(device: Device, owner: Device, reached: Collection[str]) -> bool:
    """Whether what an owner sends arrives at a device and can sound in it."""
    return device.id in reached and bool(device.parts or device is owner)
