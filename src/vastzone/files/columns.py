"""Comma-separated values with named columns."""

import csv
import io
from collections.abc import Iterator
from pathlib import Path

from vastzone.core.errors import DamagedFile
from vastzone.core.text import quoted
from vastzone.files.reading import TABLE_LIMIT, read_whole, text_of


def rows_of(path: Path, columns: tuple[str, ...]) -> Iterator[tuple[int, dict[str, str]]]:
    """The rows of a table with the numbers of their lines; its first line names the columns.

    Raises ReadError when it cannot be opened and DamagedFile when a column is missing.
    """
    text = text_of(read_whole(path, TABLE_LIMIT), path.name)
    name = quoted(path.name)
    rows = csv.DictReader(io.StringIO(text.replace("\0", "�"), newline=""), strict=True)
    try:
        if not set(columns) <= set(rows.fieldnames or ()):
            raise DamagedFile(
                f"{name} has no columns {', '.join(columns)}: name them in its first line."
            )
        for row in rows:
            yield rows.line_num, row
    except csv.Error:
        raise DamagedFile(
            f"{name} is no table at line {rows.line_num + 1}: a cell is longer than "
            f"{csv.field_size_limit():,} letters, or a quotation mark is not closed. Correct it."
        ) from None
