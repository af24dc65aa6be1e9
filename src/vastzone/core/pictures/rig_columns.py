"""Where devices stand, from hands on the left to sound on the right.

Layers follow the cables (longest path, rings broken where they close); within a layer devices are
ordered by the average place of their neighbours, swept to and fro (Sugiyama, Tagawa, Toda, 1981).
"""

from collections.abc import Iterable
from itertools import chain, pairwise

from vastzone.core.cache import derived
from vastzone.core.plan.model.audio import AudioCable
from vastzone.core.plan.model.plan import Cable, Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.refs import device_of, ref_to

SWEEPS = 6


def columns(plan: Plan) -> tuple[tuple[str, ...], ...]:
    """The ids of the devices in columns from left to right, each from top to bottom.

    Between them stand lanes, named by ``lane``: places kept free for cables that cross a column.
    """
    return _columns(plan.devices, plan.cables, plan.audio_cables)


@derived(16)
def _columns(
    devices: tuple[Device, ...], cables: tuple[Cable, ...], audio: tuple[AudioCable, ...]
) -> tuple[tuple[str, ...], ...]:
    ways = _ways(devices, cables)
    depth = _depths(devices, _acyclic(devices, ways))
    rank = _ranks(devices, ways, depth)
    ways += [way for way in sound_ways(audio) if way not in ways]
    layers: list[list[str]] = []
    for _ in range(max(rank.values(), default=-1) + 1):
        layers.append([])
    near: dict[str, set[str]] = {}
    for device in devices:
        layers[rank[device.id]].append(device.id)
        near[device.id] = set()
    for source, dest in ways:
        if rank[source] == rank[dest] and _takes_sound(devices, source, dest):
            depth[dest] = max(depth[dest], depth[source] + 1)
        # A cable over several columns gets a lane in each, so that it bends around what stands
        # there.
        path = [source, *_lanes(source, dest, rank, layers), dest]
        for a, b in pairwise(path):
            near.setdefault(a, set()).add(b)
            near.setdefault(b, set()).add(a)
    # To and fro: each column settles by neighbours that have settled a moment before.
    for sweep in range(SWEEPS):
        forwards = range(len(layers))
        for column in forwards if sweep % 2 else reversed(forwards):
            _settle(layers, column, near, depth)
    return tuple(tuple(column) for column in layers if column)


def sound_ways(cables: Iterable[AudioCable]) -> list[tuple[str, str]]:
    """The devices that audio cables join, each pair once, as sound goes."""
    ways = [(device_of(cable.source), device_of(cable.dest)) for cable in cables]
    return list(dict.fromkeys(ways))


def _takes_sound(devices: tuple[Device, ...], source: str, dest: str) -> bool:
    """Whether two devices both only take sound: an interface and the desk behind it."""
    by_id = lookup.by_ids(devices)
    return all(_only_takes(by_id[ident]) for ident in (source, dest))


def _only_takes(device: Device) -> bool:
    """Whether a device only takes sound, and stands at the end of it."""
    return bool(device.audio_inputs) and not device.parts and device_ability(device).only_joins


def lane(one: str, other: str, column: int) -> str:
    """The name of the place that a cable between two devices keeps free in a column between."""
    return f"{min(one, other)}>{max(one, other)}@{column}"


def _lanes(source: str, dest: str, rank: dict[str, int], held: list[list[str]]) -> list[str]:
    """Places for a cable in the columns that it crosses, put into these columns."""
    here, there = rank[source], rank[dest]
    step = 1 if there > here else -1
    names = []
    for column in range(here + step, there, step):
        name = lane(source, dest, column)
        if name not in held[column]:
            held[column].append(name)
        names.append(name)
    return names


def _ways(devices: tuple[Device, ...], cables: tuple[Cable, ...]) -> list[tuple[str, str]]:
    """The cables between devices as they run; those that carry both ways from hands to sound."""
    kinds = lookup.by_ids(devices)
    flows = {}
    for device in devices:
        for port in device.ports:
            flows[ref_to(device.id, port.id)] = port.flow
    ways = []
    for cable in cables:
        a, b = (device_of(ref) for ref in (cable.source, cable.dest))
        both = flows[cable.source] == flows[cable.dest] == "both"
        ways.append((b, a) if both and _handy(kinds[b]) > _handy(kinds[a]) else (a, b))
    return list(dict.fromkeys(ways))


def _handy(device: Device) -> int:
    """2 for what hands play, 1 for what passes on, 0 for what sounds or is moved."""
    played = bool(device.keybeds or device.controls)
    if played and not device.parts:
        return 2
    return 1 if played or device_ability(device).only_joins else 0


def _depths(devices: tuple[Device, ...], ways: list[tuple[str, str]]) -> dict[str, int]:
    """How many cables lie before each device on the longest way."""
    depth = {}
    for device in devices:
        depth[device.id] = 0
    for _ in devices:
        moved = False
        for source, dest in ways:
            if depth[dest] <= depth[source]:
                depth[dest], moved = depth[source] + 1, True
        if not moved:
            break
    return depth


def _ranks(
    devices: tuple[Device, ...], ways: list[tuple[str, str]], depth: dict[str, int]
) -> dict[str, int]:
    """The column of each device: hands first, all that only sounds together in the last."""
    joined = set(chain.from_iterable(ways))
    rank = {}
    for device in devices:
        alone = device.id not in joined and _handy(device) < 2
        if alone and _only_takes(device):
            continue
        rank[device.id] = 1 if alone else depth[device.id]
    ranked = [device for device in devices if device.id in rank]
    middle = max((rank[device.id] for device in ranked if _handy(device)), default=-1)
    for device in ranked:
        if _handy(device) == 0:
            rank[device.id] = middle + 1
    last = max(rank.values(), default=-1) + 1
    for device in devices:
        rank.setdefault(device.id, last)
    used = sorted(set(rank.values()))
    return {ident: used.index(number) for ident, number in rank.items()}


def _acyclic(devices: tuple[Device, ...], ways: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """The ways without those that close a ring, found depth first from the hands."""
    out: dict[str, list[str]] = {}
    for device in devices:
        out[device.id] = []
    for source, dest in ways:
        out[source].append(dest)
    kept: list[tuple[str, str]] = []
    done: set[str] = set()
    for start in sorted(devices, key=lambda d: -_handy(d)):
        _follow(start.id, out, done, set(), kept)
    return kept


def _follow(
    at: str,
    out: dict[str, list[str]],
    done: set[str],
    path: set[str],
    kept: list[tuple[str, str]],
) -> None:
    if at in done:
        return
    done.add(at)
    for dest in out[at]:
        if dest not in path | {at}:
            kept.append((at, dest))
            _follow(dest, out, done, path | {at}, kept)


def _settle(
    held: list[list[str]], n: int, near: dict[str, set[str]], depth: dict[str, int]
) -> None:
    """Order one column by where the neighbours of its devices stand in their own columns."""
    places = {
        ident: index / (len(column) - 1) if len(column) > 1 else 0.5
        for column in held
        for index, ident in enumerate(column)
    }
    column = set(held[n])

    # Devices that are chained within one column stand in the order of the chain.
    def wish(ident: str) -> tuple[int, float]:
        others = []
        for neighbour in near[ident]:
            if neighbour not in column:
                others.append(places[neighbour])
        chained = any(
            neighbour in column and depth.get(neighbour) != depth.get(ident)
            for neighbour in near[ident]
        )
        place = sum(others) / len(others) if others else places[ident]
        return (depth[ident] if chained else 0), place

    held[n].sort(key=wish)
