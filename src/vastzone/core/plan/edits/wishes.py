"""Edits of wishes: made, changed, and taken back for some keys, controls or scenes."""

from collections.abc import Iterator
from typing import Any, NamedTuple

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, set_item
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.wish_sources import with_sources
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say


class WishPlace(NamedTuple):
    """Where a wish begins: keys ``low``–``high`` of a keybed, or a control in ``bank`` (0–0)."""

    source: str
    bank: int = 1
    low: int = 0
    high: int = 0


def is_bed(plan: Plan, source: str) -> bool:
    """Whether a ``device:thing`` is a keybed."""
    device, thing = read_ref(source)
    return any(bed.id == thing for bed in lookup.device(plan, device).keybeds)


def held_at(plan: Plan, place: WishPlace, end: str, scenes: tuple[str, ...]) -> tuple[Wish, ...]:
    """The wishes that tie a place to a part or target in any of some scenes (all when empty)."""
    bed = is_bed(plan, place.source)
    wishes = []
    for wish in plan.wishes:
        if (
            place.source in wish.sources
            and end in (wish.plays, wish.moves)
            and (_meets(wish, place) if bed else wish.bank == place.bank)
            and (not scenes or not wish.scenes or set(scenes) & set(wish.scenes))
        ):
            wishes.append(wish)
    return tuple(wishes)


def _meets(wish: Wish, place: WishPlace) -> bool:
    return wish.lowest <= place.high and place.low <= wish.highest


def make(plan: Plan, place: WishPlace, end: str, scenes: tuple[str, ...]) -> Edit:
    """Wish that a place plays the part, or moves the target, ``end``.

    A wish for neighbouring keys that says the same is lengthened instead.  Raises EditError where
    keys are to move a target.
    """
    device, thing = read_ref(end)
    owner = lookup.device(plan, device)
    if is_bed(plan, place.source) and lookup.find(owner.targets, thing) is not None:
        target = lookup.by_id(owner.targets, thing, "target").name
        raise EditError(
            say(
                "Keys play parts and move no targets: choose a control for {target}.", target=target
            )
        )
    named = next((x.name for x in lookup.ends(owner) if x.id == thing), thing)
    grown = _neighbour(plan, place, end, scenes)
    if grown is not None:
        low, high = min(place.low, grown.lowest), max(place.high, grown.highest)
        return change(grown.id, say("Wish {named}", named=named), low=low, high=high)
    fields: dict[str, Any] = {"bank": place.bank}
    if is_bed(plan, place.source):
        fields = {"low": place.low, "high": place.high}
    elif any(target.id == thing for target in owner.targets):
        fields["moves"] = end
    else:
        fields |= _pitch(plan, end)
    wish = Wish(
        id=lookup.free_id(lookup.ids_of(plan.wishes), f"{thing}-{place.source}"),
        name=named,
        sources=(place.source,),
        scenes=scenes,
        **({"plays": end} | fields if "moves" not in fields else fields),
    )
    return Edit(
        say("Wish {named}", named=named),
        lambda plan: msgspec.structs.replace(plan, wishes=(*plan.wishes, wish)),
    )


def make_in_order(pairs: tuple[tuple[WishPlace, str], ...], scenes: tuple[str, ...]) -> Edit:
    """Wish that the first place plays or moves the first end, the second the second, and so on.

    What is wished already stays as it is.
    """

    def apply(plan: Plan) -> Plan:
        for place, end in pairs:
            if not held_at(plan, place, end, scenes):
                plan = make(plan, place, end, scenes).change(plan)
        return plan

    return Edit(say("Wish {count} in order", count=len(pairs)), apply)


def _neighbour(plan: Plan, place: WishPlace, end: str, scenes: tuple[str, ...]) -> Wish | None:
    if not is_bed(plan, place.source):
        return None
    for wish in plan.wishes:
        same = wish.plays == end and set(wish.scenes) == set(scenes)
        plain = (wish.vel_low, wish.vel_high, len(wish.sources)) == (1, 127, 1)
        touching = wish.lowest == place.high + 1 or wish.highest == place.low - 1
        if same and plain and touching and place.source in wish.sources:
            return wish
    return None


def _pitch(plan: Plan, end: str) -> dict[str, Any]:
    """The sound of a kit that no control plays yet, or the root of a part without a kit."""
    device, thing = read_ref(end)
    owner = lookup.device(plan, device)
    part = lookup.part(owner, thing)
    kit = lookup.find(owner.kits, part.kit)
    if kit is None or not kit.sounds:
        return {"note": max(part.low, min(part.high, part.root))}
    used = set()
    for wish in plan.wishes:
        if wish.plays == end:
            for sound in wish.sounds:
                used.add(sound)
    free = next((sound.id for sound in kit.sounds if sound.id not in used), kit.sounds[0].id)
    return {"sounds": (free,)}


