"""Edits of wishes: made, changed, and taken back for some keys, controls or scenes."""

from collections.abc import Iterator
from typing import Any, NamedTuple

import msgspec

from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Plan
from vastzone.core.plan.refs import read_ref
from vastzone.core.plan.wish import Intent


class Place(NamedTuple):
    """Where a wish begins: keys ``low``–``high`` of a keybed, or a control in ``bank`` (0–0)."""

    source: str
    bank: int = 1
    low: int = 0
    high: int = 0


def is_bed(plan: Plan, source: str) -> bool:
    """Whether a ``device:thing`` is a keybed."""
    device, thing = read_ref(source)
    return any(bed.id == thing for bed in lookup.device(plan, device).keybeds)


def held_at(plan: Plan, place: Place, end: str, scenes: tuple[str, ...]) -> tuple[Intent, ...]:
    """The wishes that tie a place to a part or target in any of some scenes (all when empty)."""
    bed = is_bed(plan, place.source)
    return tuple(
        i
        for i in plan.intents
        if place.source in i.sources
        and end in (i.plays, i.moves)
        and (_meets(i, place) if bed else i.bank == place.bank)
        and (not scenes or not i.scenes or set(scenes) & set(i.scenes))
    )


def _meets(intent: Intent, place: Place) -> bool:
    return intent.lowest <= place.high and place.low <= intent.highest


def make(plan: Plan, place: Place, end: str, scenes: tuple[str, ...]) -> Edit:
    """Wish that a place plays the part, or moves the target, ``end``.

    A wish for neighbouring keys that says the same is lengthened instead.
    """
    device, thing = read_ref(end)
    owner = lookup.device(plan, device)
    named = next((x.name for x in lookup.ends(owner) if x.id == thing), thing)
    grown = _neighbour(plan, place, end, scenes)
    if grown is not None:
        low, high = min(place.low, grown.lowest), max(place.high, grown.highest)
        return change(grown.id, f"Wish {named}", low=low, high=high)
    fields: dict[str, Any] = {"bank": place.bank}
    if is_bed(plan, place.source):
        fields = {"low": place.low, "high": place.high}
    elif any(t.id == thing for t in owner.targets):
        fields["moves"] = end
    else:
        fields |= _pitch(plan, end, scenes)
    intent = Intent(
        id=lookup.free_id((i.id for i in plan.intents), f"{thing}-{place.source}"),
        name=named,
        sources=(place.source,),
        scenes=scenes,
        **({"plays": end} | fields if "moves" not in fields else fields),
    )
    return Edit(
        f"Wish {named}",
        lambda plan: msgspec.structs.replace(plan, intents=(*plan.intents, intent)),
    )


def _neighbour(plan: Plan, place: Place, end: str, scenes: tuple[str, ...]) -> Intent | None:
    if not is_bed(plan, place.source):
        return None
    for intent in plan.intents:
        same = intent.plays == end and set(intent.scenes) == set(scenes)
        plain = (intent.vel_low, intent.vel_high, len(intent.sources)) == (1, 127, 1)
        touching = intent.lowest == place.high + 1 or intent.highest == place.low - 1
        if same and plain and touching and place.source in intent.sources:
            return intent
    return None


def _pitch(plan: Plan, end: str, scenes: tuple[str, ...]) -> dict[str, Any]:
    """The sound of a kit that no control plays yet, or the root of a part without a kit."""
    device, thing = read_ref(end)
    owner = lookup.device(plan, device)
    part = lookup.part(owner, thing)
    kit = lookup.find(owner.kits, part.kit)
    if kit is None or not kit.sounds:
        return {"note": max(part.low, min(part.high, part.root))}
    used = {s for i in plan.intents if i.plays == end for s in i.sounds}
    free = next((s.id for s in kit.sounds if s.id not in used), kit.sounds[0].id)
    return {"sounds": (free,)}


def change(ident: str, label: str, **changes: Any) -> Edit:
    """Change fields of a wish."""

    return edits.set_item("intents", ident, "wish", label, **changes)


def remove(ident: str) -> Edit:
    """Take a wish back altogether."""
    return Edit(
        "Take wish back",
        lambda plan: msgspec.structs.replace(
            plan, intents=tuple(i for i in plan.intents if i.id != ident)
        ),
    )


def take_back(place: Place, end: str, scenes: tuple[str, ...]) -> Edit:
    """Take back what ties a place to a part or target in some scenes (all of them when empty).

    What the same wishes say of other keys, controls and scenes stays.
    """

    def apply(plan: Plan) -> Plan:
        held = held_at(plan, place, end, scenes)
        taken = {i.id for i in plan.intents} - {i.id for i in held}
        kept: list[Intent] = []
        for intent in plan.intents:
            if intent not in held:
                kept.append(intent)
                continue
            for piece in _rest(plan, intent, place, scenes):
                ident = lookup.free_id(taken, intent.id)
                taken.add(ident)
                kept.append(msgspec.structs.replace(piece, id=ident))
        return msgspec.structs.replace(plan, intents=tuple(kept))

    return Edit("Take wish back", apply)


def _rest(plan: Plan, intent: Intent, place: Place, scenes: tuple[str, ...]) -> Iterator[Intent]:
    """What is left of a wish: other scenes, other sources, keys below and above."""
    everywhere = tuple(s.id for s in plan.scenes)
    mine = intent.scenes or everywhere
    gone = scenes or mine
    elsewhere = tuple(s for s in mine if s not in gone)
    if elsewhere:
        yield msgspec.structs.replace(intent, scenes=elsewhere)
    here = intent.scenes if not elsewhere else tuple(s for s in mine if s in gone)
    others = [n for n, s in enumerate(intent.sources) if s != place.source]
    if others:
        yield msgspec.structs.replace(
            intent,
            scenes=here,
            sources=tuple(intent.sources[n] for n in others),
            sounds=tuple(intent.sounds[n] for n in others if n < len(intent.sounds)),
        )
    if is_bed(plan, place.source):
        alone = msgspec.structs.replace(intent, scenes=here, sources=(place.source,))
        if intent.lowest < place.low:
            yield msgspec.structs.replace(alone, high=place.low - 1)
        if intent.highest > place.high:
            yield msgspec.structs.replace(alone, low=place.high + 1)
