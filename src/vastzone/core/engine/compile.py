"""From a plan and a scene to tables in which one strike is a single look-up.

Every piece is kept by the identity of the values it came from: an edit of one zone compiles that
zone's keybed again and nothing else.
"""

from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import Any

from vastzone.core.engine.controls import control_table
from vastzone.core.engine.listen import Audience
from vastzone.core.engine.network import Network, Tree
from vastzone.core.engine.reach import (
    arrivals,
    awake_among,
    course_of,
    emission_of,
    hearers,
    hearings,
    joined_tree,
)
from vastzone.core.engine.shell import Shell
from vastzone.core.engine.tables import (
    Controls,
    Emission,
    KeyId,
    Keys,
    Landing,
    Motion,
    Run,
    Sending,
)
from vastzone.core.engine.wired import Reports
from vastzone.core.engine.world import (
    Outsides,
    Sources,
    World,
    outsides,
    programs_at,
    world_of,
    world_on,
)
from vastzone.core.midi.wide import PIECES
from vastzone.core.plan.cache import alike, derived
from vastzone.core.plan.model import Device, Plan, Port, Scene
from vastzone.core.plan.refs import device_of, ref_to
from vastzone.core.plan.touch import Keybed, Program, Zone

Runs = tuple[Run, ...]
Hearers = tuple[Any, ...]
"""Listener, step and delay in milliseconds, one after the other: so that equal ones are alike."""


class Compiled:
    """A plan in one scene, ready to be struck; keys are laid out singly when first asked for."""

    __slots__ = ("_keys", "controls", "plan", "scene", "world")

    def __init__(self, plan: Plan, scene: Scene | None, controls: Controls, world: World) -> None:
        self.plan, self.scene, self.controls, self.world = plan, scene, controls, world
        self._keys: Keys | None = None

    @property
    def keys(self) -> Keys:
        """What every key does."""
        if self._keys is None:
            self._keys = _keys(outsides(self.plan), programs_at(self.plan, self.scene))
        return self._keys


@derived(160)
def compile_scene(plan: Plan, scene: Scene | None) -> Compiled:
    """Compile a scene; what did not change since an earlier compilation is reused."""
    controls = _controls(outsides(plan), programs_at(plan, scene))
    return Compiled(plan, scene, controls, world_of(plan, scene))


def playing(plan: Plan, scene: Scene | None) -> Iterator[tuple[Device, Program]]:
    """The devices that are on a program in a scene, with it."""
    for owner, program in zip(plan.devices, programs_at(plan, scene), strict=True):
        if program is not None:
            yield owner, program


@derived(512)
def _keys(outside: Outsides, programs: tuple[Program | None, ...]) -> Keys:
    """The keys of a scene, the same while its outsides and programs are."""
    world = world_on(outside, programs)
    keys: dict[KeyId, tuple[Emission, ...]] = {}
    for shell, program in zip(outside.shells, programs, strict=True):
        if program is not None:
            for table in keys_of(shell, program, world):
                keys.update(table)
    return keys


@derived(512)
def _controls(outside: Outsides, programs: tuple[Program | None, ...]) -> Controls:
    """The controls of a scene, likewise."""
    world = world_on(outside, programs)
    controls: dict[KeyId, tuple[Sending, ...]] = {}
    for shell, program in zip(outside.shells, programs, strict=True):
        if program is not None:
            controls.update(control_table(shell, program, world))
    return controls


@derived(160)
def played(compiled: Compiled) -> Mapping[str, frozenset[str]]:
    """The parts that each keybed ``device:keybed`` sounds in a scene, by any of its keys."""
    found = {}
    shells = outsides(compiled.plan).shells
    programs = programs_at(compiled.plan, compiled.scene)
    for shell, program in zip(shells, programs, strict=True):
        if program is None or not shell.keybeds:
            continue
        for bed, runs in zip(shell.keybeds, runs_of(shell, program, compiled.world), strict=True):
            found[ref_to(shell.id, bed.id)] = _parts_of(runs)
    return found


@derived(4096, whole=True)
def _parts_of(runs: Runs) -> frozenset[str]:
    return frozenset(la.ref for run in runs for la in run.emission.landings)


def keys_of(owner: Shell, program: Program, world: World) -> tuple[Keys, ...]:
    """The table of each keybed of a device, in order, as its wiring lets it be."""
    return tuple(
        _bed_table(ref_to(owner.id, bed.id), runs)
        for bed, runs in zip(owner.keybeds, runs_of(owner, program, world), strict=True)
    )


def runs_of(owner: Shell, program: Program, world: World) -> tuple[Runs, ...]:
    """What the keys of each keybed do, in runs of neighbours that do the same."""
    beds = tuple([bed_runs(owner, zones_on(program, bed), world) for bed in owner.keybeds])
    changed = owner.reports
    return _rewired(owner.id, owner.keybeds, beds, changed) if changed else beds


@derived(8192)
def zones_on(program: Program, bed: Keybed) -> tuple[Zone, ...]:
    """The zones of a keybed that are on."""
    return tuple(z for z in program.zones if z.keybed == bed.id and z.on)


