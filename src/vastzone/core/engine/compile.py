"""From a plan and a scene to tables in which one strike is a single look-up.

Every piece is kept by the identity of the values it came from: an edit of one zone compiles that
zone's keybed again and nothing else.
"""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from vastzone.core.engine.listen import HEARD_BY_PARTS, Listener
from vastzone.core.engine.network import Network, Step, Tree
from vastzone.core.engine.tables import (
    Controls,
    Course,
    Emission,
    Hearing,
    Keys,
    Landing,
    Line,
    Motion,
    Sending,
)
from vastzone.core.engine.wired import Reports, reports
from vastzone.core.engine.world import Sources, World, outsides, programs_at, world_of
from vastzone.core.midi.wide import BYTES, sent_numbers
from vastzone.core.plan.cache import alike, derived
from vastzone.core.plan.drums import Strokes, strokes_as
from vastzone.core.plan.model import Device, Plan, Port, Scene
from vastzone.core.plan.sound import Part
from vastzone.core.plan.touch import Keybed, Program, Send, Zone
from vastzone.core.response.velocity import sent_velocities, strikes_for
from vastzone.core.timing.hops import din_ms, link_ms

LOCAL = -1
NOTHING: Controls = {}
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
    heard = tuple([_heard_on(world, zone.channel) for zone in zones])
    return _bed_in(
        owner.id, owner.ports, owner.local, bed, zones, world.network, heard, world
    )  # fmt: skip


@derived(4096)
def _heard_on(world: World, channel: int) -> tuple[object, ...]:
    """Everything that can hear channel 1–16; the same value while none of that changed."""
    here = (h for h in world.ears.values() if h.by_channel[channel - 1])
    return alike(tuple(item for h in here for item in (h.delay_ms, h.by_channel[channel - 1])))


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
    awake, course, rows = _awake(here, window), course_of(tree), []
    for key in range(zone.low, zone.high + 1):
        note = key + shift
        if 0 <= note <= 127:
            held, simple = _landed(awake, note)
            rows.append(
                (key, Emission(zone.id, *window, channel, note, tree, course, held, simple))
            )
    return tuple(rows)


Awake = list[tuple[Listener, tuple[int, int, int, float, bool], bool]]
"""Listeners that can sound: velocities, step, delay and whether plain; whether that is simple."""


def _awake(
    here: Iterable[tuple[Listener, int, float]], window: tuple[int, int], sent: bytes = b""
) -> Awake:
    """Who can sound within a window of strikes that send these velocities."""
    found: Awake = []
    for listener, step, delay_ms in here:
        part = listener.part
        low, high = strikes_for(sent, window, (part.vel_low, part.vel_high))
        if low <= high:
            plain = _plain(part)
            simple = plain and (low, high) == window
            found.append((listener, (low, high, step, delay_ms, plain), simple))
    return found


def _landed(awake: Awake, note: int) -> tuple[tuple[Landing, ...], bool]:
    """What a note sounds, and whether all of it is simple."""
    held, simple = [], True
    for listener, rest, is_simple in awake:
        sounding = listener.sounds(note)
        if sounding is not None:
            held.append(Landing(listener.ref, listener.part, sounding, *rest))
            simple = simple and is_simple
    return tuple(held), simple


def joined_tree(source: Sources, chosen: tuple[str, ...], net: Network) -> Tree:
    """The trees of the outputs that a sender uses (all of its device's when none is chosen)."""
    outs = tuple(p.id for p in source.ports if p.flow != "in" and (not chosen or p.id in chosen))
    return _joined(source.id, outs, net)


@derived(512)
def _joined(owner: str, outs: tuple[str, ...], net: Network) -> Tree:
    steps: list[Step] = []
    rings: list[tuple[str, ...]] = []
    for out in outs:
        tree, offset = net.trees[f"{owner}:{out}"], len(steps)
        steps.extend(
            step._replace(parent=step.parent + offset if step.parent >= 0 else -1)
            for step in tree.steps
        )
        rings.extend(tree.rings)
    return Tree(tuple(steps), tuple(rings))


@derived(1024)
def course_of(tree: Tree, size: int = 3) -> Course:
    """The steps of a tree with the milliseconds of a message of ``size`` bytes on each."""
    lines = tuple(
        Line(
            step.arc.line if step.arc.link == "din" else -1,
            step.parent,
            step.before_ms,
            link_ms(step.arc.link, size),
            din_ms(size, running_status=step.arc.running_status),
        )
        for step in tree.steps
    )
    times: list[float] = []
    busy: dict[int, float] = {}
    for line, parent, before_ms, ms, _ in lines:
        start = max((times[parent] if parent >= 0 else 0.0) + before_ms, busy.get(line, 0.0))
        times.append(start + ms)
        if line >= 0:
            busy[line] = start + ms
    calm = not any(step.arc.running_status for step in tree.steps)
    return Course(lines, tuple(times), tuple(busy.items()), max(busy.values(), default=0.0), calm)


def _emission(
    origin: str, window: tuple[int, int], channel: int, note: int, tree: Tree,
    awake: Awake, sent: bytes = b"",
) -> Emission:  # fmt: skip
    held, simple = _landed(awake, note)
    return Emission(origin, *window, channel, note, tree, course_of(tree), held, simple, sent)


def arrivals(source: Sources, tree: Tree) -> Iterator[tuple[int, str, str]]:
    """Where a message is heard: step, device and port; the device's own keys as step −1."""
    if source.local:
        yield LOCAL, source.id, ""
    for index, step in enumerate(tree.steps):
        device, _, port = step.arc.dest.partition(":")
        yield index, device, port


