"""What a window shows, read from its painting: every line of text with its place and colour."""

import re
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from itertools import combinations
from math import cbrt
from typing import NamedTuple
from xml.etree import ElementTree

import numpy as np
from PySide6.QtCore import QBuffer, QCoreApplication, QIODevice, QPoint, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QAccessible, QColor, QFont, QFontMetricsF, QImage, QRegion, QTransform
from PySide6.QtSvg import QSvgGenerator
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractScrollArea,
    QAbstractSpinBox,
    QFrame,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
    QScrollArea,
    QStackedWidget,
    QWidget,
)

from vastzone.app.drawn import Drawn, DrawnArea
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.theme.colours import contrast
from vastzone.app.theme.current import THEME

SVG = "{http://www.w3.org/2000/svg}"
NUMBERS = re.compile(r"-?\d+(?:\.\d+)?(?:e-?\d+)?")


class Line(NamedTuple):
    """A line of text as it is painted: what it says, the letters' box, and their colour."""

    words: str
    box: QRectF
    colour: QColor
    pixels: float


def _gather(
    node: ElementTree.Element, place: QTransform, style: dict[str, str], found: list[Line]
) -> None:
    style = {**style, **node.attrib}
    if "transform" in node.attrib:
        numbers = [float(number) for number in NUMBERS.findall(node.attrib["transform"])]
        if len(numbers) == 6:
            place = QTransform(*numbers)
    if node.tag == f"{SVG}text" and (node.text or "").strip():
        found.append(_line(node.text or "", place, style))
    for child in node:
        _gather(child, place, style, found)


def _line(words: str, place: QTransform, style: dict[str, str]) -> Line:
    face = QFont(style.get("font-family", "").strip("'"))
    pixels = float(style.get("font-size", "12").removesuffix("px"))
    face.setPixelSize(max(1, round(pixels)))
    face.setWeight(QFont.Weight(int(style.get("font-weight", "400"))))
    metrics = QFontMetricsF(face)
    bare = words.strip()
    start = metrics.horizontalAdvance(words[: len(words) - len(words.lstrip())])
    at = QPointF(float(style.get("x", "0")) + start, float(style.get("y", "0")))
    letters = metrics.tightBoundingRect(bare)
    box = place.mapRect(letters.translated(at))
    return Line(bare, box, QColor(style.get("fill", "#000000")), pixels)


SLACK = 3
"""Pixels by which letters may stand over an edge: their boxes are rounded."""
TYPED = (QLineEdit, QAbstractSpinBox, QPlainTextEdit)
"""What is typed scrolls under the caret; it is never out of reach."""


class Trouble(NamedTuple):
    """Something that cannot be read whole: where, what it says, and why."""

    where: str
    words: str
    why: str


def troubles(window: QWidget) -> list[Trouble]:
    """What is clipped, covered by other words, or cut without being told whole somewhere."""
    for _ in range(3):  # what was asked of layouts is done; no timer runs meanwhile
        QCoreApplication.sendPostedEvents()
    found: list[Trouble] = []
    for widget in shown_in(window):
        found += _unreachable(widget)
        found += _troubles_of(widget)
    return found


STILL: list[dict[int, list[Line]]] = []
"""What was read since everything stands still, by the widget."""
PAINTED: dict[tuple[object, ...], list[Line]] = {}
"""The lines of labels and buttons by all that their painting depends on: many are alike."""


@contextmanager
def still() -> Iterator[None]:
    """While nothing changes, each widget is painted and read once."""
    STILL.append({})
    yield
    STILL.pop()


def own_lines(widget: QWidget) -> list[Line]:
    """The text that a widget paints by itself, without what its children paint."""
    known = STILL[-1] if STILL else {}
    if id(widget) not in known:
        known[id(widget)] = _own_lines(widget)
    return known[id(widget)]


