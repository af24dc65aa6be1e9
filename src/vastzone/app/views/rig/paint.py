"""How the Rig view looks."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPainterPath, QPen

from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.app.views.rig.faces import paint_face, summary
from vastzone.app.views.rig.geometry import JACK, Box, BundleShape, CableShape, JackShape
from vastzone.core.plan.queries.spans import runs
from vastzone.core.say import say


def paint_box(
    painter: QPainter, box: Box, chosen: bool, faults: int, unseen: bool, sounding: set[str]
) -> None:
    """A device: name, what it is, its face, its ports."""
    colours, rect = THEME.colours, box.rect
    painter.setPen(QPen(QColor(colours.action if chosen else colours.line), 2.4 if chosen else 1.2))
    painter.setBrush(QColor(colours.raised))
    painter.drawRoundedRect(rect, 9, 9)
    compact = box.face.isEmpty()
    head = QRectF(rect.left() + 12, rect.top() + 7, rect.width() - 22, 20)
    text(painter, head, box.device.name, colours.ink, bold(colours.text_px + (0 if compact else 1)))
    if not compact:
        line = QRectF(rect.left() + 12, rect.top() + 26, rect.width() - 24, 17)
        text(painter, line, summary(box.device), colours.muted, font(colours.text_px - 2))
        paint_face(painter, box.face, box.device, sounding)
    if faults:
        _badge(painter, QPointF(rect.right() - 14, rect.top()), str(faults))
    if unseen:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.action))
        painter.drawEllipse(QPointF(rect.left() + 1, rect.top() + 1), 5.5, 5.5)


def _badge(painter: QPainter, point: QPointF, words: str) -> None:
    colours = THEME.colours
    chip = QRectF(point.x() - 12, point.y() - 8.5, 24, 17)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colours.fault))
    painter.drawRoundedRect(chip, 8.5, 8.5)
    text(painter, chip, words, colours.paper, bold(11.5), Qt.AlignmentFlag.AlignHCenter)


def paint_jack(painter: QPainter, box: Box, jack: JackShape, state: str) -> None:
    """A port: round for DIN, flat for USB, a dashed ring for Bluetooth, square for sound.

    ``state`` is «», ``allowed``, ``refused``, ``held`` or ``focus``.
    """
    colours, at = THEME.colours, jack.at
    marked, faint = state in ("allowed", "held", "focus"), state == "refused"
    ring = colours.action if marked else colours.ink
    colour = mixed(ring, colours.raised, 0.3) if faint else QColor(ring)
    pen = QPen(colour, 2.6 if marked else 1.8)
    if jack.port.link == "bluetooth":
        pen.setStyle(Qt.PenStyle.DotLine)
    painter.setPen(pen)
    painter.setBrush(QColor(colours.action_soft if state in ("allowed", "held") else colours.paper))
    if jack.port.link == "audio":
        painter.drawRect(QRectF(at.x() - 7, at.y() - 7, 14, 14))
    elif jack.port.link == "usb":
        painter.drawRoundedRect(QRectF(at.x() - 8, at.y() - 5, 16, 10), 2, 2)
    else:
        painter.drawEllipse(at, JACK, JACK)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    for x, y in _pins(jack):
        painter.drawEllipse(QPointF(at.x() + x, at.y() + y), 1.1, 1.1)
    _jack_name(
        painter,
        box,
        jack,
        mixed(colours.muted, colours.raised, 0.5) if faint else QColor(colours.muted),
    )


def _jack_name(painter: QPainter, box: Box, jack: JackShape, shade: QColor) -> None:
    """The name of a port beside it: over the whole device where nothing is opposite."""
    opposite = []
    for other in box.jacks:
        if other.left != jack.left:
            opposite.append(other)
    alone = all(other.at.y() != jack.at.y() for other in opposite)
    room = box.rect.width() - 30 if alone else box.rect.width() / 2 - 16
    x, y = jack.at.x(), jack.at.y()
    label = QRectF(x + 14 if jack.left else x - 14 - room, y - 9, room, 18)
    side = Qt.AlignmentFlag.AlignLeft if jack.left else Qt.AlignmentFlag.AlignRight
    text(painter, label, jack.port.name, shade, font(THEME.colours.text_px - 2), side)


def _pins(jack: JackShape) -> tuple[tuple[float, float], ...]:
    """The contacts in the hole: five in a half circle for DIN, four in a row for USB."""
    if jack.port.link == "din":
        return ((-3.8, 0.2), (-2.6, 2.8), (0.0, 3.8), (2.6, 2.8), (3.8, 0.2))
    return ((-4.0, 0.0), (-1.4, 0.0), (1.4, 0.0), (4.0, 0.0)) if jack.port.link == "usb" else ()


def wire_colour(chosen: bool, faulty: bool) -> QColor:
    """Ink, the accent where chosen, the fault's where something is wrong with it."""
    colours = THEME.colours
    return (
        QColor(colours.action if chosen else colours.fault)
        if chosen or faulty
        else mixed(colours.ink, colours.paper, 0.72)
    )


