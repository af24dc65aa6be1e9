"""Several edits as one step."""

from collections.abc import Iterable

from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Plan


def together(label: str, edits: Iterable[Edit]) -> Edit:
    """Edits one after the other, as one step of the history."""
    every = tuple(edits)

    def apply(plan: Plan) -> Plan:
        for edit in every:
            plan = edit.change(plan)
        return plan

    return Edit(label, apply)
