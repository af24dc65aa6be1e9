"""What is painted: whole, legible, told to those who are read to, and lit where the focus is.

``VZ_LOOKS=all`` walks every size, size of text, theme and plan; the suite walks the hardest.
"""

import os
from itertools import islice, product

import pytest
from bench.full_house import full_house
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QAbstractButton, QApplication

from tests.plan_of_names import renamed
from vastzone import demo
from vastzone.app.theme.colours import DAY, STAGE
from vastzone.app.theme.current import THEME
from vastzone.app.views.places import PLACES
from vastzone.files import native

from . import seen
from .hands import awake
from .test_tab_order import reachable

WORDS = [
    "Great",
    "gallery",
    "of",
    "the",
    "travelling",
    "shadow",
    "puppet",
    "company",
    "by",
    "the",
    "sea",
]
SMALL, LAPTOP = (1024, 600), (1280, 800)
HARDEST = ((SMALL, 150, "stage", "long"),)
"""A laptop by day is walked in the trial language, which is longer (``foreign.py``)."""
ALL = tuple(
    product(
        (SMALL, (1024, 700), LAPTOP, (1920, 1080), (3840, 2160)),
        (100, 110, 125, 150),
        ("day", "stage"),
        ("demo", "long", "full"),
    )
)
LOOKS = ALL if os.environ.get("VZ_LOOKS") == "all" else HARDEST


def long_names():
    """Names of sixty letters, all different."""
    number = 0
    while True:
        number += 1
        turned = WORDS[number % len(WORDS) :] + WORDS[: number % len(WORDS)]
        yield f"{number} {' '.join(turned)}"[:60]


def plan_of(kind):
    if kind == "full":
        return full_house()
    plan = native.read(demo.AS_FOUND)
    return renamed(plan, list(islice(long_names(), 2000))) if kind == "long" else plan


def settle(window):
    for _ in range(4):
        QApplication.processEvents()
    while window.desk.pending:
        window.desk.work(0.05)
    for _ in range(4):
        QApplication.processEvents()


def pages(window):
    """Every page of every view, one after the other."""
    for place in PLACES:
        ident = place.place.ident
        window.show_view(ident)
        view = window.view(ident)
        for number, name in enumerate(getattr(view, "page_names", ("",))):
            if name:
                view.show_page(number)
            settle(window)
            yield f"{ident} {name}".strip()


@pytest.fixture
def dressed(window):
    """The window in a theme with text of a size; as it was, afterwards."""

    def dress(theme, text=100):
        THEME.use(theme, text)
        settle(window)

    yield dress
    THEME.use("day", 100)


@pytest.mark.timeout(600)
@pytest.mark.parametrize(("size", "text", "theme", "plan"), LOOKS)
def test_everything_is_whole_legible_and_told(window, dressed, size, text, theme, plan):
    """One walk finds all of it: what is clipped, covered, out of reach, faint or untold."""
    window.resize(*size)
    window.desk.load(plan_of(plan), None)
    dressed(theme, text)
    QAccessible.setActive(True)
    bed = window.keys.canvas.picture.beds[0]
    window.desk.stage.press(bed.ref, bed.bed.low + 24, 96, 0.0)
    window.desk.select(bed.ref)
    window.ring.setMaximumSize(0, 0)  # it may lie over letters that are half scrolled away
    found = {}
    for page in pages(window):
        with seen.still():
            troubles = [*seen.unexposed(window), *seen.troubles(window), *seen.faint(window)]
        if troubles:
            found[page] = troubles
    QAccessible.setActive(False)
    assert not found


@pytest.mark.timeout(300)
@pytest.mark.parametrize("theme", ["day", "stage"] if LOOKS is ALL else ["day"])
def test_the_focus_is_seen_on_every_kind_of_thing(window, dressed, theme, qtbot):
    dressed(theme)
    awake(window, qtbot)
    known, dark = set(), []
    for page in islice(pages(window), 30):
        for widget in reachable(window):
            down = isinstance(widget, QAbstractButton) and widget.isChecked()
            kind = (type(widget).__name__, widget.property("role"), down)
            if kind in known:
                continue
            known.add(kind)
            window.setFocus()
            settle(window)
            before = seen.pixels_of(window)
            widget.setFocus(Qt.FocusReason.TabFocusReason)
            settle(window)
            size = widget.size()
            edge = min(size.width(), 200) + min(size.height(), 200)
            if seen.lit(before, seen.pixels_of(window)) < edge:
                dark.append((page, kind))
    assert len(known) > 25 and not dark


class Windows(QObject):
    """Notes every window that is shown, however short."""

    def __init__(self):
        super().__init__()
        self.shown = []

    def eventFilter(self, watched, event):
        if event.type() is QEvent.Type.Show and watched.isWidgetType() and watched.isWindow():
            self.shown.append(type(watched).__name__)
        return False


def test_no_view_or_page_shows_a_window_of_its_own(window):
    """One that flashes up takes the keyboard away from the window."""
    windows = Windows()
    QApplication.instance().installEventFilter(windows)
    shown = list(pages(window))
    QApplication.instance().removeEventFilter(windows)
    assert len(shown) > 40 and not windows.shown


# How eyes without one kind of cones see linear RGB: Machado, Oliveira and Fernandes, 2009.
EYES = {
    "protan": (
        (0.152286, 1.052583, -0.204868),
        (0.114503, 0.786281, 0.099216),
        (-0.003882, -0.048116, 1.051998),
    ),
    "deutan": (
        (0.367322, 0.860646, -0.227968),
        (0.280085, 0.672501, 0.047413),
        (-0.011820, 0.042940, 0.968881),
    ),
    "tritan": (
        (1.255528, -0.076749, -0.178779),
        (-0.078411, 0.930809, 0.147602),
        (0.004733, 0.691367, 0.303900),
    ),
}


@pytest.mark.parametrize("colours", [DAY, STAGE], ids=["day", "stage"])
@pytest.mark.parametrize("eyes", EYES)
def test_parts_differ_to_every_kind_of_eye(colours, eyes):
    kinds = [*colours.parts]
    for number, one in enumerate(kinds):
        for other in kinds[number + 1 :]:
            assert seen.apart(one, other, EYES[eyes]) > 14, (one, other)
    assert seen.apart(colours.good, colours.muted, EYES[eyes]) > 10


@pytest.mark.timeout(300)
def test_read_from_the_right_nothing_is_clipped_or_covered(window):
    """A word that is cut comes as two pieces there; only whole ones are looked at."""
    application = QApplication.instance()
    application.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
    settle(window)
    found = {}
    for page in islice(pages(window), 14):
        troubles = [one for one in seen.troubles(window) if one.words != "…"]
        if troubles:
            found[page] = troubles
    application.setLayoutDirection(Qt.LayoutDirection.LeftToRight)
    assert not found
