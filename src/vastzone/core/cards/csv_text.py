"""Tables as comma-separated values."""

import csv
import io
from collections.abc import Iterable, Sequence

from vastzone.core.text import table_cell


def csv_text(columns: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A table with its columns named in the first line; no cell is read as a formula."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow([table_cell(column) for column in columns])
    writer.writerows([table_cell(value) for value in row] for row in rows)
    return out.getvalue()
