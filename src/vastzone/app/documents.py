"""New, open, recent, save, save as, and what happens to unsaved work."""

from pathlib import Path

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget

from vastzone.app.jobs import BackgroundJob
from vastzone.core.errors import ChangedElsewhere, PlanError
from vastzone.desk import preferences, recovery
from vastzone.desk.session import EMPTY, Desk
from vastzone.desk.signal import Signal
from vastzone.files.native import SUFFIX
from vastzone.files.reading import is_there

AUTOSAVE_MS = 1500


class Documents(QObject):
    """The file side of the window."""

    def __init__(
        self, desk: Desk, window: QWidget, folder: Path, kept: tuple[preferences.Preferences, str]
    ) -> None:
        super().__init__(window)
        self._desk, self._window, self._folder = desk, window, folder
        self._settings = preferences.place(folder)
        self.preferences, self._remark = kept
        desk.held.initials = self.preferences.initials
        self.begun = Signal("a plan begun from nothing")
        self._timer = QTimer(self)
        self._timer.setInterval(AUTOSAVE_MS)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._keep)
        self._keeping = BackgroundJob(self)
        for signal in (desk.plan_changed, desk.memory_changed):
            signal.connect(self._keep_soon)

    def _keep_soon(self) -> None:
        """Copy unsaved work soon after the first change, however many more follow."""
        if not self._timer.isActive():
            self._timer.start()

    def _keep(self) -> None:
        """Copy unsaved work beside the window: a busy disk holds nobody up."""
        if self._keeping.busy:
            self._timer.start()
            return
        write = self._desk.autosaving()
        if write is not None:
            self._keeping.start(lambda tell: write(), lambda written: None)

    def remember(self, **changes: object) -> None:
        """Change the preferences."""
        import msgspec

        self.preferences = msgspec.structs.replace(self.preferences, **changes)
        preferences.store(self.preferences, self._settings)

    def ask_initials(self) -> None:
        """Ask who says what devices hold."""
        from vastzone.app import dialogs

        said = dialogs.ask_initials(self._window, self.preferences.initials)
        if said is not None:
            self.remember(initials=said)
            self._desk.held.initials = said

    def _opened(self, path: Path) -> None:
        self.preferences = self.preferences.opened(path)
        preferences.store(self.preferences, self._settings)

    def may_leave(self) -> bool:
        """Whether the current plan may be left: saved, given up, or never changed."""
        from vastzone.app import dialogs

        if not self._desk.changed:
            return True
        answer = dialogs.ask_unsaved(self._window, self._desk.plan.name)
        if answer == "save":
            return self.save()
        if answer == "discard":
            self._desk.drop_autosave()
        return answer == "discard"

    def new(self) -> None:
        """An empty plan."""
        if self.may_leave():
            self._desk.load(EMPTY, None)
            self.begun.emit()

    def open(self) -> None:
        """Ask for a plan and open it."""
        from vastzone.app import dialogs

        if self.may_leave():
            path = dialogs.ask_open(self._window)
            if path is not None:
                self.open_path(path)

    def open_recent(self, path: Path) -> None:
        """Open one of the recent plans."""
        if self.may_leave():
            self.open_path(path)

    def open_path(self, path: Path, untitled: bool = False) -> None:
        """Open a file; a message instead, and the open plan untouched, when it cannot be read."""
        from vastzone.app import dialogs

        try:
            self._desk.open(path)
        except PlanError as error:
            dialogs.tell(self._window, str(error))
            return
        if untitled:
            self._desk.path = None
            self._desk.saved.emit()
        else:
            self._opened(path)

    def save(self) -> bool:
        """Save; ask for a name when there is none.  Whether it was saved."""
        return self._save(self._desk.path) if self._desk.path else self.save_as()

    def save_as(self) -> bool:
        """Ask for a name and save."""
        from vastzone.app import dialogs

        path = dialogs.ask_save(self._window, f"{self._desk.plan.name}{SUFFIX}".replace("/", "-"))
        return path is not None and self._save(path)

    def _save(self, path: Path) -> bool:
        from vastzone.app import dialogs

        try:
            self._desk.save(path)
        except ChangedElsewhere:
            return self._settle(path)
        except PlanError as error:
            dialogs.tell(self._window, str(error))
            return False
        self._opened(path)
        return True

    def _settle(self, path: Path) -> bool:
        """Somebody else changed the file: keep theirs, this one, or both.  Whether it is saved."""
        from vastzone.app import dialogs

        answer = dialogs.ask_whose(self._window, path.name)
        if answer == "both":
            return self._save(_beside(path))
        if answer == "theirs":
            self.open_path(path)
        if answer != "mine":
            return False
        try:
            self._desk.save(path, over=True)
        except PlanError as error:
            dialogs.tell(self._window, str(error))
            return False
        return True

    def recover(self) -> None:
        """Offer what a crash left behind."""
        from vastzone.app import dialogs

        leftovers = recovery.leftovers(self._folder / "recovery")
        remarks = []
        for remark in (self._remark, *leftovers.remarks):
            if remark:
                remarks.append(remark)
        self._remark = ""
        if remarks:
            dialogs.tell(self._window, " ".join(remarks))
        for left in leftovers.offers:
            if dialogs.ask_recover(self._window, left.plan.name, left.crash):
                self._desk.load(left.plan, left.path, clean=False, memory=left.memory)
                self._desk.autosave()
                recovery.discard(left.copy)
                return
            recovery.discard(left.copy)


def _beside(path: Path) -> Path:
    """A name that is free beside a file: «show (2).vastzone»."""
    number = 2
    while is_there(free := path.with_name(f"{path.stem} ({number}){path.suffix}")):
        number += 1
    return free
