"""Rules about what controls do in their own device: not what is wished, besides it, or never."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.functions import tell_function
from vastzone.core.plan.edits.pedals import pedal_jack
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.functions import SPRUNG_ONLY, TOLD, Function
from vastzone.core.plan.model.pedals import Pedal, PedalJack, serves
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.functions import BY_NUMBER, latching, offered_by
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say
from vastzone.core.text import listed

CHANGES: frozenset[Function] = frozenset(
    ("program up", "program down", "stop loops", "start or stop", "latch")
)
"""Functions that change what sounds after the stroke: none of them should come by surprise."""


class Pressed(NamedTuple):
    """What a simulated press of a control did: in its own device, and by what it sent."""

    done: dict[Function, str]
    numbers: frozenset[int]
    programs: bool
    reaches: bool

    def is_done(self, function: Function) -> bool:
        """Whether it does what a pedal is wanted for."""
        if self.done.get(function, "no other program") != "no other program":
            return True
        if function in BY_NUMBER.values():
            return any(BY_NUMBER.get(number) == function for number in self.numbers)
        if function in ("program up", "program down"):
            return self.programs
        return self.reaches


def press_of(compiled: Compiled, ref: str) -> Pressed:
    """Press a control ``device:control`` of a scene once, and see what that does."""
    player = Performance(compiled)
    sent = player.move((ref, 1), 127)
    done = {one.function: one.stands for one in player.done}
    numbers, programs, reaches = set(), False, False
    for one in sent:
        if not isinstance(one, Movement):
            reaches = True
            continue
        motion = one.motion
        programs = programs or motion.message == "program"
        reaches = reaches or bool(motion.hearings)
        if motion.message == "controller":
            numbers.add(motion.number)
    return Pressed(done, frozenset(numbers), programs, reaches)


class Foot(NamedTuple):
    """A pedal in a jack that moves a control, and what is wanted of it that can be told."""

    pedal: Pedal
    owner: Device
    jack: PedalJack
    wanted: tuple[Function, ...]

    @property
    def ref(self) -> str:
        """The control as ``device:control``."""
        return ref_to(self.owner.id, self.jack.control or "")


def _feet(plan: Plan) -> Iterator[Foot]:
    known = lookup.by_ids(plan.pedals)
    for plug in plan.pedal_plugs:
        pedal, (owner, jack) = known[plug.pedal], pedal_jack(plan, plug.jack)
        if jack.control is None or pedal.kind in ("dual switch", "triple"):
            continue
        wanted = []
        for wish in pedal.wishes:
            served = serves(wish, pedal, jack, owner.id).works in ("works", "half")
            if served and wish.function in TOLD:
                wanted.append(wish.function)
        if wanted:
            yield Foot(pedal, owner, jack, tuple(wanted))


def told_otherwise(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pedals whose press does not do what is wanted of them, as far as their jack can be told."""
    for foot in _feet(plan):
        missing: dict[Function, list[Compiled]] = {}
        for scene in compiled:
            if lookup.program_in(scene.scene, foot.owner) is None:
                continue
            pressed = press_of(scene, foot.ref)
            for function in foot.wanted:
                if not pressed.is_done(function):
                    missing.setdefault(function, []).append(scene)
        for function, scenes in missing.items():
            yield _not_done(plan, foot, function, scenes)


def _not_done(plan: Plan, foot: Foot, function: Function, scenes: list[Compiled]) -> Remark:
    owner, jack = foot.owner, foot.jack
    now = press_of(scenes[0], foot.ref)
    instead = (
        say("is told {done}", done=listed(now.done))
        if now.done
        else say("is told nothing that does it")
    )
    some = len(scenes) < max(1, len(plan.scenes))
    where = (
        say(" in {scene}", scene=listed([s.scene.name for s in scenes if s.scene], 4))
        if some
        else ""
    )
    fixes: list[Edit] = []
    if function in offered_by(jack):
        programs = []
        for scene in scenes:
            number = lookup.program_number(scene.scene, owner)
            if number is not None and number not in programs:
                programs.append(number)
        label = say("Tell {jack} to do {function}", jack=jack.name, function=function)
        fixes.append(tell_function(owner, jack.control or "", programs, function, label))
    return Remark(
        "foot does something else",
        (foot.ref, owner.id),
        say(
            "{pedal} is wanted for {function}, and {jack} of {owner} {instead}{where}.",
            pedal=foot.pedal.name,
            function=function,
            jack=jack.name,
            owner=owner.name,
            instead=instead,
            where=where,
        ),
        tuple(fixes),
        tuple(scene.scene.id for scene in scenes if scene.scene) if some else (),
        severity="fault" if _must(foot.pedal, function) else "caution",
    )


def _must(pedal: Pedal, function: Function) -> bool:
    return any(w.function == function and w.importance == "must" for w in pedal.wishes)


def changes_besides(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Controls that are wished to play something, and change what sounds besides."""
    told: set[tuple[str, Function]] = set()
    for wish in plan.wishes:
        for source in wish.sources if wish.plays else ():
            for scene in compiled:
                for sending in scene.controls.get((source, wish.bank), ()):
                    does = sending.does
                    if does in CHANGES and (source, does) not in told:
                        told.add((source, does))
                        yield _besides(plan, scene, source, wish.bank, does)


def _besides(plan: Plan, scene: Compiled, source: str, bank: int, does: Function) -> Remark:
    owner = lookup.device(plan, device_of(source))
    control = lookup.by_id(owner.controls, thing_of(source), "control")
    number = lookup.program_number(scene.scene, owner)
    label = say("Let {control} only play", control=control.name)
    mend = set_send(owner.id, number or 0, control.id, bank, label, does=None)
    return Remark(
        "plays and changes",
        (source, owner.id),
        say(
            "{control} of {owner} is wished to play, and each stroke also does {does}.",
            control=control.name,
            owner=owner.name,
            does=does,
        ),
        (mend,),
    )


def never_comes_back(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Switches that stay down by themselves and are set as if they came back."""
    for owner in plan.devices:
        stay = latching(plan, owner)
        for program in owner.programs if stay else ():
            for send in program.sends:
                toggles = send.mode == "toggle" and send.message != "none"
                if send.control not in stay or not (toggles or send.does in SPRUNG_ONLY):
                    continue
                name = lookup.by_id(owner.controls, send.control, "control").name
                what = say("is set to toggle") if toggles else say("is told {does}", does=send.does)
                change = {"mode": "momentary"} if toggles else {"does": None}
                label = (
                    say("Let {name} follow its contact", name=name)
                    if toggles
                    else say("Let {name} not do that", name=name)
                )
                yield Remark(
                    "stays down and toggles",
                    (ref_to(owner.id, send.control), owner.id),
                    say(
                        "{name} of {owner} stays down until it is pressed again and {what}: it "
                        "acts at every "
                        "second press only.",
                        name=name,
                        owner=owner.name,
                        what=what,
                    ),
                    (set_send(owner.id, program.number, send.control, send.bank, label, **change),),
                )
