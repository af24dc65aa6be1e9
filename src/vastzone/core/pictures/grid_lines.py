"""The lines of the Plays view: rows of the grid under the names of their devices, filtered."""

from typing import NamedTuple

from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_ref
from vastzone.core.proof.grid import Grid
from vastzone.core.proof.verdict import Verdict
from vastzone.core.proof.words import thing_words
from vastzone.core.say import say

SHOW = (
    (say("All marks"), "all"),
    (say("Not as meant"), "bad"),
    (say("Silent or wrong"), "silent"),
    (say("Extra or double"), "extra"),
    (say("Wished"), "wished"),
    (say("Nothing wished"), "free"),
)


MARKS: dict[str, tuple[Verdict, ...]] = {
    "bad": ("silent", "wrong", "extra", "double", "not known"),
    "silent": ("silent", "wrong"),
    "extra": ("extra", "double"),
}
"""The verdicts that each choice shows."""


class Filter(NamedTuple):
    """Which rows are shown: of a device, with a kind of mark, whose name holds a text."""

    device: str = ""
    show: str = "all"
    text: str = ""


class GridLine(NamedTuple):
    """A row of the grid, or the name of a device above its rows (``row`` −1)."""

    row: int
    words: str
    device: str
    place: WishPlace | None = None


class Column(NamedTuple):
    """A part or target as a column."""

    at: int
    ref: str
    name: str
    tag: str
    colour: int | None
    device: Device


def lines(plan: Plan, grid: Grid, chosen: Filter) -> list[GridLine]:
    """The lines that pass a filter."""
    shown = _shown(grid, chosen.show)
    wanted = " ".join(chosen.text.lower().split())
    listed: list[GridLine] = []
    last = ""
    for number, place in enumerate(grid.rows):
        device = device_of(place.source)
        if number not in shown or (chosen.device and device != chosen.device):
            continue
        owner = lookup.device(plan, device)
        said = thing_words(plan, place)
        if wanted not in f"{owner.name} {said}".lower():
            continue
        if device != last:
            listed.append(GridLine(-1, owner.name, device))
            last = device
        listed.append(GridLine(number, said, device, place))
    return listed


def _shown(grid: Grid, show: str) -> set[int]:
    """The rows with a kind of mark, by their numbers."""
    everything = set(range(len(grid.rows)))
    wished = set()
    for (row, _), cell in grid.cells.items():
        if cell.wishes:
            wished.add(row)
    if show in MARKS:
        return _rows_with(grid, MARKS[show])
    return {"wished": wished, "free": everything - wished}.get(show, everything)


def _rows_with(grid: Grid, verdicts: tuple[str, ...]) -> set[int]:
    rows = set()
    for (r, _), cell in grid.cells.items():
        if cell.verdict in verdicts:
            rows.add(r)
    return rows


def columns(plan: Plan, grid: Grid) -> list[Column]:
    """The columns with what is shown at their heads."""
    listed = []
    for index, ref in enumerate(grid.columns):
        device, ident = read_ref(ref)
        owner = lookup.device(plan, device)
        part = lookup.find(owner.parts, ident)
        if part is not None:
            listed.append(Column(index, ref, part.name, part.tag.upper(), part.colour, owner))
        else:
            target = lookup.by_id(owner.targets, ident, "target")
            tag = target.name[:2].upper()
            listed.append(Column(index, ref, target.name, tag, None, owner))
    return listed