def paint_wire(
    painter: QPainter, path: QPainterPath, link: str, colour: QColor, thick: float = 2.6
) -> None:
    """A cable: solid for DIN, doubled for USB, dashed for Bluetooth, thin with dots for sound."""
    colours = THEME.colours
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(colours.paper), thick + 4))
    painter.drawPath(path)
    pen = QPen(colour, thick if link != "usb" else thick + 2.2)
    if link == "bluetooth":
        pen.setStyle(Qt.PenStyle.DashLine)
    if link == "audio":
        pen = QPen(colour, thick, Qt.PenStyle.CustomDashLine)
        pen.setDashPattern([3.2, 1.6, 0.6, 1.6])
    painter.setPen(pen)
    painter.drawPath(path)
    if link == "usb":
        painter.setPen(QPen(QColor(colours.paper), thick - 0.8))
        painter.drawPath(path)


def paint_bundle_label(painter: QPainter, bundle: BundleShape, chosen: bool) -> None:
    """How many audio cables go there, and whether DI boxes stand in them."""
    colours, at = THEME.colours, bundle.shape.label
    boxed = any(cable.di for cable in bundle.cables)
    words = (
        say("{count} audio · DI", count=len(bundle.cables))
        if boxed
        else say("{count} audio", count=len(bundle.cables))
    )
    face = bold(colours.text_px - 3)
    wide = QFontMetricsF(face).horizontalAdvance(words) + 14
    chip = QRectF(at.x() - wide / 2, at.y() - 9, wide, 18)
    painter.setPen(QPen(QColor(colours.action if chosen else colours.line), 1.2))
    painter.setBrush(QColor(colours.panel))
    painter.drawRect(chip)
    text(painter, chip, words, colours.ink, face, Qt.AlignmentFlag.AlignHCenter)


def paint_label(
    painter: QPainter, wire: CableShape, channels: tuple[int, ...], chosen: bool
) -> QRectF:
    """The channels in use on a cable, on a chip; only how many where there is little room."""
    colours, at = THEME.colours, wire.label
    words, face = channel_words(channels), bold(colours.text_px - 3)
    metrics = QFontMetricsF(face)
    if metrics.horizontalAdvance(words) + 14 > wire.room:
        words = say("{count} ch", count=len(channels))
    wide = metrics.horizontalAdvance(words) + 14
    chip = QRectF(at.x() - wide / 2, at.y() - 9, wide, 18)
    painter.setPen(QPen(QColor(colours.action if chosen else colours.line), 1.2))
    painter.setBrush(QColor(colours.panel))
    painter.drawRoundedRect(chip, 9, 9)
    text(
        painter,
        chip,
        words,
        colours.ink if channels else colours.muted,
        face,
        Qt.AlignmentFlag.AlignHCenter,
    )
    return chip


def channel_words(channels: tuple[int, ...]) -> str:
    """Channels as runs: ``1–3 5 10``."""
    if not channels:
        return "silent"
    return " ".join(str(a) if a == b else f"{a}–{b}" for a, b in runs(list(channels)))
