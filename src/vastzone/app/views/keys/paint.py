"""Painting keybeds, zones and parts."""

from functools import partial

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QFontMetricsF,
    QLinearGradient,
    QPainter,
    QPen,
)

from vastzone.app.stamps import Stamps
from vastzone.app.theme.colours import Colours, legible, mixed, readable_on
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views import drawing
from vastzone.app.views.keys.geometry import Axis, BedPicture, PartBar, ZoneBar, key_rect
from vastzone.core.midi import pitch
from vastzone.core.midi.pitch import is_black
from vastzone.core.plan.queries.spans import runs
from vastzone.core.proof.verdict import Mark
from vastzone.core.say import say


class Brush:
    """A painter with a theme and the few shapes that the Keys view is made of."""

    def __init__(self, painter: QPainter, colours: Colours) -> None:
        self.p, self.c = painter, colours
        self.small = colours.text_px - 2

    def text(
        self,
        rect: QRectF,
        text: str,
        colour: str | QColor,
        face: QFont,
        align: Qt.AlignmentFlag = Qt.AlignmentFlag.AlignLeft,
    ) -> float:
        """Text cut with an ellipsis to fit; returns the width used."""
        return drawing.text(self.p, rect, text, colour, face, align)

    def round(self, rect: QRectF, fill: QColor | str, edge: QColor | str | None, r: float) -> None:
        """A rounded box."""
        self.p.setPen(QPen(QColor(edge), 1) if edge is not None else Qt.PenStyle.NoPen)
        self.p.setBrush(QColor(fill))
        self.p.drawRoundedRect(rect, r, r)

    def hatch(self, rect: QRectF, colour: str | QColor, gap: float = 7.0) -> None:
        """Slanting lines over a rectangle."""
        self.p.save()
        self.p.setClipRect(rect)
        self.p.setPen(QPen(QColor(colour), 1.6))
        x = rect.left() - rect.height()
        while x < rect.right():
            self.p.drawLine(QPointF(x, rect.bottom()), QPointF(x + rect.height(), rect.top()))
            x += gap
        self.p.restore()

    def tag(self, rect: QRectF, text: str, colour: QColor) -> None:
        """The two letters of a part on its colour."""
        self.round(rect, colour, None, 3)
        self.text(
            rect, text, readable_on(colour), bold(self.small - 1), Qt.AlignmentFlag.AlignHCenter
        )


def paint_keys(
    brush: Brush,
    bare: Stamps,
    axis: Axis,
    picture: BedPicture,
    dead: set[int],
    doubled: set[int],
) -> None:
    """The keybed at rest: dead keys hatched, doubled ones marked on their fronts.

    What never changes, its bare keys, is painted once and set down from ``bare``.
    """
    p, c, bed = brush.p, brush.c, picture.bed
    place = picture.keys.adjusted(-2, -2, 2, 2)
    bare.put(p, place, (axis, bed.low, bed.high), partial(_bare_keys, c, axis, picture))
    for low, high in _spans(dead):
        rect = axis.span(low, high, picture.keys.top(), picture.keys.height())
        p.fillRect(rect, _see_through(c.sunken, 150))
        brush.hatch(rect, mixed(c.muted, c.white_key, 0.75))
    for note in doubled:
        rect = key_rect(axis, picture.keys, note)
        brush.round(QRectF(rect.center().x() - 3, rect.bottom() - 13, 6, 6), c.fault, c.paper, 3)
    _scale(brush, axis, picture)


def _bare_keys(
    colours: Colours, axis: Axis, picture: BedPicture, painter: QPainter, place: QRectF
) -> None:
    painter.save()
    painter.translate(place.topLeft() + QPointF(2, 2) - picture.keys.topLeft())
    brush, bed = Brush(painter, colours), picture.bed
    for black in (False, True):
        colour = QColor(colours.black_key if black else colours.white_key)
        for note in range(bed.low, bed.high + 1):
            if is_black(note) is black:
                _key(brush, key_rect(axis, picture.keys, note), [colour], black)
    _rail(brush, picture)
    painter.restore()


def _see_through(colour: str, alpha: int) -> QColor:
    faint = QColor(colour)
    faint.setAlpha(alpha)
    return faint


