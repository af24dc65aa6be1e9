"""What most of a sheet is made of: rows of boxes to tick and lines of text.

They draw themselves, in a fraction of the time that a table, a drawing or a paragraph takes.
"""

from collections.abc import Sequence
from typing import Any

from reportlab.platypus import Flowable

from vastzone.core.sheets.layout import Text
from vastzone.files.measures import GAP, LEADING, OVER, SMALL, TICK, UNDER


class Box(Flowable):  # type: ignore[misc]
    """A box to tick, ticked or not."""

    def __init__(self, ticked: bool) -> None:
        super().__init__()
        self.width = self.height = TICK + 2
        self._ticked = ticked

    def draw(self) -> None:
        """Draw it on the page."""
        self.canv.setLineWidth(1.6)
        self.canv.rect(1, 1, TICK, TICK)
        if self._ticked:
            self.canv.lines([(5, 11, 10, 5), (10, 5, 18, 18)])


class Lines(Flowable):  # type: ignore[misc]
    """A line of text that fits as it is, a small one below it where there is one."""

    def __init__(self, text: Text) -> None:
        super().__init__()
        self._text = text
        self.height = text.size * LEADING * (2 if text.small else 1)

    def wrap(self, wide: float, _high: float) -> tuple[float, float]:
        """Width and height."""
        return wide, self.height

    def draw(self) -> None:
        """Draw it on the page."""
        text = self._text
        first = self.height - text.size
        self.canv.setFont(f"VZ-{text.face}", text.size)
        self.canv.drawString(0, first, text.words)
        if text.small:
            self.canv.setFont("VZ-Regular", SMALL)
            self.canv.drawString(0, first - text.size * LEADING, text.small)


class Row(Flowable):  # type: ignore[misc]
    """Cells beside each other at half height, with a thin line below where ``ruled``."""

    def __init__(self, cells: Sequence[Any], widths: Sequence[float], ruled: bool) -> None:
        super().__init__()
        self._cells, self._widths, self._ruled = cells, widths, ruled
        self._high: list[float] = []

    def wrap(self, _wide: float, _high: float) -> tuple[float, float]:
        """Width, and the height of the highest cell."""
        pairs = zip(self._cells, self._widths, strict=True)
        self._high = [cell.wrap(wide - GAP, 10_000)[1] for cell, wide in pairs]
        self.width = sum(self._widths)
        self.height = max(self._high) + OVER + UNDER
        return self.width, self.height

    def draw(self) -> None:
        """Draw it on the page."""
        x, room = 0.0, self.height - OVER - UNDER
        for cell, wide, high in zip(self._cells, self._widths, self._high, strict=True):
            cell.drawOn(self.canv, x, UNDER + (room - high) / 2)
            x += wide
        if self._ruled:
            self.canv.setLineWidth(0.4)
            self.canv.line(0, 0, self.width, 0)
