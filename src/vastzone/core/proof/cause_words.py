"""Causes told in a sentence, with what would mend them."""

from collections.abc import Callable

from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.proof import cause_words_controls, cause_words_keys, cause_words_travel
from vastzone.core.proof.doubles import separate, together
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.group import Group
from vastzone.core.proof.wiring import wiring_finding
from vastzone.core.proof.words import place_of, place_words
from vastzone.core.say import say


def _path(plan: Plan, group: Group) -> Remark:
    one, other = (lookup.device(plan, ident) for ident in group.about)
    return Remark(
        "no way there",
        (one.id, other.id),
        say("No cable leads from {one} to {other}: connect them.", one=one.name, other=other.name),
    )


def _shared(plan: Plan, group: Group) -> Remark:
    owner = lookup.device(plan, group.about[0])
    channel = int(group.about[1]) if group.about[1] else None
    hits = set()
    for _, mark in group.marks:
        for hit in (*mark.meant, *mark.extra):
            hits.add(hit.ref)
    counted = {}
    for device, part in lookup.parts(plan):
        if ref_to(device.id, part.id) in hits and part.channel in (None, channel):
            counted[ref_to(device.id, part.id)] = part
    if not counted:  # what shares the channel is no part
        return _unclear(plan, group)
    return Remark(
        "parts on one channel",
        (*counted, owner.id),
        say(
            "{together}: they sound together where only one is meant.",
            together=together(list(counted.values())),
        ),
        tuple(separate(plan, tuple(counted))),
    )


def _twice(plan: Plan, group: Group) -> Remark:
    device, ref = group.about
    owner = lookup.device(plan, device)
    there = lookup.device(plan, device_of(ref))
    beds = tuple(ref_to(device, bed.id) for bed in owner.keybeds)
    return Remark(
        "connected twice",
        (*beds, device, there.id),
        say(
            "What {owner} sends reaches {there} by two ways: it sounds twice.",
            owner=owner.name,
            there=there.name,
        ),
    )


def _wiring(plan: Plan, group: Group) -> Remark:
    return wiring_finding(lookup.device(plan, group.about[0]), int(group.about[1]))


def _unclear(plan: Plan, group: Group) -> Remark:
    mark = group.marks[0][1]
    words = place_words(plan, place_of(mark))
    return Remark(
        "falls short",
        (mark.source,),
        say(
            "{words} is {verdict}: strike it and read the strip, or work the numbers out.",
            words=words,
            verdict=mark.verdict,
        ),
    )


TELLERS: dict[str, Callable[[Plan, Group], Remark]] = {
    "path": _path,
    "shared": _shared,
    "twice": _twice,
    "unclear": _unclear,
    "wiring": _wiring,
}
TELLERS |= cause_words_keys.TELLERS | cause_words_controls.TELLERS
TELLERS["travel"] = cause_words_travel.travel


def remark_of(plan: Plan, group: Group) -> Remark:
    """The finding of a group, without its scenes and spans."""
    return TELLERS[group.kind](plan, group)
