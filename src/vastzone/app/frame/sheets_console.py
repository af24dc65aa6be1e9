"""Facts of consoles: a block of contacts, a shoe, the encoder."""

from vastzone.app.frame.field_rows import field_row, field_rows
from vastzone.app.frame.sheet import FactRow, Press, Sheet
from vastzone.core.console.circuit import needed, size_of
from vastzone.core.console.schools import SCHOOL_WORDS, rewiring
from vastzone.core.console.shoes import steps_of
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.fields.owners import (
    block_owner,
    device_owner,
    encoder_owner,
    shoe_owner,
)
from vastzone.core.plan.fields.table import field_of
from vastzone.core.plan.model.console import Block, Console
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import device_ability
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say

BLOCK, ENCODER = "block ", "encoder "


def _missing() -> Sheet:
    return Sheet("", say("Console"), say("Console"), (), remark=say("This has been removed."))


def block_sheet(plan: Plan, ref: str) -> Sheet:
    """A keyboard or the stops as they are wired."""
    device, ident = read_ref(ref.removeprefix(BLOCK))
    owner = lookup.find(plan.devices, device)
    console = owner.console if owner is not None else None
    block = lookup.find(console.blocks, ident) if console else None
    if owner is None or console is None or block is None:
        return _missing()

    name, *more = field_rows(block_owner(owner, block))
    rows = (
        name,
        FactRow(say("Contacts"), "fixed", str(size_of(owner, block)[0])),
        FactRow(say("Commons needed"), "fixed", str(needed(owner, block, console.encoder.lines))),
        FactRow(
            say("On pins"),
            "fixed",
            ", ".join(f"C{common}" for common in block.commons) or say("none yet"),
        ),
        *more,
    )
    return Sheet(
        ref,
        block.name,
        say("Wiring in {owner}", owner=owner.name),
        rows,
        (),
        _school_words(owner, block),
    )


def _school_words(owner: Device, block: Block) -> str:
    """What another way to wire a keyboard would mean, where its pins are soldered."""
    if owner.console is None or block.keybed is None or not block.soldered:
        return ""
    work = rewiring(owner, owner.console, block)
    if not work.wires:
        return say("It begins on C: both ways to wire it are the same.")
    return say(
        "Its pins are soldered as {school_words} wants it. Lines counted the other way would "
        "mean {wires} wires moved: {lines} lines and {contacts} contacts.",
        school_words=SCHOOL_WORDS[block.counts],
        wires=work.wires,
        lines=work.lines,
        contacts=work.contacts,
    )


def encoder_sheet(plan: Plan, ref: str) -> Sheet:
    """What scans: its pins, its pace, its inputs."""
    device = ref.removeprefix(ENCODER)
    owner = lookup.find(plan.devices, device)
    if owner is None or owner.console is None:
        return _missing()
    encoder = owner.console.encoder

    naming = field_row(device_owner(owner), field_of("device", "octaves"))
    rows = (
        *field_rows(encoder_owner(owner)),
        naming._replace(label=say("Octave of middle C")),
        *_wiring(owner.id, owner.console),
    )
    remark = ""
    if encoder.erases:
        remark = say("Setting it up again erases everything it holds: keep every setting before.")
    return Sheet(ref, say("Encoder of {owner}", owner=owner.name), say("Encoder"), rows, (), remark)


def _wiring(device: str, console: Console) -> tuple[FactRow, ...]:
    """What is kept free, and the colours that wires are given."""

    def colour(words: str) -> Edit:
        colours = tuple(word.strip() for word in words.split(",") if word.strip())
        return consoles.set_console(device, say("Change wire colours"), colours=colours)

    def room(commons: int) -> Edit:
        return consoles.set_console(device, say("Leave room"), room=commons)

    return (
        FactRow(say("Spare commons a keyboard"), "number", console.room, room, 0, 8),
        FactRow(say("Wire colours"), "text", ", ".join(console.colours), colour),
    )


def shoe_rows(owner: Device, control: str) -> list[FactRow]:
    """A shoe’s voltages, its input and how steady it is; nothing for what is no shoe."""
    console = owner.console
    shoe = next((s for s in console.shoes if s.control == control), None) if console else None
    if console is None or shoe is None:
        return []

    steps = FactRow(say("Steps it moves over"), "fixed", str(steps_of(shoe, console.encoder)))
    return [*field_rows(shoe_owner(owner, shoe)), steps]


def begin_press(owner: Device) -> Press | None:
    """The button that wires a console behind a device with keys or stops that has none."""
    fits = owner.console is None and (owner.keybeds or owner.controls)
    if not fits or not device_ability(owner).scans:
        return None
    return Press(say("Wire a console"), "plus", lambda: consoles.begin(owner))
