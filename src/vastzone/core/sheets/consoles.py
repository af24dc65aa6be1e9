"""The wire lists of consoles with the settings of their encoders."""

from itertools import groupby

from vastzone.core.cards.dangers import cautions_for
from vastzone.core.console.wires import WireRow, setup, wire_list
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.say import say
from vastzone.core.sheets.layout import (
    WIDTH,
    Block,
    Cell,
    Heading,
    Page,
    Paragraph,
    Rows,
    Sheet,
    Text,
    Tick,
)

ERASES = say("Setting the encoder up erases what it holds: keep its settings first.")
SETTING = (114.0, 72.0, 122.0, 120.0, WIDTH - 428)
WIRE = (28.0, 34.0, 100.0, 132.0, 156.0, WIDTH - 450)


def wires_sheet(plan: Plan) -> Sheet:
    """Cautions, settings as the encoder asks for them, every wire with two ticks."""
    pages = []
    for device in plan.devices:
        if device.console is not None:
            number = device.programs[0].number if device.programs else None
            pages.append(wires_page(device, device.console, number))
    return Sheet("wires", say("Wire lists"), tuple(pages))


def wires_page(owner: Device, console: Console, program: int | None) -> Page:
    """The wires of one console."""
    blocks: list[Block] = [Paragraph(" ".join(cautions_for("wires")), "SemiBold", 11)]
    if program is not None:
        blocks += _settings(owner, console, program)
    for group, wires in groupby(wire_list(owner, console), lambda wire: wire.group):
        blocks.append(Heading(group))
        blocks.append(Rows(tuple(_wire(console, wire) for wire in wires), WIRE))
    return Page(
        say("{owner}: wires", owner=owner.name),
        say("tick once soldered, once tested"),
        tuple(blocks),
    )


def _settings(owner: Device, console: Console, program: int) -> list[Block]:
    blocks: list[Block] = [Heading(say("Settings of the encoder"))]
    if console.encoder.erases:
        blocks.append(Paragraph(ERASES, "SemiBold", 11))
    by_number = console.encoder.asks == "note number"
    rows = []
    for told in setup(owner, console, program):
        where = told.name if by_number else _octave_words(told.octave, told.note_index)
        rows.append(
            (
                Text(told.block),
                Text(say("channel {channel}", channel=told.channel)),
                Text(where, "Bold"),
                Text(say("diodes {sense}", sense=told.sense), size=11),
                Text(
                    say("{commons} octave pins: {pins}", commons=told.commons, pins=told.pins),
                    size=11,
                ),
            )
        )
    blocks.append(Rows(tuple(rows), SETTING))
    return blocks


def _octave_words(octave: int, index: int | None) -> str:
    return (
        say("octave {octave}", octave=octave)
        if index is None
        else say("octave {octave}, index {index}", octave=octave, index=index)
    )


def _wire(console: Console, wire: WireRow) -> tuple[Cell, ...]:
    """The number stands before the colour, so that colour is never the only sign."""
    return (
        Tick(wire.id in console.soldered),
        Tick(wire.id in console.tested),
        Text(f"{wire.number} {say(wire.colour)}", "Bold", 13),
        Text(wire.source),
        Text(wire.dest),
        Text(say("{metres:.2f} m", metres=wire.metres), size=11),
    )
