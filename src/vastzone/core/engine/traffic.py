"""Messages on their cables: a DIN line carries one at a time, the others wait.

A line serves messages in the order in which they arrive there: what was struck later, but came by
a quicker way, goes first.  Equal ones go in the order of striking.
"""

from collections.abc import Iterable, Sequence
from heapq import heapify, heappop, heappush
from typing import NamedTuple, Protocol

from vastzone.core.engine.tables import Course, Line

MOST_UNDER_WAY = 256
"""Messages that can still be overtaken; behind so many the oldest have left for good."""


class Timed(Protocol):
    """What is told when a message arrives: a strike or a movement."""

    times: Sequence[float]


class UnderWay(NamedTuple):
    """A message on its way: when it was sent, along what, and its times, which may still change."""

    at: float
    course: Course
    status: int
    times: list[float]


class LineState:
    """Until when each line is taken, the last status byte on it, and when the last one arrived."""

    __slots__ = ("arrived", "busy", "status")

    def __init__(self) -> None:
        self.busy: dict[int, float] = {}
        self.status: dict[int, int] = {}
        self.arrived: dict[int, float] = {}

    def copy(self) -> "LineState":
        """The same again, to be changed."""
        made = LineState()
        made.busy, made.status = dict(self.busy), dict(self.status)
        made.arrived = dict(self.arrived)
        return made

    def serve(self, step: Line, arrives: float, status: int) -> float:
        """Serve a message on one step of its way; when it has passed it."""
        line, _, _, takes, short = step
        if line < 0:
            return arrives + takes
        self.arrived[line] = arrives
        free = self.busy.get(line, arrives)
        start = free if free > arrives else arrives
        if takes != short:
            if self.status.get(line) == status:
                takes = short
            else:
                self.status[line] = status
        self.busy[line] = end = start + takes
        return end


def simulate(lines: LineState, messages: Iterable[UnderWay]) -> None:
    """Let messages run over lines in the order of their arrival everywhere; sets their times."""
    queue: list[tuple[float, int, int]] = []
    held = list(messages)
    for number, (at, course, _, times) in enumerate(held):
        times[:] = [0.0] * len(course.lines)
        roots = (n for n, step in enumerate(course.lines) if step.parent < 0)
        queue.extend((at + course.lines[n].before_ms, number, n) for n in roots)
    heapify(queue)
    while queue:
        arrives, number, place = heappop(queue)
        at, course, status, times = held[number]
        passed = lines.serve(course.lines[place], arrives, status)
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
        self._before = LineState()
        self._now = LineState()
        self._under_way: list[UnderWay] = []
        self._last: tuple[float, Course, int, Timed | None] | None = None

    def send(
        self, course: Course, status: int, at: float, told: Timed | None = None
    ) -> Sequence[float]:
        """Send a message at a time; when it has arrived after each step, counted from then.

        A later message that arrives earlier somewhere changes these times: those that ``told`` has
        are kept right.
        """
        if at >= self._quiet_at and course.calm:
            self._last = (at, course, status, told)
            self._quiet_at = at + course.busy_ms
            return course.times
        return self._queue(course, status, at)

    def _queue(self, course: Course, status: int, at: float) -> list[float]:
        if at >= self._quiet_at:
            self._settle()
            self._last = None
        elif self._last is not None:
            since, before, its_status, told = self._last
            self._last = None
            self._settle()
            times = self._follow(before, its_status, since)
            if told is not None:
                told.times = times
        elif len(self._under_way) >= MOST_UNDER_WAY:
            self._settle()
        return self._follow(course, status, at)

    def _settle(self) -> None:
        """What is under way can no longer be overtaken."""
        self._under_way.clear()
        self._before = self._now.copy()

    def _follow(self, course: Course, status: int, at: float) -> list[float]:
        """Follow a message line by line, at the end of each queue as long as it arrives last."""
        times = [0.0] * len(course.lines)
        self._under_way.append(UnderWay(at, course, status, times))
        arrived, serve = self._now.arrived, self._now.serve
        latest = 0.0
        for place, step in enumerate(course.lines):
            line, parent, before_ms, _, _ = step
            arrives = at + before_ms
            if parent >= 0:
                arrives += times[parent]
            if arrives < arrived.get(line, arrives):
                self._overtake()
                return times
            took = serve(step, arrives, status) - at
            times[place] = took
            if took > latest:
                latest = took
        if at + latest > self._quiet_at:
            self._quiet_at = at + latest
        return times

    def _overtake(self) -> None:
        """The newest message comes before another somewhere: everything under way runs anew."""
        self._now = self._before.copy()
        simulate(self._now, self._under_way)
        ends = [at + max(times, default=0.0) for at, _, _, times in self._under_way]
        self._quiet_at = max(self._quiet_at, *ends)

    def clear(self) -> None:
        """Forget everything under way."""
        self.__init__()  # type: ignore[misc]
