"""Where the window goes at first, and how large its text is."""

from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QRect

from vastzone.app.frame.placing import GRIP, first_place, text_of_desktop
from vastzone.desk.preferences import SIZES

SCREENS = st.builds(
    QRect,
    st.integers(-4000, 4000),
    st.integers(-2000, 2000),
    st.integers(640, 3840),
    st.integers(480, 2160),
)
KEPT = st.tuples(
    st.integers(-9000, 9000),
    st.integers(-9000, 9000),
    st.integers(1, 9000),
    st.integers(1, 9000),
)


@given(st.lists(SCREENS, min_size=1, max_size=3), st.none() | KEPT)
def test_the_window_is_never_larger_than_a_screen_nor_off_it(screens, kept):
    place = first_place(screens, kept)
    assert any(screen.contains(place) for screen in screens)


@given(SCREENS)
def test_it_goes_where_it_was_while_a_screen_shows_that(screen):
    kept = QRect(screen.left() + 5, screen.top() + 5, screen.width() - 9, screen.height() - 9)
    if kept.width() >= 800 and kept.height() >= 480 + GRIP:
        assert first_place([screen], kept.getRect()) == kept


def test_a_small_laptop_gets_all_of_its_screen_and_a_large_one_not():
    assert first_place([QRect(0, 0, 1024, 560)], None) == QRect(0, 0, 1024, 560)
    assert first_place([QRect(0, 0, 3840, 2160)], None).size().toTuple() == (1280, 800)


def test_text_follows_the_desktop():
    assert [text_of_desktop(dots, 10, SIZES) for dots in (96, 120, 144, 192)] == [
        100,
        125,
        150,
        175,
    ]
    assert text_of_desktop(96, 15, SIZES) == 150
