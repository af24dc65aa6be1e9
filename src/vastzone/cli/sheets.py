"""``vastzone sheets``."""

import argparse
from datetime import date

from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import read_rig
from vastzone.core.errors import EditError
from vastzone.core.say import say, say_many
from vastzone.core.sheets.book import NAMES, sheets
from vastzone.core.text import quoted
from vastzone.files.paper import Form
from vastzone.files.sheet_files import BOOK, every_kind, write_sheets


def run(options: argparse.Namespace) -> int:
    """Write sheets into a folder; without one, say which there are."""
    plan, memory = read_rig(options.file)
    kinds = tuple(options.only) or (*every_kind(), BOOK)
    for kind in kinds:
        if kind != BOOK and kind not in NAMES:
            known = ", ".join((*NAMES, BOOK))
            raise EditError(
                say(
                    "There is no sheet “{kind}”: choose from {known}.",
                    kind=quoted(kind),
                    known=known,
                )
            )
    if options.output is None:
        pages: dict[str, int] = {}
        for kind in every_kind():
            pages[kind] = sum(len(sheet.pages) for sheet in sheets(plan, memory, kind))
        return _told(options, pages)
    form = Form(options.page, options.large)
    written = write_sheets(
        plan,
        memory,
        options.output,
        kinds,
        form,
        date.today().isoformat(),
        file="svg" if options.svg else "pdf",
        by=options.by,
        replace=options.force,
    )
    if options.json:
        print_json({"plan": plan.name, "files": [str(path) for path in written]})
        return 0
    out = Printer()
    for path in written:
        out.write(say("Written: {path}", path=path))
    return 0


def _told(options: argparse.Namespace, pages: dict[str, int]) -> int:
    if options.json:
        print_json({"sheets": pages})
        return 0
    out = Printer()
    for kind, count in pages.items():
        out.write(
            say_many("{kind}: {count} page", "{kind}: {count} pages", count, kind=kind)
            if count
            else say("{kind}: nothing to say", kind=kind)
        )
    return 0
