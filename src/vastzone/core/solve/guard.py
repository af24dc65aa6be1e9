"""What is handed out is proved first: as meant, with every lock kept, and what falls silent named.

The solver reasons about numbers; this looks at what sounds.  Whatever it finds is a mistake of the
solver, but for sounds that fall silent: those are told to the person before anything is changed.
"""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from vastzone.core.memory.model import Memory
from vastzone.core.plan.fields.dials import Dial, dials, shares_settings
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.progress import Progress, go_on
from vastzone.core.proof.marking import Proof, prove, prove_scene
from vastzone.core.proof.verdict import Effect, Mark, Marks
from vastzone.core.say import say
from vastzone.core.solve.holds import locked
from vastzone.core.text import first_to_last


class Silence(NamedTuple):
    """Something that plays today and is meant to, and would not play any more."""

    scene: str
    source: str
    bank: int
    low: int
    high: int
    effect: Effect


class Guarded(NamedTuple):
    """What is wrong with numbers that were found, in sentences, and what would fall silent."""

    breaches: tuple[str, ...]
    silences: tuple[Silence, ...]


def guard(before: Plan, after: Plan, memory: Memory, progress: Progress | None = None) -> Guarded:
    """Look at a plan with other numbers beside the one that it came from.  Raises Cancelled."""
    for plan in (before, after):
        for song in plan.scenes:
            go_on(progress, say("The proof of what was found"), 0.95)
            prove_scene(plan, song, memory)
    was, now = prove(before, memory), prove(after, memory)
    go_on(progress, say("The proof of what was found"), 0.97)
    breaches = list(_moved(before, after))
    go_on(progress, say("The proof of what was found"), 0.98)
    breaches += _not_one(before, after)
    silences: dict[Silence, None] = {}
    for scene, old, new in _pairs(was, now):
        go_on(progress, say("The proof of what was found"), 0.99)
        breaches.extend(_wrong(after, scene, old, new))
        for silence in _silences(scene, old, new):
            silences[silence] = None
    return Guarded(tuple(dict.fromkeys(breaches)), tuple(silences))


def _pairs(was: Proof, now: Proof) -> Iterator[tuple[str, Marks, Marks]]:
    """The marks of each scene, device by device; those that are met again only once."""
    seen: set[tuple[int, int]] = set()
    for scene, groups in now.scenes.items():
        for old, new in zip(was.scenes.get(scene, ()), groups, strict=True):
            if old is not new and (id(old), id(new)) not in seen:
                seen.add((id(old), id(new)))
                yield scene, old, new
            elif old is new and (id(old), 0) not in seen:
                seen.add((id(old), 0))
                if any(mark.wishes and mark.verdict != "as meant" for mark in new):
                    yield scene, old, new


def _wrong(plan: Plan, scene: str, old: Marks, new: Marks) -> Iterator[str]:
    """Wishes that are not as meant, and what sounds too much that did not before."""
    for mark in new:
        if mark.verdict == "as meant":
            continue
        where = (
            say("{name} in {scene}", name=_name(plan, mark.source), scene=scene)
            if scene
            else _name(plan, mark.source)
        )
        if mark.wishes:
            named = lookup.names_of(plan.wishes)
            wished = ", ".join(named[wish] for wish in mark.wishes)
            yield say(
                "{wished} would be {verdict} at {where}.",
                wished=wished,
                verdict=mark.verdict,
                where=where,
            )
        elif not all(_was_noise(old, mark, effect) for effect in mark.extra):
            yield say("{where} would sound what nobody wished.", where=where)


def _was_noise(marks: Iterable[Mark], like: Mark, effect: Effect) -> bool:
    """Whether something sounded too much before, be it on other keys of the same keybed."""
    for mark in marks:
        here = (mark.source, mark.bank) == (like.source, like.bank)
        if here and any(hit.ref == effect.ref for hit in heard_of(mark)):
            return True
    return False


