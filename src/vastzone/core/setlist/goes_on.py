"""What goes on over a change of song: what is held, what runs, what stands elsewhere.

Releases follow the engine’s law: a release reaches what its strike reached, whatever changed in
between.  So held keys never hang; what cuts them is a device that changes its program.
"""

from collections.abc import Iterator, Mapping
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled, compile_scene, played
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, read_ref, thing_of
from vastzone.core.say import say
from vastzone.core.setlist.left_behind import Left, left_behind
from vastzone.core.text import listed

Fate = Literal["sounds on", "cut", "runs on", "jumps", "waits"]
SPRUNG = frozenset(("wheel", "lever", "aftertouch", "breath", "source"))
"""Controls that do not stay where a hand left them."""


class GoesOn(NamedTuple):
    """One thing over a change: the part, loop or target, what becomes of it, why, what would help.

    ``by`` is what is held or was left standing: a keybed or a control.
    """

    fate: Fate
    what: str
    by: str
    why: str
    mend: str = ""

    @property
    def is_heard(self) -> bool:
        """Whether an audience hears that something went wrong."""
        return self.fate in ("cut", "runs on", "jumps")


@derived(2048)
def goes_on(plan: Plan, before: Scene, after: Scene) -> tuple[GoesOn, ...]:
    """Everything that goes on, is cut, jumps or waits over a change of song."""
    one, two = compile_scene(plan, before), compile_scene(plan, after)
    was, will = left_behind(one), left_behind(two)
    begun = frozenset(start.target for start in after.starts)
    changing = _changing(plan, before, after)
    return (
        *_held_keys(plan, one, two, changing),
        *_held_pedals(plan, was, will, changing),
        *_tails(plan, was, changing),
        *_loops(plan, was, will, two, changing),
        *_switched(was, will, begun, changing),
        *_standing(plan, was, will, begun),
    )


def _changing(plan: Plan, before: Scene, after: Scene) -> frozenset[str]:
    """The devices that change their programs."""
    old = lookup.program_numbers(plan, before)
    changing = []
    for device, number in lookup.program_numbers(plan, after).items():
        if old[device] != number:
            changing.append(device)
    return frozenset(changing)


def is_seamless(plan: Plan, before: Scene, after: Scene) -> bool:
    """Whether nothing of a change is heard."""
    return not any(one.is_heard for one in goes_on(plan, before, after))


def _part(plan: Plan, ref: str) -> tuple[Device, Part]:
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    return owner, lookup.part(owner, ident)


def _held_keys(
    plan: Plan, one: Compiled, two: Compiled, changing: frozenset[str]
) -> Iterator[GoesOn]:
    """Parts that keys sound before the change: cut by it, or sounding until the key is let go."""
    then = played(two)
    for bed, refs in played(one).items():
        stays = then.get(bed, frozenset())
        for ref in sorted(refs):
            if ref in stays and device_of(ref) not in changing:
                continue
            owner, part = _part(plan, ref)
            if part.trigger == "toggle":
                continue
            if owner.id in changing and not owner.rings_on:
                yield GoesOn(
                    "cut",
                    ref,
                    bed,
                    say(
                        "{owner} changes its program, which cuts what {part} sounds",
                        owner=owner.name,
                        part=part.name,
                    ),
                    say(
                        "let {owner} ring on, or play it from a device that stays", owner=owner.name
                    ),
                )
            elif ref not in stays:
                yield _rings(plan, ref, part, bed, then)


def _rings(
    plan: Plan, ref: str, part: Part, bed: str, then: Mapping[str, frozenset[str]]
) -> GoesOn:
    """What keys hold on that play it no longer; one voice gives way to whoever plays it then."""
    takers = [other for other, refs in then.items() if ref in refs]
    if not part.mono or not takers:
        return GoesOn(
            "sounds on", ref, bed, say("{part} sounds until its keys are let go", part=part.name)
        )
    device, ident = read_ref(takers[0])
    owner = lookup.device(plan, device)
    keys = lookup.by_id(owner.keybeds, ident, "keybed").name
    return GoesOn(
        "cut",
        ref,
        bed,
        say(
            "{part} has one voice, which the first key of {keys} of {owner} takes over",
            part=part.name,
            keys=keys,
            owner=owner.name,
        ),
        say("let its keys go before, or give the next song another part"),
    )


