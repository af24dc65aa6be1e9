"""The same foot or hand in two scenes: what it moves in one and in the other."""

from typing import NamedTuple

from vastzone.core.engine.compile import compile_scene
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.response.sweep import end_values
from vastzone.core.say import say
from vastzone.core.text import listed
from vastzone.desk.moved_controls import MovedTarget, Worked, moved_of_parts, worked_in

MOST_PARTS = 6


class ControlCompared(NamedTuple):
    """A control with what it moves in each of two scenes, a phrase for each thing moved."""

    ref: str
    name: str
    here: tuple[str, ...]
    there: tuple[str, ...]

    @property
    def changes(self) -> bool:
        """Whether it does something else in the other scene."""
        return self.here != self.there


def controls_compared(
    plan: Plan, here: Scene, there: Scene, bank: int = 1
) -> tuple[ControlCompared, ...]:
    """Every control but pads and stops that moves anything in either scene, device by device."""
    rows = []
    first = worked_in(compile_scene(plan, here), bank)
    second = worked_in(compile_scene(plan, there), bank)
    for one, other in zip(first, second, strict=True):
        row = ControlCompared(
            one.ref, f"{one.control.name}, {one.owner.name}", _told(plan, one), _told(plan, other)
        )
        if row.here or row.there:
            rows.append(row)
    return tuple(rows)


def _told(plan: Plan, work: Worked) -> tuple[str, ...]:
    return tuple(dict.fromkeys(_phrase(plan, move) for move in work.moves))


def _part_names(plan: Plan, refs: tuple[str, ...]) -> list[str]:
    names = []
    for ref in refs:
        owner = lookup.device(plan, device_of(ref))
        names.append(lookup.part(owner, thing_of(ref)).name)
    return names


def _phrase(plan: Plan, move: MovedTarget) -> str:
    """One thing that is moved: its name, its device and both ends in its unit."""
    target = move.target
    name = target.name
    if move.device:
        name = say("{name} of {device}", name=name, device=lookup.device(plan, move.device).name)
    elif move.parts:
        what = moved_of_parts(move.send)
        parts = listed(_part_names(plan, move.parts), MOST_PARTS)
        if move.send.message == "program":
            receiver = lookup.device(plan, device_of(move.parts[0]))
            return say(
                "Program {number} of {parts}",
                number=move.send.number + receiver.first_program,
                parts=parts,
            )
        name = say("{what} of {parts}", what=what, parts=parts)
    low, high = end_values(move.send, target)
    if not target.sweeps:
        return f"{name}, {say(move.send.mode)}"
    unit = f" {target.unit}" if target.unit else ""
    ends = say("{low:.4g} to {high:.4g}", low=low, high=high).replace("-", "−")
    return f"{name} {ends}{unit}"
