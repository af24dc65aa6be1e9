"""The face of a device: its keys, pads and knobs as they lie, or the parts that sound in it."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter

from vastzone.app.theme.colours import mixed, readable_on
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold, font
from vastzone.app.views.drawing import text
from vastzone.app.views.rig.face_paint import paint_device
from vastzone.core.describe.counted import counted
from vastzone.core.describe.face import face_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say, say_many


def paint_face(painter: QPainter, area: QRectF, device: Device, sounding: set[str]) -> None:
    """Draw what a person sees of a device."""
    if area.isEmpty():
        return
    if (device.parts or device.targets) and not device.keybeds:
        _parts(painter, area, device, sounding)
    elif face_of(device).spots:
        paint_device(painter, area, device)
    else:
        _words(painter, area, device)


def _parts(painter: QPainter, area: QRectF, device: Device, sounding: set[str]) -> None:
    colours = THEME.colours
    chips = []
    for part in device.parts:
        chips.append((ref_to(device.id, part.id), part.tag.upper(), colours.part(part.colour)))
    for target in device.targets:
        chips.append(
            (
                ref_to(device.id, target.id),
                _initials(target.name),
                mixed(colours.ink, colours.panel, 0.32),
            )
        )
    wide, high = 26.0, 17.0
    columns = max(1, int((area.width() + 4) // (wide + 4)))
    rows = -(-len(chips) // columns)
    if rows * (high + 3) > area.height() + 3:
        chips, rows = chips[: columns * max(1, int(area.height() // (high + 3)))], 0
    rows = -(-len(chips) // columns)
    top = area.center().y() - rows * (high + 3) / 2
    for n, (ref, tag, colour) in enumerate(chips):
        row, column = divmod(n, columns)
        inside = min(columns, len(chips) - row * columns)
        left = area.center().x() - (inside * (wide + 4) - 4) / 2
        chip = QRectF(left + column * (wide + 4), top + row * (high + 3), wide, high)
        painter.setPen(QColor(colours.ink) if ref in sounding else Qt.PenStyle.NoPen)
        painter.setBrush(colour)
        painter.drawRoundedRect(chip, 4, 4)
        shade, face = readable_on(colour), bold(11)
        text(painter, chip, tag, shade, face, Qt.AlignmentFlag.AlignHCenter)


def _initials(name: str) -> str:
    """Two letters of a name, or its first letter and the number that it ends in."""
    last = name.split(" ")[-1]
    return (name[0] + last[-2:] if last.isdigit() else name[:2]).upper()


def _words(painter: QPainter, area: QRectF, device: Device) -> None:
    colours = THEME.colours
    ins = sum(port.flow != "out" for port in device.ports) + len(device.audio_inputs)
    outs = sum(port.flow != "in" for port in device.ports) + len(device.outputs)
    words = (
        say_many("{count} control", "{count} controls", len(device.controls))
        if device.controls
        else say("{ins} in, {outs} out", ins=ins, outs=outs)
    )
    face = font(colours.text_px - 1)
    text(painter, area, words, colours.muted, face, Qt.AlignmentFlag.AlignHCenter)


def summary(device: Device) -> str:
    """A device in a few words: what it is and how much of it there is."""
    said = []
    keys = sum(bed.keys for bed in device.keybeds)
    pads = sum(control_ability(control).laid for control in device.controls)
    rest = len(device.controls) - pads
    counts = (
        (keys, "key"),
        (pads, "pad"),
        (rest, "control"),
        (len(device.parts), "part"),
        (len(device.targets), "target"),
    )
    for count, word in counts:
        if count:
            said.append(counted(count, word))
    return " · ".join(said[:3]) or say(device.kind)