@derived(1024)
def _rewired(
    owner: str, keybeds: tuple[Keybed, ...], beds: tuple[Runs, ...], changed: Reports
) -> tuple[Runs, ...]:
    """Runs of keyboards some of whose keys are dead or taken for others."""
    by_ref = {ref_to(owner, bed.id): runs for bed, runs in zip(keybeds, beds, strict=True)}
    found = []
    for ref, runs in by_ref.items():
        odd = {key for bed, key in changed if bed == ref}
        kept = [part for run in runs for part in _without(run, odd)]
        moved = [
            run.moved(key, source)
            for key in sorted(odd)
            for bed, source in changed[ref, key]
            for run in by_ref.get(bed, ())
            if run.low <= source <= run.high
        ]
        found.append((*kept, *moved))
    return tuple(found)


def _without(run: Run, keys: set[int]) -> Iterator[Run]:
    """What is left of a run without some of its keys."""
    low = run.low
    for key in sorted(k for k in keys if run.low <= k <= run.high):
        if low < key:
            yield run._replace(low=low, high=key - 1)
        low = key + 1
    if low <= run.high:
        yield run._replace(low=low)


def bed_runs(owner: Shell, zones: tuple[Zone, ...], world: World) -> Runs:
    """What the keys under some zones do; kept while what hears them stays as it is."""
    heard = tuple([world.audiences[zone.channel - 1] for zone in zones])
    return _bed_in(owner.id, owner.ports, owner.local, zones, world.network, heard)


@derived(16384)
def _bed_in(
    owner: str,
    ports: tuple[Port, ...],
    local: bool,
    zones: tuple[Zone, ...],
    net: Network,
    heard: tuple[Audience, ...],
) -> Runs:
    held = [
        _zone_in(owner, ports, local, zone, net, here)
        for zone, here in zip(zones, heard, strict=True)
    ]
    return held[0] if len(held) == 1 else alike(tuple(run for runs in held for run in runs))


@derived(32768, whole=True)
def _zone_in(
    owner: str,
    ports: tuple[Port, ...],
    local: bool,
    zone: Zone,
    net: Network,
    heard: Audience,
) -> Runs:
    tree = joined_tree(Sources(owner, ports, local), zone.ports, net)
    return _zone_runs(zone, tree, _heard(owner if local else "", tree, heard))


@derived(8192)
def _bed_table(ref: str, runs: Runs) -> Keys:
    table: dict[tuple[str, int], tuple[Emission, ...]] = {}
    for run in runs:
        for key in range(run.low, run.high + 1):
            ident = (ref, key)
            table[ident] = (*table.get(ident, ()), run.at(key))
    return table


@derived(4096, whole=True)
def _heard(own: str, tree: Tree, audience: Audience) -> Hearers:
    """Who listens on a channel along a tree, with the step after which and how long it takes.

    The device ``own`` hears its own keys; the same value while none of that changed.
    """
    found: list[object] = []
    for step, device, port in arrivals(Sources(own, (), bool(own)), tree):
        delay_ms, listeners = audience.at(device, port)
        for listener in listeners:
            found += (listener, step, delay_ms)
    return alike(tuple(found))


@derived(16384, whole=True)
def _zone_runs(zone: Zone, tree: Tree, heard: Hearers) -> Runs:
    window = (zone.vel_low, zone.vel_high)
    shift, course = zone.shift, course_of(tree)
    here = list(zip(heard[::3], heard[1::3], heard[2::3], strict=True))
    low, high = max(zone.low, -shift), min(zone.high, 127 - shift)
    spans = [
        (first - shift, last - shift, Landing(one.ref, one.part, shift + off, *rest), simple)
        for one, rest, simple in awake_among(here, window)
        for first, last, off in one.spans()
    ]
    edges = {low, high + 1, *(s[0] for s in spans), *(s[1] + 1 for s in spans)}
    runs = []
    for first, after in pairwise(sorted(e for e in edges if low <= e <= high + 1)):
        held = [s for s in spans if s[0] <= first <= s[1]]
        runs.append(
            Run(
                first,
                after - 1,
                Emission(
                    zone.id,
                    *window,
                    zone.channel - 1,
                    shift,
                    tree,
                    course,
                    tuple([s[2] for s in held]),
                    all(s[3] for s in held),
                ),
            )
        )
    return tuple(runs)


def emission_at(compiled: Compiled, ref: str, channel: int, note: int) -> Emission:
    """What a raw note on channel 0–15 does that leaves the output ``device:port``."""
    return _raw(compiled.world, ref, channel, note)


@derived(8192)
def _raw(world: World, ref: str, channel: int, note: int) -> Emission:
    tree = world.network.trees[ref]
    source = Sources(device_of(ref), (), False)
    awake = hearers(source, tree, (1, 127), world.audiences[channel])
    return emission_of(ref, (1, 127), channel, note, tree, awake)


def motion_at(compiled: Compiled, ref: str, message: str, channel: int, number: int) -> Motion:
    """What a raw controller, bend or pressure on channel 0–15 does that leaves an output."""
    return _raw_motion(compiled.world, ref, message, channel, number)


def _sent_as(message: str) -> str:
    """The kind of movement that takes as long as a message."""
    return message if message in PIECES else "note"


@derived(2048)
def _raw_motion(world: World, ref: str, message: str, channel: int, number: int) -> Motion:
    tree = world.network.trees[ref]
    source = Sources(device_of(ref), (), False)
    audience = world.audiences[channel]
    heard = tuple(hearings(source, tree, message, channel, number, audience, world.movers))
    return Motion(message, channel, number, tree, course_of(tree, _sent_as(message)), heard)