def _is_bare(widget: QWidget) -> bool:
    """Whether nothing paints letters on a widget: it only holds others."""
    bare = type(widget).paintEvent in (QWidget.paintEvent, QFrame.paintEvent)
    return bare and _scrolled(widget) is None


def _own_lines(widget: QWidget) -> list[Line]:
    if _is_bare(widget):
        return []
    if not isinstance(widget, QLabel | QAbstractButton):
        return _painted(widget)
    down = isinstance(widget, QAbstractButton) and widget.isChecked()
    looks = (
        type(widget),
        widget.text(),
        widget.accessibleDescription(),
        widget.size().toTuple(),
        widget.styleSheet(),
        *(str(widget.property(name)) for name in ("role", "narrow", "bad", "state", "lens")),
        widget.font().key(),
        widget.palette().cacheKey(),
        (widget.isEnabled(), down, widget.hasFocus(), widget.layoutDirection()),
        (THEME.name, THEME.zoom),
    )
    if looks not in PAINTED:
        PAINTED[looks] = _painted(widget)
    return PAINTED[looks]


def _painted(widget: QWidget) -> list[Line]:
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    generator = QSvgGenerator()
    generator.setOutputDevice(buffer)
    generator.setResolution(96)
    generator.setSize(widget.size())
    generator.setViewBox(QRect(QPoint(0, 0), widget.size()))
    widget.render(generator, QPoint(), QRegion(), QWidget.RenderFlag(0))
    root = ElementTree.fromstring(bytes(buffer.data().data()))
    found: list[Line] = []
    _gather(root, QTransform(), {}, found)
    return found


def _named(widget: QWidget) -> str:
    names = []
    while widget is not None and not widget.isWindow():
        names.append(widget.objectName() or widget.accessibleName() or type(widget).__name__)
        widget = widget.parentWidget()
    return " < ".join(names[:3])


def _scrolled(widget: QWidget) -> QAbstractScrollArea | None:
    """The area whose viewport a widget is."""
    parent = widget.parentWidget()
    if isinstance(parent, QAbstractScrollArea) and parent.viewport() is widget:
        return parent
    return None


def _unreachable(widget: QWidget) -> list[Trouble]:
    """Whether a widget stands out of its parent where nothing scrolls."""
    parent = widget.parentWidget()
    if parent is None or widget.isWindow() or _scrolled(widget) or _scrolled(parent):
        return []
    inside = QWidget.rect(parent).adjusted(-1, -1, 1, 1).contains(widget.geometry())
    if inside or widget.size().isEmpty():
        return []
    return [Trouble(_named(widget), "", f"{widget.geometry()} stands out of {parent.rect()}")]


def _troubles_of(widget: QWidget) -> list[Trouble]:
    if isinstance(widget, TYPED) or isinstance(widget.parentWidget(), TYPED):
        return []
    if isinstance(widget, QStackedWidget | QScrollArea):
        return []
    lines = own_lines(widget)
    found = []
    for line in lines:
        why = _clipped(widget, line) or _cut(widget, line)
        if why:
            found.append(Trouble(_named(widget), line.words, why))
    if not isinstance(widget, QHeaderView):
        found += _covered(widget, lines)
    return found


def _clipped(widget: QWidget, line: Line) -> str:
    if isinstance(widget, QLabel) and widget.wordWrap():
        # It is broken anew for each kind of paper: what counts is whether it has its height.
        high = widget.heightForWidth(widget.width())
        return "" if high <= widget.height() + 1 else f"needs {high} of {widget.height()}"
    area, room = _scrolled(widget), QRectF(QWidget.rect(widget))
    box = line.box.adjusted(SLACK, SLACK, -SLACK, -SLACK)
    if room.contains(box) or not room.intersects(box):
        return ""
    if isinstance(area, QHeaderView):
        area = area.parentWidget()
    if isinstance(area, QAbstractScrollArea):
        across, down = area.horizontalScrollBar(), area.verticalScrollBar()
        over_sides = box.left() < 0 or box.right() > room.right()
        over_ends = box.top() < 0 or box.bottom() > room.bottom()
        if (not over_sides or across.maximum()) and (not over_ends or down.maximum()):
            return ""
    return f"clipped: {box.getRect()} in {room.size().toTuple()}"


