"""Tab and Shift+Tab reach everything in every view and on every page, and come round again."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractButton, QWidget

from vastzone.app.views.places import PLACES

from .hands import show

VIEWS = [place.place.ident for place in PLACES]
STEPS = 200


def is_left_to_arrows(widget):
    """Whether it stands in a row of choices, of which Tab reaches the one that is chosen."""
    group = widget.group() if isinstance(widget, QAbstractButton) else None
    return group is not None and group.exclusive() and not widget.isChecked()


def reachable(window):
    """Everything that can be seen, is enabled and takes the focus by Tab."""
    found = set()
    for widget in window.findChildren(QWidget):
        takes = widget.focusPolicy() & Qt.FocusPolicy.TabFocus
        if (
            takes
            and not is_left_to_arrows(widget)
            and widget.isVisible()
            and widget.isEnabled()
            and widget.window() is window
        ):
            found.add(widget.focusProxy() or widget)
    return found


def walked(window, qtbot, key):
    """What the focus comes to, from key to key, until it is where it began."""
    seen = []
    while window.focusWidget() not in seen:
        seen.append(window.focusWidget())
        assert len(seen) < STEPS
        qtbot.keyClick(seen[-1], key)
    assert window.focusWidget() is seen[0]
    return set(seen)


@pytest.mark.parametrize("ident", VIEWS)
def test_tab_reaches_everything_and_leaves_it(window, qtbot, ident):
    view = show(window, qtbot, ident)
    pages = getattr(view, "page_names", ("",))
    for number in range(len(pages)):
        if number:
            qtbot.keyClick(window, Qt.Key.Key_PageDown, Qt.KeyboardModifier.ControlModifier)
        qtbot.wait(20)
        key = Qt.Key.Key_Backtab if number % 2 else Qt.Key.Key_Tab
        assert reachable(window) <= walked(window, qtbot, key)
