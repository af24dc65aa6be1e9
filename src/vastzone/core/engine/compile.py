"""From a plan and a scene to tables in which one strike is a single look-up.

Every piece is kept by the identity of the values it came from: an edit of one zone compiles that
zone's keybed again and nothing else.
"""

from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import Any

import msgspec

from vastzone.core.cache import derived, interned
from vastzone.core.engine.console_contacts import Reports
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.listen import Audience
from vastzone.core.engine.network import Network, Tree
from vastzone.core.engine.outside_programs import Shell
from vastzone.core.engine.reach import (
    arrivals,
    awake_among,
    course_of,
    emission_of,
    hearers,
    hearings,
    joined_tree,
)
from vastzone.core.engine.receivers import (
    Outsides,
    Receivers,
    Sources,
    outsides,
    programs_at,
    world_of,
    world_on,
)
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
from vastzone.core.midi.wide import PIECES
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.plan import Device, Plan, Port, Scene
from vastzone.core.plan.refs import device_of, ref_to

Runs = tuple[Run, ...]
Hearers = tuple[Any, ...]
"""Listener, step and delay in milliseconds, one after the other: so that equal ones are alike."""


class Compiled:
    """A plan in one scene, ready to be struck; keys are laid out singly when first asked for."""

    __slots__ = ("_keys", "controls", "plan", "scene", "world")

    def __init__(
        self, plan: Plan, scene: Scene | None, controls: Controls, world: Receivers
    ) -> None:
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
    controls: dict[KeyId, tuple[Sending, ...]] = {}
    for table in _control_tables(outside, programs):
        controls.update(table)
    return controls


@derived(512)
def _control_tables(
    outside: Outsides, programs: tuple[Program | None, ...]
) -> tuple[Controls, ...]:
    world = world_on(outside, programs)
    tables = []
    for shell, program in zip(outside.shells, programs, strict=True):
        if program is not None:
            tables.append(control_table(shell, program, world))
    return tuple(tables)


def control_tables(compiled: Compiled) -> tuple[Controls, ...]:
    """The controls of a scene, device by device: the same where what a device does is."""
    return _control_tables(outsides(compiled.plan), programs_at(compiled.plan, compiled.scene))


@derived(160)
def played(compiled: Compiled) -> Mapping[str, frozenset[str]]:
    """The parts that each keybed ``device:keybed`` sounds in a scene, by any of its keys."""
    emissions = {}
    shells = outsides(compiled.plan).shells
    programs = programs_at(compiled.plan, compiled.scene)
    for shell, program in zip(shells, programs, strict=True):
        if program is None or not shell.keybeds:
            continue
        for bed, runs in zip(shell.keybeds, runs_of(shell, program, compiled.world), strict=True):
            emissions[ref_to(shell.id, bed.id)] = _parts_of(runs)
    return emissions


@derived(4096, whole=True)
def _parts_of(runs: Runs) -> frozenset[str]:
    refs = set()
    for run in runs:
        for la in run.emission.landings:
            refs.add(la.ref)
    return frozenset(refs)


def keys_of(owner: Shell, program: Program, world: Receivers) -> tuple[Keys, ...]:
    """The table of each keybed of a device, in order, as its wiring lets it be."""
    tables = []
    for bed, runs in zip(owner.keybeds, runs_of(owner, program, world), strict=True):
        tables.append(_bed_table(ref_to(owner.id, bed.id), runs))
    return tuple(tables)


def runs_of(owner: Shell, program: Program, world: Receivers) -> tuple[Runs, ...]:
    """What the keys of each keybed do, in runs of neighbours that do the same."""
    beds = tuple(
        [bed_runs(owner, _heard_zones(owner, program, bed), world) for bed in owner.keybeds]
    )
    changed = owner.reports
    return _rewired(owner.id, owner.keybeds, beds, changed) if changed else beds


def _heard_zones(owner: Shell, program: Program, bed: Keybed) -> tuple[Zone, ...]:
    """The zones of a keybed that are on, shifted as its wiring shifts them besides."""
    zones = zones_on(program, bed)
    off = dict(owner.offsets).get(bed.id, 0)
    return _moved(zones, off) if off else zones


@derived(1024)
def _moved(zones: tuple[Zone, ...], off: int) -> tuple[Zone, ...]:
    moved = []
    for zone in zones:
        moved.append(msgspec.structs.replace(zone, transpose=zone.transpose + off))
    return tuple(moved)


@derived(8192)
def zones_on(program: Program, bed: Keybed) -> tuple[Zone, ...]:
    """The zones of a keybed that are on."""
    zones = []
    for zone in program.zones:
        if zone.keybed == bed.id and zone.sends:
            zones.append(zone)
    return tuple(zones)


