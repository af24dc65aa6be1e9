"""Undo and redo: since plans are immutable, undo is the previous plan."""

from typing import NamedTuple

from vastzone.core.memory.described import Telling
from vastzone.core.plan.model.plan import Plan
from vastzone.desk.held import Done


class Told(NamedTuple):
    """What memories were told in a step: what was done at devices before it and after it."""

    tellings: tuple[Telling, ...]
    before: tuple[Done, ...]
    after: tuple[Done, ...]


def joined(first: Told | None, second: Told | None) -> Told | None:
    """What was told in two steps that are one."""
    if first is None or second is None:
        return first or second
    return Told((*first.tellings, *second.tellings), first.before, second.after)


class UndoStep(NamedTuple):
    """A plan, the label of the edit that led to it, and what devices were told to be by it."""

    label: str
    plan: Plan
    told: Told | None = None


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

    def add(self, label: str, plan: Plan, join: bool = False, told: Told | None = None) -> None:
        """Go on to a new plan; what had been undone is forgotten.

        ``join`` makes it one step with the edit before, when that has the same label: a drag is
        one undo.
        """
        del self._entries[self._at + 1 :]
        if join and self._at > 0 and self._entries[-1].label == label:
            before = self._entries[-1].told
            self._entries[-1] = UndoStep(label, plan, joined(before, told))
        else:
            self._entries.append(UndoStep(label, plan, told))
        del self._entries[: -self.LONGEST]
        self._at = len(self._entries) - 1

    @property
    def told(self) -> Told | None:
        """What devices were told to be by the edit that led to the current plan."""
        return self._entries[self._at].told

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
