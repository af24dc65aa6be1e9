"""A plan without one thing: a device, a cable, a pedal; and which wishes it keeps all the same.

What can be joined again without thinking is joined: a device that only handed on is bypassed, and
sound that went through it goes straight to the desk.
"""

from collections.abc import Iterable, Iterator
from typing import Literal, NamedTuple

import msgspec

from vastzone.core.cache import derived
from vastzone.core.engine.audio import arrivals, has_desk
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import audio, cables
from vastzone.core.plan.edits.devices import remove_device
from vastzone.core.plan.edits.pedals import remove_pedal
from vastzone.core.plan.model.audio import AudioCable
from vastzone.core.plan.model.plan import Cable, Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import sounds_of
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.proof.at_desk import at_desk
from vastzone.core.proof.marking import Proof, prove
from vastzone.core.say import say

LossKind = Literal["device", "cable", "audio cable", "pedal"]


class Loss(NamedTuple):
    """Something that may fail: what, by which name, and what the plan is without it."""

    kind: LossKind
    ident: str
    name: str


def losses(plan: Plan) -> tuple[Loss, ...]:
    """Everything that can fail on an evening: every device, cable and pedal."""
    found = [Loss("device", device.id, device.name) for device in plan.devices]
    for number, cable in enumerate(plan.cables):
        found.append(Loss("cable", str(number), cable_words(plan, cable)))
    for number, line in enumerate(plan.audio_cables):
        found.append(Loss("audio cable", str(number), cable_words(plan, line)))
    plugged = {plug.pedal for plug in plan.pedal_plugs}
    for pedal in plan.pedals:
        if pedal.id in plugged:
            found.append(Loss("pedal", pedal.id, pedal.name))
    return tuple(found)


def cable_words(plan: Plan, cable: Cable | AudioCable) -> str:
    """A cable by its ends."""
    names = [lookup.device(plan, device_of(ref)).name for ref in (cable.source, cable.dest)]
    sound = "audio cable" if isinstance(cable, AudioCable) else "cable"
    side = f", {say(cable.leg)}" if isinstance(cable, AudioCable) and cable.leg != "both" else ""
    return say(
        "{sound} {first} to {last}{side}",
        sound=say(sound),
        first=names[0],
        last=names[1],
        side=side,
    )


def taken_away(plan: Plan, loss: Loss) -> Plan:
    """The plan as it is when the thing has failed, nothing put right."""
    if loss.kind == "device":
        return _without_device(plan, loss.ident)
    if loss.kind == "pedal":
        return _without_pedal(plan, loss.ident)
    if loss.kind == "cable":
        return cables.remove_cable(plan.cables[int(loss.ident)]).change(plan)
    return audio.remove_audio_cable(plan.audio_cables[int(loss.ident)]).change(plan)


def _without_device(plan: Plan, ident: str) -> Plan:
    """A desk that has died still stands there: nothing arrives at it any more."""
    if lookup.device(plan, ident).kind != "desk":
        return remove_device(ident).change(plan)
    left = tuple(cable for cable in plan.audio_cables if device_of(cable.dest) != ident)
    return msgspec.structs.replace(plan, audio_cables=left)


def _without_pedal(plan: Plan, ident: str) -> Plan:
    """Without a pedal nobody can move the control that it moves: wishes from it go too."""
    moved = set()
    for plug in plan.pedal_plugs:
        if plug.pedal != ident:
            continue
        owner = lookup.device(plan, device_of(plug.jack))
        jack = lookup.find(owner.jacks, plug.jack.partition(":")[2])
        if jack is not None and jack.control is not None:
            moved.add(ref_to(owner.id, jack.control))
    plan = remove_pedal(ident).change(plan)
    wishes = []
    for wish in plan.wishes:
        left = tuple(source for source in wish.sources if source not in moved)
        if left == wish.sources:
            wishes.append(wish)
    return msgspec.structs.replace(plan, wishes=tuple(wishes))


def joined_again(plan: Plan, before: Plan, loss: Loss) -> Plan:
    """What failed bypassed, where it only handed on; sound patched straight to the desk."""
    if loss.kind == "device":
        gone = lookup.device(before, loss.ident)
        plan = _bypassed(plan, before, gone)
    return _patched(plan, before, loss.ident)