def _key(brush: Brush, rect: QRectF, colours: list[QColor], black: bool) -> None:
    """One key in one colour, or in bands where it sounds several parts."""
    p = brush.p
    p.setPen(QPen(QColor(brush.c.key_line), 1))
    p.setBrush(_bands(rect, colours) if len(colours) > 1 else colours[0])
    p.drawRoundedRect(rect.adjusted(0.5, 0, -0.5, -0.5), 3.5, 3.5)
    p.setPen(Qt.PenStyle.NoPen)
    if black:
        shine = QColor(255, 255, 255, 34)
        p.setBrush(shine)
        p.drawRoundedRect(rect.adjusted(2.5, 0, -2.5, -6), 2, 2)
    else:
        p.setBrush(QColor(0, 0, 0, 16))
        p.drawRoundedRect(QRectF(rect.left() + 1, rect.bottom() - 5, rect.width() - 2, 4), 2, 2)


def _bands(rect: QRectF, colours: list[QColor]) -> QBrush:
    fill = QLinearGradient(rect.topLeft(), rect.bottomLeft())
    for index, colour in enumerate(colours):
        fill.setColorAt(index / len(colours), colour)
        fill.setColorAt((index + 0.999) / len(colours), colour)
    return QBrush(fill)


def paint_lit(brush: Brush, axis: Axis, picture: BedPicture, lit: dict[int, list[QColor]]) -> None:
    """Keys that are down, in the colours of what they play; black keys stay on top."""
    whites = [note for note in lit if not is_black(note)]
    blacks = {near for note in whites for near in (note - 1, note + 1) if is_black(near)}
    blacks &= set(range(picture.bed.low, picture.bed.high + 1))
    for note in whites:
        _key(brush, key_rect(axis, picture.keys, note), lit[note], False)
    for note in blacks - lit.keys():
        _key(brush, key_rect(axis, picture.keys, note), [QColor(brush.c.black_key)], True)
    for note in lit.keys() - set(whites):
        _key(brush, key_rect(axis, picture.keys, note), lit[note], True)
    _rail(brush, picture)


def paint_letters(brush: Brush, axis: Axis, picture: BedPicture, letters: dict[int, str]) -> None:
    """The letters of the computer's keys on those that they play."""
    for note, letter in letters.items():
        if picture.bed.low <= note <= picture.bed.high:
            rect = key_rect(axis, picture.keys, note)
            plate = QRectF(0, 0, max(14.0, min(18.0, rect.width())), 16)
            plate.moveCenter(QPointF(rect.center().x(), rect.bottom() - 14))
            brush.round(plate, brush.c.action, None, 4)
            face = bold(brush.small - 2)
            brush.text(plate, letter, brush.c.on_action, face, Qt.AlignmentFlag.AlignHCenter)


def _rail(brush: Brush, picture: BedPicture) -> None:
    """The edge that the keys come out from under."""
    rail = QRectF(picture.keys.left(), picture.keys.top(), picture.keys.width(), 3)
    brush.p.fillRect(rail, mixed(brush.c.ink, brush.c.paper, 0.55))


def _spans(notes: set[int]) -> list[tuple[int, int]]:
    return list(runs(sorted(notes)))


def _scale(brush: Brush, axis: Axis, picture: BedPicture) -> None:
    for note in range(picture.bed.low, picture.bed.high + 1):
        if note % 12 == 0:
            wide = axis.step * 12
            rect = QRectF(axis.x(note) - 1, picture.scale.top() + 1, wide, picture.scale.height())
            name = pitch.name(note, picture.owner.octaves)
            brush.text(rect, name, brush.c.muted, font(brush.small - 1))


def bed_name(picture: BedPicture) -> str:
    """What a keybed is called: as its device, where that has no other."""
    owner = picture.owner
    return owner.name if len(owner.keybeds) == 1 else f"{owner.name} · {picture.bed.name}"


def bed_details(picture: BedPicture, program: str) -> str:
    """The program of a keybed, its keys, its naming of octaves."""
    naming = picture.owner.octaves
    keys = pitch.span(picture.bed.low, picture.bed.high, naming)
    return say(
        "{program}    {keys} keys {span}    middle C is C{naming}",
        program=program,
        keys=picture.bed.keys,
        span=keys,
        naming=naming,
    )


def paint_caption(brush: Brush, picture: BedPicture, program: str, chosen: bool) -> None:
    """Name, program and naming of a keybed."""
    c, rect = brush.c, picture.caption
    ink = c.action if chosen else c.ink
    used = brush.text(rect, bed_name(picture), ink, bold(c.text_px + 1))
    details = bed_details(picture, program)
    rest = QRectF(rect.left() + used + 14, rect.top() + 1, rect.width() - used - 14, rect.height())
    brush.text(rest, details, c.muted, font(brush.small))


def paint_unseen(brush: Brush, rect: QRectF) -> None:
    """A dot on what was changed for the person and has not been looked at."""
    brush.p.setPen(Qt.PenStyle.NoPen)
    brush.p.setBrush(QColor(brush.c.action))
    brush.p.drawEllipse(rect.topLeft() + QPointF(3, 3), 4.5, 4.5)


