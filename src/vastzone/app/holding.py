"""Surfaces on which hands hold things down: nothing stays held that no hand can let go."""

from PySide6.QtCore import QEvent

from vastzone.app.drawn import Drawn

ONCE_MS = 350
"""How long what is pressed by a name alone, not by a hand that holds it, is down."""
GONE = frozenset((QEvent.Type.Hide, QEvent.Type.WindowDeactivate, QEvent.Type.FocusOut))
"""After these the release may never come here: the button or key goes up somewhere else."""


class Holding(Drawn):
    """A widget that is struck; what is held on it ends when it is hidden or loses the hands."""

    def let_go(self) -> None:
        """Release whatever is held."""
        raise NotImplementedError

    def heard(self, event: QEvent) -> bool:
        """Let go in time."""
        if event.type() in GONE:
            self.let_go()
        return super().heard(event)
