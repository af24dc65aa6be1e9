"""What changes is said to those who are read to: choices, strikes, ticks, edits, findings."""

from collections.abc import Iterable

from PySide6.QtCore import QObject
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QWidget

from vastzone.core.engine.report import Report, strike_words
from vastzone.core.say import say, say_many
from vastzone.desk.session import Desk
from vastzone.desk.signal import Signal

FEW = 2
"""So many findings that come or go at once are told whole; of more, only how many."""


class Announcer(QObject):
    """Listens to the desk and says what happened; silent while nobody is read to.

    ``said`` carries each sentence.
    """

    def __init__(self, desk: Desk, window: QWidget) -> None:
        super().__init__(window)
        self._desk, self._window = desk, window
        self.said = Signal("announced")
        self._selection, self._scene = desk.selection, desk.scene
        self._edit = desk.undo_label
        self._findings: frozenset[str] | None = None
        desk.opened.connect(self._forget)
        desk.selected.connect(self._selected)
        desk.scene_changed.connect(self._went)
        desk.plan_changed.connect(self._edited)
        desk.memory_changed.connect(self._edited)
        desk.proved.connect(self._proved)
        desk.stage.struck.connect(self._struck)

    def announce(self, sentence: str) -> None:
        """Say one sentence."""
        if sentence and QAccessible.isActive():
            QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(self._window, sentence))
            self.said.emit(sentence)

    def _selected(self) -> None:
        from vastzone.app.frame.sheets import sheet_for

        if self._desk.selection == self._selection:
            return
        self._selection = self._desk.selection
        if self._selection and QAccessible.isActive():
            sheet = sheet_for(self._desk, self._selection)
            self.announce(f"{sheet.kind}: {sheet.title}")

    def _went(self) -> None:
        scene = self._desk.scene
        if scene is not None and scene is not self._scene:
            number = self._desk.plan.scenes.index(scene) + 1
            self.announce(say("Scene {number}: {scene}", number=number, scene=scene.name))
        self._scene = scene

    def _forget(self) -> None:
        """Another plan: its findings are neither new nor gone."""
        self._findings = None

    def _edited(self) -> None:
        if self._findings is None and QAccessible.isActive():
            self._findings = self._told()  # what was known before this edit stands until proved
        label = self._desk.undo_label
        if label is not None and label != self._edit:
            self.announce(label)
        self._edit = label

    def _struck(self, report: Report) -> None:
        if not QAccessible.isActive() or report.velocity <= 0:
            return
        self.announce(strike_words(report, self._desk.verdict(report), with_delays=False))

    def _told(self) -> frozenset[str]:
        return frozenset(one.sentence for one in self._desk.findings if one.severity != "hint")

    def _proved(self) -> None:
        if not QAccessible.isActive():
            self._findings = None
            return
        now, before = self._told(), self._findings
        self._findings = now
        if before is None:
            return
        come, gone = now - before, before - now
        self.announce(
            " ".join(filter(None, (_counted(come, say("New")), _counted(gone, say("Gone")))))
        )


def _counted(sentences: Iterable[str], word: str) -> str:
    """Few findings whole, many by their number."""
    told = sorted(sentences)
    if not told:
        return ""
    if len(told) <= FEW:
        return f"{word}: {' '.join(told)}"
    return say_many("{word}: {count} finding.", "{word}: {count} findings.", len(told), word=word)
