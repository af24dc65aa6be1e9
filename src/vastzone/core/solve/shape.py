"""First step: zones, sends and programs that can carry the wishes; only their numbers are open.

Every wish of a keybed gets a zone in each program that its scenes are on, every wish of a control
a send; what no wish wants is switched off.  What is there already is used where it fits.
"""

from collections.abc import Iterable
from typing import NamedTuple

import msgspec

from vastzone.core.plan import edits, lookup
from vastzone.core.plan.limits import CountLimit
from vastzone.core.plan.model import Device, Plan, ProgramChoice, Scene
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Keybed, Program, Send, Zone
from vastzone.core.plan.values import Mode, Sending
from vastzone.core.plan.wish import Intent
from vastzone.core.proof.intended import wishes_by_scene
from vastzone.core.proof.modes import pair_remark


class Binding(NamedTuple):
    """A wish carried by a zone or send (``thing``) of a program."""

    intent: Intent
    source: str
    device: str
    program: int
    thing: str
    is_zone: bool


class Obstacle(NamedTuple):
    """Why wishes cannot be carried at all: their ids, the locks concerned, a sentence."""

    intents: tuple[str, ...]
    locks: tuple[str, ...]
    sentence: str


class Shaped(NamedTuple):
    """The plan with its zones and sends in place, and which of them carries which wish."""

    plan: Plan
    bindings: tuple[Binding, ...]
    obstacles: tuple[Obstacle, ...]


def shape(plan: Plan, exempt: frozenset[str] = frozenset()) -> Shaped:
    """Put zones, sends and programs in place for every wish.

    ``exempt`` are the sources and parts of wishes that are left out while causes are sought:
    what they do meanwhile does not matter.
    """
    bindings: list[Binding] = []
    obstacles: list[Obstacle] = []
    wanted = _Wanted(plan)
    for ident in [d.id for d in plan.devices if d.programs]:
        plan, blocked = _programs(plan, ident, exempt, wanted)
        obstacles += blocked
        plan, held, blocked = _fill(plan, ident, wanted)
        bindings += held
        obstacles += blocked
    return Shaped(plan, tuple(bindings), tuple(obstacles))


class _Wanted:
    """What each scene wants of a device."""

    def __init__(self, plan: Plan) -> None:
        names = tuple(s.id for s in plan.scenes) or ("",)
        self._found = wishes_by_scene(plan.intents, names)

    def of(self, device: str, scene: Scene | None) -> tuple[Intent, ...]:
        """The wishes that begin at a device and hold in a scene."""
        return self._found[scene.id if scene else ""].get(device, ())


def _programs(
    plan: Plan, ident: str, exempt: frozenset[str], wanted_of: _Wanted
) -> tuple[Plan, list[Obstacle]]:
    """Give scenes that want different things of a device programs of their own."""
    spared = any(device_of(ref) == ident for ref in exempt)
    owner = lookup.device(plan, ident)
    wanted: dict[int, tuple[Intent, ...]] = {}
    obstacles: list[Obstacle] = []
    for scene in plan.scenes:
        number = lookup.program_number(scene, owner)
        wishes = wanted_of.of(ident, scene)
        spare = number is None or (spared and not wishes)
        if spare or number is None or wanted.setdefault(number, wishes) == wishes:
            continue
        same = next((n for n, held in wanted.items() if held == wishes), None)
        free = same if same is not None else _free_program(owner)
        if free is None:
            mixed = {i.id for i in (*wishes, *wanted[number])}
            common = {i.id for i in wishes} & {i.id for i in wanted[number]}
            obstacles.append(
                Obstacle(
                    tuple(sorted(mixed - common)),
                    (),
                    f"{owner.name} has no free program for {scene.name}, which wants something "
                    f"else of it than the other scenes on program {number + owner.first_program}.",
                )
            )
            continue
        if same is None:
            plan, owner = _copy_program(plan, owner, number, free, scene)
        plan = _choose(plan, scene, owner, free)
        wanted[free] = wishes
    return plan, obstacles


