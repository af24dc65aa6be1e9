"""What differs: between two plans, between a plan and what devices hold, between two memories.

All in words, grouped by the plan itself, its devices and their programs.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any, NamedTuple, Protocol

from vastzone.core.cards.sentences import (
    end_name,
    said,
    source_name,
)
from vastzone.core.memory.differences import Difference, ProgramLeft, left_to_dial
from vastzone.core.memory.display import NOT_KNOWN, NOTHING
from vastzone.core.memory.model import Memory
from vastzone.core.memory.rig import as_dialled, memory_of
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner, owners
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.fields.words import SAID, field_words, thing_words, value_words
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import slot_words
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say


class _Named(Protocol):
    @property
    def id(self) -> str: ...

    @property
    def name(self) -> str: ...


class Differing(NamedTuple):
    """A difference: of which device and program («» for the plan, the whole device), in words."""

    device: str
    program: str
    sentence: str

    @property
    def whole(self) -> str:
        """All of it in one sentence."""
        where = ", ".join(filter(None, (self.device, self.program)))
        return f"{where}: {self.sentence}" if where else self.sentence


def differences(old: Plan, new: Plan) -> tuple[Differing, ...]:
    """Every difference between two plans, in the order of the newer one."""
    told = [Differing("", "", sentence) for sentence in _of_plan(old, new)]
    before = lookup.by_ids(old.devices)
    for device in new.devices:
        if device.id in before and before[device.id] is not device:
            told.extend(_of_device(before[device.id], device))
    return tuple(told)


def _of_plan(old: Plan, new: Plan) -> Iterator[str]:
    if old.name != new.name:
        yield say("The plan {old} is now called {new}.", old=old.name, new=new.name)
    yield from _come_and_gone("device", old.devices, new.devices)
    was, now = _cables(old), _cables(new)
    for cable in sorted(was - now):
        yield say("Cable from {cable} is gone.", cable=cable)
    for cable in sorted(now - was):
        yield say("Cable from {cable} is new.", cable=cable)
    yield from _come_and_gone("scene", old.scenes, new.scenes)
    known_scenes = lookup.by_ids(old.scenes)
    for scene in new.scenes:
        if scene.id in known_scenes:
            yield from _of_scene(old, new, known_scenes[scene.id], scene)
    yield from _come_and_gone("wish", old.wishes, new.wishes)
    known_wishes = lookup.by_ids(old.wishes)
    for wish in new.wishes:
        if known_wishes.get(wish.id, wish) != wish:
            yield from _of_wish(new, known_wishes[wish.id], wish)
    yield from _plugs("pad", old, new)
    yield from _plugs("pedal", old, new)
    if old.tempo != new.tempo:
        yield say(
            "The tempo is {tempo:g}, not {old_tempo:g}.", tempo=new.tempo, old_tempo=old.tempo
        )


def _cables(plan: Plan) -> set[str]:
    return {
        say("{source} to {dest}", source=cable.source, dest=cable.dest) for cable in plan.cables
    }


def _plugs(what: str, old: Plan, new: Plan) -> Iterator[str]:
    """Pads and pedals that are plugged in elsewhere."""
    places = []
    for plan in (old, new):
        if what == "pad":
            places.append(
                {plug.pad: _jack_name(plan, plug.input, plug.side) for plug in plan.plugs}
            )
        else:
            places.append({plug.pedal: _jack_name(plan, plug.jack) for plug in plan.pedal_plugs})
    before, after = places
    names = lookup.names_of(new.pads if what == "pad" else new.pedals)
    for ident, name in names.items():
        was, now = before.get(ident, "no jack"), after.get(ident, "no jack")
        if was != now:
            yield say(
                "The {what} {name} is in {now}, not in {was}.",
                what=what,
                name=name,
                now=now,
                was=was,
            )


def _jack_name(plan: Plan, ref: str, side: str = "") -> str:
    """A jack as a person knows it: «Snare of Curlew, on the tip of a splitter»."""
    device, ident = read_ref(ref)
    owner = lookup.find(plan.devices, device)
    if owner is None:
        return ref
    names = lookup.names_of(owner.inputs) | lookup.names_of(owner.jacks)
    where = say("{names} of {owner}", names=names.get(ident, ident), owner=owner.name)
    return say("{where}, on the {side} of a splitter", where=where, side=side) if side else where


def _come_and_gone(what: str, old: Iterable[_Named], new: Iterable[_Named]) -> Iterator[str]:
    was, now = lookup.names_of(old), lookup.names_of(new)
    for ident, name in was.items():
        if ident not in now:
            yield say("The {what} {name} is gone.", what=what, name=name)
    for ident, name in now.items():
        if ident not in was:
            yield say("The {what} {name} is new.", what=what, name=name)
    for ident, name in now.items():
        if was.get(ident, name) != name:
            yield say(
                "The {what} {was} is now called {name}.", what=what, was=was[ident], name=name
            )


def _of_scene(old: Plan, new: Plan, was: Scene, now: Scene) -> Iterator[str]:
    for device in new.devices:
        earlier = lookup.find(old.devices, device.id)
        if earlier is None:
            continue
        before, after = lookup.program_in(was, earlier), lookup.program_in(now, device)
        if before is None or after is None or before.number == after.number:
            continue
        shown = slot_words(device, slots_of(after)[0])
        yield say(
            "In {now}, {device} is on program {shown}, {after}.",
            now=now.name,
            device=device.name,
            shown=shown,
            after=after.name,
        )
    if was.notes != now.notes:
        yield say("The notes of {now} have changed.", now=now.name)


def _of_wish(plan: Plan, was: Wish, now: Wish) -> Iterator[str]:
    """What a wish says otherwise than before."""
    for name in now.__struct_fields__:
        before, after = getattr(was, name), getattr(now, name)
        if before != after and name not in ("id", "name"):
            said = say(
                "{wished}, not {wished_plan}",
                wished=_wished(plan, name, after),
                wished_plan=_wished(plan, name, before),
            )
            yield say(
                "The wish {now}: {name} is {said}.",
                now=now.name,
                name=name.replace("_", " "),
                said=said,
            )


def _wished(plan: Plan, name: str, value: Any) -> str:
    if value is None or value == ():
        return say("all") if name in ("scenes", "low", "high") else say("none")
    if name == "sources":
        return ", ".join(source_name(plan, source) for source in value)
    if name in ("plays", "moves"):
        return end_name(plan, value) or str(value)
    if name == "scenes":
        names = lookup.names_of(plan.scenes)
        return ", ".join(names.get(scene, scene) for scene in value)
    if isinstance(value, tuple):
        return ", ".join(map(str, value))
    return str(value)


def _of_device(old: Device, new: Device) -> Iterator[Differing]:
    for what, was, now in _groups(old, new):
        for sentence in _come_and_gone(what, was, now):
            yield Differing(new.name, "", sentence)
    before = {owner.own_name: owner for owner in owners(old)}
    names_before = lookup.ids_of(old.programs)
    after = set()
    for owner in owners(new):
        after.add(owner.own_name)
        if owner.program is not None and owner.program.id not in names_before:
            continue
        yield from _of_owner(before.get(owner.own_name), owner)
    names_after = lookup.ids_of(new.programs)
    for name, owner in before.items():
        in_program = owner.program is not None and owner.program.id in names_after
        if name not in after and in_program:
            yield _differing(owner, say("{what} is gone.", what=SAID[owner.kind](owner)))
    yield from _slots(old, new)


def _groups(old: Device, new: Device) -> tuple[tuple[str, Iterable[_Named], Iterable[_Named]], ...]:
    return (
        ("port", old.ports, new.ports),
        ("keybed", old.keybeds, new.keybeds),
        ("control", old.controls, new.controls),
        ("program", old.programs, new.programs),
        ("part", old.parts, new.parts),
        ("kit", old.kits, new.kits),
        ("target", old.targets, new.targets),
        ("input", old.inputs, new.inputs),
        ("jack", old.jacks, new.jacks),
        ("switch", old.switches, new.switches),
    )


def _slots(old: Device, new: Device) -> Iterator[Differing]:
    """Programs that are stored elsewhere."""
    before = lookup.by_ids(old.programs)
    for program in new.programs:
        was = before.get(program.id)
        if was is None or slots_of(was) == slots_of(program):
            continue
        listed = ", ".join(slot_words(new, slot) for slot in slots_of(program))
        yield Differing(
            new.name,
            "",
            say(
                "The program {program} is in slot {listed} now.",
                program=program.name,
                listed=listed,
            ),
        )


def _of_owner(before: Owner | None, owner: Owner) -> Iterator[Differing]:
    """What differs in one thing; one that is new is said in one sentence."""
    if before is None:
        if owner.program is not None:
            yield _differing(
                owner,
                say(
                    "{what} is new: {all_of}.", what=SAID[owner.kind](owner), all_of=_all_of(owner)
                ),
            )
        return
    if before.thing is owner.thing:
        return
    for field in fields_for(owner.kind):
        if field.id == "name" and owner.kind != "device":
            continue
        was, now = field.read(before), field.read(owner)
        if was != now:
            yield _differing(owner, _changed(field, before, owner, was, now))


def _changed(field: Field, before: Owner, owner: Owner, was: Any, now: Any) -> str:
    said = [NOTHING, NOTHING]
    if was is not None:
        said[0] = field.values.words(before, was)
    if now is not None:
        said[1] = field.values.words(owner, now)
    name = field.name_on(owner)
    return say(
        "{what}, {name} from {first} to {last}.",
        what=SAID[owner.kind](owner),
        name=name.lower(),
        first=said[0],
        last=said[1],
    )


def _all_of(owner: Owner) -> str:
    pieces = []
    for field in fields_for(owner.kind):
        value = field.read(owner)
        if value is not None and field.is_dialled and not field.is_usual(owner):
            pieces.append(f"{field.name_on(owner).lower()} {field.values.words(owner, value)}")
    return ", ".join(pieces)


def _differing(owner: Owner, sentence: str) -> Differing:
    program = ""
    if owner.program is not None:
        shown = slot_words(owner.device, slots_of(owner.program)[0])
        program = say("program {shown}", shown=shown)
    return Differing(owner.device.name, program, sentence)


def undialled(plan: Plan, memory: Memory) -> tuple[Differing, ...]:
    """What the plan wants and a device is not known to hold."""
    told = []
    for device in plan.devices:
        left = left_to_dial(device, memory_of(memory, device), None)
        for difference in left.whole:
            told.append(_left(difference))
        for program in left.programs:
            told.extend(_of_program(plan, program))
    return tuple(told)


def _of_program(plan: Plan, left: ProgramLeft) -> Iterator[Differing]:
    """What is missing in the slots of a program; a thing that is not there at all, in one line."""
    seen: set[str] = set()
    new: dict[str, list[Difference]] = {}
    for _, missing in left.in_slots:
        for difference in missing:
            if difference.key in seen:
                continue
            seen.add(difference.key)
            if difference.known and difference.before is None:
                new.setdefault(difference.dial.owner.place, []).append(difference)
            else:
                yield _left(difference)
    for differences in new.values():
        words = said(plan, tuple(differences))
        owner = differences[0].dial.owner
        yield _differing(
            owner, say("{thing} is not there: {after}.", thing=words.thing, after=words.after)
        )


def _left(difference: Difference) -> Differing:
    dial = difference.dial
    thing = thing_words(dial)
    if difference.gone:
        return _differing(
            dial.owner, say("{thing} is there, and not planned any more.", thing=thing)
        )
    was = NOT_KNOWN
    if difference.known:
        owner = difference.before or dial.owner
        held = difference.held
        was = NOTHING if held is None else dial.field.values.words(owner, held)
    now = value_words(dial, dial.value)
    return _differing(
        dial.owner,
        say(
            "{thing}, {field} from {was} to {now}.",
            thing=thing,
            field=field_words(dial).lower(),
            was=was,
            now=now,
        ),
    )


def held_otherwise(plan: Plan, old: Memory, new: Memory) -> tuple[Differing, ...]:
    """What devices hold otherwise than at another time, or than in a backup."""
    return differences(as_dialled(plan, old), as_dialled(plan, new))


def by_device(told: Iterable[Differing]) -> Mapping[tuple[str, str], list[str]]:
    """Sentences by device and program, in their order."""
    groups: dict[tuple[str, str], list[str]] = {}
    for each in told:
        groups.setdefault((each.device, each.program), []).append(each.sentence)
    return groups


def as_plain(told: Iterable[Differing]) -> list[dict[str, str]]:
    """Differences for a program to read."""
    return [each._asdict() for each in told]
