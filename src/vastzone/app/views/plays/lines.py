"""The lines of the Plays view: rows of the grid under the names of their devices, filtered."""

from typing import NamedTuple

from vastzone.core.plan import lookup
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import device_of, read_ref
from vastzone.core.plan.wishes import Place
from vastzone.core.proof.grid import Grid
from vastzone.core.proof.words import thing_words

SHOW = (
    ("All marks", "all"),
    ("Not as meant", "bad"),
    ("Silent or wrong", "silent"),
    ("Extra or double", "extra"),
    ("Wished", "wished"),
    ("Nothing wished", "free"),
)


class Filter(NamedTuple):
    """Which rows are shown: of a device, with a kind of mark, whose name holds a text."""

    device: str = ""
    show: str = "all"
    text: str = ""


class Line(NamedTuple):
    """A row of the grid, or the name of a device above its rows (``row`` −1)."""

    row: int
    words: str
    device: str
    place: Place | None = None


class Column(NamedTuple):
    """A part or target as a column."""

    at: int
    ref: str
    name: str
    tag: str
    colour: int | None
    device: Device


def lines(plan: Plan, found: Grid, chosen: Filter) -> list[Line]:
    """The lines that pass a filter."""
    bad = _rows_with(found, ("silent", "wrong", "extra", "double"))
    sets = {
        "bad": bad,
        "silent": _rows_with(found, ("silent", "wrong")),
        "extra": _rows_with(found, ("extra", "double")),
        "wished": {r for (r, _), cell in found.cells.items() if cell.intents},
    }
    wanted = " ".join(chosen.text.lower().split())
    made: list[Line] = []
    last = ""
    for number, place in enumerate(found.rows):
        device = device_of(place.source)
        if chosen.device and device != chosen.device:
            continue
        if chosen.show == "free" and number in sets["wished"]:
            continue
        if chosen.show in sets and number not in sets[chosen.show]:
            continue
        owner = lookup.device(plan, device)
        said = thing_words(plan, place)
        if wanted not in f"{owner.name} {said}".lower():
            continue
        if device != last:
            made.append(Line(-1, owner.name, device))
            last = device
        made.append(Line(number, said, device, place))
    return made


def _rows_with(found: Grid, verdicts: tuple[str, ...]) -> set[int]:
    return {r for (r, _), cell in found.cells.items() if cell.verdict in verdicts}


def columns(plan: Plan, found: Grid) -> list[Column]:
    """The columns with what is shown at their heads."""
    made = []
    for index, ref in enumerate(found.columns):
        device, ident = read_ref(ref)
        owner = lookup.device(plan, device)
        part = lookup.find(owner.parts, ident)
        if part is not None:
            made.append(Column(index, ref, part.name, part.tag.upper(), part.colour, owner))
        else:
            target = lookup.by_id(owner.targets, ident, "target")
            tag = target.name[:2].upper()
            made.append(Column(index, ref, target.name, tag, None, owner))
    return made
