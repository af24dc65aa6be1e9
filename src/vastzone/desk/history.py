"""Undo and redo: since plans are immutable, undo is the previous plan."""

from typing import NamedTuple

from vastzone.core.plan.model.plan import Plan


class UndoStep(NamedTuple):
    """A plan and the label of the edit that led to it."""

    label: str
    plan: Plan


class History:
    """The plans so far and the place among them."""

    LONGEST = 500

    def __init__(self, plan: Plan) -> None:
        self._entries = [UndoStep("", plan)]
        self._at = 0

    @property
    def plan(self) -> Plan:
        """The current plan."""
        return self._entries[self._at].plan

    def add(self, label: str, plan: Plan, join: bool = False) -> None:
        """Go on to a new plan; what had been undone is forgotten.

        ``join`` makes it one step with the edit before, when that has the same label: a drag is
        one undo.
        """
        del self._entries[self._at + 1 :]
        if join and self._at > 0 and self._entries[-1].label == label:
            self._entries[-1] = UndoStep(label, plan)
        else:
            self._entries.append(UndoStep(label, plan))
        del self._entries[: -self.LONGEST]
        self._at = len(self._entries) - 1

    @property
    def undo_label(self) -> str | None:
        """What undo would take back; None when there is nothing."""
        return self._entries[self._at].label if self._at else None

    @property
    def redo_label(self) -> str | None:
        """What redo would do again; None when there is nothing."""
        ahead = self._at + 1
        return self._entries[ahead].label if ahead < len(self._entries) else None

    def undo(self) -> Plan:
        """Back one plan; stays at the first."""
        self._at = max(0, self._at - 1)
        return self.plan

    def redo(self) -> Plan:
        """Forward one plan; stays at the last."""
        self._at = min(len(self._entries) - 1, self._at + 1)
        return self.plan
