"""Third step: transpositions, so that every key sounds at the pitch that was wished.

A zone's shift and its part's transposition must add up to the wish.  These equations tie zones
and parts together in groups with one freedom each; it is used to keep as many numbers as can be.
"""

from collections.abc import Iterable

from vastzone.core.plan import edits, lookup
from vastzone.core.plan.model import Plan
from vastzone.core.plan.refs import part_place, read_ref, setting_in, zone_place
from vastzone.core.plan.settings import record, scope_of
from vastzone.core.solve.shape import Binding, Obstacle, Shaped

Node = tuple[str, ...]


def choose_shifts(shaped: Shaped) -> Shaped:
    """Set the shifts of zones and parts."""
    plan, obstacles = shaped.plan, list(shaped.obstacles)
    edges: dict[Node, list[tuple[Node, int, Binding]]] = {}
    for binding in shaped.bindings:
        if binding.is_zone and binding.intent.plays:
            zone: Node = ("zone", binding.device, str(binding.program), binding.thing)
            part: Node = ("part", *read_ref(binding.intent.plays))
            edges.setdefault(zone, []).append((part, binding.intent.shift, binding))
            edges.setdefault(part, []).append((zone, binding.intent.shift, binding))
    left = dict.fromkeys(edges)
    while left:
        start = next(iter(left))
        offsets, bindings, clash = _walk(start, edges)
        for node in offsets:
            left.pop(node, None)
        values = None if clash else _settle(plan, offsets, bindings)
        if values is None:
            obstacles.append(_obstacle(plan, bindings))
        else:
            for node, value in values.items():
                if value != _current(plan, node)[0]:
                    plan = _set(plan, node, value)
    return shaped._replace(plan=plan, obstacles=tuple(obstacles))


def _walk(
    start: Node, edges: dict[Node, list[tuple[Node, int, Binding]]]
) -> tuple[dict[Node, tuple[int, int]], list[Binding], bool]:
    """Each node of a group as sign·x + offset of one unknown; whether they contradict."""
    found: dict[Node, tuple[int, int]] = {start: (1, 0)}
    queue, bindings, clash = [start], [], False
    while queue:
        node = queue.pop()
        sign, offset = found[node]
        for other, wish, binding in edges[node]:
            bindings.append(binding)
            there = (-sign, wish - offset)
            if other not in found:
                found[other] = there
                queue.append(other)
            clash = clash or found[other] != there
    return found, list(dict.fromkeys(bindings)), clash


def _current(plan: Plan, node: Node) -> tuple[int, bool]:
    """The shift that a node has, and whether it may change."""
    owner = lookup.device(plan, node[1])
    if node[0] == "part":
        part = lookup.part(owner, node[2])
        locked = (
            record(plan, setting_in(part_place(owner.id, part.id), "transpose")).hold == "locked"
        )
        return part.transpose, scope_of(owner, "part-shift") != "fixed" and not locked
    zone = lookup.zone(owner, int(node[2]), node[3])
    base = zone_place(owner.id, int(node[2]), zone.id)
    locks = [record(plan, setting_in(base, f)).hold == "locked" for f in ("transpose", "octave")]
    return zone.shift, scope_of(owner, "zone-shift") != "fixed" and not all(locks)


def _settle(
    plan: Plan, offsets: dict[Node, tuple[int, int]], bindings: list[Binding]
) -> dict[Node, int] | None:
    """The values that keep most numbers as they are; None where none can be played."""
    now = {node: _current(plan, node) for node in offsets}
    limits = _limits(plan, offsets, bindings)
    wanted = [sign * (now[node][0] - off) for node, (sign, off) in offsets.items()]
    best: tuple[int, int, int] | None = None
    for freedom in dict.fromkeys([*wanted, *_others(wanted)]):
        values = {node: sign * freedom + off for node, (sign, off) in offsets.items()}
        if any(not limits[n][0] <= value <= limits[n][1] for n, value in values.items()):
            continue
        moved = [n for n, value in values.items() if value != now[n][0]]
        if any(not now[n][1] for n in moved):
            continue
        cost = (len(moved), sum(abs(values[n]) for n in moved), freedom)
        best = min(best, cost) if best else cost
        if not moved:
            break
    if best is None:
        return None
    return {n: sign * best[2] + off for n, (sign, off) in offsets.items()}


def _others(wanted: list[int]) -> Iterable[int]:
    return range(min(wanted) - 60, max(wanted) + 61)


def _limits(
    plan: Plan, offsets: dict[Node, tuple[int, int]], bindings: list[Binding]
) -> dict[Node, tuple[int, int]]:
    """How far each zone may be shifted: its notes within 0–127 and what its receivers answer."""
    limits = dict.fromkeys(offsets, (-60, 60))
    reach: dict[str, tuple[int, int]] = {}
    for binding in bindings:
        node = ("zone", binding.device, str(binding.program), binding.thing)
        zone = lookup.zone(lookup.device(plan, node[1]), int(node[2]), node[3])
        ref = binding.intent.plays or ""
        low, high = reach.setdefault(ref, answers(plan, ref))
        least, most = limits[node]
        limits[node] = (max(least, low - zone.low), min(most, high - zone.high))
    return limits


def answers(plan: Plan, ref: str) -> tuple[int, int]:
    """The notes that a part can be made to answer: its device's limit, or its own fixed range."""
    from vastzone.core.plan.limits import Answers

    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    low, high = 0, 127
    for limit in owner.limits:
        if isinstance(limit, Answers):
            low, high = max(low, limit.low), min(high, limit.high)
    part = lookup.part(owner, ident)
    for field in ("low", "high"):
        fixed = scope_of(owner, "part-range") == "fixed"
        if fixed or record(plan, setting_in(part_place(device, ident), field)).hold == "locked":
            low, high = (part.low, high) if field == "low" else (low, part.high)
    return low, high


def _obstacle(plan: Plan, bindings: list[Binding]) -> Obstacle:
    names = " and ".join(dict.fromkeys(b.intent.name for b in bindings[:4]))
    locks = [
        s.ref
        for s in plan.settings
        if s.hold == "locked" and s.ref.rsplit("/", 1)[1] in ("transpose", "octave", "low", "high")
    ]
    return Obstacle(
        tuple(dict.fromkeys(b.intent.id for b in bindings)),
        tuple(locks),
        f"No transposition lets {names} sound at the pitch that was wished.",
    )


def _set(plan: Plan, node: Node, value: int) -> Plan:
    owner = lookup.device(plan, node[1])
    if node[0] == "part":
        return edits.set_part(owner.id, node[2], "Transpose", transpose=value).change(plan)
    zone = lookup.zone(owner, int(node[2]), node[3])
    away = value - zone.shift
    base = zone_place(owner.id, int(node[2]), zone.id)
    octave_free = record(plan, setting_in(base, "octave")).hold != "locked"
    octave = zone.octave + away // 12
    transpose_locked = record(plan, setting_in(base, "transpose")).hold == "locked"
    if away and octave_free and (away % 12 == 0 or transpose_locked) and -5 <= octave <= 5:
        changes = {"octave": octave}
    else:
        changes = {"transpose": zone.transpose + away}
    return edits.set_zone(owner.id, int(node[2]), zone.id, "Transpose", **changes).change(plan)
