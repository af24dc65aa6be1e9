"""The page Sheets: everything that can be printed, looked at before it is saved."""

from datetime import date
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.app.views.cards.preview import page_count, pages, print_pages
from vastzone.core.errors import PlanError
from vastzone.core.memory.model import Memory
from vastzone.core.plan.model.plan import Plan
from vastzone.core.progress import Progress
from vastzone.core.say import say, say_many
from vastzone.core.sheets.book import NAMES
from vastzone.desk.session import Desk
from vastzone.files.paper import Form
from vastzone.files.reading import is_there
from vastzone.files.sheet_files import BOOK, FileKind, Print, as_pdf, write_sheets

DPI, MOST = 72, 30
PAGES_SIZES = (("A4", "A4"), ("Letter", "Letter"))


class SheetsPage(QWidget):
    """Kinds of sheets at the left, their pages at the right."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._aside, self._writing = BackgroundJob(self), BackgroundJob(self)
        self._shown: tuple[Plan, Memory, Print] | None = None
        self.pdf = b""
        self.list = RowList(say("Sheets"))
        bound(self.list, "FixedWidth", 196)
        lines: list[tuple[str, str]] = [(name, kind) for kind, name in NAMES.items()]
        self.list.show_lines([*lines, (say("The whole book"), BOOK)], 0)
        self.list.chosen.connect(lambda _: self.refresh())
        self.paper = CalmCombo()
        self.paper.setAccessibleName(say("Paper"))
        offer(self.paper, PAGES_SIZES)
        self.paper.activated.connect(lambda _: self.refresh())
        self.large = QCheckBox(say("Large print"))
        self.large.toggled.connect(lambda _: self.refresh())
        self.words = quiet("")
        self.print, self.save = Button(say("Print…")), Button(say("PDF…"))
        self.pictures, self.every = Button(say("SVG…")), Button(say("All…"))
        set_tip(self.save, say("Save the chosen sheet as a PDF, into a folder"))
        set_tip(self.pictures, say("Save the chosen sheet as pictures (SVG), a page each"))
        set_tip(self.every, say("A PDF of every kind and the book, into a folder"))
        self.print.clicked.connect(self._print)
        self.save.clicked.connect(lambda: self._save("pdf"))
        self.pictures.clicked.connect(lambda: self._save("svg"))
        self.every.clicked.connect(self._save_all)
        self._body = QWidget()
        self._inside = QVBoxLayout(self._body)
        self._inside.setSpacing(12)
        self._sheets: list[Label] = []
        scroll = QScrollArea()
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setAccessibleName(say("Pages"))
        scroll.setWidget(self._body)
        box, line, middle = QVBoxLayout(self), QHBoxLayout(), QHBoxLayout()
        box.setContentsMargins(0, 2, 14, 8)
        box.setSpacing(7)
        line.addWidget(self.paper)
        line.addWidget(self.large)
        line.addWidget(self.words, 1)
        for button in (self.print, self.save, self.pictures, self.every):
            line.addWidget(button)
        middle.addWidget(self.list)
        middle.addWidget(scroll, 1)
        box.addLayout(line)
        box.addLayout(middle, 1)

    @property
    def form(self) -> Form:
        """The paper that is chosen."""
        return Form(self.paper.currentData(), self.large.isChecked())

    @property
    def kind(self) -> str:
        """The kind of sheet that is chosen."""
        return str(self.list.ref or "cards")

    def refresh(self) -> None:
        """Lay the chosen sheet out anew where something is another."""
        plan, memory = self._desk.planned, self._desk.memory
        today, by = date.today().isoformat(), self._desk.held.initials
        wanted = Print(self.kind, self.form, today, by)
        shown = self._shown
        if shown is not None and shown[0] is plan and shown[1] is memory and shown[2] == wanted:
            return
        self._shown = (plan, memory, wanted)
        self.words.setText(say("Laying the pages out …"))
        self._enable(False)
        self._aside.start(partial(_pages, plan, memory, wanted), self._show)

    def _enable(self, on: bool) -> None:
        for button in (self.print, self.save, self.pictures):
            button.setEnabled(on)

    def _show(self, pdf: bytes) -> None:
        self.pdf = pdf
        count = page_count(pdf)
        more = "" if count <= MOST else say(", the first {most} shown", most=MOST)
        self.words.setText(say_many("{count} page", "{count} pages", count) + more)
        pictures = list(pages(pdf, DPI, MOST))
        while len(self._sheets) < len(pictures):
            sheet = Label()
            sheet.setFrameShape(QFrame.Shape.Box)
            self._inside.addWidget(sheet, 0, Qt.AlignmentFlag.AlignHCenter)
            self._sheets.append(sheet)
        for number, sheet in enumerate(self._sheets):
            sheet.setVisible(number < len(pictures))
            if number < len(pictures):
                sheet.setPixmap(QPixmap.fromImage(pictures[number]))
                sheet.setAccessibleName(say("Page {number}", number=number + 1))
        self._enable(True)

    def _print(self) -> None:
        printer = dialogs.ask_printer(self)
        if printer is not None and self.pdf:
            count = print_pages(self.pdf, printer)
            self.words.setText(
                say(
                    "{pages} sent to the printer.",
                    pages=say_many("{count} page", "{count} pages", count),
                )
            )

    def _save(self, file: FileKind) -> None:
        """The chosen kind, into a folder."""
        self._write((self.kind,), file)

    def _save_all(self) -> None:
        self._write((*NAMES, BOOK), "pdf")

    def _write(self, kinds: tuple[str, ...], file: FileKind) -> None:
        folder = dialogs.ask_folder(self, say("Save the sheets into a folder"))
        if folder is None or self._shown is None:
            return
        there = [f"{kind}.pdf" for kind in kinds if is_there(folder / f"{kind}.pdf")]
        if (
            there
            and file == "pdf"
            and not dialogs.ask_replace(self, say("{there} and others are", there=there[0]))
        ):
            return
        plan, memory, wanted = self._shown
        self.words.setText(say("Writing …"))

        def work(_tell: Progress) -> str:
            try:
                written = write_sheets(
                    plan, memory, folder, kinds, wanted.form, wanted.today, file=file, by=wanted.by
                )
            except PlanError as error:
                return str(error)
            return say(
                "{files} written into {folder}",
                files=say_many("{count} file", "{count} files", len(written)),
                folder=folder.name,
            )

        self._writing.start(work, self.words.setText)


def _pages(plan: Plan, memory: Memory, wanted: Print, tell: Progress) -> bytes:
    tell(say("Laying out"), 0.1)
    return as_pdf(plan, memory, wanted)
