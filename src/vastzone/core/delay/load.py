"""How busy the DIN lines are in the densest second, and what sweeps alone take.

Counted per player: two chords (or fills) a second, struck and let go, and every control that
sweeps on its own line, the two dearest together, as often as such controls are read: every
10 ms.
"""

from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.delay.crowd import emissions_of, hands, strokes
from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.controls import control_table
from vastzone.core.engine.network import network
from vastzone.core.engine.receivers import outsides, programs_at
from vastzone.core.engine.tables import Controls
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, thing_of

CHORDS_A_SECOND, READ_A_SECOND, FEET = 2, 100, 2


class SweepLoad(NamedTuple):
    """What one control takes of a line while it sweeps, as a share."""

    control: str
    share: float


class LineLoad(NamedTuple):
    """A DIN line in its densest second: shares of notes and of the dearest sweeps together."""

    source: str
    dest: str
    notes: float
    sweeps: tuple[SweepLoad, ...]

    @property
    def share(self) -> float:
        """How much of the second it is taken; above 1 it falls behind."""
        return self.notes + sum(sweep.share for sweep in self.sweeps)


@derived(160)
def line_loads(compiled: Compiled) -> tuple[LineLoad, ...]:
    """The DIN lines that carry anything, the busiest first."""
    notes = _by_notes(compiled)
    sweeps = _by_sweeps(compiled)
    loads = []
    for arc in network(compiled.plan).arcs:
        if arc.line in notes or arc.line in sweeps:
            together = _dearest(compiled, sweeps.get(arc.line, {}))
            share = notes.get(arc.line, 0.0)
            loads.append(LineLoad(arc.source, arc.dest, share, together))
    return tuple(sorted(loads, key=lambda load: -load.share))


def _by_notes(compiled: Compiled) -> dict[int, float]:
    """What chords and fills take, struck and let go."""
    shares: dict[int, float] = {}
    for emission in emissions_of(strokes(compiled)):
        for step in emission.course.lines:
            if step.line >= 0:
                taken = 2 * CHORDS_A_SECOND * step.ms / 1000
                shares[step.line] = shares.get(step.line, 0.0) + taken
    return shares


def _by_sweeps(compiled: Compiled) -> dict[int, dict[str, float]]:
    """What each sweeping control takes of each line."""
    shares: dict[int, dict[str, float]] = {}
    plan = compiled.plan
    programs = programs_at(plan, compiled.scene)
    for shell, program in zip(outsides(plan).shells, programs, strict=True):
        if program is None:
            continue
        table = control_table(shell, program, compiled.world)
        for ref, line, share in _swept(table, shell.controls):
            on_line = shares.setdefault(line, {})
            on_line[ref] = on_line.get(ref, 0.0) + share
    return shares


@derived(4096, whole=True)
def _swept(table: Controls, controls: tuple[Control, ...]) -> tuple[tuple[str, int, float], ...]:
    """The controls of a table that sweep, the lines they go over, the share that each takes."""
    sweeping = set()
    for control in controls:
        ability = control_ability(control)
        if ability.swept and not ability.hard:
            sweeping.add(control.id)
    taken = []
    for (ref, _), sendings in table.items():
        if thing_of(ref) not in sweeping:
            continue
        for sending in sendings:
            for motion in sending.motions:
                for step in motion.course.lines:
                    if step.line >= 0:
                        taken.append((ref, step.line, READ_A_SECOND * step.ms / 1000))
    return tuple(taken)


def _dearest(compiled: Compiled, sweeps: dict[str, float]) -> tuple[SweepLoad, ...]:
    """The sweeps that one player's hands and feet can do together: the two dearest of each."""
    players = {}
    for player, devices in hands(compiled.plan).items():
        for device in devices:
            players[device.id] = player
    taken: dict[str, int] = {}
    together = []
    for ref, share in sorted(sweeps.items(), key=lambda item: -item[1]):
        player = players.get(device_of(ref), "")
        if taken.get(player, 0) < FEET:
            taken[player] = taken.get(player, 0) + 1
            together.append(SweepLoad(ref, share))
    return tuple(together)
