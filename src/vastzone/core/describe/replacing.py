"""A device replaced by another: what fits moves over, the rest is told with the best stand-in."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple, TypeVar

import msgspec

from vastzone.core.describe.counted import counted
from vastzone.core.describe.matching import Match, match
from vastzone.core.describe.things import WORDS, Group, Thing, item_of, things_of
from vastzone.core.describe.traits import traits_of
from vastzone.core.plan.edits.edit import Edit, with_device
from vastzone.core.plan.edits.schools import without
from vastzone.core.plan.fields.dials import device_dials
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Keybed, Program, Zone
from vastzone.core.plan.model.organ import Coupling
from vastzone.core.plan.model.pedals import PedalPlug
from vastzone.core.plan.model.plan import Cable, Device, Plan, Scene
from vastzone.core.plan.model.triggers import Plug
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability, messages_of
from vastzone.core.plan.queries.evening import tidy
from vastzone.core.plan.queries.wish_sources import with_sources
from vastzone.core.plan.refs import device_of, device_of_setting, ref_to, thing_of
from vastzone.core.say import say, say_many
from vastzone.core.text import listed

StandIns = dict[str, str | None]
"""Controls that find none of their kind, and the control that could stand in; None for none."""
LAID = frozenset(("row", "column", "span"))
"""How things lie is no difference worth a word."""
ENDS: tuple[Group, ...] = ("keybeds", "controls", "parts", "targets")
SOCKETS: tuple[Group, ...] = ("ports", "inputs", "jacks")


class Replacing(NamedTuple):
    """What replacing does: the edit, how much moves over, what is lost, who could stand in."""

    edit: Edit
    fits: int
    lost: tuple[str, ...]
    stand_ins: tuple[str, ...]


def replace(plan: Plan, device: str, new: Device, stand_in: bool = False) -> Replacing:
    """Put another device in the place of one; with ``stand_in`` the best stand-ins are taken.

    Raises EditError where there is no such device.
    """
    old = lookup.device(plan, device)
    pairs = match(old, new)
    needed = stand_ins(plan, old, new, pairs)
    if stand_in:
        pairs = _with_stand_ins(pairs, needed)

    def apply(before: Plan) -> Plan:
        return _replaced(before, lookup.device(before, device), new, pairs)

    edit = Edit(say("Replace {old} by {new}", old=old.name, new=new.name), apply)
    lost = tuple(losses_between(plan, apply(plan), pairs, device))
    return Replacing(edit, len(pairs), lost, tuple(_told(old, new, needed)))


def _with_stand_ins(pairs: Match, needed: StandIns) -> Match:
    """Pairs in which the stand-ins are taken, from things that nobody wished for."""
    taken = {other for other in needed.values() if other is not None}
    kept = {}
    for thing, other in pairs.items():
        if not (thing.group == "controls" and other in taken):
            kept[thing] = other
    for control, stand_in in needed.items():
        if stand_in is not None:
            kept[Thing("controls", control)] = stand_in
    return kept


def _replaced(plan: Plan, old: Device, new: Device, pairs: Match) -> Plan:
    if new is old:
        return plan
    moved = Moving(old, pairs)
    device = _with_settings_of(changed(new, id=old.id), old, pairs)
    plan = with_device(plan, old, device)
    numbers = {program.number for program in device.programs}
    settings = {dial.ref for dial in device_dials(device)}
    kept = []
    for record in plan.settings:
        if device_of_setting(record.ref) != old.id or record.ref in settings:
            kept.append(record)
    lost = [ref for own in plan.schools.own for ref in own.of if moved.ref(ref, ENDS) is None]
    left = msgspec.structs.replace(
        plan,
        wishes=tuple(_wishes(plan, moved)),
        couplings=tuple(_couplings(plan, moved)),
        cables=tuple(_moved_all(plan.cables, moved, ("source", "dest"))),
        plugs=tuple(_moved_all(plan.plugs, moved, ("input",))),
        pedal_plugs=tuple(_moved_all(plan.pedal_plugs, moved, ("jack",))),
        scenes=tuple(_scene(scene, old.id, numbers) for scene in plan.scenes),
        settings=tuple(kept),
        schools=without(plan.schools, lost),
        log=tuple(e for e in plan.log if moved.ref(e.source, ENDS) == e.source),
    )
    return tidy(left)


class Moving(NamedTuple):
    """Where what is named at a device is in the one that takes its place."""

    old: Device
    pairs: Match

    def ref(self, ref: str | None, groups: tuple[Group, ...]) -> str | None:
        """A reference as it is now; None where there is nothing of the kind any more."""
        if ref is None or device_of(ref) != self.old.id:
            return ref
        for group in groups:
            thing = Thing(group, thing_of(ref))
            if item_of(self.old, thing) is not None:
                there = self.pairs.get(thing)
                return None if there is None else ref_to(self.old.id, there)
        return None


def _wishes(plan: Plan, moved: Moving) -> Iterator[Wish]:
    for wish in plan.wishes:
        sources = [moved.ref(source, ENDS) for source in wish.sources]
        places = [place for place, source in enumerate(sources) if source is not None]
        plays, moves = moved.ref(wish.plays, ("parts",)), moved.ref(wish.moves, ("targets",))
        if not places or (wish.plays and plays is None) or (wish.moves and moves is None):
            continue
        kept = with_sources(wish, places)
        left = tuple(source for source in sources if source is not None)
        if (left, plays, moves) != (kept.sources, kept.plays, kept.moves):
            kept = msgspec.structs.replace(kept, sources=left, plays=plays, moves=moves)
        yield kept


def _couplings(plan: Plan, moved: Moving) -> Iterator[Coupling]:
    for one in plan.couplings:
        stop, keys = moved.ref(one.stop, ("controls",)), moved.ref(one.keys, ("keybeds",))
        plays = moved.ref(one.plays, ("parts",))
        if stop is not None and keys is not None and plays is not None:
            yield msgspec.structs.replace(one, stop=stop, keys=keys, plays=plays)


V = TypeVar("V", Cable, Plug, PedalPlug)


def _moved_all(items: Iterable[V], moved: Moving, fields: tuple[str, ...]) -> Iterator[V]:
    """Cables or plugs with their ends where they are now; those without an end are left out."""
    for item in items:
        ends = {field: moved.ref(getattr(item, field), SOCKETS) for field in fields}
        if None not in ends.values():
            yield changed(item, **ends)


def _scene(scene: Scene, device: str, numbers: set[int]) -> Scene:
    choices = []
    for choice in scene.programs:
        if choice.device != device or choice.program in numbers:
            choices.append(choice)
    return changed(scene, programs=tuple(choices))


def _with_settings_of(new: Device, old: Device, pairs: Match) -> Device:
    """A device with the programs of another, as far as its keys and controls are here too."""
    if not old.programs or not new.programs:
        return new
    programs = []
    fresh = {program.number: program for program in new.programs}
    for program in old.programs:
        mine = fresh.get(program.number, new.programs[0])
        programs.append(_program(program, mine, new, pairs))
    return changed(new, programs=tuple(programs))


def _program(program: Program, mine: Program, new: Device, pairs: Match) -> Program:
    """A program of the old device in the new one; what it had itself stays where nothing comes."""
    beds = lookup.by_ids(new.keybeds)
    zones = []
    for zone in program.zones:
        there = beds.get(pairs.get(Thing("keybeds", zone.keybed), ""))
        fitting = None if there is None else _zone(zone, there)
        if fitting is not None:
            zones.append(fitting)
    controls = lookup.controls_by_id(new)
    sends = []
    taken = set()
    for send in program.sends:
        control = controls.get(pairs.get(Thing("controls", send.control), ""))
        if control is None or send.bank > control.banks or send.message not in messages_of(control):
            continue
        ports = tuple(pairs[Thing("ports", p)] for p in send.ports if Thing("ports", p) in pairs)
        sends.append(changed(send, control=control.id, ports=ports))
        taken.add((control.id, send.bank))
    for own in mine.sends:
        if (own.control, own.bank) not in taken:
            sends.append(own)
    kits = []
    for choice in program.kits:
        part, kit = pairs.get(Thing("parts", choice.part)), pairs.get(Thing("kits", choice.kit))
        if part is not None and kit is not None:
            kits.append(changed(choice, part=part, kit=kit))
    return changed(program, zones=tuple(zones), sends=tuple(sends), kits=tuple(kits))


def _zone(zone: Zone, bed: Keybed) -> Zone | None:
    low, high = max(zone.low, bed.low), min(zone.high, bed.high)
    return changed(zone, keybed=bed.id, low=low, high=high) if low <= high else None


def losses_between(before: Plan, after: Plan, pairs: Match, device: str) -> Iterator[str]:
    """What goes with the old device: wishes, cables and plugs that have no end any more."""
    known = {wish.id: wish for wish in after.wishes}
    old = lookup.device(before, device)
    for wish in before.wishes:
        now = known.get(wish.id)
        if now is None:
            yield say("The wish {wish} goes.", wish=wish.name)
        elif len(now.sources) < len(wish.sources):
            gone = []
            for source in wish.sources:
                if Moving(old, pairs).ref(source, ENDS) is None:
                    gone.append(_named(old, thing_of(source)))
            yield say("The wish {wish} goes on without {gone}.", wish=wish.name, gone=listed(gone))
    for what, held, left in (
        ("cable", before.cables, after.cables),
        ("pad", before.plugs, after.plugs),
        ("pedal", before.pedal_plugs, after.pedal_plugs),
    ):
        if len(left) < len(held):
            fewer = len(held) - len(left)
            yield say_many(
                "{things} finds no jack like its own.",
                "{things} find no jacks like their own.",
                fewer,
                things=counted(fewer, what),
            )


def _named(device: Device, ident: str) -> str:
    for thing in things_of(device):
        if thing.id == ident:
            return str(item_of(device, thing).name)
    return ident


def stand_ins(plan: Plan, old: Device, new: Device, pairs: Match) -> StandIns:
    """For each control that is wished and finds none of its kind: the best that is free."""
    wished: set[str] = set()
    for wish in plan.wishes:
        wished.update(thing_of(source) for source in wish.sources if device_of(source) == old.id)
    taken = set()
    for thing, other in pairs.items():
        if thing.group == "controls" and thing.id in wished:
            taken.add(other)
    free = [control for control in new.controls if control.id not in taken]
    needed: StandIns = {}
    for control in old.controls:
        if control.id in wished and Thing("controls", control.id) not in pairs:
            best = _best(control, free)
            if best is not None:
                free.remove(best)
            needed[control.id] = None if best is None else best.id
    return needed


def _best(control: Control, free: list[Control]) -> Control | None:
    """The free control that is touched most like one: with a travel, or pressed."""
    ability = control_ability(control)
    for other in free:
        if control_ability(other) == ability:
            return other
    for other in free:
        if control_ability(other).swept == ability.swept:
            return other
    return None


def _told(old: Device, new: Device, needed: StandIns) -> Iterator[str]:
    here, there = lookup.controls_by_id(old), lookup.controls_by_id(new)
    for control, other in needed.items():
        if other is None:
            yield say("{here}: nothing there can stand in for it.", here=here[control].name)
        else:
            yield say(
                "{here}: nearest is {there} ({kind}).",
                here=here[control].name,
                there=there[other].name,
                kind=there[other].kind,
            )


def differences(old: Device, new: Device) -> tuple[str, ...]:
    """What is otherwise in a newer description of a device, a sentence each."""
    pairs = match(old, new)
    told = []
    there = set()
    for thing in things_of(old):
        other = pairs.get(thing)
        if other is None:
            told.append(say("{item_of} is gone.", item_of=item_of(old, thing).name))
            continue
        there.add(Thing(thing.group, other))
        told += _changes(old, thing, new, Thing(thing.group, other))
    for thing in things_of(new):
        if thing not in there:
            told.append(
                say(
                    "{item_of} is new: {words}.",
                    item_of=item_of(new, thing).name,
                    words=WORDS[thing.group],
                )
            )
    for field in ("name", "kind", "limits", "storage", "supply", "notes", "preparation", "panel"):
        if getattr(old, field) != getattr(new, field):
            told.append(say("Its {field} is otherwise.", field=field))
    if old.programs != new.programs:
        told.append(say("What its controls send out of the box is otherwise."))
    return tuple(told)


def _changes(old: Device, thing: Thing, new: Device, other: Thing) -> list[str]:
    here, there = item_of(old, thing), item_of(new, other)
    told = []
    for trait in traits_of(thing.group):
        if trait.id in LAID:
            continue
        if trait.belongs_to(here) and trait.held(here) != trait.held(there):
            before = trait.words(old, trait.held(here)) or say("nothing")
            after = trait.words(new, trait.held(there)) or say("nothing")
            told.append(f"{here.name}: {trait.label.lower()} {before} → {after}.")
    return told
