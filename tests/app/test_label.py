"""Labels: the height that is kept is the one that would be measured."""

from collections.abc import Callable

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PySide6.QtWidgets import QLabel, QWidget

from vastzone.app.frame.text import Label
from vastzone.app.theme.fonts import font

Change = Callable[[Label], object]


def _says(words: str) -> Change:
    return lambda label: label.setText(words)


def _wraps(on: bool) -> Change:
    return lambda label: label.setWordWrap(on)


def _letters(pixels: int) -> Change:
    return lambda label: label.setFont(font(pixels))


def _margins(pixels: int) -> Change:
    return lambda label: label.setContentsMargins(pixels, pixels, pixels, pixels)


def _dressed(pixels: int) -> Change:
    return lambda label: label.window().setStyleSheet(f"Label {{ font-size: {pixels}px; }}")


CHANGES = st.one_of(
    st.text(max_size=80).map(_says),
    st.booleans().map(_wraps),
    st.integers(8, 30).map(_letters),
    st.integers(0, 12).map(_margins),
    st.integers(8, 30).map(_dressed),
)


@pytest.mark.usefixtures("qapp")
@settings(max_examples=60, deadline=None)
@given(changes=st.lists(CHANGES, max_size=6), wide=st.integers(20, 500))
def test_a_kept_height_is_the_one_that_is_measured(changes: list[Change], wide: int) -> None:
    parent = QWidget()
    label = Label("A few words that may need more than a line.", parent)
    label.setWordWrap(True)
    label.heightForWidth(wide)
    for change in changes:
        change(label)
        label.ensurePolished()
        assert label.heightForWidth(wide) == QLabel.heightForWidth(label, wide)
    parent.deleteLater()
