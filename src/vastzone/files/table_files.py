"""A plan as tables in a folder, and a table read back."""

from pathlib import Path

from vastzone.core.cards.open_tables import KINDS, ReadBack, read_back, table_of
from vastzone.core.errors import DamagedFile, WriteError
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.columns import read_cells
from vastzone.files.reading import is_there
from vastzone.files.whole import make_folder, write_whole


def write_tables(plan: Plan, folder: Path, *, replace: bool = True) -> tuple[Path, ...]:
    """Every table that has rows, into a folder.  Raises WriteError."""
    made = []
    for kind in KINDS:
        table = table_of(plan, kind)
        if table.rows:
            made.append((folder / f"{kind}.csv", table.text()))
    for path, _ in made:
        if not replace and is_there(path):
            raise WriteError(
                say("{path} is there already: choose another folder.", path=quoted(path))
            )
    make_folder(folder)
    for path, text in made:
        write_whole(text.encode(), path, say("The table"), replace=replace)
    return tuple(path for path, _ in made)


def read_table(plan: Plan, path: Path) -> ReadBack:
    """What a table in a file says otherwise than the plan.

    Raises ReadError, DamagedFile for no table, EditError for one of another kind.
    """
    cells = read_cells(path)
    if not cells:
        raise DamagedFile(say("{path} is empty: choose another table.", path=quoted(path.name)))
    return read_back(plan, cells[0], cells[1:])