def _free_program(owner: Device) -> int | None:
    most, taken = 128, set()
    for limit in owner.limits:
        if isinstance(limit, CountLimit) and limit.what == "memory-slots":
            most, taken = limit.most, set(limit.taken)
    used = {p.number for p in owner.programs} | taken
    return next((n for n in range(most) if n not in used), None)


def _copy_program(
    plan: Plan, owner: Device, number: int, free: int, scene: Scene
) -> tuple[Plan, Device]:
    copy = edits.changed(lookup.program(owner, number), number=free, name=scene.name)
    new = edits.changed(owner, programs=(*owner.programs, copy))
    return msgspec.structs.replace(plan, devices=edits.swapped(plan.devices, owner, new)), new


def _choose(plan: Plan, scene: Scene, owner: Device, number: int) -> Plan:
    scene = lookup.scene(plan, scene.id)
    kept = tuple(c for c in scene.programs if c.device != owner.id)
    new = edits.changed(scene, programs=(*kept, ProgramChoice(device=owner.id, program=number)))
    return msgspec.structs.replace(plan, scenes=edits.swapped(plan.scenes, scene, new))


def _fill(plan: Plan, ident: str, wanted_of: _Wanted) -> tuple[Plan, list[Binding], list[Obstacle]]:
    """Zones and sends for each program of a device that a scene is on."""
    owner = lookup.device(plan, ident)
    bindings: list[Binding] = []
    obstacles: list[Obstacle] = []
    programs = {p.number: p for p in owner.programs}
    done: set[int] = set()
    if not any(device_of(s) == ident for i in plan.intents for s in i.sources):
        return plan, bindings, obstacles
    for scene in plan.scenes or (None,):
        number = lookup.program_number(scene, owner)
        if number is None or number in done:
            continue
        done.add(number)
        wishes = wanted_of.of(ident, scene)
        program, held = _zones(owner, programs[number], wishes, obstacles)
        program, more = _sends(plan, owner, program, wishes)
        programs[number] = program
        bindings += held + more
    new = edits.changed(owner, programs=tuple(programs.values()))
    plan = msgspec.structs.replace(plan, devices=edits.swapped(plan.devices, owner, new))
    return plan, bindings, obstacles


def _zones(
    owner: Device, program: Program, wishes: tuple[Intent, ...], obstacles: list[Obstacle]
) -> tuple[Program, list[Binding]]:
    bindings: list[Binding] = []
    zones = list(program.zones)
    for bed in owner.keybeds:
        ref = ref_to(owner.id, bed.id)
        here = [i for i in wishes if i.plays and ref in i.sources]
        held = [z for z in zones if z.keybed == bed.id]
        most = _most_zones(owner)
        groups = _grouped(here, bed, most)
        if most is not None and len(groups) > most:
            obstacles.append(
                Obstacle(
                    tuple(sorted(i.id for i in here)),
                    (),
                    f"{bed.name} of {owner.name} needs {len(groups)} zones in {program.name} and "
                    f"has {most}.",
                )
            )
            continue
        new, bound = _match(owner, program, bed, held, groups)
        zones = [z for z in zones if z.keybed != bed.id] + new
        bindings += bound
    return edits.changed(program, zones=tuple(zones)), bindings


def _most_zones(owner: Device) -> int | None:
    for limit in owner.limits:
        if isinstance(limit, CountLimit) and limit.what == "zones":
            return limit.most
    return None


def _window(intent: Intent, bed: Keybed) -> tuple[int, int, int, int]:
    low, high = max(bed.low, intent.lowest), min(bed.high, intent.highest)
    return low, high, intent.vel_low, intent.vel_high


def _grouped(wishes: list[Intent], bed: Keybed, most: int | None) -> list[list[Intent]]:
    """One group a zone: a wish each, or where zones are short, wishes that can share one."""
    if most is None or len(wishes) <= most:
        return [[i] for i in wishes]
    same: dict[object, list[Intent]] = {}
    for intent in wishes:
        same.setdefault((_window(intent, bed), intent.shift), []).append(intent)
    groups = list(same.values())
    if len(groups) <= most:
        return groups
    like: dict[object, list[Intent]] = {}
    for group in groups:
        first = group[0]
        like.setdefault((first.shift, first.vel_low, first.vel_high), []).extend(group)
    return list(like.values())