def _hearers(
    source: Sources, tree: Tree, channel: int, window: tuple[int, int], world: World,
    sent: bytes = b"",
) -> Awake:  # fmt: skip
    here = [
        (listener, step, world.of(device).delay_ms)
        for step, device, port in arrivals(source, tree)
        for listener in world.of(device).on(channel, port)
    ]
    return _awake(here, window, sent)


def _plain(part: Part) -> bool:
    return part.trigger == "gate" and not part.mono and part.mute_group is None


@derived(4096)
def control_table(
    owner: Device, program: Program, world: World, strokes: Strokes = ()
) -> Controls:  # fmt: skip
    """What each control of a device does in a program, some strokes taken for others."""
    if not program.sends:
        return NOTHING
    table = _own_table(owner, program, world)
    changed = reports(owner)
    if changed:
        table = {
            (ref, bank): tuple(
                s for other, _ in changed[ref, 0] for s in table.get((other, bank), ())
            ) if (ref, 0) in changed else held
            for (ref, bank), held in table.items()
        }  # fmt: skip
    if not strokes:
        return table
    return {
        (ref, bank): table.get((f"{owner.id}:{as_}", bank), ()) if as_ is not None else held
        for (ref, bank), held in table.items()
        for as_ in (dict(strokes).get(ref.partition(":")[2]),)
    }


@derived(4096)
def _own_table(owner: Device, program: Program, world: World) -> Controls:
    channels = tuple(sorted({z.channel for z in program.zones if z.on}))
    used = _used_channels(program.sends, channels)
    return _sends_table(
        owner.id, owner.ports, owner.local, program.sends, channels, world.network,
        _hearing(world, used), world,
    )  # fmt: skip


@derived(8192)
def _hearing(world: World, channels: tuple[int, ...]) -> tuple[object, ...]:
    """Everything that can hear these channels: what decides a table of sends."""
    movers = alike(tuple(held.movers for held in world.ears.values() if held.movers))
    return movers, *(_heard_on(world, c) for c in channels)


@derived(2048)
def _used_channels(sends: tuple[Send, ...], zones: tuple[int, ...]) -> tuple[int, ...]:
    own = {s.channel for s in sends if s.channel is not None}
    return tuple(sorted(own | set(zones)))


@derived(2048, hidden=1)
def _sends_table(
    owner: str, ports: tuple[Port, ...], local: bool, sends: tuple[Send, ...],
    channels: tuple[int, ...], net: Network, heard: tuple[object, ...], world: World,
) -> Controls:  # fmt: skip
    source = Sources(owner, ports, local)
    table: dict[tuple[str, int], list[Sending]] = {}
    for send in sends:
        used = channels if send.channel is None else (send.channel,)
        sending = _sending(source, send, used, world)
        table.setdefault((f"{owner}:{send.control}", send.bank), []).append(sending)
    return {key: tuple(held) for key, held in table.items()}


def _sending(source: Sources, send: Send, channels: Iterable[int], world: World) -> Sending:
    tree = joined_tree(source, send.ports, world.network)
    if send.message == "none":
        return Sending(send, (), ())
    if send.message == "note":
        window, sent = (send.vel_low, send.vel_high), sent_velocities(send)
        notes = tuple(
            _emission(send.control, window, c - 1, send.number, tree,
                      _hearers(source, tree, c - 1, window, world, sent), sent)
            for c in channels
        )  # fmt: skip
        return Sending(send, notes, ())
    course = course_of(tree, BYTES[send.message])
    motions = tuple(
        Motion(send.message, c - 1, send.wide, tree, course,
               tuple(hearings(source, tree, send.message, c - 1, send.wide, world)))
        for c in channels
    )  # fmt: skip
    return Sending(send, (), motions)


def hearings(
    source: Sources, tree: Tree, message: str, channel: int, number: int, world: World
) -> Iterator[Hearing]:
    """Who hears a movement or a program change on channel 0–15."""
    sent = sent_numbers(message, number)
    for step, device, port in arrivals(source, tree):
        heard = world.of(device)
        for mover, reads in heard.moved(message, channel, number, port) if sent else ():
            yield Hearing(mover.ref, step, False, reads, mover.target)
        if sent and not any(n in HEARD_BY_PARTS for n, _ in sent):
            continue
        for listener in heard.on(channel, port):
            yield Hearing(listener.ref, step, True)


def emission_at(compiled: Compiled, ref: str, channel: int, note: int) -> Emission:
    """What a raw note on channel 0–15 does that leaves the output ``device:port``."""
    return _raw(compiled.world, ref, channel, note)


@derived(8192)
def _raw(world: World, ref: str, channel: int, note: int) -> Emission:
    tree = world.network.trees[ref]
    source = Sources(ref.partition(":")[0], (), False)
    awake = _hearers(source, tree, channel, (1, 127), world)
    return _emission(ref, (1, 127), channel, note, tree, awake)


def motion_at(compiled: Compiled, ref: str, message: str, channel: int, number: int) -> Motion:
    """What a raw controller, bend or pressure on channel 0–15 does that leaves an output."""
    return _raw_motion(compiled.world, ref, message, channel, number)


@derived(2048)
def _raw_motion(world: World, ref: str, message: str, channel: int, number: int) -> Motion:
    tree = world.network.trees[ref]
    source = Sources(ref.partition(":")[0], (), False)
    heard = tuple(hearings(source, tree, message, channel, number, world))
    return Motion(message, channel, number, tree, course_of(tree), heard)
