"""From a plan and a scene to tables in which one strike is a single look-up.

Every piece is kept by the identity of the values it came from: an edit of one zone compiles that
zone's keybed again and nothing else.
"""

from typing import NamedTuple

from vastzone.core.engine.controls import control_table
from vastzone.core.engine.listen import Listener
from vastzone.core.engine.network import Network, Tree
from vastzone.core.engine.reach import (
    arrivals,
    awake_among,
    course_of,
    emission_of,
    heard_on,
    hearers,
    hearings,
    joined_tree,
    landed,
)
from vastzone.core.engine.tables import (
    Controls,
    Emission,
    Keys,
    Motion,
)
from vastzone.core.engine.wired import Reports, reports
from vastzone.core.engine.world import Sources, World, outsides, programs_at, world_of
from vastzone.core.plan.cache import derived
from vastzone.core.plan.drums import strokes_as
from vastzone.core.plan.model import Device, Plan, Port, Scene
from vastzone.core.plan.touch import Keybed, Program, Zone

Rows = tuple[tuple[int, Emission], ...]


class Compiled(NamedTuple):
    """A plan in one scene, ready to be struck."""

    plan: Plan
    scene: Scene | None
    keys: Keys
    controls: Controls
    world: World


@derived(160)
def compile_scene(plan: Plan, scene: Scene | None) -> Compiled:
    """Compile a scene; what did not change since an earlier compilation is reused."""
    keys, controls = _tables(outsides(plan), programs_at(plan, scene), plan, scene)
    return Compiled(plan, scene, keys, controls, world_of(plan, scene))


@derived(512, hidden=2)
def _tables(
    surroundings: tuple[object, ...], programs: tuple[Program | None, ...], plan: Plan,
    scene: Scene | None,
) -> tuple[Keys, Controls]:  # fmt: skip
    """The tables of a scene, the same while its surroundings and programs are."""
    world = world_of(plan, scene)
    keys: Keys = {}
    controls: Controls = {}
    for owner, program in zip(plan.devices, programs, strict=True):
        if program is None:
            continue
        for table in keys_of(owner, program, world):
            keys.update(table)
        controls.update(control_table(owner, program, world, strokes_as(plan, owner)))
    return keys, controls


def keys_of(owner: Device, program: Program, world: World) -> tuple[Keys, ...]:
    """The table of each keybed of a device, in order, as its wiring lets it be."""
    tables = tuple(
        bed_table(owner, bed, zones_on(program, bed), world) for bed in owner.keybeds
    )  # fmt: skip
    changed = reports(owner)
    return _rewired(tables, changed) if changed else tables


@derived(8192)
def zones_on(program: Program, bed: Keybed) -> tuple[Zone, ...]:
    """The zones of a keybed that are on."""
    return tuple(z for z in program.zones if z.keybed == bed.id and z.on)


@derived(1024)
def _rewired(tables: tuple[Keys, ...], changed: Reports) -> tuple[Keys, ...]:
    """Tables of keys that are dead or taken for others."""
    every = {key: held for table in tables for key, held in table.items()}
    return tuple(
        {
            key: tuple(e for k in changed[key] for e in every.get(k, ()))
            if key in changed else held
            for key, held in table.items()
        }
        for table in tables
    )  # fmt: skip


def bed_table(owner: Device, bed: Keybed, zones: tuple[Zone, ...], world: World) -> Keys:
    """What each key of a keybed does; kept while its zones and what hears them stay as they are."""
    heard = tuple([heard_on(world, zone.channel) for zone in zones])
    return _bed_in(
        owner.id, owner.ports, owner.local, bed, zones, world.network, heard, world
    )  # fmt: skip


@derived(16384, hidden=1)
def _bed_in(
    owner: str, ports: tuple[Port, ...], local: bool, bed: Keybed, zones: tuple[Zone, ...],
    net: Network, heard: tuple[object, ...], world: World,
) -> Keys:  # fmt: skip
    source = Sources(owner, ports, local)
    rows = tuple(_zone_rows(source, zone, world) for zone in zones)
    return _bed_table(f"{owner}:{bed.id}", rows)


@derived(8192)
def _bed_table(ref: str, rows: tuple[Rows, ...]) -> Keys:
    table: dict[tuple[str, int], tuple[Emission, ...]] = {}
    for row in rows:
        for key, emission in row:
            ident = (ref, key)
            table[ident] = (*table.get(ident, ()), emission)
    return table


def _zone_rows(source: Sources, zone: Zone, world: World) -> Rows:
    tree = joined_tree(source, zone.ports, world.network)
    return _zone_table(zone, tree, *_heard(source, tree, zone.channel - 1, world))


def _heard(
    source: Sources, tree: Tree, channel: int, world: World
) -> tuple[tuple[int | str, ...], tuple[tuple[Listener, ...], ...], tuple[float, ...]]:
    """Steps with their ports, who listens on the channel after each, and how long that takes."""
    places: list[int | str] = []
    listeners: list[tuple[Listener, ...]] = []
    delays: list[float] = []
    for step, device, port in arrivals(source, tree):
        heard = world.of(device)
        if heard.by_channel[channel]:
            places += (step, port)
            listeners.append(heard.by_channel[channel])
            delays.append(heard.delay_ms)
    return tuple(places), tuple(listeners), tuple(delays)


@derived(16384)
def _zone_table(
    zone: Zone, tree: Tree, places: tuple[int | str, ...],
    listeners: tuple[tuple[Listener, ...], ...], delays: tuple[float, ...],
) -> Rows:  # fmt: skip
    window = (zone.vel_low, zone.vel_high)
    channel, shift = zone.channel - 1, zone.shift
    here = [
        (listener, int(places[2 * n]), delays[n])
        for n, held in enumerate(listeners)
        for listener in held
        if listener.hears(str(places[2 * n + 1]))
    ]
    awake, course, rows = awake_among(here, window), course_of(tree), []
    for key in range(zone.low, zone.high + 1):
        note = key + shift
        if 0 <= note <= 127:
            held, simple = landed(awake, note)
            rows.append(
                (key, Emission(zone.id, *window, channel, note, tree, course, held, simple))
            )
    return tuple(rows)


def emission_at(compiled: Compiled, ref: str, channel: int, note: int) -> Emission:
    """What a raw note on channel 0–15 does that leaves the output ``device:port``."""
    return _raw(compiled.world, ref, channel, note)


@derived(8192)
def _raw(world: World, ref: str, channel: int, note: int) -> Emission:
    tree = world.network.trees[ref]
    source = Sources(ref.partition(":")[0], (), False)
    awake = hearers(source, tree, channel, (1, 127), world)
    return emission_of(ref, (1, 127), channel, note, tree, awake)


def motion_at(compiled: Compiled, ref: str, message: str, channel: int, number: int) -> Motion:
    """What a raw controller, bend or pressure on channel 0–15 does that leaves an output."""
    return _raw_motion(compiled.world, ref, message, channel, number)


@derived(2048)
def _raw_motion(world: World, ref: str, message: str, channel: int, number: int) -> Motion:
    tree = world.network.trees[ref]
    source = Sources(ref.partition(":")[0], (), False)
    heard = tuple(hearings(source, tree, message, channel, number, world))
    return Motion(message, channel, number, tree, course_of(tree), heard)