def _held_pedals(plan: Plan, was: Left, will: Left, changing: frozenset[str]) -> Iterator[GoesOn]:
    """Parts that a sustain pedal holds and no longer reaches: held on until they are told else."""
    for key, refs in was.sustained.items():
        for ref in sorted(refs - will.sustained.get(key, frozenset())):
            owner, part = _part(plan, ref)
            if owner.id not in changing or owner.rings_on:
                yield GoesOn(
                    "sounds on",
                    ref,
                    key[0],
                    say("{part} is held by a pedal that reaches it no longer", part=part.name),
                    say("lift the pedal before the change"),
                )


def _loops(
    plan: Plan, was: Left, will: Left, two: Compiled, changing: frozenset[str]
) -> Iterator[GoesOn]:
    """Loops that were started before the change: cut by it, or without anything to stop them."""
    for ref, notes in was.toggled.items():
        owner, part = _part(plan, ref)
        by = next(iter(notes.values()))
        if owner.id in changing and not owner.rings_on:
            yield GoesOn(
                "cut",
                ref,
                by,
                say(
                    "{owner} changes its program, which stops {part}",
                    owner=owner.name,
                    part=part.name,
                ),
                say("let {owner} ring on", owner=owner.name),
            )
            continue
        left = [note for note in notes if note not in will.toggled.get(ref, {})]
        if left and not _stops_loops(two, owner.id):
            yield GoesOn(
                "runs on",
                ref,
                notes[left[0]],
                say("{part} runs on, and nothing in the next song stops it", part=part.name),
                say("stop it before the change, or give the next song a pad that stops it"),
            )


def _tails(plan: Plan, was: Left, changing: frozenset[str]) -> Iterator[GoesOn]:
    """What pads struck last rings on, unless its device changes its program: told together."""
    for device, struck in was.rung.items():
        owner = lookup.device(plan, device)
        if device in changing and not owner.rings_on:
            yield _cut_tails(owner, struck)


@derived(1024)
def _cut_tails(owner: Device, struck: tuple[tuple[str, str], ...]) -> GoesOn:
    """The tails of a device that are cut: its parts, each with what struck it."""
    names = listed((lookup.part(owner, thing_of(ref)).name for ref, _ in struck), 3)
    ref, control = struck[0]
    return GoesOn(
        "cut",
        ref,
        control,
        say(
            "{owner} changes its program, which cuts the tails of {names}",
            owner=owner.name,
            names=names,
        ),
        say("let {owner} ring on", owner=owner.name),
    )


def _switched(
    was: Left, will: Left, begun: frozenset[str], changing: frozenset[str]
) -> Iterator[GoesOn]:
    """What a toggle left on, and nothing in the next song moves or begins with."""
    for ref, (control, name) in was.left_on.items():
        if ref in begun or ref in will.heard or device_of(ref) in changing:
            continue
        yield GoesOn(
            "runs on",
            ref,
            control,
            say(
                "{target} stays as it was left, and nothing in the next song moves it", target=name
            ),
            say("switch it off before the change, or let the song begin with it off"),
        )


def _stops_loops(compiled: Compiled, device: str) -> bool:
    for (ref, _), sendings in compiled.controls.items():
        if device_of(ref) == device and any(s.does == "stop loops" for s in sendings):
            return True
    return False


def _standing(plan: Plan, old: Left, new: Left, begun: frozenset[str]) -> Iterator[GoesOn]:
    """Knobs, faders and treadles that stand elsewhere than what they move in the next song.

    They moved something else before, or the song begins with a value of its own: it jumps or waits.
    """
    for (ref, bank), targets in new.moved.items():
        owner = lookup.device(plan, device_of(ref))
        control = lookup.by_id(owner.controls, thing_of(ref), "control")
        if not control_ability(control).swept or control.kind in SPRUNG or control.endless:
            continue
        was = old.moved.get((ref, bank), {})
        for target, takeover in targets.items():
            is_new = bool(was) and target not in was
            if not is_new and target not in begun:
                continue
            at, ident = read_ref(target)
            name = lookup.by_id(lookup.device(plan, at).targets, ident, "target").name
            if takeover == "pick-up":
                yield GoesOn(
                    "waits",
                    target,
                    ref,
                    say(
                        "{control} stands where the last song left it: {name} waits until it "
                        "is met",
                        control=control.name,
                        name=name,
                    ),
                )
            else:
                yield GoesOn(
                    "jumps",
                    target,
                    ref,
                    say(
                        "{control} stands where the last song left it: {name} jumps at its "
                        "first move",
                        control=control.name,
                        name=name,
                    ),
                    say("let {name} wait for pick-up, or move it by an endless knob", name=name),
                )
