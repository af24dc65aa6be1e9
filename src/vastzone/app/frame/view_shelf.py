"""The views one over the other, scrolled where the window is smaller than the one that is shown."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QScrollArea, QWidget

from vastzone.app.frame.sized import bound_anew
from vastzone.app.frame.stack import Stack


class ViewShelf(QScrollArea):
    """Shows one view; the others wait behind it, or aside where they are not dressed with it."""

    def __init__(self) -> None:
        super().__init__()
        self._stack, self._aside = Stack(), QWidget()
        self._views: list[QWidget] = []
        self.setObjectName("viewScroll")
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setWidget(self._stack)

    @property
    def current(self) -> QWidget:
        """The view that is shown."""
        view = self._stack.current
        assert view is not None, "there is always a view"
        return view

    def add(self, view: QWidget) -> None:
        """One more view, behind the one that is shown."""
        self._views.append(view)
        self._stack.add(view)

    def show_view(self, view: QWidget) -> None:
        """Show a view from where it begins."""
        if not self._stack.holds(view):
            self._stack.add(view)
            bound_anew(view)
        self._stack.show_page(view)
        self.begin_at_the_top()

    def begin_at_the_top(self) -> None:
        """Be scrolled to where a view or page begins."""
        for scroll_bar in (self.horizontalScrollBar(), self.verticalScrollBar()):
            scroll_bar.setValue(0)

    def put_aside(self) -> None:
        """Views that are not shown are not dressed with the window: each is when it is shown.

        Dressing all that was ever shown takes several times as long.
        """
        for view in self._views:
            if view is not self.current and self._stack.holds(view):
                self._stack.remove(view)
                view.setParent(self._aside)

    def setFocus(self, reason: Qt.FocusReason = Qt.FocusReason.OtherFocusReason) -> None:
        """Give the focus to the view that is shown."""
        self.current.setFocus(reason)

    def clear(self) -> None:
        """The window goes: what is aside goes too."""
        self._aside.deleteLater()
