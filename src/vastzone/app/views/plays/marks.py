"""The marks of the proof, told apart by shape as well as colour."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold


def paint_mark(painter: QPainter, cell: QRectF, verdict: str, partly: bool) -> None:
    """A mark in a cell; ``partly`` concerns only some keys, velocities or scenes."""
    colours = THEME.colours
    colour = QColor(colours.verdict(verdict))
    at, r = cell.center(), 8.0
    area = QRectF(at.x() - r, at.y() - r, 2 * r, 2 * r)
    pen = QPen(colour, 1.8)
    if partly:
        pen.setDashPattern([1.6, 1.6])
    painter.setPen(pen)
    soft = mixed(colour, colours.paper, 0.17)
    if verdict == "as meant":
        painter.setBrush(soft if partly else colour)
        painter.drawEllipse(area)
        _tick(painter, at, colour if partly else QColor(colours.paper))
    elif verdict == "silent":
        painter.setBrush(QColor(colours.paper))
        painter.drawEllipse(area)
    elif verdict == "wrong":
        painter.setBrush(soft)
        painter.drawRoundedRect(area.adjusted(0.5, 0.5, -0.5, -0.5), 2, 2)
        _lines(
            painter,
            colour,
            (at + QPointF(-4, -4), at + QPointF(4, 4)),
            (at + QPointF(-4, 4), at + QPointF(4, -4)),
        )
    elif verdict == "double":
        painter.setBrush(soft)
        painter.drawEllipse(area.adjusted(-2.5, 1.5, -5.5, -1.5))
        painter.drawEllipse(area.adjusted(5.5, 1.5, 2.5, -1.5))
    elif verdict == "not known":
        painter.setBrush(QColor(colours.paper))
        painter.drawRoundedRect(area.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3)
        painter.setFont(bold(colours.text_px - 1))
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "?")
    else:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        _lines(
            painter,
            colour,
            (at + QPointF(-5.5, 0), at + QPointF(5.5, 0)),
            (at + QPointF(0, -5.5), at + QPointF(0, 5.5)),
        )


def _tick(painter: QPainter, point: QPointF, colour: QColor) -> None:
    _lines(
        painter,
        colour,
        (point + QPointF(-3.6, 0.4), point + QPointF(-1, 3)),
        (point + QPointF(-1, 3), point + QPointF(3.8, -2.8)),
    )


def _lines(painter: QPainter, colour: QColor, *lines: tuple[QPointF, QPointF]) -> None:
    pen = QPen(colour, 2.2)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    painter.setPen(pen)
    for a, b in lines:
        painter.drawLine(a, b)
