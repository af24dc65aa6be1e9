"""One sheet for a device with pads: where each lies, its name, what it sends, what it sounds."""

from vastzone.core.cards.tracks import Track, compiled_on, message_words, tracks
from vastzone.core.engine.named_sounds import named_sounds
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.controls import Control, Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.core.sheets.layout import WIDTH, Cell, Text
from vastzone.files.paper import Paper

FOOT = say("Turn down before the first test: a pad at full level is loud.")
LIST = (110.0, 90.0, 60.0, 80.0, 159.0)
"""Widths of drum, zone, channel, message and sound; together the width of a sheet."""
MOST_COLUMNS = 8
"""More pads beside each other than this are too narrow to read: they go on below."""


def to_pdf(plan: Plan, owner: Device, today: str) -> bytes:
    """A sheet for each program: the faces bank by bank as they lie, then every zone as a line."""
    paper = Paper(
        say("{plan}: pads of {owner}", plan=plan.name, owner=owner.name), plan.name, today, FOOT
    )
    for program in owner.programs:
        name = f"{program_words(owner, program.number)} {program.name}"
        paper.begin(say("{owner}: pads", owner=owner.name), name)
        for bank in _banks(owner, program):
            if bank > 1:
                paper.heading(say("Bank {bank}", bank=bank), 15)
            for row in _faces(plan, owner, program, bank):
                paper.rows([row], [WIDTH / len(row)] * len(row))
        paper.heading(say("Every zone"), 15)
        listed = tracks(plan, owner, (program,))
        paper.rows([_line(track) for track in listed], LIST)
    return paper.finished()


def _banks(owner: Device, program: Program) -> tuple[int, ...]:
    """The banks in which any pad sends anything; the first at least."""
    pads = {pad.id for pad in pads_of(owner)}
    banks = {1}
    for send in program.sends:
        if send.control in pads and send.message != "none":
            banks.add(send.bank)
    return tuple(sorted(banks))


def _faces(plan: Plan, owner: Device, program: Program, bank: int) -> list[list[Cell]]:
    """The faces in their rows, as many beside each other as can be read."""
    rows: dict[int, dict[int, Control]] = {}
    for pad in pads_of(owner):
        rows.setdefault(pad.row, {})[pad.column] = pad
    faces = []
    for number in sorted(rows):
        held = rows[number]
        columns = range(max(held) + 1)
        cells: list[Cell] = []
        for column in columns:
            if column in held:
                cells.append(_face(plan, owner, program, bank, held[column]))
            else:
                cells.append(Text(""))
        for first in range(0, len(cells), MOST_COLUMNS):
            faces.append(cells[first : first + MOST_COLUMNS])
    return faces


def _face(plan: Plan, owner: Device, program: Program, bank: int, pad: Control) -> Text:
    """A pad: its sound large, its name and what it sends below."""
    sends = []
    for send in program.sends:
        if (send.control, send.bank) == (pad.id, bank) and send.message != "none":
            sends.append(send)
    if not sends:
        return Text("–", "Regular", 11, pad.name)
    sent = ", ".join(message_words(owner, send) for send in sends)
    return Text(_sounds(plan, owner, program, pad, bank), "Bold", 11, f"{pad.name}: {sent}")


def _sounds(plan: Plan, owner: Device, program: Program, pad: Control, bank: int) -> str:
    """What a pad sounds by name, in the first scene in which the program is on."""
    compiled = compiled_on(plan, owner, program)
    if compiled is None:
        return say("in no scene")
    names = named_sounds(compiled, (ref_to(owner.id, pad.id), bank))
    return " / ".join(names) or say("no sound")


def _line(track: Track) -> tuple[Cell, ...]:
    channel = (
        say("as the zones") if track.channel is None else say("ch {channel}", channel=track.channel)
    )
    return (
        Text(track.drum, "SemiBold", 11),
        Text(track.zone, size=11),
        Text(channel, size=11),
        Text(track.words, size=11),
        Text("–" if track.silent else track.sound, "Bold", 11),
    )
