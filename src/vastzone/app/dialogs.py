"""The questions that the window asks."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QWidget

from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import pixmap
from vastzone.core.say import say
from vastzone.core.text import printable
from vastzone.files.devices import SUFFIX as DEVICE
from vastzone.files.memory_file import SUFFIX as MEMORY
from vastzone.files.native import SUFFIX
from vastzone.files.reading import is_there

if TYPE_CHECKING:
    from PySide6.QtPrintSupport import QPrinter

PLANS = say("Vast Zone plans (*{suffix})", suffix=SUFFIX)
DEVICES = say("Devices (*{device})", device=DEVICE)
MEMORIES = say("Memories of devices (*{memory})", memory=MEMORY)


def ask_open(parent: QWidget) -> Path | None:
    """Which plan to open; None when given up."""
    return _ask_open(parent, say("Open plan"), say("{plans};;All files (*)", plans=PLANS))


def _ask_open(parent: QWidget, title: str, kinds: str) -> Path | None:
    name, _ = QFileDialog.getOpenFileName(parent, title, "", kinds)
    return Path(name) if name else None


def ask_save(parent: QWidget, suggestion: str) -> Path | None:
    """Where to save; None when given up."""
    return _ask_save(parent, say("Save plan as"), suggestion, PLANS, SUFFIX)


def _ask_save(parent: QWidget, title: str, suggestion: str, kinds: str, suffix: str) -> Path | None:
    name, _ = QFileDialog.getSaveFileName(parent, title, suggestion, kinds)
    if not name:
        return None
    path = Path(name)
    if path.suffix:
        return path
    path = path.with_suffix(suffix)
    if is_there(path) and not ask_replace(parent, say("{path} is", path=path.name)):
        return None
    return path


def ask_midi_file(parent: QWidget) -> Path | None:
    """Which MIDI file to play; None when given up."""
    kinds = say("MIDI files (*.mid *.midi *.MID);;All files (*)")
    return _ask_open(parent, say("Play a MIDI file"), kinds)


def ask_device(parent: QWidget) -> Path | None:
    """Which device file to read; None when given up."""
    return _ask_open(
        parent, say("Device from a file"), say("{devices};;All files (*)", devices=DEVICES)
    )


def ask_sweep(parent: QWidget) -> Path | None:
    """Which recorded sweep to read; None when given up."""
    return _ask_open(parent, say("Read a sweep"), say("Sweeps (*.csv *.mid *.midi)"))


def ask_save_table(parent: QWidget, title: str, suggestion: str) -> Path | None:
    """Where to save a table or sheet, of the kind that the suggestion ends in."""
    suffix = Path(suggestion).suffix
    kinds = f"{suffix[1:].upper()} (*{suffix})"
    return _ask_save(parent, title, suggestion, kinds, suffix)


SETLISTS = say("Set lists (*.csv *.txt);;All files (*)")


def ask_setlist(parent: QWidget) -> Path | None:
    """Which set list to read; None when given up."""
    return _ask_open(parent, say("Read a set list"), SETLISTS)


def ask_save_setlist(parent: QWidget, suggestion: str) -> Path | None:
    """Where to save a set list, as a table, text or MIDI file."""
    kinds = say("Table (*.csv);;Text (*.txt);;MIDI file (*.mid)")
    return _ask_save(parent, say("Save set list"), suggestion, kinds, ".csv")


def ask_strikes(parent: QWidget) -> Path | None:
    """Which recording of strikes to read; None when given up."""
    return _ask_open(parent, say("Read recorded strikes"), say("Strikes (*.csv);;All files (*)"))


def ask_velocities(parent: QWidget) -> Path | None:
    """Which recording of velocities to read; None when given up."""
    kinds = say("Strikes (*.csv *.mid *.midi);;All files (*)")
    return _ask_open(parent, say("Read recorded velocities"), kinds)


def ask_folder(parent: QWidget, title: str) -> Path | None:
    """Which folder to write to; None when given up."""
    name = QFileDialog.getExistingDirectory(parent, title)
    return Path(name) if name else None


def ask_save_device(parent: QWidget, suggestion: str) -> Path | None:
    """Where to save a device; None when given up."""
    return _ask_save(parent, say("Save device as"), suggestion, DEVICES, DEVICE)


def ask_memory(parent: QWidget) -> Path | None:
    """Which memory of a device to read; None when given up."""
    return _ask_open(
        parent, say("Memory from a file"), say("{memories};;All files (*)", memories=MEMORIES)
    )


def ask_save_memory(parent: QWidget, suggestion: str) -> Path | None:
    """Where to back up what a device holds; None when given up."""
    return _ask_save(parent, say("Back up as"), suggestion, MEMORIES, MEMORY)


def ask_compare(parent: QWidget) -> Path | None:
    """Which plan or backup to compare with; None when given up."""
    kinds = say(
        "Plans and memories (*{suffix} *{memory});;All files (*)", suffix=SUFFIX, memory=MEMORY
    )
    return _ask_open(parent, say("Compare with"), kinds)


def ask_initials(parent: QWidget, now: str) -> str | None:
    """The initials of the person; None when given up."""
    words = say("They stand beside what you dial and read:")
    said, given = QInputDialog.getText(parent, say("Your initials"), words, text=now)
    return said.strip()[:12] if given else None


def ask_names(parent: QWidget) -> Path | None:
    """Which document of names to read; None when given up."""
    return _ask_open(parent, say("Read names"), say("Names (*.midnam *.xml);;All files (*)"))


def ask_table(parent: QWidget) -> Path | None:
    """Which table to read; None when given up."""
    return _ask_open(parent, say("Read a table"), say("Tables (*.csv *.tsv *.txt);;All files (*)"))


def ask_save_tune(parent: QWidget, suggestion: str) -> Path | None:
    """Where to save a MIDI file; None when given up."""
    return _ask_save(parent, say("Save a MIDI file"), suggestion, say("MIDI file (*.mid)"), ".mid")


def ask_save_picture(parent: QWidget, suggestion: str) -> Path | None:
    """Where to save a picture; None when given up."""
    return _ask_save(parent, say("Save a picture"), suggestion, say("Picture (*.svg)"), ".svg")


def ask_save_pdf(parent: QWidget, suggestion: str) -> Path | None:
    """Where to write sheets as a PDF; None when given up."""
    return _ask_save(parent, say("Save as PDF"), suggestion, say("PDF (*.pdf)"), ".pdf")


def ask_printer(parent: QWidget) -> "QPrinter | None":
    """Which printer to print on, A4 unless the person says otherwise; None when given up."""
    from PySide6.QtPrintSupport import QPrintDialog, QPrinter

    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    dialog = QPrintDialog(printer, parent)
    return printer if dialog.exec() == QPrintDialog.DialogCode.Accepted else None


def tell(parent: QWidget, sentence: str) -> None:
    """Say one sentence."""
    _box(parent, QMessageBox.Icon.Warning, "Vast Zone", sentence).exec()


def _box(parent: QWidget, icon: QMessageBox.Icon, title: str, sentence: str) -> QMessageBox:
    """A message of plain text."""
    box = QMessageBox(icon, title, "", parent=parent)
    asks = icon is QMessageBox.Icon.Question
    colours = THEME.colours
    name, colour = ("circle-help", colours.action) if asks else ("info", colours.caution)
    box.setIconPixmap(pixmap(name, colour, 36))
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setText(printable(sentence, keep="\n"))
    return box


def _ask(parent: QWidget, title: str, sentence: str, answers: dict[str, str], back: str) -> str:
    """Which of some answers, by what their buttons say; the first is what Enter presses.

    ``back`` is the answer of whoever closes the window.
    """
    box = _box(parent, QMessageBox.Icon.Question, title, sentence)
    roles = QMessageBox.ButtonRole
    for words, answer in answers.items():
        button = box.addButton(words, roles.RejectRole if answer == back else roles.AcceptRole)
        if words == next(iter(answers)):
            box.setDefaultButton(button)
    box.exec()
    clicked = box.clickedButton()
    return answers.get(clicked.text(), back) if clicked is not None else back


def ask_unsaved(parent: QWidget, name: str) -> str:
    """What to do with unsaved changes: ``save``, ``discard`` or ``cancel``."""
    said = say("“{name}” has changes that are not saved.", name=name)
    answers = {say("Save"): "save", say("Discard changes"): "discard", say("Go back"): "cancel"}
    return _ask(parent, say("Unsaved changes"), said, answers, "cancel")


def ask_recover(parent: QWidget, name: str, crash: str = "") -> bool:
    """Whether to open what a crash left behind; ``crash`` says where its report is."""
    why = say("when the program crashed") if crash else say("when the program last stopped")
    said = say(
        "“{name}” was not saved {why}. {crash} Open it as it was?", name=name, why=why, crash=crash
    ).replace(".  ", ". ")
    answers = {say("Open it"): "open", say("Throw it away"): "discard"}
    return _ask(parent, say("Recover"), said, answers, "open") == "open"


def ask_whose(parent: QWidget, name: str) -> str:
    """What to do with a file that somebody else changed: both, theirs, mine or cancel."""
    said = say(
        "“{name}” was changed by someone else since it was opened here. Keep both, and save "
        "this plan beside it under another name? Or keep only one of them?",
        name=name,
    )
    answers = {
        say("Keep both"): "both",
        say("Take theirs"): "theirs",
        say("Write over it"): "mine",
        say("Go back"): "cancel",
    }
    return _ask(parent, say("Changed by someone else"), said, answers, "cancel")


def ask_replace(parent: QWidget, names: str) -> bool:
    """Whether files that are there already may be replaced."""
    said = say("{names} there already. Replace?", names=names)
    answers = {say("Replace"): "replace", say("Go back"): "cancel"}
    return _ask(parent, "Replace", said, answers, "cancel") == "replace"
