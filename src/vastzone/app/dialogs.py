"""The questions that the window asks."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from vastzone.files.devices import SUFFIX as DEVICE
from vastzone.files.native import SUFFIX

if TYPE_CHECKING:
    from PySide6.QtPrintSupport import QPrinter

PLANS = f"Vast Zone plans (*{SUFFIX})"
DEVICES = f"Devices (*{DEVICE})"


def ask_open(parent: QWidget) -> Path | None:
    """Which plan to open; None when given up."""
    name, _ = QFileDialog.getOpenFileName(parent, "Open plan", "", f"{PLANS};;All files (*)")
    return Path(name) if name else None


def ask_save(parent: QWidget, suggestion: str) -> Path | None:
    """Where to save; None when given up."""
    return _ask_save(parent, "Save plan as", suggestion, PLANS, SUFFIX)


def _ask_save(parent: QWidget, title: str, suggestion: str, kinds: str, suffix: str) -> Path | None:
    name, _ = QFileDialog.getSaveFileName(parent, title, suggestion, kinds)
    if not name:
        return None
    path = Path(name)
    return path if path.suffix else path.with_suffix(suffix)


def ask_midi_file(parent: QWidget) -> Path | None:
    """Which MIDI file to play; None when given up."""
    name, _ = QFileDialog.getOpenFileName(
        parent, "Play a MIDI file", "", "MIDI files (*.mid *.midi *.MID);;All files (*)"
    )
    return Path(name) if name else None


def ask_strikes(parent: QWidget) -> Path | None:
    """Which recording of strikes to read; None when given up."""
    name, _ = QFileDialog.getOpenFileName(
        parent, "Read recorded strikes", "", "Strikes (*.csv);;All files (*)"
    )
    return Path(name) if name else None


def ask_folder(parent: QWidget, title: str) -> Path | None:
    """Which folder to write to; None when given up."""
    name = QFileDialog.getExistingDirectory(parent, title)
    return Path(name) if name else None


def ask_save_device(parent: QWidget, suggestion: str) -> Path | None:
    """Where to save a device; None when given up."""
    return _ask_save(parent, "Save device as", suggestion, DEVICES, DEVICE)


def ask_printer(parent: QWidget) -> "QPrinter | None":
    """Which printer to print on, A4 unless the person says otherwise; None when given up."""
    from PySide6.QtPrintSupport import QPrintDialog, QPrinter

    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    dialog = QPrintDialog(printer, parent)
    return printer if dialog.exec() == QPrintDialog.DialogCode.Accepted else None


def tell(parent: QWidget, sentence: str) -> None:
    """Say one sentence."""
    box = QMessageBox(QMessageBox.Icon.Warning, "Vast Zone", sentence, parent=parent)
    box.exec()


def ask_unsaved(parent: QWidget, name: str) -> str:
    """What to do with unsaved changes: ``save``, ``discard`` or ``cancel``."""
    box = QMessageBox(QMessageBox.Icon.Question, "Unsaved changes", "", parent=parent)
    box.setText(f"“{name}” has changes that are not saved.")
    save = box.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
    discard = box.addButton("Discard changes", QMessageBox.ButtonRole.DestructiveRole)
    box.addButton("Go back", QMessageBox.ButtonRole.RejectRole)
    box.setDefaultButton(save)
    box.exec()
    if box.clickedButton() is save:
        return "save"
    return "discard" if box.clickedButton() is discard else "cancel"


def ask_recover(parent: QWidget, name: str) -> bool:
    """Whether to open what a crash left behind."""
    box = QMessageBox(QMessageBox.Icon.Question, "Recover", "", parent=parent)
    box.setText(f"“{name}” was not saved when the program last stopped. Open it as it was?")
    recover = box.addButton("Open it", QMessageBox.ButtonRole.AcceptRole)
    box.addButton("Throw it away", QMessageBox.ButtonRole.DestructiveRole)
    box.setDefaultButton(recover)
    box.exec()
    return box.clickedButton() is recover
