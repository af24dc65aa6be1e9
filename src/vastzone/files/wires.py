"""Wire lists on paper and in spreadsheets, with the settings of the encoder."""

import io
from textwrap import wrap

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.console.wires import WireRow, setup, wire_list
from vastzone.core.plan.console import Console
from vastzone.core.plan.model import Device
from vastzone.files.page import Page, new_sheet

COLUMNS = ("wire", "group", "from", "to", "colour", "number", "metres", "soldered", "tested")
CAUTIONS = (
    "Unplug the console, wait and measure before touching it: mains and charged capacitors kill. "
    "Mains work is for a licensed electrician under the local code. Never join old magnets "
    "(12–28 V) to logic inputs, and fuse them. Mind solder fumes, old lead and dust; two people "
    "for the weight."
)
FOOT = "Unplug and measure first. Mains work is for a licensed electrician under the local code."
ERASES = "Setting the encoder up erases what it holds: keep its settings first."
ROW, WIDTH = 27.0, 88
"""Points a wire takes, and letters that a line of cautions holds."""


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
    out = io.BytesIO()
    canvas = new_sheet(out, f"{plan_name}: wires of {owner.name}")
    page = Page(canvas, plan_name, today, FOOT)
    page.begin(f"{owner.name}: wires", "tick once soldered, once tested")
    _lines(page, CAUTIONS)
    if program is not None:
        _settings(page, owner, console, program)
    group = ""
    for wire in wire_list(owner, console):
        if wire.group != group:
            group = wire.group
            page.room(24 + 3 * ROW)
            page.down(12)
            page.text(page.LEFT, group, "SemiBold", 15)
            page.down(26)
        _wire(page, console, wire)
    canvas.save()
    return out.getvalue()


def _lines(page: Page, words: str) -> None:
    for line in wrap(words, WIDTH):
        page.text(page.LEFT, line, "SemiBold", 11)
        page.down(15)


def _settings(page: Page, owner: Device, console: Console, program: int) -> None:
    page.down(14)
    page.text(page.LEFT, "Settings of the encoder", "SemiBold", 15)
    page.down(20)
    if console.encoder.erases:
        _lines(page, ERASES)
    by_number = console.encoder.asks == "note number"
    for held in setup(owner, console, program):
        page.room(ROW)
        page.down(8)
        where = held.name if by_number else f"octave {held.octave}, index {held.note_index}"
        page.text(page.LEFT, held.block, "Regular", 12, 110)
        page.text(page.LEFT + 114, f"channel {held.channel}", "Regular", 12, 70)
        page.text(page.LEFT + 186, where, "Bold", 12, 118)
        page.text(page.LEFT + 308, f"diodes {held.sense}", "Regular", 11, 116)
        page.text(page.LEFT + 428, f"C {held.commons}", "Regular", 11, 72)
        page.down(14)


def _wire(page: Page, console: Console, wire: WireRow) -> None:
    """The number stands before the colour, so that colour is never the only sign."""
    page.room(ROW)
    page.box(ticked=wire.id in console.soldered)
    page.box(ticked=wire.id in console.tested, x=page.LEFT + 28)
    page.text(page.LEFT + 62, f"{wire.number} {wire.colour}", "Bold", 13, 92)
    page.text(page.LEFT + 158, wire.source, "Regular", 12, 126)
    page.text(page.LEFT + 290, wire.dest, "Regular", 12, 160)
    page.text(page.LEFT + 456, f"{wire.metres:.2f} m", "Regular", 11, 44)
    page.rule()
    page.down(ROW)
