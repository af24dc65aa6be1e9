"""The set list on paper: the evening on a sheet, then a sheet for each song."""

from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.setlists import SetList
from vastzone.core.sheets.evening import setlist_sheet
from vastzone.files.sheet_paper import to_pdf as sheets_to_pdf


def to_pdf(plan: Plan, one: SetList, today: str) -> bytes:
    """The evening in order with presses per person, then what each song needs."""
    return sheets_to_pdf((setlist_sheet(plan, one),), plan.name, today)