def _sounds(marks: Iterable[Mark], like: Mark, effect: Effect) -> bool:
    """Whether an effect is heard at every key and velocity of a mark."""
    keys = set(range(like.low, like.high + 1))
    soft, loud = like.vel_low, like.vel_high
    for key in keys:
        heard: list[tuple[int, int]] = []
        for mark in marks:
            here = (mark.source, mark.bank) == (like.source, like.bank)
            if here and mark.low <= key <= mark.high and effect in heard_of(mark):
                heard.append((mark.vel_low, mark.vel_high))
        if not _covers(heard, soft, loud):
            return False
    return True


def _covers(runs: list[tuple[int, int]], low: int, high: int) -> bool:
    """Whether runs together cover everything between two ends."""
    reached = low
    for first, last in sorted(runs):
        if first > reached:
            return False
        reached = max(reached, last + 1)
    return reached > high


def heard_of(mark: Mark) -> frozenset[Effect]:
    """What is heard where a mark stands."""
    return (frozenset(mark.meant) - frozenset(mark.missing)) | frozenset(mark.extra)


def _silences(scene: str, old: Marks, new: Marks) -> Iterator[Silence]:
    for mark in old:
        if mark.wishes or mark.verdict != "as meant":
            continue
        for effect in mark.meant:
            if not _sounds(new, mark, effect):
                yield Silence(scene, mark.source, mark.bank, mark.low, mark.high, effect)


def _moved(before: Plan, after: Plan) -> Iterator[str]:
    """Locks, and what cannot be changed in a device, that would be changed all the same."""
    locks, there = locked(before), dials(after)
    for ref, dial in dials(before).items():
        if ref not in locks and dial.scope != "fixed":
            continue
        new = there.get(ref)
        # A level is kept in 7 bits or in 14, as its message has them: the level itself counts.
        if new is None or new.field.held(new.owner) != dial.field.held(dial.owner):
            yield (
                say("{ref} is locked and would be changed.", ref=ref)
                if ref in locks
                else say("{ref} is fixed and would be changed.", ref=ref)
            )


def _not_one(before: Plan, after: Plan) -> Iterator[str]:
    """Settings that are one in a device and would come to have several values."""
    torn = set(_torn(before))
    for slot in _torn(after):
        if slot not in torn:
            yield say("{slot} is one setting and would have several values.", slot="/".join(slot))


def _torn(plan: Plan) -> Iterator[tuple[str, ...]]:
    values: dict[tuple[str, ...], Dial] = {}
    sharing = {device.id for device in plan.devices if shares_settings(device)}
    for dial in dials(plan).values() if sharing else ():
        if dial.owner.device.id not in sharing:
            continue
        first = values.setdefault(dial.slot, dial)
        if first.value != dial.value:
            yield dial.slot


def _name(plan: Plan, source: str) -> str:
    device = lookup.device(plan, device_of(source))
    return say("{thing} of {device}", thing=_thing_name(device, source), device=device.name)


def _thing_name(device: Device, source: str) -> str:
    """What a control or keybed is called."""
    names = lookup.names_of(device.controls) | lookup.names_of(device.keybeds)
    return names.get(thing_of(source), source)


def silent_words(plan: Plan, silences: Iterable[Silence]) -> tuple[str, ...]:
    """What would fall silent, a sentence for each device: «Pad 1 … Pad 48 would fall silent»."""
    by_device: dict[str, dict[str, None]] = {}
    for silence in silences:
        device = lookup.device(plan, device_of(silence.source))
        name = _thing_name(device, silence.source)
        if silence.bank > 1 and not silence.high:
            name = say("{name} in bank {bank}", name=name, bank=silence.bank)
        by_device.setdefault(device.name, {})[name] = None
    sentences = []
    for device_name, names in by_device.items():
        sentences.append(
            say(
                "{names} of {device_name} would fall silent.",
                names=first_to_last(names),
                device_name=device_name,
            )
        )
    return tuple(sentences)
