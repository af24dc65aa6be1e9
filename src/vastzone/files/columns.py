"""Comma-separated values with named columns."""

import csv
from collections.abc import Iterator
from pathlib import Path

from vastzone.core.errors import DamagedFile, ReadError


def rows_of(path: Path, columns: tuple[str, ...]) -> Iterator[tuple[int, dict[str, str]]]:
    """The rows of a table with the numbers of their lines; its first line names the columns.

    Raises ReadError when it cannot be opened and DamagedFile when a column is missing.
    """
    try:
        lines = path.read_text(encoding="utf-8").splitlines()
    except (OSError, UnicodeDecodeError) as error:
        why = getattr(error, "strerror", None) or "it is not text"
        raise ReadError(f"{path.name} cannot be read ({why}): choose another file.") from None
    rows = csv.DictReader(lines)
    if not set(columns) <= set(rows.fieldnames or ()):
        raise DamagedFile(
            f"{path.name} has no columns {', '.join(columns)}: name them in its first line."
        )
    yield from enumerate(rows, 2)