def paint_zone(brush: Brush, bar: ZoneBar, chosen: bool, troubled: bool) -> None:
    """A zone: colour and tag of what it plays, its name, its channel."""
    c, rect = brush.c, bar.rect.adjusted(1, 0, -1, 0)
    colour = c.part(bar.part.colour) if bar.part else QColor(c.muted)
    fill = mixed(colour, c.panel, 0.28 if bar.zone.on else 0.08)
    brush.round(rect, fill, c.action if chosen else mixed(colour, c.ink, 0.75), 5)
    if bar.part is None or not bar.zone.on:
        brush.hatch(rect.adjusted(2, 2, -2, -2), mixed(c.muted, c.panel, 0.45), 9)
    if chosen:
        brush.p.setPen(QPen(QColor(c.action), 2.4))
        brush.p.setBrush(Qt.BrushStyle.NoBrush)
        brush.p.drawRoundedRect(rect.adjusted(1, 1, -1, -1), 5, 5)
        for x in (rect.left() + 2, rect.right() - 6):
            brush.round(QRectF(x, rect.center().y() - 6, 4, 12), c.action, None, 2)
    channel_ink = legible(c.fault if troubled else c.ink, fill)
    _zone_words(brush, bar, rect.adjusted(9, 2, -9, -2), channel_ink)
    if troubled:
        brush.p.setPen(QPen(QColor(c.fault), 2.2))
        brush.p.drawLine(rect.bottomLeft() + QPointF(4, 1.5), rect.bottomRight() + QPointF(-4, 1.5))


def _zone_words(brush: Brush, bar: ZoneBar, inner: QRectF, channel_ink: QColor) -> None:
    """The name of a zone, and its channel where there is room for both."""
    c, face = brush.c, bold(brush.small)
    channel = (
        say("ch {channel}, locked", channel=bar.zone.channel)
        if bar.locked
        else say("ch {channel}", channel=bar.zone.channel)
    )
    wide = QFontMetricsF(face).horizontalAdvance(channel) + 6
    name = bar.zone.name if bar.zone.on else say("{zone} (off)", zone=bar.zone.name)
    words = name + shift_words(bar.zone.shift)
    if inner.width() > wide + 30:
        brush.text(inner.adjusted(0, 0, -wide, 0), words, c.ink, bold(brush.small + 1))
        brush.text(inner, channel, channel_ink, face, Qt.AlignmentFlag.AlignRight)
    elif inner.width() > 8:
        brush.text(inner, words, c.ink, font(brush.small))


def shift_words(semitones: int) -> str:
    """A transposition with its sign; nothing where there is none."""
    return f"  {semitones:+}".replace("-", "−") if semitones else ""


def paint_part(brush: Brush, bar: PartBar, naming: pitch.Naming, chosen: bool, lit: bool) -> None:
    """A part under the keys that reach it."""
    c, rect = brush.c, bar.rect.adjusted(1, 0, -1, 0)
    colour = c.part(bar.part.colour)
    fill = mixed(colour, c.panel, 0.75 if lit else 0.16)
    brush.round(rect, fill, c.action if chosen else None, 4)
    tag = QRectF(rect.left(), rect.top(), min(26.0, rect.width()), rect.height())
    brush.tag(tag, bar.part.tag, colour)
    inner = rect.adjusted(32, 0, -6, 0)
    if inner.width() > 12:
        ink = legible(c.ink, fill)
        keys = pitch.span(bar.low, bar.high, naming)
        used = brush.text(inner, bar.part.name, ink, bold(brush.small))
        if inner.width() - used > 60:
            brush.text(
                inner.adjusted(used + 10, 0, 0, 0), keys, legible(c.muted, fill), font(brush.small)
            )


def paint_verdicts(brush: Brush, axis: Axis, picture: BedPicture, marks: tuple[Mark, ...]) -> None:
    """The proof under the keys: a line where all is as meant, a word wherever it is not."""
    row = picture.verdicts
    for mark in marks:
        rect = axis.span(mark.low, mark.high, row.top() + 1, row.height() - 3).adjusted(1, 0, -1, 0)
        colour = QColor(brush.c.verdict(mark.verdict))
        if mark.verdict == "as meant":
            brush.round(
                QRectF(rect.left(), rect.center().y() - 1.5, rect.width(), 3), colour, None, 1.5
            )
            continue
        brush.round(rect, colour, None, 3)
        if rect.width() > 34:
            brush.text(
                rect,
                say(mark.verdict),
                readable_on(colour),
                bold(brush.small - 1),
                Qt.AlignmentFlag.AlignHCenter,
            )
