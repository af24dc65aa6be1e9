"""Rules about parts that nobody plays and numbers that are not to be had."""

from collections.abc import Iterator

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled, played
from vastzone.core.engine.tables import Controls
from vastzone.core.midi.controllers import UNDEFINED, classify, label
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.limits import Reserved
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say


def unreached_parts(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Parts that no key or control of any scene reaches."""
    reached: set[str] = set()
    for scene in compiled:
        reached |= _sent_to(scene.controls)
        reached = reached.union(*played(scene).values())
    for owner, part in lookup.parts(plan):
        ref = ref_to(owner.id, part.id)
        if ref not in reached:
            channel = (
                say("any channel")
                if part.channel is None
                else say("channel {channel}", channel=part.channel)
            )
            yield Remark(
                "part nobody reaches",
                (ref,),
                say(
                    "Nothing plays {part} in {owner}, which listens on {channel}.",
                    part=part.name,
                    owner=owner.name,
                    channel=channel,
                ),
            )


@derived(512)
def _sent_to(controls: Controls) -> frozenset[str]:
    """The parts that controls sound in a scene."""
    sent = (
        note for sendings in controls.values() for sending in sendings for note in sending.notes
    )
    refs = set()
    for em in sent:
        for landing in em.landings:
            refs.add(landing.ref)
    return frozenset(refs)


def reserved_controllers(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Controls that send a channel-mode message or a controller that a receiver keeps."""
    for owner in plan.devices:
        for program in owner.programs:
            for send in program.sends:
                if send.message == "controller":
                    yield from _reserved(plan, compiled, owner, program, send)


def _reserved(
    plan: Plan, compiled: tuple[Compiled, ...], owner: Device, program: Program, send: Send
) -> Iterator[Remark]:
    keeper, why = _keeper(plan, compiled, owner, send)
    if not why:
        return
    named = lookup.by_id(owner.controls, send.control, "control").name
    subjects = (ref_to(owner.id, send.control), *((keeper.id,) if keeper else ()))
    scenes = tuple(s.id for s in lookup.scenes_with(plan, owner, program.number))
    yield Remark(
        "reserved controller",
        subjects,
        say(
            "{named} of {owner} sends controller {label}, which {why}.",
            named=named,
            owner=owner.name,
            label=label(send.number),
            why=why,
        ),
        tuple(_renumber(plan, owner, send)),
        scenes,
    )


def _keeper(
    plan: Plan, compiled: tuple[Compiled, ...], owner: Device, send: Send
) -> tuple[Device | None, str]:
    if classify(send.number) == "reserved":
        return None, say("is a channel-mode message and silences or resets whole parts")
    looked: set[int] = set()
    for scene in compiled:
        for sending in scene.controls.get((ref_to(owner.id, send.control), send.bank), ()):
            for motion in sending.motions:
                # Controls of one device share a few ways: each is walked once.
                if id(motion.tree) in looked:
                    continue
                looked.add(id(motion.tree))
                for step in motion.tree.steps:
                    device = lookup.device(plan, device_of(step.arc.dest))
                    for limit in device.limits:
                        if isinstance(limit, Reserved) and send.number in limit.controllers:
                            return device, say(
                                "{device} keeps for {purpose}",
                                device=device.name,
                                purpose=limit.purpose,
                            )
    return None, ""


def _renumber(plan: Plan, owner: Device, send: Send) -> Iterator[Edit]:
    used = set()
    for d in plan.devices:
        for program in d.programs:
            for s in program.sends:
                used.add(s.number)
    kept = set()
    for d in plan.devices:
        for lim in d.limits:
            for n in getattr(lim, "controllers", ()):
                kept.add(n)
    free = next((n for n in UNDEFINED if n not in used | kept), None)
    if free is None:
        return
    label = say("Send controller {free} instead", free=free)

    def change(device: Device) -> Device:
        programs = tuple(_resent(program, send, free) for program in device.programs)
        return changed(device, programs=programs)

    yield edit_device(owner.id, label, change)


def _resent(program: Program, old: Send, number: int) -> Program:
    """A program in which what equals ``old`` sends another number."""
    return changed(
        program,
        sends=tuple(
            changed(send, number=number) if send == old else send for send in program.sends
        ),
    )
