"""Wire lists on paper and in spreadsheets, with the settings of the encoder."""

from itertools import groupby

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.console.wires import WireRow, setup, wire_list
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.plan import Device
from vastzone.files.paper import WIDTH, Cell, Paper, Text, Tick

COLUMNS = ("wire", "group", "from", "to", "colour", "number", "metres", "soldered", "tested")
CAUTIONS = (
    "Unplug the console, wait and measure before touching it: mains and charged capacitors kill. "
    "Mains work is for a licensed electrician under the local code. Never join old magnets "
    "(12–28 V) to logic inputs, and fuse them. Mind solder fumes, old lead and dust; two people "
    "for the weight."
)
FOOT = "Unplug and measure first. Mains work is for a licensed electrician under the local code."
ERASES = "Setting the encoder up erases what it holds: keep its settings first."
SETTING = (114, 72, 122, 120, WIDTH - 428)
WIRE = (28, 34, 100, 132, 156, WIDTH - 450)
"""How wide the columns of a sheet are, in points."""


def to_csv(owner: Device, console: Console) -> str:
    """A line a wire, with its ticks."""
    ticks = {True: "yes", False: ""}
    return csv_text(
        COLUMNS,
        (
            (
                w.id,
                w.group,
                w.source,
                w.dest,
                w.colour,
                w.number,
                f"{w.metres:.2f}",
                ticks[w.id in console.soldered],
                ticks[w.id in console.tested],
            )
            for w in wire_list(owner, console)
        ),
    )


def to_pdf(
    plan_name: str, owner: Device, console: Console, program: int | None, today: str
) -> bytes:
    """Cautions, the settings as the encoder asks for them, then every wire with two ticks."""
    paper = Paper(f"{plan_name}: wires of {owner.name}", plan_name, today, FOOT)
    paper.begin(f"{owner.name}: wires", "tick once soldered, once tested")
    paper.text(CAUTIONS)
    if program is not None:
        _settings(paper, owner, console, program)
    for group, wires in groupby(wire_list(owner, console), lambda wire: wire.group):
        paper.heading(group, 15)
        paper.rows([_wire(console, wire) for wire in wires], WIRE)
    return paper.finished()


def _settings(paper: Paper, owner: Device, console: Console, program: int) -> None:
    paper.heading("Settings of the encoder", 15)
    if console.encoder.erases:
        paper.text(ERASES)
    by_number = console.encoder.asks == "note number"
    rows = []
    for block_setup in setup(owner, console, program):
        where = (
            block_setup.name
            if by_number
            else _octave_words(block_setup.octave, block_setup.note_index)
        )
        diodes = Text(f"diodes {block_setup.sense}", size=11)
        commons = Text(f"{block_setup.commons} octave pins: {block_setup.pins}", size=11)
        rows.append(
            (
                Text(block_setup.block),
                Text(f"channel {block_setup.channel}"),
                Text(where, "Bold"),
                diodes,
                commons,
            )
        )
    paper.rows(rows, SETTING)


def _octave_words(octave: int, index: int | None) -> str:
    return f"octave {octave}" if index is None else f"octave {octave}, index {index}"


def _wire(console: Console, wire: WireRow) -> tuple[Cell, ...]:
    """The number stands before the colour, so that colour is never the only sign."""
    return (
        Tick(wire.id in console.soldered),
        Tick(wire.id in console.tested),
        Text(f"{wire.number} {wire.colour}", "Bold", 13),
        Text(wire.source),
        Text(wire.dest),
        Text(f"{wire.metres:.2f} m", size=11),
    )
