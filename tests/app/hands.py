"""What hands do in the real window: going to a view, dragging, typing, working out numbers."""

from PySide6.QtCore import QPoint, QPointF, Qt

from vastzone.app.frame.work_out import WorkOut
from vastzone.app.views.keys.geometry import key_rect
from vastzone.core.plan.queries import lookup

LEFT = Qt.MouseButton.LeftButton
CTRL = Qt.KeyboardModifier.ControlModifier


def key_point(window, bed, note):
    canvas = window.keys.canvas
    picture = next(p for p in canvas.picture.beds if p.ref == bed)
    rect = key_rect(canvas.picture.axis, picture.keys, note)
    return QPoint(round(rect.center().x()), round(rect.bottom() - 6))


def zone(window, ident):
    owner = lookup.device(window.desk.plan, "heron")
    program = lookup.program_in(window.desk.scene, owner)
    return next(z for z in program.zones if z.id == ident)


def bar(window, ident):
    beds = window.keys.canvas.picture.beds
    return next(b for p in beds for b in p.zones if b.zone.id == ident)


def drag(qtbot, widget, start, end):
    qtbot.mousePress(widget, LEFT, pos=start)
    for share in (0.3, 0.7, 1.0):
        point = QPointF(start) * (1 - share) + QPointF(end) * share
        qtbot.mouseMove(widget, point.toPoint())
    qtbot.mouseRelease(widget, LEFT, pos=end)


def awake(window, qtbot):
    """Without a window manager nobody wakes the window when a dialog has closed."""
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)


def show(window, qtbot, ident):
    awake(window, qtbot)
    number = list(window.rail.buttons).index(ident) + 1
    qtbot.keyClick(window, str(number), Qt.KeyboardModifier.AltModifier)
    view = window.view(ident)
    qtbot.waitUntil(view.isVisible)
    return view


def work_out(window, qtbot):
    awake(window, qtbot)
    qtbot.keyClick(window, Qt.Key.Key_Return, CTRL)
    dialog = window.findChildren(WorkOut)[-1]
    qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)
    qtbot.mouseClick(dialog.apply_button, LEFT)


def retype(table, row, column, words):
    """Type over a cell of a table."""
    table.held.setData(table.held.index(row, column), words)
