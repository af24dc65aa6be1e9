"""Sheets written into a folder: a PDF for each kind, or an SVG for each page; the book."""

from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Literal, NamedTuple

from vastzone.core.errors import WriteError
from vastzone.core.memory.model import Memory
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.core.sheets.book import NAMES, book, sheets
from vastzone.core.sheets.layout import Sheet, SheetKind
from vastzone.core.text import quoted
from vastzone.files.paper import Form
from vastzone.files.reading import is_there
from vastzone.files.sheet_paper import to_pdf, to_svg
from vastzone.files.whole import make_folder, write_whole

BOOK = "book"
FileKind = Literal["pdf", "svg"]


class Print(NamedTuple):
    """What is printed: a kind of sheet or the «book», on which paper, on which day, by whom."""

    kind: str
    form: Form
    today: str
    by: str = ""


def printed(plan: Plan, memory: Memory, wanted: Print) -> tuple[Sheet, ...]:
    """The sheets of a kind, or of the whole book."""
    if wanted.kind == BOOK:
        return book(plan, memory)
    return sheets(plan, memory, wanted.kind)  # type: ignore[arg-type]


def as_pdf(plan: Plan, memory: Memory, wanted: Print) -> bytes:
    """One kind of sheet, or the book, as a PDF."""
    return _pdf(printed(plan, memory, wanted), plan, wanted)


def _pdf(some: Sequence[Sheet], plan: Plan, wanted: Print) -> bytes:
    title, whole = title_of(wanted.kind), wanted.kind == BOOK
    return to_pdf(some, plan.name, wanted.today, wanted.form, title=title, book=whole, by=wanted.by)


def _svg(some: Sequence[Sheet], plan: Plan, wanted: Print) -> tuple[str, ...]:
    title, whole = title_of(wanted.kind), wanted.kind == BOOK
    return to_svg(some, plan.name, wanted.today, wanted.form, title=title, book=whole, by=wanted.by)


def title_of(kind: str) -> str:
    """What a kind of sheet is called."""
    return say("The book") if kind == BOOK else NAMES[kind]  # type: ignore[index]


def write_sheets(
    plan: Plan,
    memory: Memory,
    folder: Path,
    kinds: Iterable[str],
    form: Form,
    today: str,
    *,
    file: FileKind = "pdf",
    by: str = "",
    replace: bool = True,
) -> tuple[Path, ...]:
    """Write what is wanted into a folder, each kind that has something to say.

    Raises WriteError; without ``replace`` nothing is written where a file is there already.
    """
    made: list[tuple[Path, bytes]] = []
    for kind in kinds:
        wanted = Print(kind, form, today, by)
        some = printed(plan, memory, wanted)
        if not some:
            continue
        if file == "pdf":
            made.append((folder / f"{kind}.pdf", _pdf(some, plan, wanted)))
            continue
        for number, page in enumerate(_svg(some, plan, wanted), 1):
            made.append((folder / f"{kind}-{number:03}.svg", page.encode()))
    if not replace:
        _refuse([path for path, _ in made])
    make_folder(folder)
    for path, data in made:
        write_whole(data, path, say("The sheet"), replace=replace)
    return tuple(path for path, _ in made)


def _refuse(paths: Sequence[Path]) -> None:
    for path in paths:
        if is_there(path):
            raise WriteError(
                say("{path} is there already: add --force to replace it.", path=quoted(path))
            )


def every_kind() -> tuple[SheetKind, ...]:
    """All kinds of sheet, in the order of the book."""
    return tuple(NAMES)