def change(ident: str, label: str, **changes: Any) -> Edit:
    """Change fields of a wish."""

    return set_item("wishes", ident, "wish", label, **changes)


def remove(ident: str) -> Edit:
    """Take a wish back altogether."""
    return Edit(
        say("Take wish back"),
        lambda plan: msgspec.structs.replace(
            plan, wishes=tuple(wish for wish in plan.wishes if wish.id != ident)
        ),
    )


def take_back(place: WishPlace, end: str, scenes: tuple[str, ...]) -> Edit:
    """Take back what ties a place to a part or target in some scenes (all of them when empty).

    What the same wishes say of other keys, controls and scenes stays.
    """

    def apply(plan: Plan) -> Plan:
        there = held_at(plan, place, end, scenes)
        taken = lookup.ids_of(plan.wishes) - lookup.ids_of(there)
        kept: list[Wish] = []
        for wish in plan.wishes:
            if wish not in there:
                kept.append(wish)
                continue
            for piece in _rest(plan, wish, place, scenes):
                ident = lookup.free_id(taken, wish.id)
                taken.add(ident)
                kept.append(msgspec.structs.replace(piece, id=ident))
        return msgspec.structs.replace(plan, wishes=tuple(kept))

    return Edit(say("Take wish back"), apply)


def _rest(plan: Plan, wish: Wish, place: WishPlace, scenes: tuple[str, ...]) -> Iterator[Wish]:
    """What is left of a wish: other scenes, other sources, keys below and above."""
    mine = wish.scenes or tuple(scene.id for scene in plan.scenes)
    gone, elsewhere = _parted(mine, scenes or mine)
    here = wish
    if elsewhere:
        yield msgspec.structs.replace(wish, scenes=elsewhere)
        here = msgspec.structs.replace(wish, scenes=gone)
    others = []
    for number, source in enumerate(wish.sources):
        if source != place.source:
            others.append(number)
    if others:
        yield with_sources(here, others)
    if is_bed(plan, place.source):
        alone = msgspec.structs.replace(here, sources=(place.source,))
        yield from _below_and_above(alone, place)


Scenes = tuple[str, ...]


def _parted(scenes: tuple[str, ...], some: tuple[str, ...]) -> tuple[Scenes, Scenes]:
    """Those of the scenes that are among some, and the others."""
    inside = tuple(scene for scene in scenes if scene in some)
    return inside, tuple(scene for scene in scenes if scene not in some)


def _below_and_above(wish: Wish, place: WishPlace) -> Iterator[Wish]:
    """A wish for the keys below and above a place."""
    if wish.lowest < place.low:
        yield msgspec.structs.replace(wish, high=place.low - 1)
    if wish.highest > place.high:
        yield msgspec.structs.replace(wish, low=place.high + 1)


def play_sound(source: str, bank: int, part: str, sound: str) -> Edit:
    """Wish that a pad plays one sound of a kit in all scenes, and nothing else.

    ``part`` is ``device:part``; with none the pad is to play nothing any more.
    """
    place = WishPlace(source, bank)

    def apply(plan: Plan) -> Plan:
        for wish in tuple(plan.wishes):
            if wish.plays and source in wish.sources and wish.bank == bank:
                plan = take_back(place, wish.plays, ()).change(plan)
        if not part:
            return plan
        device, _ = read_ref(part)
        names: dict[str, str] = {}
        for kit in lookup.device(plan, device).kits:
            names |= lookup.names_of(kit.sounds)
        ident = lookup.free_id(lookup.ids_of(plan.wishes), f"{sound}-{source}")
        wish = Wish(
            id=ident,
            name=names.get(sound, sound),
            sources=(source,),
            plays=part,
            bank=bank,
            sounds=(sound,),
        )
        return msgspec.structs.replace(plan, wishes=(*plan.wishes, wish))

    return Edit(say("Wish a sound"), apply)


def sound_played(plan: Plan, source: str, bank: int) -> tuple[str, str] | None:
    """The part and the sound of its kit that a pad is wished to play; None without such a wish."""
    for wish in plan.wishes:
        if wish.plays and source in wish.sources and wish.bank == bank and wish.sounds:
            return wish.plays, wish.sound(wish.sources.index(source))
    return None
