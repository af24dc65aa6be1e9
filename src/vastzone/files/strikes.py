"""Recorded strikes as comma-separated values: time in ms, pad, peak."""

import csv
from pathlib import Path

from vastzone.core.errors import DamagedFile, ReadError
from vastzone.core.response.strikes import Hit

COLUMNS = ("time_ms", "pad", "peak")


def read_strikes(path: Path) -> tuple[Hit, ...]:
    """Read strikes; the first line names the columns ``time_ms``, ``pad`` and ``peak``.

    Raises ReadError when it cannot be opened and DamagedFile, with the line, when it is no such
    table.
    """
    try:
        lines = path.read_text(encoding="utf-8").splitlines()
    except (OSError, UnicodeDecodeError) as error:
        why = getattr(error, "strerror", None) or "it is not text"
        raise ReadError(f"{path.name} cannot be read ({why}): choose another file.") from None
    rows = csv.DictReader(lines)
    if not set(COLUMNS) <= set(rows.fieldnames or ()):
        raise DamagedFile(
            f"{path.name} has no columns {', '.join(COLUMNS)}: name them in its first line."
        )
    return tuple(sorted(_hit(path, number, row) for number, row in enumerate(rows, 2)))


def _hit(path: Path, number: int, row: dict[str, str]) -> Hit:
    try:
        at, peak = float(row["time_ms"]), float(row["peak"])
    except (TypeError, ValueError):
        at = peak = -1.0
    if at < 0 or not 0 < peak <= 127 or not row["pad"]:
        raise DamagedFile(
            f"{path.name}, line {number}: a strike is a time in ms, a pad and a peak of 1–127."
        )
    return Hit(at, row["pad"], peak)


def to_csv(hits: tuple[Hit, ...]) -> str:
    """Strikes as such a table."""
    lines = [",".join(COLUMNS), *(f"{h.at_ms:.2f},{h.pad},{h.peak:.1f}" for h in hits)]
    return "\n".join(lines) + "\n"
