"""A device's face as it looks: keys, pads, faders, knobs, buttons, wheels, its display.

One painting for all sizes: the picture in the library, the box in the rig, the workshop.
"""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import font
from vastzone.app.views.drawing import text
from vastzone.core.describe.face import Face, face_of
from vastzone.core.midi.pitch import is_black
from vastzone.core.plan.model.bodies import Spot
from vastzone.core.plan.model.controls import Control, Keybed
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import ControlKind


def scale_in(face: Face, area: QRectF) -> float:
    """Pixels of a millimetre, so that a face fits into an area."""
    return min(area.width() / face.size.wide, area.height() / face.size.deep)


def placed(face: Face, area: QRectF) -> tuple[QRectF, float]:
    """The body of a face in the middle of an area, and the pixels of a millimetre."""
    scale = scale_in(face, area)
    wide, deep = face.size.wide * scale, face.size.deep * scale
    left, top = area.center().x() - wide / 2, area.center().y() - deep / 2
    return QRectF(left, top, wide, deep), scale


def rect_of(spot: Spot, body: QRectF, scale: float) -> QRectF:
    """Where a spot of a face is in a picture."""
    return QRectF(
        body.left() + spot.x * scale,
        body.top() + spot.y * scale,
        spot.wide * scale,
        spot.high * scale,
    )


def paint_device(painter: QPainter, area: QRectF, device: Device) -> None:
    """The whole face, as large as it fits."""
    face = face_of(device)
    body, scale = placed(face, area)
    paint_body(painter, body)
    if face.display is not None:
        paint_display(painter, rect_of(face.display, body, scale), "")
    for bed in device.keybeds:
        paint_keys(painter, rect_of(face.spots[bed.id], body, scale), bed)
    for control in device.controls:
        spot = face.spots.get(control.id)
        if spot is not None:
            paint_control(painter, rect_of(spot, body, scale), control)


def paint_body(painter: QPainter, body: QRectF) -> None:
    """The body, with a light upper edge."""
    colours = THEME.colours
    painter.setPen(QPen(QColor(colours.line), 1.0))
    painter.setBrush(QColor(colours.sunken))
    radius = min(9.0, body.height() / 12)
    painter.drawRoundedRect(body, radius, radius)


def paint_display(painter: QPainter, area: QRectF, words: str) -> None:
    """The display, with what it shows where there is room."""
    colours = THEME.colours
    painter.setPen(_edge())
    painter.setBrush(mixed(colours.ink, colours.action, 0.35))
    painter.drawRoundedRect(area, 3, 3)
    if words and area.height() >= 16:
        face = font(min(13.0, area.height() * 0.5))
        text(painter, area.adjusted(6, 0, -6, 0), words, colours.on_action, face)


def paint_keys(painter: QPainter, area: QRectF, bed: Keybed) -> None:
    """White keys with black ones between them, as they lie."""
    colours = THEME.colours
    whites = [n for n in range(bed.low, bed.high + 1) if not is_black(n)]
    step = area.width() / max(1, len(whites))
    painter.setBrush(QColor(colours.white_key))
    painter.setPen(QPen(QColor(colours.key_line), 0.8))
    painter.drawRect(area)
    if step > 2.0:
        for place in range(1, len(whites)):
            x = area.left() + place * step
            painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colours.black_key))
    place = 0
    for note in range(bed.low, bed.high + 1):
        if is_black(note):
            x = area.left() + place * step - step * 0.3
            painter.drawRect(QRectF(x, area.top(), step * 0.6, area.height() * 0.6))
        else:
            place += 1


Painting = Callable[[QPainter, QRectF, Control], None]


def paint_control(painter: QPainter, rect: QRectF, control: Control) -> None:
    """A control as one knows it by its shape."""
    PAINTINGS.get(control.kind, _plain)(painter, rect, control)


def _edge() -> QPen:
    return QPen(mixed(THEME.colours.ink, THEME.colours.sunken, 0.45), 1.0)


def _pad(painter: QPainter, rect: QRectF, control: Control) -> None:
    colours = THEME.colours
    painter.setPen(_edge())
    painter.setBrush(mixed(colours.ink, colours.raised, 0.14))
    if control.shape == "round":
        side = min(rect.width(), rect.height())
        round_ = QRectF(0, 0, side, side)
        round_.moveCenter(rect.center())
        painter.drawEllipse(round_)
    else:
        radius = min(5.0, rect.height() / 6)
        painter.drawRoundedRect(rect, radius, radius)