@derived(1024)
def _rewired(
    owner: str, keybeds: tuple[Keybed, ...], beds: tuple[Runs, ...], changed: Reports
) -> tuple[Runs, ...]:
    """Runs of keyboards some of whose keys are dead or taken for others."""
    by_bed = {}
    for keybed, runs in zip(keybeds, beds, strict=True):
        by_bed[ref_to(owner, keybed.id)] = runs
    rewired = []
    for bed, runs in by_bed.items():
        odd = {key for ref, key in changed if ref == bed}
        untouched: list[Run] = []
        for run in runs:
            untouched.extend(_without(run, odd))
        moved: list[Run] = []
        for key in sorted(odd):
            moved.extend(_reported_runs(key, changed[bed, key], by_bed))
        rewired.append((*untouched, *moved))
    return tuple(rewired)


def _reported_runs(
    key: int, reported: tuple[tuple[str, int], ...], by_bed: dict[str, Runs]
) -> Iterator[Run]:
    """What a key does whose wiring takes it for others."""
    for bed, other in reported:
        for run in by_bed.get(bed, ()):
            if run.low <= other <= run.high:
                yield run.moved(key, other)


def _without(run: Run, keys: set[int]) -> Iterator[Run]:
    """What is left of a run without some of its keys."""
    low = run.low
    for key in sorted(k for k in keys if run.low <= k <= run.high):
        if low < key:
            yield run._replace(low=low, high=key - 1)
        low = key + 1
    if low <= run.high:
        yield run._replace(low=low)


def bed_runs(owner: Shell, zones: tuple[Zone, ...], world: Receivers) -> Runs:
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
    in_zones = []
    for zone, here in zip(zones, heard, strict=True):
        in_zones.append(_zone_in(owner, ports, local, zone, net, here))
    return (
        in_zones[0]
        if len(in_zones) == 1
        else interned(tuple(run for runs in in_zones for run in runs))
    )


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
    heard: list[object] = []
    for step, device, port in arrivals(Sources(own, (), bool(own)), tree):
        delay_ms, listeners = audience.at(device, port)
        for listener in listeners:
            heard += (listener, step, delay_ms)
    return interned(tuple(heard))


@derived(16384, whole=True)
def _zone_runs(zone: Zone, tree: Tree, heard: Hearers) -> Runs:
    window = (zone.vel_low, zone.vel_high)
    shift, course = zone.shift, course_of(tree)
    # Keys whose note would leave 0–127 send nothing.
    low, high = max(zone.low, -shift), min(zone.high, 127 - shift)
    spans = _landing_spans(heard, window, shift)
    runs = []
    for first, after in pairwise(_cuts(low, high, spans)):
        hearing_spans = []
        for span in spans:
            if span[0] <= first <= span[1]:
                hearing_spans.append(span)
        landings = tuple([span[2] for span in hearing_spans])
        simple = all(span[3] for span in hearing_spans)
        channel = zone.channel - 1
        emission = Emission(zone.id, *window, channel, shift, tree, course, landings, simple)
        runs.append(Run(first, after - 1, emission))
    return tuple(runs)


LandingSpan = tuple[int, int, Landing, bool]
"""Keys from and to which a landing sounds, and whether nothing but those decide."""


def _landing_spans(heard: Hearers, window: tuple[int, int], shift: int) -> list[LandingSpan]:
    """What hears a zone, with the keys for which it does."""
    here = list(zip(heard[::3], heard[1::3], heard[2::3], strict=True))
    spans = []
    for one, rest, simple in awake_among(here, window):
        for first, last, off in one.spans():
            landing = Landing(one.ref, one.part, shift + off, *rest)
            spans.append((first - shift, last - shift, landing, simple))
    return spans


def _cuts(low: int, high: int, spans: list[LandingSpan]) -> list[int]:
    """The keys at which something changes, from the lowest to past the highest."""
    edges = {low, high + 1}
    for first, last, _, _ in spans:
        edges |= {first, last + 1}
    return sorted(edge for edge in edges if low <= edge <= high + 1)


def emission_at(compiled: Compiled, ref: str, channel: int, note: int) -> Emission:
    """What a raw note on channel 0–15 does that leaves the output ``device:port``."""
    return _raw(compiled.world, ref, channel, note)


@derived(8192)
def _raw(world: Receivers, ref: str, channel: int, note: int) -> Emission:
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
def _raw_motion(world: Receivers, ref: str, message: str, channel: int, number: int) -> Motion:
    tree = world.network.trees[ref]
    source = Sources(device_of(ref), (), False)
    audience = world.audiences[channel]
    heard = tuple(hearings(source, tree, message, channel, number, audience, world.movers))
    return Motion(message, channel, number, tree, course_of(tree, _sent_as(message)), heard)
