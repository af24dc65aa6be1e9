"""What hands do in the real window: going to a view, dragging, typing, working out numbers."""

from PySide6.QtCore import QItemSelectionModel, QPoint, QPointF, Qt
from PySide6.QtWidgets import QComboBox, QInputDialog, QMenu

from vastzone.app import dialogs
from vastzone.app.frame.work_out import WorkOut
from vastzone.app.views.keys.geometry import key_rect
from vastzone.app.views.rig.add import AddDevice
from vastzone.core.plan.queries import lookup
from vastzone.files.devices import write_device

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
    qtbot.keyClick(window, str(number % 10), Qt.KeyboardModifier.AltModifier)
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


def pull(qtbot, canvas, one, other):
    """Drag a plug from one jack to another."""
    ends = [canvas.picture.jack(ref).at.toPoint() for ref in (one, other)]
    qtbot.mousePress(canvas, LEFT, pos=ends[0])
    qtbot.mouseMove(canvas, (ends[0] + ends[1]) / 2)
    qtbot.mouseMove(canvas, ends[1])
    qtbot.mouseRelease(canvas, LEFT, pos=ends[1])


def cell(matrix, words, column):
    """The middle of the cell of a row by its words and a column by its name."""
    line = next(n for n, ln in enumerate(matrix.lines) if ln.row >= 0 and words in ln.words)
    at = next(n for n, c in enumerate(matrix.columns) if c.name == column)
    matrix.go(line, at)
    return matrix.cell_rect(line, at).center()


class Hands:
    """Hands at the window, with every action counted."""

    def __init__(self, window, qtbot, monkeypatch, folder):
        self.window, self.qtbot = window, qtbot
        self.monkeypatch, self.folder = monkeypatch, folder
        self.actions = 0

    @property
    def desk(self):
        return self.window.desk

    def key(self, key, modifiers=Qt.KeyboardModifier.NoModifier, widget=None):
        self.actions += 1
        if widget is None:
            awake(self.window, self.qtbot)
        self.qtbot.keyClick(widget or self.window, key, modifiers)

    def click(self, widget, pos=None):
        self.actions += 1
        self.qtbot.mouseClick(widget, LEFT, **({} if pos is None else {"pos": pos}))

    def show(self, view):
        self.actions += 1
        return show(self.window, self.qtbot, view)

    def type(self, widget, words):
        self.actions += 1
        self.qtbot.keyClicks(widget, words)

    def add(self, device):
        """A device from its file: the shortcut, the button, the file."""
        path = self.folder / f"{device.id}.vzdevice"
        write_device(device, path)
        self.monkeypatch.setattr(dialogs, "ask_device", lambda _: path)
        self.key(Qt.Key.Key_D, CTRL)
        dialog = self.window.findChildren(AddDevice)[-1]
        button = next(b for b in dialog.findChildren(type(dialog.take)) if "file" in b.text())
        self.click(button)
        self.actions += 1

    def join(self, one, other):
        self.actions += 1
        pull(self.qtbot, self.window.view("rig").canvas, one, other)

    def wish(self, plays, row, column):
        matrix = plays.matrix
        self.click(matrix.viewport(), cell(matrix, row, column))

    def wish_in_order(self, plays, rows, columns, count):
        """Drag from the first row and column to the last of both."""
        matrix, before = plays.matrix, len(self.desk.plan.wishes)
        cell(matrix, rows[1], columns[1])
        cell(matrix, rows[0], columns[0])
        begins = matrix.cell_rect(*matrix.at).center()
        line = next(n for n, one in enumerate(matrix.lines) if rows[1] in one.words)
        column = [n for n, one in enumerate(matrix.columns) if one.name == columns[1]][-1]
        ends = matrix.cell_rect(line, column).center()
        self.qtbot.mousePress(matrix.viewport(), LEFT, pos=begins)
        self.qtbot.mouseMove(matrix.viewport(), (begins + ends) / 2)
        self.qtbot.mouseMove(matrix.viewport(), ends)
        self.qtbot.mouseRelease(matrix.viewport(), LEFT, pos=ends)
        self.actions += 1
        assert len(self.desk.plan.wishes) == before + count

    def work_out(self):
        self.actions += 2
        work_out(self.window, self.qtbot)

    def number_in_a_run(self):
        """Nothing selected, the plan's facts, the school of its controllers."""
        self.desk.select("")
        fields = self.window.facts.findChildren(QComboBox)
        school = [one for one in fields if one.accessibleName() == "Controllers"][-1]
        school.setCurrentIndex(school.findText("a memorable run"))
        self.actions += 3

    def work_out_in_a_run(self, first):
        """The preview, its rows of knobs chosen, a run for them, and applied."""
        self.monkeypatch.setattr(QInputDialog, "getInt", lambda *_: (first, True))
        self.click(self.window.header.numbers)
        dialog = self.window.findChildren(WorkOut)[-1]
        self.found(dialog)
        rows = [
            row
            for row, number in enumerate(dialog.solution.numbers)
            if "/knob-" in number.ref and number.ref.endswith("/number")
        ]
        select = QItemSelectionModel.SelectionFlag.Select | QItemSelectionModel.SelectionFlag.Rows
        for row in rows:
            self.actions += 1
            dialog.table.selectionModel().select(dialog.table.model().index(row, 0), select)
        self.click(dialog.other_button)
        menu = dialog.findChildren(QMenu)[-1]
        self.actions += 2
        next(one for one in menu.actions() if "in a run" in one.text()).trigger()
        menu.close()
        self.found(dialog)
        assert any("70 is" in said for said in dialog.solution.others)
        self.click(dialog.apply_button)

    def found(self, dialog):
        self.qtbot.waitUntil(lambda: hasattr(dialog, "apply_button"), timeout=30_000)

    def dial(self, cards):
        """Every card followed, one line at a time, device after device."""
        self.click(cards.pages.button(1))
        dialled = 0
        while any(one.steps for one in cards.counts().values()):
            before = cards.dial.line()
            self.qtbot.mouseClick(cards.dial.next, LEFT)
            dialled += before is not None
            self.actions += before is None
            assert dialled < 400
        return dialled