def _bypassed(plan: Plan, before: Plan, gone: Device) -> Plan:
    """Cables that led into the device led on to what it handed them to: the heaviest way first.

    An output and an input have room for one cable each.
    """
    ways = []
    for thru in gone.thrus:
        into, out = ref_to(gone.id, thru.source), ref_to(gone.id, thru.dest)
        for feeding in before.cables:
            for leading in before.cables:
                ends = _bypass(feeding, leading, into, out)
                if ends is not None:
                    ways.append(ends)
    ways.sort(key=lambda ends: -_weight(before, ends))
    for source, dest in ways:
        if not cables.refusal(plan, source, dest):
            plan = cables.connect(plan, source, dest).change(plan)
    return plan


def _bypass(feeding: Cable, leading: Cable, into: str, out: str) -> tuple[str, str] | None:
    """What a cable into and a cable out of a device come to without it."""
    source = {feeding.dest: feeding.source, feeding.source: feeding.dest}.get(into)
    dest = {leading.source: leading.dest, leading.dest: leading.source}.get(out)
    if source is None or dest is None or feeding == leading:
        return None
    return source, dest


def _weight(plan: Plan, ends: tuple[str, str]) -> int:
    """How much all that matters that begins at the one device and ends at the other."""
    weight = 0
    begins, ends_at = device_of(ends[0]), device_of(ends[1])
    for wish in plan.wishes:
        if device_of(wish.sources[0]) == begins:
            weight += wish.matters * (
                4 if device_of(wish.plays or wish.moves or "") == ends_at else 1
            )
    return weight


def _patched(plan: Plan, before: Plan, dead: str) -> Plan:
    """Outputs whose way to the desk is gone, patched to what is free."""
    if not has_desk(plan):
        return plan
    for device in plan.devices:
        if _nowhere(plan, device.id) <= _nowhere(before, device.id):
            continue
        for other in plan.devices:
            if other.kind not in ("interface", "desk") or other.id in (device.id, dead):
                continue
            try:
                tried = audio.patch(plan, device.id, other.id).change(plan)
            except EditError:
                continue
            if _nowhere(tried, device.id) < _nowhere(plan, device.id):
                plan = tried
                break
    return plan


def _nowhere(plan: Plan, ident: str) -> int:
    """How many outputs of a device that sounds are on lead to no desk."""
    device = lookup.device(plan, ident)
    outputs = {unit.output for unit in sounds_of(device)}
    return sum(not arrivals(plan, device, output) for output in outputs)


@derived(64)
def kept_in(plan: Plan) -> dict[str, frozenset[str]]:
    """The wishes that are as meant, by scene: of the plan as it stands, proved and heard.

    The only scene of a plan without scenes is «».
    """
    proof = prove(plan)
    unheard = unheard_parts(plan)
    kept = {}
    for scene in proof.scenes:
        kept[scene] = frozenset(_kept(plan, proof, scene, unheard))
    return kept


def _kept(plan: Plan, proof: Proof, scene: str, unheard: frozenset[str]) -> Iterator[str]:
    good: set[str] = set()
    bad: set[str] = set()
    for mark in proof.marks(scene):
        (good if mark.verdict == "as meant" else bad).update(mark.wishes)
    for wish in plan.wishes:
        here = not wish.scenes or not scene or scene in wish.scenes
        if here and wish.id in good - bad and wish.plays not in unheard:
            yield wish.id


def unheard_parts(plan: Plan) -> frozenset[str]:
    """Parts of which something arrives nowhere, where there is a desk."""
    parts = set()
    for one in at_desk(plan):
        if one.verdict == "nowhere":
            parts.add(one.unit.ref.partition("/")[0])
    return frozenset(parts)


def wishes_in(plan: Plan, scene: str) -> tuple[Wish, ...]:
    """The wishes that hold in a scene."""
    held = []
    for wish in plan.wishes:
        if not scene or not wish.scenes or scene in wish.scenes:
            held.append(wish)
    return tuple(held)


def weight_of(wishes: Iterable[Wish]) -> int:
    """How much some wishes matter together."""
    return sum(wish.matters for wish in wishes)
