"""A sheet as data: what it says, how it is grouped, never where it falls on the paper.

Widths of columns are in points of a page of ``WIDTH``; other pages stretch them.
"""

from collections.abc import Sequence
from typing import Literal, NamedTuple

WIDTH = 499.0
SheetKind = Literal[
    "cards",
    "labels",
    "map",
    "learn",
    "test",
    "plugging",
    "wires",
    "desk",
    "delay",
    "power",
    "packing",
    "setlist",
    "trouble",
]


class Text(NamedTuple):
    """A piece of text with its face and size; ``small`` stands below it."""

    words: str
    face: str = "Regular"
    size: float = 12
    small: str = ""


class Tick(NamedTuple):
    """A box large enough to find, with a tick in it or not."""

    ticked: bool = False


Cell = Text | Tick


class Heading(NamedTuple):
    """What stands over some rows."""

    words: str
    size: float = 15


class Paragraph(NamedTuple):
    """A sentence or two."""

    words: str
    face: str = "Regular"
    size: float = 12


class Rows(NamedTuple):
    """Rows of cells under each other, with a line below each where ``ruled``."""

    rows: tuple[tuple[Cell, ...], ...]
    widths: tuple[float, ...]
    ruled: bool = True


class Label(NamedTuple):
    """One field of a strip: its words, what stands below them, and its width in millimetres."""

    words: str
    below: str
    wide: float


class Strip(NamedTuple):
    """Labels beside each other to scale, to be cut out and laid along the controls."""

    name: str
    labels: tuple[Label, ...]
    high: float


Block = Heading | Paragraph | Rows | Strip


class Page(NamedTuple):
    """What begins a page of its own, and may run over to more."""

    title: str
    below: str
    blocks: tuple[Block, ...]


class Sheet(NamedTuple):
    """One thing to print."""

    kind: SheetKind
    title: str
    pages: tuple[Page, ...]


def ticked_rows(lines: Sequence[tuple[str, str]], wide: float = 34.0) -> Rows:
    """A box, what is to be done, and more about it."""
    rows = []
    for words, more in lines:
        rows.append((Tick(), Text(words, size=13), Text(more, size=11)))
    rest = WIDTH - wide
    return Rows(tuple(rows), (wide, rest * 0.62, rest * 0.38))


def table_rows(
    head: Sequence[str], lines: Sequence[Sequence[str]], shares: Sequence[float], size: float = 11
) -> Rows:
    """A plain table: bold headings, then lines; columns share the width as they are told."""
    rows: list[tuple[Cell, ...]] = [tuple(Text(words, "Bold", size) for words in head)]
    for line in lines:
        rows.append(tuple(Text(words, "Regular", size) for words in line))
    whole = sum(shares)
    return Rows(tuple(rows), tuple(WIDTH * share / whole for share in shares))
