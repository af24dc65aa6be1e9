"""How views apply edits: errors become one sentence in the window."""

from collections.abc import Callable

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Plan

Performer = Callable[[Edit], None]


def refused(edit: Edit, plan: Plan) -> str:
    """Why an edit cannot be made to a plan, for a page that says so itself; empty where it can."""
    try:
        edit(plan)
    except EditError as error:
        return str(error)
    return ""
