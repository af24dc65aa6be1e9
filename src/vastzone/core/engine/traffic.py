"""Messages on their cables: a DIN line carries one at a time, the others wait.

A line serves messages in the order in which they arrive there: what was struck later, but came by
a quicker way, goes first.  Equal ones go in the order of striking.
"""

from collections.abc import Iterable, Sequence
from heapq import heapify, heappop, heappush
from math import inf
from typing import Protocol

from vastzone.core.engine.tables import TimedStep, Timing

MOST_UNDER_WAY = 256
"""Messages that can still be overtaken; behind so many the oldest have left for good."""


class Timed(Protocol):
    """What is told when a message arrives: a strike or a movement."""

    times: Sequence[float]


UnderWay = tuple[float, Timing, int, list[float]]
"""A message on its way: when it was sent, along what, its status byte, and its times so far."""


class LineState:
    """When the last message arrived at a line, until when it is taken, and its last status byte."""

    __slots__ = ("arrived", "busy", "status")

    def __init__(self) -> None:
        self.arrived = self.busy = -inf
        self.status = 0

    def copy(self) -> "LineState":
        """The same again, to be changed."""
        twin = LineState()
        twin.arrived, twin.busy, twin.status = self.arrived, self.busy, self.status
        return twin

    def serve(self, step: TimedStep, arrives: float, status: int) -> float:
        """Serve a message that arrives now; when it has passed."""
        takes, short = step[3], step[4]
        if takes != short:
            if self.status == status:
                takes = short
            else:
                self.status = status
        self.arrived = arrives
        # Every message on every DIN line comes by here: an «if» is quicker than a call of max().
        begins = arrives
        if self.busy > arrives:
            begins = self.busy
        self.busy = begins + takes
        return self.busy


Lines = dict[int, LineState]
"""The state of every line that carried something; −1 is where nothing queues, and is not in it."""


def simulate(lines: Lines, messages: Iterable[UnderWay]) -> None:
    """Let messages run over lines in the order of their arrival everywhere; sets their times."""
    queue: list[tuple[float, int, int]] = []
    queued = list(messages)
    for number, (at, course, _, times) in enumerate(queued):
        times[:] = [0.0] * len(course.lines)
        roots = (n for n, step in enumerate(course.lines) if step.parent < 0)
        for root in roots:
            queue.append((at + course.lines[root].before_ms, number, root))
    heapify(queue)
    while queue:
        arrives, number, place = heappop(queue)
        at, course, status, times = queued[number]
        step = course.lines[place]
        if step.line < 0:
            passed = arrives + step.ms
        else:
            passed = lines.setdefault(step.line, LineState()).serve(step, arrives, status)
        times[place] = passed - at
        for child in course.children[place]:
            heappush(queue, (passed + course.lines[child].before_ms, number, child))


class Traffic:
    """Which lines are busy until when, in milliseconds.

    While nothing is under way, the times of a course are those worked out when it was compiled;
    only messages that coincide are followed line by line.
    """

    def __init__(self) -> None:
        self._quiet_at = 0.0
        self._before: Lines = {}
        self._now: Lines = {}
        self._under_way: list[UnderWay] = []
        self._last: tuple[float, Timing, int, Timed | None] | None = None

    def send(
        self, course: Timing, status: int, at: float, told: Timed | None = None
    ) -> Sequence[float]:
        """Send a message at a time; when it has arrived after each step, counted from then.

        A later message that arrives earlier somewhere changes these times: those that ``told`` has
        are kept right.
        """
        if at >= self._quiet_at and course.calm:
            self._last = (at, course, status, told)
            self._quiet_at = at + course.busy_ms
            return course.times
        if at >= self._quiet_at or self._last or len(self._under_way) >= MOST_UNDER_WAY:
            self._make_ready(at)
        return self._follow(course, status, at)

    def _make_ready(self, at: float) -> None:
        """Settle what is old; follow the one that went alone, now that another meets it."""
        last, self._last = self._last, None
        self._settle()
        if last is None or at >= self._quiet_at:
            return
        since, course, status, told = last
        times = self._follow(course, status, since)
        if told is not None:
            told.times = times

    def _settle(self) -> None:
        """What is under way can no longer be overtaken."""
        self._under_way.clear()
        self._before = _copied(self._now)

    def _follow(self, course: Timing, status: int, at: float) -> list[float]:
        """Follow a message line by line, at the end of each queue as long as it arrives last."""
        times: list[float] = []
        self._under_way.append((at, course, status, times))
        lines, last = self._now, at
        for step in course.lines:
            line, parent, before_ms, takes, _ = step
            passed = at + before_ms
            if parent >= 0:
                passed += times[parent]
            if line < 0:
                passed += takes
            else:
                state = lines.get(line)
                if state is None:
                    state = lines[line] = LineState()
                # Struck later, here earlier: what was worked out for the others no longer holds.
                if passed < state.arrived:
                    self._overtake()
                    return times
                passed = state.serve(step, passed, status)
            times.append(passed - at)
            if passed > last:
                last = passed
        if last > self._quiet_at:
            self._quiet_at = last
        return times

    def _overtake(self) -> None:
        """The newest message comes before another somewhere: everything under way runs anew."""
        self._now = _copied(self._before)
        simulate(self._now, self._under_way)
        ends = []
        for at, _, _, times in self._under_way:
            ends.append(at + max(times, default=0.0))
        self._quiet_at = max(self._quiet_at, *ends)

    def clear(self) -> None:
        """Forget everything under way."""
        self.__init__()  # type: ignore[misc]


def _copied(lines: Lines) -> Lines:
    return {line: state.copy() for line, state in lines.items()}
