"""Single steps at a device: what is dialled of each thing, and what that costs."""

from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.memory.differences import Difference
from vastzone.core.memory.keys import spot
from vastzone.core.memory.model import Content
from vastzone.core.memory.operations import Operation
from vastzone.core.memory.states import State
from vastzone.core.plan.fields.dials import Dial
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.model.plan import PanelPath

MOST_STEPS, SELECT, STORE, LEARN = 12, 2, 3, 2
"""Presses: at most so many for one value, and those to select, to store and to learn."""


class Step(NamedTuple):
    """One thing to do: the operation, the settings that it sets, how far they have come.

    ``title`` is the program that it belongs to; None for what is set for the whole device.
    """

    operation: Operation
    differences: tuple[Difference, ...]
    state: State
    program: Program | None = None
    learned: bool = False
    presses: int = 0

    @property
    def done(self) -> bool:
        """Whether the device holds it."""
        return self.state in ("stored", "checked")


Groups = dict[tuple[str, ...], list[Difference]]


@derived(4096)
def as_content(program: Program) -> Content:
    """What a slot holds once a program was stored in it: the same value every time."""
    return Content(program=program)


@derived(4096, whole=True)
def planned_steps(
    differences: tuple[Difference, ...], program: Program | None, into: Slot | None
) -> tuple[Step, ...]:
    """A step for each thing of which something is left to dial, nothing of it being sent yet."""
    states: dict[str, State] = {difference.key: "planned" for difference in differences}
    return tuple(dial_steps(grouped_by_thing(differences), states, program, into))


def grouped_by_thing(differences: Iterable[Difference]) -> Groups:
    """Settings by the thing that they are of; those that are one in the device together."""
    groups: Groups = {}
    for difference in differences:
        groups.setdefault(_thing(difference.dial), []).append(difference)
    return groups


def dial_steps(
    groups: Groups, states: Mapping[str, State], program: Program | None, into: Slot | None
) -> Iterator[Step]:
    """A step for each thing that is dialled."""
    for differences in groups.values():
        refs = tuple(difference.dial.ref for difference in differences)
        reached = {states.get(difference.key, "stored") for difference in differences}
        state: State = "stored"
        if "planned" in reached:
            state = "planned"
        elif "sent" in reached:
            state = "sent"
        learned = all(learns(difference.dial) for difference in differences)
        presses = LEARN if learned else sum(map(presses_for, differences))
        operation = Operation("dial", refs, into)
        yield Step(operation, tuple(differences), state, program, learned, presses)


def presses_for(difference: Difference) -> int:
    """Presses to reach a setting on its device's panel and to turn it to its value."""
    dial, before = difference.dial, difference.held
    path = panel_path(dial)
    reach = path.presses if path is not None else dial.field.presses
    value = dial.value
    if isinstance(value, int) and isinstance(before, int):
        return reach + min(MOST_STEPS, abs(value - before))
    return reach + MOST_STEPS


def panel_path(dial: Dial) -> PanelPath | None:
    """How a setting is reached on its device's panel, where the device says so."""
    wanted = dial.field.full_name
    for path in dial.owner.device.panel:
        if path.field == wanted:
            return path
    return None


def learns(dial: Dial) -> bool:
    """Whether a setting is learned from what comes in."""
    if dial.kind not in ("part-channel", "target-controller", "target-mode"):
        return False
    return dial.field.id in ("channel", "controller") and dial.owner.thing.receives == "learns"


def _thing(dial: Dial) -> tuple[str, ...]:
    """What a line is for: a thing, or what is one in the device."""
    if len(dial.slot) > 1:
        return dial.slot
    program = dial.owner.program
    if learns(dial):
        return ("learns", dial.owner.place)
    return ("" if program is None else program.id, spot(dial.owner), dial.owner.alone)
