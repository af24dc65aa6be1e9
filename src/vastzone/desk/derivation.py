"""What is derived from the current plan, worked out in slices while hands go on.

A plan of ordinary size is derived at once when it is asked for; a large one a slice at a time, and
what was known of the plan before stands until then.
"""

from time import perf_counter

from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import Touched, touched_in
from vastzone.core.plan.model.plan import Plan
from vastzone.core.proof.slices import Derived, Steps, derive, finish

AT_ONCE = 160
"""Scenes times devices up to which a plan is derived at once."""


def is_small(plan: Plan) -> bool:
    """Whether a plan is derived faster than a person notices."""
    return max(1, len(plan.scenes)) * len(plan.devices) <= AT_ONCE


class Derivation:
    """The newest findings, proof and causes."""

    def __init__(self) -> None:
        self.known: Derived | None = None
        self.share = 0.0
        self._plan: Plan | None = None
        self._touched: Touched | None = None
        self._steps: Steps | None = None
        self._waited = False

    def forget(self) -> None:
        """Another plan is opened: nothing that is known applies."""
        self.known = self._plan = self._steps = None
        self._waited = False

    def follow(self, plan: Plan, memory: Memory, patient: bool = False) -> None:
        """Work on this plan from now on; by the memory it is known what somebody set in it.

        A small plan is derived at once, unless whoever asks is ``patient``: what was known before
        then stands until it is asked for again, or worked at.
        """
        touched = touched_in(plan, memory)
        if plan is not self._plan or touched is not self._touched:
            self._plan, self._touched = plan, touched
            self._steps, self.share = derive(plan, memory), 0.0
            self._waited = False
        if self._steps is None or not is_small(plan):
            return
        if patient:
            self._waited = True
        else:
            self.known, self._steps = finish(self._steps), None

    @property
    def pending(self) -> bool:
        """Whether there is work left, or what was waited for was found and not yet said."""
        return self._steps is not None or self._waited

    def work(self, seconds: float) -> bool:
        """Work for about so long; True when that finished it."""
        if self._steps is None:
            waited, self._waited = self._waited, False
            return waited
        until = perf_counter() + seconds
        try:
            while perf_counter() < until:
                self.share = next(self._steps)
        except StopIteration as stop:
            self.known, self._steps, self.share = stop.value, None, 1.0
            self._waited = False
            return True
        return False
