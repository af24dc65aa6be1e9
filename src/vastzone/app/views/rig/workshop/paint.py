"""How the workshop looks: the face with its names, sockets of the back, what sounds inside."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QPainter, QPen

from vastzone.app.theme.colours import mixed
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import paint_tag, text
from vastzone.app.views.rig.face_paint import (
    paint_body,
    paint_control,
    paint_display,
    paint_keys,
)
from vastzone.app.views.rig.workshop.geometry import Bench, Section, Tile
from vastzone.core.describe.counted import counted
from vastzone.core.describe.things import WORDS, Thing, item_of
from vastzone.core.describe.words import program_shown, sent_words, target_words
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.say import say, say_many

CENTRE = Qt.AlignmentFlag.AlignHCenter
POWERED = {
    "mains": say("Mains"),
    "usb": say("From USB"),
    "battery": say("Battery"),
    "none": say("No power"),
}


def paint_bench(
    painter: QPainter, bench: Bench, device: Device, chosen: frozenset[Thing], bank: int
) -> None:
    """Everything, section by section."""
    for section in bench.sections:
        _caption(painter, section, device)
        if section.name == "Face":
            paint_body(painter, bench.body)
            if bench.display is not None:
                paint_display(painter, bench.display, _shown(device))
        if section.name == "Back" and bench.power is not None:
            _power(painter, bench.power, device)
        for tile in section.tiles:
            _tile(painter, section.name, tile, device, bank)
            if tile.thing in chosen:
                paint_choice(painter, tile.rect)


def _shown(device: Device) -> str:
    """What the display shows: the first program."""
    program = program_shown(device)
    if program is None:
        return ""
    return f"{program_words(device, program.number)}  {program.name}"


def _power(painter: QPainter, rect: QRectF, device: Device) -> None:
    """Where it takes its power, and which."""
    colours = THEME.colours
    painter.setPen(QPen(QColor(colours.line), 1.0))
    painter.setBrush(QColor(colours.panel))
    painter.drawRoundedRect(rect, 7, 7)
    middle = QPointF(rect.center().x(), rect.top() + 21)
    painter.setPen(QPen(QColor(colours.ink), 2.0))
    painter.drawArc(QRectF(middle.x() - 9, middle.y() - 9, 18, 18), 130 * 16, 280 * 16)
    painter.drawLine(middle + QPointF(0, -11), middle + QPointF(0, -1))
    supply = device.supply
    words = (
        say("{volts:g} V", volts=supply.volts)
        if supply.volts
        else POWERED.get(supply.kind, supply.kind)
    )
    name = QRectF(rect.left() + 4, rect.bottom() - 22, rect.width() - 8, 18)
    text(painter, name, words, colours.ink, font(colours.text_px - 3), CENTRE)


def _caption(painter: QPainter, section: Section, device: Device) -> None:
    colours = THEME.colours
    line = QRectF(section.rect.left(), section.rect.top(), section.rect.width(), 20)
    used = text(painter, line, say(section.name), colours.ink, bold(colours.text_px))
    rest = line.adjusted(used + 12, 0, 0, 0)
    text(painter, rest, _counted(section, device), colours.muted, font(colours.text_px - 2))


def _counted(section: Section, device: Device) -> str:
    """How much of what there is in a section."""
    counts: dict[str, int] = {}
    for tile in section.tiles:
        word = WORDS[tile.thing.group]
        if tile.thing.group == "controls":
            word = item_of(device, tile.thing).kind
        counts[word] = counts.get(word, 0) + 1
    words = []
    for word, count in counts.items():
        words.append(counted(count, word))
    return ", ".join(words)


def _tile(painter: QPainter, section: str, tile: Tile, device: Device, bank: int) -> None:
    item = item_of(device, tile.thing)
    if section == "Face":
        if tile.thing.group == "keybeds":
            paint_keys(painter, tile.rect, item)
        else:
            paint_control(painter, tile.rect, item)
            _label(painter, tile.rect, item.name, sent_words(device, item, bank), item.kind)
    elif section == "Back":
        _socket(painter, tile, item)
    else:
        _chip(painter, tile, device, item)


def _label(painter: QPainter, rect: QRectF, name: str, sent: str, kind: str) -> None:
    """The name of a control where it has room, else its number; what it sends below that."""
    colours = THEME.colours
    small = font(colours.text_px - 4)
    short = _short(name, rect.width() - 2, QFontMetricsF(small))
    if kind in ("pad", "stop", "switch", "button"):
        upper = QRectF(rect.left() + 1, rect.top(), rect.width() - 2, rect.height())
        if sent and rect.height() >= 26:
            upper.setHeight(rect.height() / 2 + 2)
            lower = QRectF(upper.left(), rect.center().y() - 1, upper.width(), rect.height() / 2)
            shown = sent if QFontMetricsF(small).horizontalAdvance(sent) <= lower.width() else ""
            text(painter, lower, shown, colours.muted, small, CENTRE)
        text(painter, upper, short, colours.ink, small, CENTRE)
        return
    below = QRectF(rect.left() - 3, rect.bottom() + 3, rect.width() + 6, 13)
    short = _short(name, below.width(), QFontMetricsF(small))
    text(painter, below, short, colours.ink, small, CENTRE)


def _short(name: str, room: float, metrics: QFontMetricsF) -> str:
    """A name that fits: whole, or the number that it ends in, or its first or last word."""
    words = name.split(" ")
    tried: tuple[str, ...] = (name, words[0], words[0][:3], words[-1])
    if words[-1].isdigit():
        tried = (name, words[-1])
    for short in tried:
        if metrics.horizontalAdvance(short) <= room:
            return short
    return ""


def _socket(painter: QPainter, tile: Tile, item: object) -> None:
    """A socket as one sees it at the back, its name below."""
    colours = THEME.colours
    rect = tile.rect
    painter.setPen(QPen(QColor(colours.line), 1.0))
    painter.setBrush(QColor(colours.panel))
    painter.drawRoundedRect(rect, 7, 7)
    middle = QPointF(rect.center().x(), rect.top() + 21)
    painter.setPen(QPen(QColor(colours.ink), 1.4))
    painter.setBrush(QColor(colours.raised))
    link = getattr(item, "link", "")
    if link == "usb":
        painter.drawRect(QRectF(middle.x() - 9, middle.y() - 8, 18, 16))
        painter.drawRect(QRectF(middle.x() - 5, middle.y() - 4, 10, 8))
    elif link == "din":
        painter.drawEllipse(middle, 12, 12)
        painter.setBrush(QColor(colours.ink))
        for x, y in ((-7, -1), (7, -1), (-5, 5), (5, 5), (0, 7)):
            painter.drawEllipse(middle + QPointF(x, y - 2), 1.2, 1.2)
    elif link == "bluetooth":
        for radius in (4, 8, 12):
            painter.drawArc(
                QRectF(middle.x() - radius, middle.y() - radius, radius * 2, radius * 2),
                -45 * 16,
                90 * 16,
            )
    else:
        _round_socket(painter, tile.thing, middle, item)
    name = QRectF(rect.left() + 4, rect.bottom() - 22, rect.width() - 8, 18)
    text(painter, name, item.name, colours.ink, font(colours.text_px - 3), CENTRE)  # type: ignore[attr-defined]


def _round_socket(painter: QPainter, thing: Thing, middle: QPointF, item: object) -> None:
    """A jack: one ring for pedals, two for triggers, a filled one where sound comes out."""
    colours = THEME.colours
    painter.drawEllipse(middle, 11, 11)
    if thing.group == "inputs":
        painter.drawEllipse(middle, 7.5, 7.5)
    if thing.group == "outputs":
        painter.setBrush(mixed(colours.ink, colours.raised, 0.25))
        painter.drawEllipse(middle, 11, 11)
        if getattr(item, "kind", "") == "pair":
            painter.drawEllipse(middle + QPointF(13, 0), 11, 11)
    painter.setBrush(QColor(colours.ink))
    painter.drawEllipse(middle, 3.4, 3.4)


def _chip(painter: QPainter, tile: Tile, device: Device, item: object) -> None:
    """A part with its tag and channel, or a target, kit or switch, each in a line and a half."""
    colours = THEME.colours
    rect = tile.rect
    painter.setPen(QPen(QColor(colours.line), 1.0))
    painter.setBrush(QColor(colours.panel))
    painter.drawRoundedRect(rect, 7, 7)
    left = rect.left() + 8
    if tile.thing.group == "parts":
        chip = QRectF(left, rect.center().y() - 9, 26, 18)
        paint_tag(painter, chip, item.tag.upper(), item.colour)  # type: ignore[attr-defined]
        left += 33
    upper = QRectF(left, rect.top() + 1, rect.right() - left - 6, rect.height() / 2)
    lower = QRectF(left, rect.center().y() - 1, rect.right() - left - 6, rect.height() / 2)
    name = item.name  # type: ignore[attr-defined]
    text(painter, upper, name, colours.ink, bold(colours.text_px - 2))
    said = _inside_words(tile.thing, device, item)
    text(painter, lower, said, colours.muted, font(colours.text_px - 3))


def _inside_words(thing: Thing, device: Device, item: object) -> str:
    if thing.group == "parts":
        channel = item.channel  # type: ignore[attr-defined]
        heard = (
            say("all channels") if channel is None else say("channel {channel}", channel=channel)
        )
        receives = item.receives  # type: ignore[attr-defined]
        return say("learned") if receives == "learns" else heard
    if thing.group == "targets":
        return target_words(device, item)  # type: ignore[arg-type]
    if thing.group == "kits":
        return say_many("{count} sound", "{count} sounds", len(item.sounds))  # type: ignore[attr-defined]
    return " / ".join(item.choices)  # type: ignore[attr-defined]


def paint_choice(painter: QPainter, rect: QRectF) -> None:
    """The frame around what is chosen, outside its own edge."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(THEME.colours.action), 2.4))
    painter.drawRoundedRect(rect.adjusted(-2.5, -2.5, 2.5, 2.5), 6, 6)


def paint_lasso(painter: QPainter, area: QRectF) -> None:
    """The area that is being drawn to choose what lies in it."""
    colours = THEME.colours
    shade = QColor(colours.action)
    painter.setPen(QPen(shade, 1.0, Qt.PenStyle.DashLine))
    shade.setAlpha(28)
    painter.setBrush(shade)
    painter.drawRect(area)
