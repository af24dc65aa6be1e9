"""Sheets about what hands touch: label strips to scale, the map of a device, the learn order."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.cards.card import cards
from vastzone.core.cards.tracks import compiled_on
from vastzone.core.describe.face import Face, face_of, on_face
from vastzone.core.describe.words import sent_as
from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.named_sounds import named_sounds
from vastzone.core.memory.model import Memory
from vastzone.core.midi import pitch
from vastzone.core.plan.model.controls import Control, Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say, say_many
from vastzone.core.sheets.layout import (
    WIDTH,
    Block,
    Heading,
    Label,
    Page,
    Paragraph,
    Rows,
    Sheet,
    Strip,
    Text,
    Tick,
)
from vastzone.core.text import listed

STRIP_HIGH, SAME_ROW = 9.0, 6.0
"""Millimetres: how high a strip is, and how far controls of one row may lie apart."""
STRIPPED = frozenset(("fader", "knob", "button", "pad", "stop", "switch", "wheel", "lever"))


class Does(NamedTuple):
    """What a control does in a program and bank: what it sends, what that moves or sounds."""

    control: Control
    bank: int
    sends: str
    does: str


def what_it_does(plan: Plan, device: Device, program: Program) -> Iterator[Does]:
    """Every control of a device in one of its programs."""
    compiled = compiled_on(plan, device, program)
    for control in device.controls:
        for bank in range(1, control.banks + 1):
            sent = []
            for send in program.sends:
                if (send.control, send.bank) == (control.id, bank) and send.message != "none":
                    sent.append(sent_as(device, send))
            names = _names(compiled, device, control, bank)
            if sent or names:
                yield Does(control, bank, ", ".join(sent), ", ".join(names))


def _names(
    compiled: Compiled | None, device: Device, control: Control, bank: int
) -> tuple[str, ...]:
    if compiled is None:
        return ()
    return named_sounds(compiled, (ref_to(device.id, control.id), bank))


def labels_sheet(plan: Plan) -> Sheet:
    """Strips for every device whose controls do something, to scale, a page for each device."""
    pages = []
    for device in plan.devices:
        blocks = tuple(_strips(plan, device))
        if blocks:
            told = say("to scale: print at 100 %, cut along the marks")
            pages.append(Page(say("{device}: labels", device=device.name), told, blocks))
    return Sheet("labels", say("Label strips"), tuple(pages))


def _strips(plan: Plan, device: Device) -> Iterator[Block]:
    """A strip for each row of controls; programs that say the same share it."""
    face = face_of(device)
    seen: dict[tuple[Strip, ...], list[str]] = {}
    for program in device.programs:
        strips = tuple(_in_program(plan, device, program, face))
        if strips:
            name = f"{program_words(device, program.number)} {program.name}"
            seen.setdefault(strips, []).append(name)
    for strips, names in seen.items():
        every = len(names) == len(device.programs)
        yield Heading(say("In every program") if every else listed(names, 4), 13)
        yield from strips


def _in_program(plan: Plan, device: Device, program: Program, face: Face) -> Iterator[Strip]:
    told: dict[tuple[str, int], str] = {}
    banks = {1}
    for one in what_it_does(plan, device, program):
        told[one.control.id, one.bank] = one.does or one.sends.split(",")[0]
        banks.add(one.bank)
    for bank in sorted(banks):
        for row in _rows(device, face):
            labels = _labels(row, face, told, bank)
            if any(label.words for label in labels):
                names = (
                    say("{first} to {last}", first=row[0].name, last=row[-1].name)
                    if len(row) > 1
                    else row[0].name
                )
                also = say(", bank {bank}", bank=bank) if len(banks) > 1 else ""
                yield Strip(f"{names}{also}", labels, STRIP_HIGH)


def _rows(device: Device, face: Face) -> list[list[Control]]:
    """The controls on the face that lie beside each other, from left to right."""
    placed = []
    for control in device.controls:
        if control.kind in STRIPPED and on_face(control) and control.id in face.spots:
            placed.append(control)
    placed.sort(key=lambda control: (control.kind, face.spots[control.id].y))
    rows: list[list[Control]] = []
    for control in placed:
        spot = face.spots[control.id]
        last = rows[-1][-1] if rows else None
        beside = last is not None and last.kind == control.kind
        if last is not None and beside and abs(face.spots[last.id].y - spot.y) < SAME_ROW:
            rows[-1].append(control)
        else:
            rows.append([control])
    for row in rows:
        row.sort(key=lambda control: face.spots[control.id].x)
    return rows


def _labels(
    row: list[Control], face: Face, told: dict[tuple[str, int], str], bank: int
) -> tuple[Label, ...]:
    """As wide as from the middle between one and its neighbours on either side."""
    middles = [face.spots[control.id].x + face.spots[control.id].wide / 2 for control in row]
    labels = []
    for place, control in enumerate(row):
        own = face.spots[control.id].wide + 6.0
        before = middles[place] - middles[place - 1] if place else 0.0
        after = middles[place + 1] - middles[place] if place + 1 < len(row) else 0.0
        left, right = before or after or own, after or before or own
        words = told.get((control.id, bank), "")
        labels.append(Label(words, control.name, round((left + right) / 2, 1)))
    return tuple(labels)


def map_sheet(plan: Plan) -> Sheet:
    """A page for each device that is played: «Fader 3 · 22 · Layer 3 volume», and its keys."""
    pages = []
    for device in plan.devices:
        if device.programs and (device.controls or device.keybeds):
            pages.append(_map_of(plan, device))
    return Sheet("map", say("Maps of devices"), tuple(pages))


def _map_of(plan: Plan, device: Device) -> Page:
    blocks: list[Block] = []
    seen: dict[tuple[tuple[str, str, str], ...], list[str]] = {}
    for program in device.programs:
        lines = (*_zone_lines(device, program), *_control_lines(plan, device, program))
        name = f"{program_words(device, program.number)} {program.name}"
        seen.setdefault(lines, []).append(name)
    for lines, names in seen.items():
        every = len(names) == len(device.programs)
        blocks.append(Heading(say("In every program") if every else listed(names, 4)))
        rows = []
        for thing, sends, does in lines:
            rows.append((Text(thing, "SemiBold", 11), Text(sends, size=11), Text(does, "Bold", 11)))
        blocks.append(Rows(tuple(rows), (150.0, 160.0, WIDTH - 310.0)))
    told = say("what is touched, what it sends, what that does")
    return Page(say("{device}: map", device=device.name), told, tuple(blocks))


def _zone_lines(device: Device, program: Program) -> Iterator[tuple[str, str, str]]:
    for zone in program.zones:
        if zone.sends:
            keys = pitch.span(zone.low, zone.high, device.octaves)
            yield keys, say("keys on channel {channel}", channel=zone.channel), zone.name


def _control_lines(plan: Plan, device: Device, program: Program) -> Iterator[tuple[str, str, str]]:
    for one in what_it_does(plan, device, program):
        also = say(", bank {bank}", bank=one.bank) if one.control.banks > 1 else ""
        yield f"{one.control.name}{also}", one.sends, one.does


def learn_sheet(plan: Plan, memory: Memory) -> Sheet:
    """What hosts learn, in an order that works: choose this, then move that."""
    pages = []
    for card in cards(plan, memory, everything=True):
        lines = [line for line in card.lines if line.kind == "learn"]
        if lines:
            rows = tuple((Tick(line.done), Text(line.words, size=13)) for line in lines)
            block = Rows(rows, (34.0, WIDTH - 34.0))
            note = Paragraph(say("Touch nothing else meanwhile: a host learns whatever moves."))
            pages.append(
                Page(
                    say("{card}: learn order", card=card.name),
                    say_many("{count} step", "{count} steps", len(lines)),
                    (note, block),
                )
            )
    return Sheet("learn", say("Learn order"), tuple(pages))
