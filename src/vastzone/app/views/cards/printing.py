"""Cards on paper and in files, laid out beside the window."""

from collections.abc import Callable
from datetime import date
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QWidget

from vastzone.app import dialogs
from vastzone.app.jobs import BackgroundJob
from vastzone.core.cards.card import Card
from vastzone.core.errors import PlanError
from vastzone.core.say import say
from vastzone.core.text import ALL, listed
from vastzone.desk.session import Desk
from vastzone.files.reading import is_there

Cards = tuple[Card, ...]


class Printing:
    """Lays cards out, shows and writes them; ``say`` is told what happens, «» once it is over."""

    def __init__(self, parent: QWidget, desk: Desk, say: Callable[[str], object]) -> None:
        self._parent, self._desk, self._say = parent, desk, say
        self._paper = BackgroundJob(parent)

    def _lay_out(self, cards: Cards, reasons: bool, done: Callable[[bytes], None]) -> None:
        from vastzone.files.sheets import to_pdf

        name, today = self._desk.planned.name, date.today().isoformat()
        self._say(say("Laying the pages out …"))
        self._paper.start(lambda _: to_pdf(name, cards, today, reasons), done)

    def show_preview(self, cards: Cards, reasons: bool) -> None:
        """Look at the pages, and print them."""
        self._lay_out(cards, reasons, self._preview)

    def _preview(self, sheet: bytes) -> None:
        from vastzone.app.views.cards.preview import Preview

        self._say("")
        Preview(
            self._parent, say("Cards of {planned}", planned=self._desk.planned.name), sheet
        ).open()

    def write(self, cards: Cards, reasons: bool) -> None:
        """Write PDF and CSV into a folder."""
        folder = dialogs.ask_folder(self._parent, say("Export the cards into a folder"))
        if folder is not None and self._may_replace(folder):
            self._lay_out(cards, reasons, partial(self._write, folder, cards))

    def _write(self, folder: Path, cards: Cards, sheet: bytes) -> None:
        from vastzone.files.sheets import write_cards

        self._say("")
        try:
            written = write_cards(cards, sheet, folder)
        except PlanError as error:
            dialogs.tell(self._parent, str(error))
            return
        self._say(say("Written: {path}", path=listed((str(path) for path in written), ALL)))

    def _may_replace(self, folder: Path) -> bool:
        """Whether cards that were written there before may be replaced."""
        from vastzone.files.sheets import card_files

        names = []
        for path in card_files(folder):
            if is_there(path):
                names.append(path.name)
        return not names or dialogs.ask_replace(
            self._parent, say("{names} are", names=listed(names, ALL))
        )
