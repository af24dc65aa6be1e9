"""Printing for a person and for a program."""

import json
import sys
from typing import Any

from rich.console import Console
from rich.table import Table

COLOURS = {"fault": "red", "caution": "yellow", "hint": "cyan"}


def console() -> Console:
    """A console that uses colour on a terminal and none in a pipe."""
    return Console(highlight=False, soft_wrap=not sys.stdout.isatty())


def print_json(value: Any) -> None:
    """Print JSON with stable key order."""
    json.dump(value, sys.stdout, ensure_ascii=False, indent=2)
    print()


def table(*columns: str) -> Table:
    """An empty table; a column that begins with «>» is set to the right."""
    made = Table(box=None, pad_edge=False, header_style="bold")
    for column in columns:
        right = column.startswith(">")
        made.add_column(column.lstrip(">"), justify="right" if right else "left", overflow="fold")
    return made
