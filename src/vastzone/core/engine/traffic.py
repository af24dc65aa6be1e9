"""Messages on their cables: a DIN line carries one at a time, the others wait."""

from collections.abc import Sequence

from vastzone.core.engine.tables import Course


class Traffic:
    """Which lines are busy until when, in milliseconds.

    While nothing is under way, the times of a course are those worked out when it was compiled;
    only messages that coincide are followed line by line.
    """

    def __init__(self) -> None:
        self._quiet_at = 0.0
        self._busy: dict[int, float] = {}
        self._status: dict[int, int] = {}
        self._last: tuple[float, Course] | None = None

    def send(self, course: Course, status: int, at: float) -> Sequence[float]:
        """Send a message at a time; when it has arrived after each step, counted from then."""
        if at >= self._quiet_at and course.calm:
            self._last = (at, course)
            self._quiet_at = at + course.busy_ms
            return course.times
        return self._queue(course, status, at)

    def _queue(self, course: Course, status: int, at: float) -> list[float]:
        if self._last is not None:
            since, before = self._last
            for line, ms in before.busy:
                self._busy[line] = since + ms
            self._last = None
        busy, known = self._busy, self._status
        times: list[float] = []
        for line, parent, before_ms, ms, short_ms in course.lines:
            start = (times[parent] if parent >= 0 else 0.0) + before_ms
            if line >= 0:
                free = busy.get(line, at) - at
                if free > start:
                    start = free
                if ms == short_ms:
                    start += ms
                else:
                    start += short_ms if known.get(line) == status else ms
                    known[line] = status
                busy[line] = start + at
            else:
                start += ms
            times.append(start)
        self._quiet_at = max(self._quiet_at, at + max(times, default=0.0))
        return times

    def clear(self) -> None:
        """Forget everything under way."""
        self.__init__()  # type: ignore[misc]
