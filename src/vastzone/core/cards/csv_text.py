"""Tables as comma-separated values."""

import csv
import io
from collections.abc import Iterable, Sequence


def csv_text(columns: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A table with its columns named in the first line."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(columns)
    writer.writerows(rows)
    return out.getvalue()