def _hull(group: list[Intent], bed: Keybed) -> tuple[int, int, int, int]:
    windows = [_window(i, bed) for i in group]
    lows, highs, softs, louds = zip(*windows, strict=True)
    return min(lows), max(highs), min(softs), max(louds)


def _match(
    owner: Device, program: Program, bed: Keybed, held: list[Zone], groups: list[list[Intent]]
) -> tuple[list[Zone], list[Binding]]:
    """Give each group the zone that fits it best; what is left over is switched off."""
    taken: dict[str, Zone] = {}
    bindings: list[Binding] = []
    order = sorted(
        (
            (_likeness(zone, group, bed), -n, -k, zone, group)
            for n, group in enumerate(groups)
            for k, zone in enumerate(held)
        ),
        key=lambda row: row[:3],
        reverse=True,
    )
    chosen: dict[int, Zone] = {}
    for likeness, _, _, zone, group in order:
        if likeness > 0 and id(group) not in chosen and zone.id not in taken:
            chosen[id(group)] = taken[zone.id] = zone
    ids = [z.id for p in owner.programs for z in p.zones if p.number == program.number]
    made: list[Zone] = []
    for group in groups:
        zone = chosen.get(id(group)) or _new_zone(ids, bed, group)
        ids.append(zone.id)
        low, high, soft, loud = _hull(group, bed)
        layer = zone.layer or _overlaps(group, groups, bed)
        placed = edits.changed(
            zone, low=low, high=high, vel_low=soft, vel_high=loud, on=True, layer=layer
        )
        made.append(placed)
        bindings += [
            Binding(i, ref_to(owner.id, bed.id), owner.id, program.number, zone.id, True)
            for i in group
        ]
    kept = {z.id: z for z in made}
    rest = [edits.changed(z, on=False) for z in held if z.id not in kept]
    old = [kept.pop(z.id) if z.id in kept else next(r for r in rest if r.id == z.id) for z in held]
    return [*old, *kept.values()], bindings


def _likeness(zone: Zone, group: list[Intent], bed: Keybed) -> int:
    """How well a zone fits: keys in common, more where the ends agree."""
    low, high, soft, loud = _hull(group, bed)
    common = min(high, zone.high) - max(low, zone.low) + 1
    velocities = min(loud, zone.vel_high) - max(soft, zone.vel_low) + 1
    if common <= 0 or velocities <= 0:
        return 0
    named = 40 if any(i.name.lower() == zone.name.lower() for i in group) else 0
    ends = (
        200 * ((low, high) == (zone.low, zone.high))
        + 30 * (zone.low == low)
        + 30 * (zone.high == high)
    )
    return (
        common + ends + named + 10 * zone.on + 50 * ((soft, loud) == (zone.vel_low, zone.vel_high))
    )


def _new_zone(ids: Iterable[str], bed: Keybed, group: list[Intent]) -> Zone:
    name = group[0].name
    low, high, *_ = _hull(group, bed)
    return Zone(id=lookup.free_id(ids, name), name=name, keybed=bed.id, low=low, high=high)


def _overlaps(group: list[Intent], groups: list[list[Intent]], bed: Keybed) -> bool:
    low, high, soft, loud = _hull(group, bed)
    for other in groups:
        if other is not group:
            a, b, c, d = _hull(other, bed)
            if max(a, low) <= min(b, high) and max(c, soft) <= min(d, loud):
                return True
    return False


