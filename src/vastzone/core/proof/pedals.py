"""Rules about pedals, their jacks, and what sweeps and switches move."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.tables import Hearing, Sending
from vastzone.core.midi.controllers import CONTROLLERS
from vastzone.core.midi.wide import MOVING, Reading
from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.edits.pedals import pedal_jack, pull_out, set_jack
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.parts import Part, Target
from vastzone.core.plan.model.pedals import TOP, Pedal, PedalJack, Wiper, served, suited
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.queries.mixed import mixed_in, shared_plugs
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.finding import Remark, Severity
from vastzone.core.response.sweep import bits_of, fight, steps, target_value
from vastzone.core.response.voltage import Level, divider, ohms_words
from vastzone.core.say import say
from vastzone.core.text import in_none, listed


def pedals_in_jacks(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pedals that do not work in their jack as is wanted of them, and how that feels."""
    known = lookup.by_ids(plan.pedals)
    for plug in plan.pedal_plugs:
        pedal, (owner, jack) = known[plug.pedal], pedal_jack(plan, plug.jack)
        service = served(pedal, jack, owner.id)
        there = say(
            "{pedal} in {jack} of {owner}", pedal=pedal.name, jack=jack.name, owner=owner.name
        )
        subjects = (ref_to(owner.id, jack.control) if jack.control else owner.id, owner.id)
        if service.works == "never":
            yield Remark(
                "over-range voltage",
                subjects,
                say(
                    "{there} must be pulled out: {feel}. {resistors}",
                    there=there,
                    feel=service.feel,
                    resistors=_resistors(pedal, jack),
                ),
                (pull_out(pedal.id),),
            )
        elif service.works == "not":
            yield Remark(
                "wrong jack",
                subjects,
                say("{there} does nothing: {feel}.", there=there, feel=service.feel),
                (pull_out(pedal.id),),
            )
        elif service.works == "half":
            yield Remark(
                "pedal half works",
                subjects,
                f"{there}: {service.feel}.",
                tuple(_settings(pedal, jack, plug.jack)),
                severity="fault" if _must(pedal) else "caution",
            )


