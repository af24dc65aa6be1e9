"""Findings as cards with their fixes to press."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout

from vastzone.app.frame.elided import Elided
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import pixmap
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Plan
from vastzone.core.proof.finding import Finding

ICONS = {"fault": "octagon-alert", "caution": "triangle-alert", "hint": "info"}
WORDS = {"fault": "Fault", "caution": "Caution", "hint": "Hint"}


class FindingCard(QFrame):
    """One finding: severity, sentence, scenes, fixes."""

    def __init__(
        self, plan: Plan, finding: Finding, fix: Callable[[Edit], None],
        go: Callable[[Finding], None],
    ) -> None:  # fmt: skip
        super().__init__()
        self.finding = finding
        self._fix, self._go = fix, go
        self.setProperty("role", finding.severity)
        self.setAccessibleName(f"{WORDS[finding.severity]}: {finding.sentence}")
        box = QVBoxLayout(self)
        box.setContentsMargins(10, 8, 8, 8)
        box.setSpacing(5)
        box.addLayout(self._head(plan, finding))
        sentence = QLabel(finding.sentence)
        sentence.setWordWrap(True)
        box.addWidget(sentence)
        self._rest: list[QPushButton] = []
        for index, edit in enumerate(finding.fixes):
            button = FixButton(edit.label)
            button.clicked.connect(partial(self._press, index))
            box.addWidget(button)
            if index:
                button.hide()
                self._rest.append(button)
        if self._rest:
            count = len(self._rest)
            more = FixButton(f"{count} other way{'s' if count > 1 else ''} to mend it", "link")
            more.clicked.connect(partial(self._unfold, more))
            box.addWidget(more)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def _head(self, plan: Plan, finding: Finding) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(6)
        mark = QLabel()
        colour = THEME.colours.severity(finding.severity)
        mark.setPixmap(pixmap(ICONS[finding.severity], colour, 17))
        title = QLabel(finding.rule[0].upper() + finding.rule[1:])
        title.setProperty("role", "heading")
        title.setProperty("severity", finding.severity)
        head.addWidget(mark)
        head.addWidget(title)
        where = Elided("muted")
        where.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head.addWidget(where, 1)
        if finding.scenes and len(finding.scenes) < len(plan.scenes):
            count = len(finding.scenes)
            names = [s.name for s in plan.scenes if s.id in finding.scenes]
            where.show_text(names[0] if count == 1 else f"{count} scenes")
            where.setToolTip(", ".join(names))
        return head

    def _press(self, index: int) -> None:
        self._fix(self.finding.fixes[index])

    def _unfold(self, more: QPushButton) -> None:
        more.hide()
        for button in self._rest:
            button.show()

    def mouseReleaseEvent(self, event: object) -> None:
        """Go to what it is about."""
        self._go(self.finding)


def like(finding: Finding) -> tuple[object, ...]:
    """All that a card shows of a finding: a card serves any that is like its own."""
    return (*finding[:4], finding.scenes, tuple(edit.label for edit in finding.fixes))


class FixButton(QPushButton):
    """A fix; a long label gives way and shows whole as a tool tip."""

    def __init__(self, label: str, role: str = "fix") -> None:
        super().__init__()
        self._label = label
        self.setToolTip(label)
        self.setAccessibleName(f"Fix: {label}" if role == "fix" else label)
        self.setProperty("role", role)
        self.setMinimumWidth(60)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Cut the label to the width there is."""
        super().resizeEvent(event)
        room = self.width() - 24
        self.setText(self.fontMetrics().elidedText(self._label, Qt.TextElideMode.ElideRight, room))