def _fader(painter: QPainter, rect: QRectF, _control: Control) -> None:
    colours = THEME.colours
    middle = rect.center().x()
    painter.setPen(QPen(QColor(colours.ink), max(1.0, rect.width() / 9)))
    painter.drawLine(QPointF(middle, rect.top()), QPointF(middle, rect.bottom()))
    painter.setPen(_edge())
    painter.setBrush(QColor(colours.raised))
    high = max(3.0, rect.height() * 0.2)
    cap = QRectF(rect.left(), rect.top() + rect.height() * 0.55, rect.width(), high)
    painter.drawRoundedRect(cap, 2, 2)
    line = cap.center().y()
    painter.drawLine(QPointF(cap.left() + 2, line), QPointF(cap.right() - 2, line))


def _knob(painter: QPainter, rect: QRectF, control: Control) -> None:
    colours = THEME.colours
    side = min(rect.width(), rect.height())
    cap = QRectF(0, 0, side, side)
    cap.moveCenter(rect.center())
    painter.setPen(_edge())
    painter.setBrush(QColor(colours.raised))
    painter.drawEllipse(cap)
    centre = cap.center()
    if control.endless:
        painter.drawEllipse(centre + QPointF(0, -side * 0.28), side * 0.07, side * 0.07)
    else:
        painter.setPen(QPen(QColor(colours.ink), max(1.0, side / 12)))
        painter.drawLine(centre, centre + QPointF(side * 0.24, -side * 0.3))


def _button(painter: QPainter, rect: QRectF, _control: Control) -> None:
    painter.setPen(_edge())
    painter.setBrush(QColor(THEME.colours.raised))
    radius = min(4.0, rect.height() / 3)
    painter.drawRoundedRect(rect, radius, radius)


def _switch(painter: QPainter, rect: QRectF, _control: Control) -> None:
    side = min(rect.width(), rect.height())
    cap = QRectF(0, 0, side, side)
    cap.moveCenter(rect.center())
    painter.setPen(_edge())
    painter.setBrush(QColor(THEME.colours.raised))
    painter.drawEllipse(cap)
    painter.drawEllipse(cap.adjusted(side * 0.2, side * 0.2, -side * 0.2, -side * 0.2))


def _wheel(painter: QPainter, rect: QRectF, _control: Control) -> None:
    colours = THEME.colours
    painter.setPen(_edge())
    painter.setBrush(mixed(colours.ink, colours.raised, 0.3))
    radius = min(6.0, rect.width() / 3)
    painter.drawRoundedRect(rect, radius, radius)
    painter.setPen(QPen(QColor(colours.raised), 1.0))
    for share in (0.3, 0.5, 0.7):
        y = rect.top() + rect.height() * share
        painter.drawLine(QPointF(rect.left() + 2, y), QPointF(rect.right() - 2, y))


def _lever(painter: QPainter, rect: QRectF, _control: Control) -> None:
    colours = THEME.colours
    painter.setPen(_edge())
    painter.setBrush(mixed(colours.ink, colours.raised, 0.2))
    painter.drawRoundedRect(rect, rect.width() / 2, rect.width() / 2)
    side = rect.width() * 0.8
    painter.setBrush(QColor(colours.raised))
    painter.drawEllipse(rect.center(), side / 2, side / 2)


def _stop(painter: QPainter, rect: QRectF, _control: Control) -> None:
    painter.setPen(_edge())
    painter.setBrush(QColor(THEME.colours.white_key))
    painter.drawEllipse(rect)


def _pedal(painter: QPainter, rect: QRectF, _control: Control) -> None:
    colours = THEME.colours
    painter.setPen(_edge())
    painter.setBrush(mixed(colours.ink, colours.raised, 0.2))
    painter.drawRoundedRect(rect, 5, 5)
    painter.setPen(QPen(QColor(colours.raised), 1.2))
    for place in range(1, 6):
        y = rect.top() + rect.height() * place / 6
        painter.drawLine(QPointF(rect.left() + 4, y), QPointF(rect.right() - 4, y))


def _plain(painter: QPainter, rect: QRectF, _control: Control) -> None:
    painter.setPen(QPen(QColor(THEME.colours.muted), 1.0, Qt.PenStyle.DotLine))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRoundedRect(rect, 3, 3)


PAINTINGS: dict[ControlKind, Painting] = {
    "pad": _pad,
    "fader": _fader,
    "knob": _knob,
    "button": _button,
    "switch": _switch,
    "wheel": _wheel,
    "lever": _lever,
    "stop": _stop,
    "pedal": _pedal,
    "shoe": _pedal,
}
"""How each kind of control is painted; others are a dotted field."""
