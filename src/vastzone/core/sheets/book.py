"""All sheets of a plan by name, and the book of it: everything with contents, date and who."""

from collections.abc import Callable, Iterable, Iterator

from vastzone.core.cache import no_collecting
from vastzone.core.cards.card import Card, CardLine, cards
from vastzone.core.memory.model import Memory
from vastzone.core.plan.edits.setlists import add_setlist
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say, say_many
from vastzone.core.sheets.consoles import wires_sheet
from vastzone.core.sheets.controls import labels_sheet, learn_sheet, map_sheet
from vastzone.core.sheets.evening import plugging_sheet, setlist_sheet, test_sheet
from vastzone.core.sheets.layout import (
    WIDTH,
    Block,
    Cell,
    Heading,
    Page,
    Rows,
    Sheet,
    SheetKind,
    Text,
    Tick,
)
from vastzone.core.sheets.stage import delay_sheet, desk_sheet, packing_sheet, power_sheet
from vastzone.core.sheets.trouble import trouble_sheet

NAMES: dict[SheetKind, str] = {
    "cards": say("Cards"),
    "map": say("Maps of devices"),
    "labels": say("Label strips"),
    "learn": say("Learn order"),
    "plugging": say("Plugging"),
    "wires": say("Wire lists"),
    "test": say("Test list"),
    "desk": say("Desk list"),
    "delay": say("Delays"),
    "power": say("Power and cables"),
    "packing": say("Packing and putting up"),
    "setlist": say("Set list and song cards"),
    "trouble": say("Troubleshooting"),
}
"""What each sheet is called, in the order of the book."""
TICKED = (34.0, WIDTH - 34)
STEP = (34.0, 150.0, 220.0, WIDTH - 404)


def sheets(plan: Plan, memory: Memory, kind: SheetKind) -> tuple[Sheet, ...]:
    """The sheets of one kind; none where there is nothing to say."""
    made = tuple(_made(plan, memory, kind))
    return tuple(sheet for sheet in made if sheet.pages)


def _made(plan: Plan, memory: Memory, kind: SheetKind) -> Iterator[Sheet]:
    if kind == "cards":
        yield cards_sheet(cards(plan, memory, everything=True))
    elif kind == "learn":
        yield learn_sheet(plan, memory)
    elif kind == "setlist":
        if not plan.setlists and plan.scenes:
            plan = add_setlist(say("All songs")).change(plan)
        for one in plan.setlists:
            yield setlist_sheet(plan, one)
    else:
        yield PLAIN[kind](plan)


PLAIN: dict[str, Callable[[Plan], Sheet]] = {
    "labels": labels_sheet,
    "map": map_sheet,
    "test": test_sheet,
    "plugging": plugging_sheet,
    "wires": wires_sheet,
    "desk": desk_sheet,
    "delay": delay_sheet,
    "power": power_sheet,
    "packing": packing_sheet,
    "trouble": trouble_sheet,
}
"""Sheets that need nothing but the plan."""


def book(plan: Plan, memory: Memory) -> tuple[Sheet, ...]:
    """Every sheet that has something to say, in the order of the book."""
    every: list[Sheet] = []
    with no_collecting():
        for kind in NAMES:
            every.extend(sheets(plan, memory, kind))
    return tuple(every)


def cards_sheet(some: Iterable[Card], reasons: bool = False) -> Sheet:
    """Cards with a tick for each step; with ``reasons``, why each number is what it is."""
    pages = tuple(_card(card, reasons) for card in some)
    if not pages:
        told = say("Every device holds the numbers that stand in the plan.")
        pages = (Page(say("Nothing to dial"), told, ()),)
    return Sheet("cards", say("Cards"), pages)


def _card(card: Card, reasons: bool) -> Page:
    blocks: list[Block] = []
    if card.preparation:
        before = tuple((Tick(), Text(line, size=13)) for line in card.preparation)
        blocks.append(Rows(before, TICKED, False))
    if card.plugging:
        blocks.append(Heading(say("What goes into its jacks, as one stands behind it"), 16))
        jacks = tuple((Tick(), Text(line, size=13)) for line in card.plugging)
        blocks.append(Rows(jacks, TICKED, False))
    for section in card.sections:
        blocks.append(Heading(section.title, 16))
        for line in section.lines:
            if line.kind == "dial":
                blocks.append(Rows((_dial(line, reasons),), STEP))
            else:
                told = (Tick(line.done), Text(line.words, "SemiBold", 14))
                blocks.append(Rows((told,), TICKED, False))
    below = say(
        "{lines}, about {presses} presses",
        lines=say_many("{count} line", "{count} lines", len(card.lines)),
        presses=card.presses,
    )
    return Page(card.name, below, tuple(blocks))


def _dial(line: CardLine, reasons: bool) -> tuple[Cell, ...]:
    small = [line.path]
    if line.known is not None:
        small.append(f"{say(line.state)} {line.known.on} {line.known.by}".strip())
    if reasons:
        small.extend(line.why)
    below = " · ".join(filter(None, small))
    was = Text(say("was {before}", before=line.before) if line.before else "", size=11)
    return (
        Tick(line.done),
        Text(line.thing, size=13, small=below),
        Text(line.after, "Bold", 14),
        was,
    )
