"""Printing for a person and for a program.

Everything printed is plain text with a style beside it, never markup in it: names may look like
markup, and control characters in them must not reach the terminal.
"""

import contextlib
import io
import json
import os
import sys
from typing import Any

from rich.console import Console
from rich.table import Table
from rich.text import Text

from vastzone.core.text import printable

COLOURS = {"fault": "red", "caution": "yellow", "hint": "cyan"}
Piece = str | tuple[str, str]
"""Words, or a style with words."""


def safe_streams() -> None:
    """Let what a terminal's encoding cannot say be replaced instead of being an error."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            with contextlib.suppress(ValueError, OSError):
                stream.reconfigure(errors="replace")


def let_pipe_go() -> None:
    """The reader of a pipe has gone: nothing more is written to it, at the very end neither."""
    with contextlib.suppress(OSError, ValueError):
        hole = os.open(os.devnull, os.O_WRONLY)
        os.dup2(hole, sys.stdout.fileno())
        os.close(hole)


def text(*pieces: Piece) -> Text:
    """Words as they are, some of them in a style."""
    line = Text()
    for piece in pieces:
        style, words = ("", piece) if isinstance(piece, str) else piece
        line.append(printable(words, keep="\n"), style or None)
    return line


class Printer:
    """A console that uses colour on a terminal and none in a pipe."""

    def __init__(self) -> None:
        wraps = sys.stdout.isatty()
        self._console = Console(highlight=False, markup=False, emoji=False, soft_wrap=not wraps)

    def write(self, *pieces: Piece) -> None:
        """Print a line."""
        self._console.print(text(*pieces))

    def show(self, rows: Table) -> None:
        """Print a table."""
        self._console.print(rows)


def print_json(value: Any) -> None:
    """Print JSON with stable key order; escaped where the encoding could not say all of it."""
    is_unicode = (sys.stdout.encoding or "").lower().replace("-", "").startswith("utf")
    json.dump(value, sys.stdout, ensure_ascii=not is_unicode, indent=2)
    print()


def table(*columns: str) -> Table:
    """An empty table; a column that begins with «>» is set to the right."""
    grid = Table(box=None, pad_edge=False, header_style="bold")
    for column in columns:
        right = column.startswith(">")
        grid.add_column(column.lstrip(">"), justify="right" if right else "left", overflow="fold")
    return grid


def add_row(rows: Table, *cells: Piece) -> None:
    """Put a row into a table."""
    rows.add_row(*(text(cell) for cell in cells))
