"""A stack of pages: only the one that is shown counts."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from vastzone.app.frame.stack import Stack
from vastzone.app.frame.text import Button, Label

WORDS = "Every page says as much as it likes. "


def _page(sentences: int) -> QWidget:
    page = QWidget()
    box = QVBoxLayout(page)
    box.setContentsMargins(5, 5, 5, 5)
    label = Label(WORDS * sentences)
    label.setWordWrap(True)
    box.addWidget(label)
    return page


@pytest.mark.usefixtures("qapp")
@settings(max_examples=25, deadline=None)
@given(
    lengths=st.lists(st.integers(1, 60), min_size=2, max_size=5),
    turns=st.lists(st.integers(0, 4), min_size=1, max_size=4),
    wide=st.integers(120, 900),
)
def test_a_stack_asks_for_the_room_of_its_page_alone(
    lengths: list[int], turns: list[int], wide: int
) -> None:
    stack = Stack()
    for length in lengths:
        stack.add(_page(length))
    stack.show()
    for turn in turns:
        at = turn % len(lengths)
        stack.show_at(at)
        alone = _page(lengths[at])
        assert stack.current is not None
        assert not stack.current.isHidden()
        own, other = stack.layout(), alone.layout()
        assert own is not None
        assert other is not None
        assert own.totalHeightForWidth(wide) == other.totalHeightForWidth(wide)
        assert stack.minimumSizeHint() == alone.minimumSizeHint()
    stack.deleteLater()


def test_the_focus_goes_along_to_the_page_that_is_shown(qtbot: QtBot) -> None:
    stack, first, second = Stack(), Button("first"), Button("second")
    other = Button("other")
    outer = QWidget()
    box = QVBoxLayout(outer)
    box.addWidget(other)
    box.addWidget(stack)
    for button in (first, second):
        page = QWidget()
        QVBoxLayout(page).addWidget(button)
        stack.add(page)
    qtbot.addWidget(outer)
    outer.show()
    qtbot.waitExposed(outer)
    first.setFocus(Qt.FocusReason.TabFocusReason)
    stack.show_at(1)
    assert outer.focusWidget() is second
    other.setFocus(Qt.FocusReason.TabFocusReason)
    stack.show_at(0)
    assert outer.focusWidget() is other, "who is elsewhere stays there"