def _suited(plan: Plan, send: Send, intent: Intent) -> Send:
    """A send whose mode works with its receiver's, and whose ends are those of the wish."""
    device, thing = read_ref(intent.plays or intent.moves or "")
    party = lookup.device(plan, device)
    if intent.plays:
        receiver: str = lookup.part(party, thing).trigger
        mode: Mode = "momentary" if pair_remark(send.mode, receiver) else send.mode
        return edits.changed(send, mode=mode)
    target = lookup.by_id(party.targets, thing, "target")
    mode = "momentary" if pair_remark(send.mode, target.mode) else send.mode
    span = target.high - target.low
    ends = [
        send_end
        if wanted is None or not span
        else max(0, min(127, round((wanted - target.low) / span * 127)))
        for wanted, send_end in ((intent.from_value, send.low), (intent.to_value, send.high))
    ]
    return edits.changed(send, mode=mode, low=ends[0], high=ends[1])


def _sends(
    plan: Plan, owner: Device, program: Program, wishes: tuple[Intent, ...]
) -> tuple[Program, list[Binding]]:
    """A send for each wish of a control, in layers where one cannot carry them all."""
    sends = {(s.control, s.bank, s.layer): s for s in program.sends}
    bindings: list[Binding] = []
    for control in owner.controls:
        ref = ref_to(owner.id, control.id)
        mine = [i for i in wishes if ref in i.sources]
        for bank in dict.fromkeys(i.bank for i in mine):
            layers = _layers(plan, [i for i in mine if i.bank == bank], ref)
            for layer, group in enumerate(layers):
                key = (control.id, bank, layer)
                send = _carrying(plan, sends.get(key), key, group, len(layers) > 1)
                sends[key] = send
                bindings += [
                    Binding(i, ref, owner.id, program.number, send.thing, False) for i in group
                ]
    told = tuple(
        edits.changed(s, channel=1) if s.message == "note" and s.channel is None else s
        for s in sends.values()
    )
    return edits.changed(program, sends=told), bindings


def _carrying(
    plan: Plan, old: Send | None, key: tuple[str, int, int], group: list[Intent], several: bool
) -> Send:
    """What a control sends in one layer so that it can carry a group of wishes."""
    target = _target(plan, group[0])
    message: Sending = "note" if target is None else target.answers
    channel = 1 if group[0].plays else None
    control, bank, layer = key
    send = old or Send(control=control, bank=bank, layer=layer, message=message)
    send = edits.changed(
        send,
        message=message,
        channel=send.channel or channel,
        page=send.page if target is None else target.page,
    )
    soft, loud = group[0].vel_low, group[0].vel_high
    if group[0].plays and (several or (soft, loud) != (1, 127)):
        send = edits.changed(send, vel_low=soft, vel_high=loud)
    for intent in group:
        send = _suited(plan, send, intent)
    return send


def _target(plan: Plan, intent: Intent) -> Target | None:
    device, ident = read_ref(intent.moves or "")
    return lookup.by_id(lookup.device(plan, device).targets, ident, "target") if ident else None


def _layers(plan: Plan, wishes: list[Intent], ref: str) -> list[list[Intent]]:
    """Wishes of one control in one bank, those together that one message can carry."""
    groups: list[list[Intent]] = []
    for intent in wishes:
        fits = (g for g in groups if all(_shares(plan, intent, other, ref) for other in g))
        group = next(fits, None)
        if group is None:
            groups.append([intent])
        else:
            group.append(intent)
    return groups


def _shares(plan: Plan, one: Intent, other: Intent, ref: str) -> bool:
    """Whether one message can carry two wishes: one kind, one window, no two sounds of a part."""
    if bool(one.plays) is not bool(other.plays):
        return False
    target, beside = _target(plan, one), _target(plan, other)
    if target is not None and beside is not None:
        if "rpn" in target.answers:
            return (target.answers, target.wide) == (beside.answers, beside.wide)
        return target.answers == beside.answers
    if (one.vel_low, one.vel_high) != (other.vel_low, other.vel_high):
        return False
    return one.plays != other.plays or _sound_of(one, ref) == _sound_of(other, ref)


def _sound_of(intent: Intent, ref: str) -> str | int | None:
    if intent.sounds:
        return intent.sound(intent.sources.index(ref))
    return intent.note
