"""A crowded moment: all that a plan's people can strike at once, on every line.

Each player strikes so many keys, or four pads (two hands, two feet), in the same instant; the
messages queue on the DIN lines as they do in the engine.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.delay.paths import DelayPath, Piece, delay_paths
from vastzone.core.engine.compile import Compiled, Runs, runs_of
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.network import network
from vastzone.core.engine.receivers import outsides, programs_at
from vastzone.core.engine.tables import Controls, Emission, Timing
from vastzone.core.engine.traffic import Lines, UnderWay, simulate
from vastzone.core.midi.messages import NOTE_ON
from vastzone.core.plan.model.controls import Control, Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.say import say

FINGERS, LIMBS = 10, 4
"""Keys of one chord, and strokes of one fill."""


class LineInCrowd(NamedTuple):
    """A DIN line in the crowded moment: what it joins, how many messages, until when it is busy."""

    source: str
    dest: str
    messages: int
    busy_ms: float


class Crowd(NamedTuple):
    """What is struck at once, by whom, and what that makes of the lines."""

    strokes: int
    players: tuple[tuple[str, int], ...]
    lines: tuple[LineInCrowd, ...]
    emissions: tuple[Emission, ...]


def hands(plan: Plan) -> dict[str, list[Device]]:
    """The devices that each player has under the hands; what nobody is said to have, by itself."""
    by_player: dict[str, list[Device]] = {}
    for device in plan.devices:
        if device.keybeds or device.controls:
            by_player.setdefault(device.player or device.name, []).append(device)
    return by_player


@derived(64)
def crowd(compiled: Compiled, fingers: int = FINGERS) -> Crowd:
    """The chord and the fill that can be played together in a scene."""
    struck = strokes(compiled, fingers)
    players = tuple((player, len(each)) for player, each in struck if each)
    emissions = emissions_of(struck)
    used: Lines = {}
    simulate(used, _under_way(emissions))
    counts = _messages(emissions)
    lines = []
    for arc in network(compiled.plan).arcs:
        state = used.get(arc.line)
        if state is not None:
            lines.append(LineInCrowd(arc.source, arc.dest, counts[arc.line], state.busy))
    lines.sort(key=lambda line: -line.busy_ms)
    return Crowd(sum(count for _, count in players), players, tuple(lines), emissions)


Strokes = tuple[tuple[str, tuple[tuple[Emission, ...], ...]], ...]
"""What each player strikes at once, with all that each stroke sends."""


def strokes(compiled: Compiled, fingers: int = FINGERS) -> Strokes:
    """What every player strikes at once in a scene."""
    struck = []
    for player, devices in hands(compiled.plan).items():
        struck.append((player, tuple(_struck(compiled, devices, fingers))))
    return tuple(struck)


def emissions_of(struck: Strokes) -> tuple[Emission, ...]:
    """All messages of some strokes, in their order."""
    emissions: list[Emission] = []
    for _, each in struck:
        for stroke in each:
            emissions += stroke
    return tuple(emissions)


def _struck(compiled: Compiled, devices: list[Device], fingers: int) -> list[tuple[Emission, ...]]:
    """What one player strikes: a chord over all keyboards, else a fill on pads and triggers."""
    plan = compiled.plan
    programs = _programs(compiled)
    beds: list[Runs] = []
    for device in devices:
        program = programs[device.id]
        if program is None or not device.keybeds:
            continue
        for runs in runs_of(outsides(plan).of(device.id), program, compiled.world):
            if any(run.emission.landings for run in runs):
                beds.append(runs)
    if not beds:
        return list(_fill(compiled, devices))[: min(LIMBS, fingers)]
    share = max(1, fingers // len(beds))
    chord: list[tuple[Emission, ...]] = []
    for runs in beds:
        chord += _chord(runs, share)
    return chord[:fingers]


@derived(160)
def _programs(compiled: Compiled) -> Mapping[str, Program | None]:
    """The program that each device is on, as it plays there."""
    ids = [device.id for device in compiled.plan.devices]
    return dict(zip(ids, programs_at(compiled.plan, compiled.scene), strict=True))


@derived(8192, whole=True)
def _chord(runs: Runs, count: int) -> tuple[tuple[Emission, ...], ...]:
    """So many keys spread over those that sound anything, with all that each of them sends."""
    sounding: dict[int, None] = {}
    for run in runs:
        if run.emission.landings:
            sounding.update(dict.fromkeys(range(run.low, run.high + 1)))
    keys = sorted(sounding)
    step = max(1, len(keys) // count)
    chord = []
    for key in keys[::step][:count]:
        chord.append(tuple(run.at(key) for run in runs if run.low <= key <= run.high))
    return tuple(chord)


def _fill(compiled: Compiled, devices: list[Device]) -> Iterator[tuple[Emission, ...]]:
    """What the pads and triggers of some devices do, in their order."""
    world, programs = compiled.world, _programs(compiled)
    for device in devices:
        program = programs[device.id]
        if program is not None:
            shell = outsides(compiled.plan).of(device.id)
            yield from _hits(control_table(shell, program, world), device.controls)


@derived(4096, whole=True)
def _hits(table: Controls, controls: tuple[Control, ...]) -> tuple[tuple[Emission, ...], ...]:
    """The first strokes of a table of controls: more than one player has limbs for."""
    hard = {control.id for control in controls if control_ability(control).hard}
    hits = []
    for (ref, _), sendings in table.items():
        if thing_of(ref) not in hard:
            continue
        emissions = tuple(emission for sending in sendings for emission in sending.notes)
        if any(emission.landings for emission in emissions):
            hits.append(emissions)
        if len(hits) == LIMBS:
            break
    return tuple(hits)


def _under_way(emissions: Sequence[Emission]) -> list[UnderWay]:
    messages: list[UnderWay] = []
    for emission in emissions:
        messages.append((0.0, emission.course, NOTE_ON | emission.channel, []))
    return messages


def _messages(emissions: Sequence[Emission]) -> dict[int, int]:
    counts: dict[int, int] = {}
    for emission in emissions:
        for step in emission.course.lines:
            counts[step.line] = counts.get(step.line, 0) + 1
    return counts


@derived(64)
def crowded_paths(compiled: Compiled, fingers: int = FINGERS) -> tuple[DelayPath, ...]:
    """Every way as it is when it comes last in the crowded moment, the latest first.

    What it waits is a piece of its own: never usual, all of it at worst.
    """
    together = crowd(compiled, fingers)
    waits: dict[tuple[int, int, int], float] = {}
    told = []
    for path in delay_paths(compiled):
        key = (id(path.sent.course), path.sent.channel, path.step)
        if key not in waits:
            waits[key] = _wait(together, path)
        wait = waits[key]
        if wait > 0.005:
            queue = Piece("queue", say("behind others on its cables"), 0.0, wait)
            path = path._replace(pieces=(*path.pieces, queue))
        told.append(path)
    return tuple(sorted(told, key=lambda path: (-path.worst_ms, path.name)))


def _wait(together: Crowd, path: DelayPath) -> float:
    """How long a message waits that is sent last of all that are struck."""
    if path.step < 0:
        return 0.0
    course: Timing = path.sent.course
    used: Lines = {}
    messages = _under_way([one for one in together.emissions if one is not path.sent])
    times: list[float] = []
    status = NOTE_ON | path.sent.channel
    messages.append((0.0, course, status, times))
    simulate(used, messages)
    alone = 0.0
    for index in path.sent.tree.way(path.step):
        alone += course.lines[index].before_ms + course.lines[index].ms
    return max(0.0, times[path.step] - alone)


def line_names(plan: Plan, line: LineInCrowd) -> str:
    """What a line joins, by name."""
    ends = [lookup.device(plan, device_of(ref)).name for ref in (line.source, line.dest)]
    return " to ".join(ends)


def waits_by_source(paths: Sequence[DelayPath]) -> Mapping[str, float]:
    """The longest wait of each control in a crowded moment."""
    waits: dict[str, float] = {}
    for path in paths:
        for piece in path.pieces:
            if piece.kind == "queue":
                waits[path.source] = max(waits.get(path.source, 0.0), piece.worst_ms)
    return waits
