"""Wire lists on paper and in spreadsheets, with the settings of the encoder."""

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.cards.dangers import cautions_for
from vastzone.core.console.wires import wire_list
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say
from vastzone.core.sheets.consoles import wires_page
from vastzone.core.sheets.layout import Sheet
from vastzone.files.sheet_paper import to_pdf as sheets_to_pdf

COLUMNS = ("wire", "group", "from", "to", "colour", "number", "metres", "soldered", "tested")
CAUTIONS = " ".join(cautions_for("wires"))


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
    page = wires_page(owner, console, program)
    sheet = Sheet("wires", say("Wires of {owner}", owner=owner.name), (page,))
    return sheets_to_pdf((sheet,), plan_name, today)
