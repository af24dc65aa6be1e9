"""Run every bench and print one table.  Exit status 1 when a ratio is over its limit."""

import sys

from bench import (
    console,
    dialled,
    engine,
    evening,
    flood,
    hand,
    heart,
    outputs,
    reading,
    start,
    window,
)
from bench.table import Row, show


def main() -> int:
    rows: list[Row] = [
        *engine.rows(),
        *start.rows(),
        *heart.rows(),
        *dialled.rows(),
        *console.rows(),
        *evening.rows(),
        *outputs.rows(),
        *window.rows(),
        *hand.rows(),
        *flood.rows(),
        *reading.rows(),
    ]
    show(rows)
    return 0 if all(row.good for row in rows) else 1


if __name__ == "__main__":
    sys.exit(main())
