"""Rows of the bench's table, and timing that noise disturbs least."""

import gc
import time
from collections.abc import Callable
from typing import NamedTuple

from rich.console import Console
from rich.table import Table


class Row(NamedTuple):
    """One thing measured: ours, what it is held against, their ratio or value, its limit."""

    what: str
    ours: str
    against: str
    value: float
    limit: float | None

    @property
    def good(self) -> bool:
        return self.limit is None or self.value <= self.limit


def best(run: Callable[[], object], times: int = 5) -> float:
    """The shortest of several runs in seconds: the one that other work disturbed least."""
    shortest = float("inf")
    for _ in range(times):
        gc.collect()
        begun = time.perf_counter()
        run()
        shortest = min(shortest, time.perf_counter() - begun)
    return shortest


def show(rows: list[Row]) -> None:
    table = Table(box=None, pad_edge=False, header_style="bold")
    for name in ("Measured", "Ours", "Against", "Value", "Limit", ""):
        table.add_column(name, justify="left" if name in ("Measured", "") else "right")
    for row in rows:
        limit = "" if row.limit is None else f"≤ {row.limit:g}"
        mark = "" if row.limit is None else "good" if row.good else "OVER"
        table.add_row(row.what, row.ours, row.against, f"{row.value:.3g}", limit, mark)
    Console(width=132).print(table)