def mixed_sources(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Sources of voltage that share a jack: what each of them still reaches."""
    for ref in dict.fromkeys(plug.jack for plug in shared_plugs(plan)):
        owner, jack = pedal_jack(plan, ref)
        mixed = mixed_in(plan, ref, jack)
        if mixed is None:
            continue
        told = []
        for source, reach in zip(mixed.sources, mixed.reaches, strict=True):
            told.append(
                say(
                    "{source} goes from {rests} to {mixed_rests}",
                    source=source.name,
                    rests=mixed.rests,
                    mixed_rests=mixed.rests + reach,
                )
            )
        yield Remark(
            "voltages mixed",
            (ref_to(owner.id, jack.control) if jack.control else owner.id, owner.id),
            say(
                "In {jack} of {owner} {told} alone, and all of them together to {whole} of {top}.",
                jack=jack.name,
                owner=owner.name,
                told=listed(told),
                whole=mixed.whole,
                top=TOP,
            ),
            (pull_out(mixed.sources[-1].id),),
        )


def _must(pedal: Pedal) -> bool:
    """Whether anything that is wanted of it is a must."""
    return "must" in {wish.importance for wish in pedal.wishes}


def _settings(pedal: Pedal, jack: PedalJack, ref: str) -> Iterator[Edit]:
    """The jack set as the pedal wants it, where that can be."""
    new = suited(pedal, jack)
    if new.sense != jack.sense:
        yield set_jack(
            ref,
            say("Tell {jack} that it rests {sense}", jack=jack.name, sense=say(new.sense)),
            sense=new.sense,
        )
    if new.wiper != jack.wiper:
        wiper: Wiper = new.wiper
        yield set_jack(
            ref, say("Set {jack} to wiper on {wiper}", jack=jack.name, wiper=wiper), wiper=wiper
        )


def _resistors(pedal: Pedal, jack: PedalJack) -> str:
    """What would bring a voltage into an input’s range."""
    resistors = divider(Level(pedal.low, pedal.high), Level(jack.low, jack.high))
    if resistors is None:
        return say("No resistors of the series bring it within.")
    parts = [say("{ohms} in series", ohms=ohms_words(resistors.series))]
    parts += [say("{ohms} to ground", ohms=ohms_words(resistors.shunt))] if resistors.shunt else []
    lifted = say(
        "{ohms} to {reference:g} V", ohms=ohms_words(resistors.lift), reference=resistors.reference
    )
    parts += [lifted] if resistors.lift else []
    return say(
        "With {parts} the input would see {low:.2f} to {high:.2f} V.",
        parts=listed(parts),
        low=resistors.result.low,
        high=resistors.result.high,
    )


def _left_unplugged(plan: Plan) -> list[Pedal]:
    plugged = set()
    for plug in plan.pedal_plugs:
        plugged.add(plug.pedal)
    wanted = []
    for pedal in plan.pedals:
        if {wish.importance for wish in pedal.wishes} != {"spare"}:
            wanted.append(pedal)
    pedals = []
    for pedal in wanted:
        if pedal.id not in plugged:
            pedals.append(pedal)
    return pedals


def unplugged_pedals(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pedals that are in no jack, told together."""
    out = _left_unplugged(plan)
    owner = next((device for device in plan.devices if device.jacks), None)
    if out and owner is not None:
        told = in_none(lookup.names_of(out).values(), "jack")
        must = any(map(_must, out))
        severity: Severity = "fault" if must else "caution"
        yield Remark("pedal in no jack", (owner.id,), f"{told}.", severity=severity)


def _in_use(plan: Plan) -> Iterator[tuple[Device, Program]]:
    for owner in plan.devices:
        numbers = lookup.scenes_by_program(plan, owner)
        for program in owner.programs:
            if program.number in numbers:
                yield owner, program


def two_on_one_controller(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Two controls of one device that send the same controller on the same channel."""
    told: set[tuple[str, ...]] = set()
    for owner, program in _in_use(plan):
        for (channel, number, _), sends in _by_number(program).items():
            controls = tuple(dict.fromkeys(send.control for send in sends))
            if len(controls) < 2 or (owner.id, *controls) in told:
                continue
            told.add((owner.id, *controls))
            yield _on_one_number(owner, program, controls, sends[-1], channel, number)


def _by_number(program: Program) -> dict[tuple[int | None, int, int], list[Send]]:
    """What sends each controller: by channel, number and bank."""
    by_number: dict[tuple[int | None, int, int], list[Send]] = {}
    for send in program.sends:
        if send.message == "controller":
            by_number.setdefault((send.channel, send.number, send.bank), []).append(send)
    return by_number


def _on_one_number(
    owner: Device,
    program: Program,
    controls: tuple[str, ...],
    last: Send,
    channel: int | None,
    number: int,
) -> Remark:
    names = lookup.names_of(owner.controls)
    named = listed(names[control] for control in controls)
    where = (
        say("the channel of the zones")
        if channel is None
        else say("channel {channel}", channel=channel)
    )
    label = say("Let {names} send nothing", names=names[last.control])
    return Remark(
        "two controls on one number",
        tuple(ref_to(owner.id, control) for control in (*controls[1:], controls[0])),
        say(
            "{named} of {owner} send controller {number} on {where}: they fight, and the last "
            "one moved wins with a jump.",
            named=named,
            owner=owner.name,
            number=number,
            where=where,
        ),
        (set_send(owner.id, program.number, last.control, last.bank, label, message="none"),),
    )


class TargetMover(NamedTuple):
    """A control that moves a target: what it sends, and which bits of that the target takes."""

    owner: Device
    send: Send
    ref: str
    target: Target
    reads: Reading


@derived(8)
def moved(plan: Plan, compiled: tuple[Compiled, ...]) -> tuple[TargetMover, ...]:
    """Every control that moves a target, once; programs and surroundings are looked at once."""
    looked: set[tuple[str, int, int]] = set()
    by_send: dict[tuple[str, str], TargetMover] = {}
    for scene in compiled:
        for owner in plan.devices:
            program = lookup.program_in(scene.scene, owner)
            if program is None or (owner.id, program.number, id(scene.world)) in looked:
                continue
            looked.add((owner.id, program.number, id(scene.world)))
            for send in (s for s in program.sends if s.message in MOVING):
                for hearing in _targets(scene, ref_to(owner.id, send.control), send):
                    if hearing.target is not None:
                        one = TargetMover(owner, send, hearing.ref, hearing.target, hearing.reads)
                        by_send.setdefault((ref_to(owner.id, send.control), hearing.ref), one)
    return tuple(by_send.values())


def _targets(scene: Compiled, control: str, send: Send) -> Iterator[Hearing]:
    """The targets that one send moves."""
    for sending in scene.controls.get((control, send.bank), ()):
        if sending.send is send:
            for motion in sending.motions:
                for hearing in motion.hearings:
                    if not hearing.is_part:
                        yield hearing


def coarse_steps(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Sweeps whose single steps are heard."""
    for owner, send, _, target, _ in moved(plan, compiled):
        coarse = steps(send, target, bits_of(send))
        if target.sweeps and coarse.heard:
            name = lookup.by_id(owner.controls, send.control, "control").name
            yield Remark(
                "step too coarse",
                (ref_to(owner.id, send.control), owner.id),
                say(
                    "{name} of {owner} moves {target} in {values} steps of {size:.3g} {unit}, "
                    "which are "
                    "heard one by one: narrow its range.",
                    name=name,
                    owner=owner.name,
                    target=target.name,
                    values=coarse.values,
                    size=coarse.size,
                    unit=target.unit,
                ),
            )


def ends_only(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Switches that move something meant to be swept, and sweeps that only switch."""
    for owner, send, _, target, _ in moved(plan, compiled):
        control = lookup.by_id(owner.controls, send.control, "control")
        where = (ref_to(owner.id, control.id), owner.id)
        can = control_ability(control)
        if not can.swept and target.sweeps and send.mode == "momentary":
            yield Remark(
                "switch on a sweep",
                where,
                say(
                    "{control} of {owner} is a switch and {target} can be swept: it only goes "
                    "to its two "
                    "ends.",
                    control=control.name,
                    owner=owner.name,
                    target=target.name,
                ),
            )
        elif not can.pressed and not target.sweeps:
            yield Remark(
                "sweep on a switch",
                where,
                say(
                    "{control} of {owner} is swept and {target} only switches: it acts at one "
                    "point of "
                    "the travel.",
                    control=control.name,
                    owner=owner.name,
                    target=target.name,
                ),
            )


def fights(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Controls of several devices that move one target: the last one moved wins, with a jump."""
    movers: dict[str, list[tuple[str, str]]] = {}
    targets: dict[str, Target] = {}
    ways: dict[str, set[tuple[str, int | None, int]]] = {}
    for owner, send, ref, target, _ in moved(plan, compiled):
        name = lookup.by_id(owner.controls, send.control, "control").name
        targets[ref] = target
        movers.setdefault(ref, []).append((ref_to(owner.id, send.control), name))
        ways.setdefault(ref, set()).add((owner.id, send.channel, send.number))
    for moves, movers_here in movers.items():
        target = targets[moves]
        # Two knobs that send the same number from one device are one to the receiver.
        several = len(movers_here) > 1 and len(ways[moves]) > 1
        if several and target.sweeps and target.takeover == "jump" and not target.together:
            jump = max(fight((0, None, 127), (None, 127, None)))
            reach = abs(target_value(target, jump) - target_value(target, 0))
            unit = f" {target.unit}" if target.unit else ""
            yield Remark(
                "controls fight",
                tuple(ref for ref, _ in movers_here),
                say(
                    "{name} move {target}: the last one moved wins, with a jump of up to "
                    "{reach:.4g}{unit}. Endless knobs, or pick-up in the receiver, avoid it.",
                    name=listed(name for _, name in movers_here),
                    target=target.name,
                    reach=reach,
                    unit=unit,
                ),
                (
                    set_thing(
                        device_of(moves),
                        "targets",
                        target.id,
                        "target",
                        say("Let {target} wait for pick-up", target=target.name),
                        takeover="pick-up",
                    ),
                    set_thing(
                        device_of(moves),
                        "targets",
                        target.id,
                        "target",
                        say("Both are meant to move {target}", target=target.name),
                        together=True,
                    ),
                ),
            )


def misused_standards(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Controllers with a meaning of their own, sent to move something else."""
    for owner, send, _, target, _ in moved(plan, compiled):
        known = CONTROLLERS[send.number]
        plain = send.message == "controller" and known.sort == "standard"
        if not plain or target.role in (send.number, None):
            continue
        name = lookup.by_id(owner.controls, send.control, "control").name
        yield Remark(
            "standard meaning misused",
            (ref_to(owner.id, send.control), owner.id),
            say(
                "{name} of {owner} moves {target} by controller {number}, which everywhere else "
                "means {meaning}.",
                name=name,
                owner=owner.name,
                target=target.name,
                number=send.number,
                meaning=known.meaning,
            ),
        )


def bend_ranges(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Parts that one wheel bends together by different intervals: they come apart in pitch."""
    told: set[tuple[str, ...]] = set()
    looked: set[int] = set()
    for scene in compiled:
        for (ref, _), sendings in scene.controls.items():
            if id(sendings) in looked:  # scenes share what their programs have in common
                continue
            looked.add(id(sendings))
            parts = {}
            for part_ref in _bent(sendings):
                parts[part_ref] = _part(plan, part_ref)
            ranges = set()
            for part in parts.values():
                ranges.add(part.bend)
            if len(ranges) > 1 and (ref, *parts) not in told:
                told.add((ref, *parts))
                scenes = (scene.scene.id,) if scene.scene else ()
                yield _bent_apart(plan, ref, parts, scenes)


def _bent(sendings: tuple[Sending, ...]) -> dict[str, None]:
    """The parts that pitch bend reaches."""
    bent: dict[str, None] = {}
    for sending in sendings:
        for motion in sending.motions if sending.send.message == "bend" else ():
            for hearing in motion.hearings:
                if hearing.is_part:
                    bent[hearing.ref] = None
    return bent


def _bent_apart(plan: Plan, ref: str, parts: dict[str, Part], scenes: tuple[str, ...]) -> Remark:
    owner = lookup.device(plan, device_of(ref))
    name = lookup.by_id(owner.controls, thing_of(ref), "control").name
    by = listed(say("{part} by {bend}", part=part.name, bend=part.bend) for part in parts.values())
    wanted = next(iter(parts.values())).bend
    fixes = []
    for part_ref, part in parts.items():
        if part.bend != wanted:
            label = say("Let {part} bend by {wanted}", part=part.name, wanted=wanted)
            fixes.append(set_part(device_of(part_ref), part.id, label, bend=wanted))
    return Remark(
        "bend ranges disagree",
        (ref, *parts),
        say(
            "{name} of {owner} bends {by} semitones: they come apart.",
            name=name,
            owner=owner.name,
            by=by,
        ),
        tuple(fixes[:2]),
        scenes,
    )


def _part(plan: Plan, ref: str) -> Part:
    return lookup.part(lookup.device(plan, device_of(ref)), thing_of(ref))


def dead_slots(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Targets with a controller that nothing sends and no wish asks for: a slot spent in vain."""
    used = set()
    for mover in moved(plan, compiled):
        used.add(mover.ref)
    wished = set()
    for wish in plan.wishes:
        if wish.moves:
            wished.add(wish.moves)
    for owner in plan.devices:
        for target in owner.targets:
            ref = ref_to(owner.id, target.id)
            if target.controller is not None and ref not in used and ref not in wished:
                yield Remark(
                    "dead slot",
                    (ref, owner.id),
                    say(
                        "Nothing moves {target} in {owner}, which waits for controller "
                        "{controller}.",
                        target=target.name,
                        owner=owner.name,
                        controller=target.controller,
                    ),
                )
