"""Comma-separated values with named columns."""

import csv
import io
from collections.abc import Iterator
from pathlib import Path

from vastzone.core.errors import DamagedFile
from vastzone.core.say import say
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
                say(
                    "{name} has no columns {columns}: name them in its first line.",
                    name=name,
                    columns=", ".join(columns),
                )
            )
        for row in rows:
            yield rows.line_num, row
    except csv.Error:
        raise DamagedFile(
            say(
                "{name} is no table at line {line_num}: a cell is longer than {field_size_limit:,} "
                "letters, or a quotation mark is not closed. Correct it.",
                name=name,
                line_num=rows.line_num + 1,
                field_size_limit=csv.field_size_limit(),
            )
        ) from None


def cells_of(text: str) -> list[list[str]]:
    """The cells of a table that was pasted or read: between tabs, semicolons or commas.

    Raises DamagedFile where a quotation mark is not closed.
    """
    first = text.lstrip("\ufeff\n").splitlines()[0] if text.strip() else ""
    counts = {mark: first.count(mark) for mark in ("\t", ";", ",")}
    mark = max(counts, key=lambda each: counts[each])
    rows = csv.reader(
        io.StringIO(text.lstrip("\ufeff").replace("\0", "�"), newline=""), delimiter=mark
    )
    try:
        return [row for row in rows if row]
    except csv.Error:
        raise DamagedFile(
            say(
                "The table ends in the middle of a cell at line {line_num}: close the "
                "quotation mark.",
                line_num=rows.line_num,
            )
        ) from None


def read_cells(path: Path) -> list[list[str]]:
    """The cells of a file.  Raises ReadError when it cannot be opened, DamagedFile when it is no
    table."""
    return cells_of(text_of(read_whole(path, TABLE_LIMIT), path.name))