def _cut(widget: QWidget, line: Line) -> str:
    if not line.words.endswith("…") or line.words.endswith(" …"):
        return ""
    told = [widget.toolTip(), widget.accessibleName()]
    if isinstance(widget, QAbstractButton):
        told.append(widget.text())
    if isinstance(widget, QLabel):
        told.append(widget.text() if widget.text() != line.words else "")
    if isinstance(widget, CalmCombo):
        told.append(widget.whole())
    begin = line.words.removesuffix("…").strip()
    if any(text.startswith(begin) or begin in text for text in told if text):
        return ""
    if isinstance(widget, Drawn):
        whole = widget.whole(line.box.center() / THEME.zoom)
        return "" if begin in whole or line.words in whole else "cut, and not told whole"
    area = _scrolled(widget)
    if isinstance(area, QAbstractItemView):
        index = area.indexAt(line.box.center().toPoint())
        if index.data() == line.words:
            return ""
        tip = str(index.data(Qt.ItemDataRole.ToolTipRole) or "")
        return "" if tip and begin else "cut to nothing" if tip else "cut, without a tip"
    return "cut, and not told whole"


def _covered(widget: QWidget, lines: list[Line]) -> list[Trouble]:
    found = []
    for one, other in combinations(lines, 2):
        if one.words == other.words and one.box.center() == other.box.center():
            continue  # what sounds, painted once more over how it was at rest
        both = one.box.intersected(other.box)
        if both.width() > 2 * SLACK and both.height() > 2 * SLACK:
            found.append(Trouble(_named(widget), one.words, f"covered by “{other.words}”"))
    return found


def faint(window: QWidget, least: float = 4.5) -> list[Trouble]:
    """Text whose contrast with what is behind it, as painted, is below ``least``."""
    pixels = pixels_of(window)
    found = []
    for widget in shown_in(window):
        if not widget.isEnabled():
            continue
        seen = widget.visibleRegion()
        corner = QPointF(widget.mapTo(window, QPoint(0, 0)))
        # What sounds is painted once more over how it was at rest.
        last = {(line.words, line.box.toRect().getRect()): line for line in own_lines(widget)}
        for line in last.values():
            hidden = QRegion(line.box.adjusted(-3, -3, 3, 3).toAlignedRect()).subtracted(seen)
            if line.colour.alpha() == 0 or not hidden.isEmpty():
                continue
            behind = background(pixels, line.box.translated(corner))
            told = contrast(line.colour, behind)
            if told < least:
                why = f"{told:.2f}: {line.colour.name()} on {behind.name()}"
                found.append(Trouble(_named(widget), line.words, why))
    return found


def pixels_of(widget: QWidget) -> np.ndarray:
    """What a widget looks like, as rows of pixels 0xffrrggbb (height, width)."""
    image = widget.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    image = image.scaled(widget.size())  # a screen may have more pixels than the window
    rows = np.frombuffer(image.constBits(), np.uint32).reshape(image.height(), -1)
    return rows[:, : image.width()].copy()


def background(pixels: np.ndarray, box: QRectF) -> QColor:
    """The colour that is seen most often on the rim of a box."""
    high, wide = pixels.shape
    left, right = max(0, int(box.left()) - 2), min(wide - 1, int(box.right()) + 2)
    top, bottom = max(0, int(box.top()) - 2), min(high - 1, int(box.bottom()) + 2)
    ends = pixels[[top, bottom], left : right + 1].ravel()
    sides = pixels[top : bottom + 1, [left, right]].ravel()
    colours, counts = np.unique(np.concatenate([ends, sides]), return_counts=True)
    return QColor.fromRgb(int(colours[counts.argmax()]))


def shown_in(window: QWidget) -> list[QWidget]:
    """Every widget that can be seen in a window."""
    return [w for w in window.findChildren(QWidget) if w.isVisible() and w.window() is window]


def unexposed(window: QWidget) -> list[Trouble]:
    """What is painted or takes the focus and is not told to those who are read to."""
    found = []
    name = QAccessible.Text.Name
    for widget in shown_in(window):
        told = QAccessible.queryAccessibleInterface(widget)
        inner = isinstance(widget.parentWidget(), QAbstractSpinBox)
        if widget.focusPolicy().value and not inner and not told.text(name):
            found.append(Trouble(_named(widget), "", "has no name"))
        if isinstance(widget, Drawn | DrawnArea) and type(widget) is not Drawn:
            found += _untold(widget)
    return found


def _untold(picture: QWidget) -> list[Trouble]:
    told = QAccessible.queryAccessibleInterface(picture)
    kinds = (QAccessible.Text.Name, QAccessible.Text.Value, QAccessible.Text.Description)
    words, found = [], []
    keys = Counter(element.key for element in picture.elements())
    for key, times in keys.items():
        if times > 1:
            found.append(Trouble(_named(picture), key, "the key of several elements"))
    for number in range(told.childCount()):
        element = told.child(number)
        if not element.text(QAccessible.Text.Name):
            found.append(Trouble(_named(picture), str(number), "an element has no name"))
        words += [element.text(kind) for kind in kinds]
    # «ch 3» is painted for «channel 3» where there is little room.
    every = " ".join(" ".join(words).replace("channel ", "ch ").split())
    paper = picture.viewport() if isinstance(picture, DrawnArea) else picture
    seen = paper.visibleRegion()
    for line in own_lines(paper):
        said = " ".join(line.words.removesuffix("…").replace("channel ", "ch ").split())
        if said not in every and seen.contains(line.box.center().toPoint()):
            found.append(Trouble(_named(picture), line.words, "is painted and not told"))
    return found


def lit(before: np.ndarray, after: np.ndarray) -> int:
    """How many pixels changed by a contrast of 3 : 1 at least."""
    one, other = _luminances(before), _luminances(after)
    ratio = (np.maximum(one, other) + 0.05) / (np.minimum(one, other) + 0.05)
    return int((ratio >= 3).sum())


def _luminances(pixels: np.ndarray) -> np.ndarray:
    """Relative luminance 0–1 of pixels, as WCAG 2 defines it."""
    channels = np.stack([(pixels >> shift & 255) / 255 for shift in (16, 8, 0)], axis=-1)
    linear = np.where(channels <= 0.03928, channels / 12.92, ((channels + 0.055) / 1.055) ** 2.4)
    return linear @ np.array([0.2126, 0.7152, 0.0722])


def apart(one: str, other: str, eyes: tuple[tuple[float, ...], ...]) -> float:
    """How far two colours are apart to certain eyes, as ΔE of CIE 1976."""
    return float(np.linalg.norm(_lab(one, eyes) - _lab(other, eyes)))


WHITE = np.array([0.95047, 1.0, 1.08883])
TO_XYZ = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])


def _lab(colour: str, eyes: tuple[tuple[float, ...], ...]) -> np.ndarray:
    shade = QColor(colour)
    plain = np.array([shade.redF(), shade.greenF(), shade.blueF()])
    linear = np.where(plain <= 0.04045, plain / 12.92, ((plain + 0.055) / 1.055) ** 2.4)
    seen = np.clip(np.array(eyes) @ linear, 0, 1)
    x, y, z = (TO_XYZ @ seen) / WHITE
    x, y, z = (cbrt(v) if v > 0.008856 else 7.787 * v + 16 / 116 for v in (x, y, z))
    return np.array([116 * y - 16, 500 * (x - y), 200 * (y - z)])
