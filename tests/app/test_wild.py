"""Wild clicking and typing in every view: nothing breaks, and everything can be undone."""

import random

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication

from vastzone.app.theme.current import THEME
from vastzone.core.plan.edits.devices import remove_device
from vastzone.core.plan.queries import lookup

from .hands import show

LEFT = Qt.MouseButton.LeftButton
KEYS = (
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_Return,
    Qt.Key.Key_Space,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Escape,
    Qt.Key.Key_PageDown,
    Qt.Key.Key_Tab,
)


def test_inputs_survive_wild_hands(window, qtbot, told):
    chance = random.Random(5)
    view = show(window, qtbot, "pads")
    view.show_page(1)
    canvas = view.inputs
    for _ in range(60):
        a, b = (
            QPoint(chance.randrange(canvas.width()), chance.randrange(canvas.height()))
            for _ in range(2)
        )
        qtbot.mousePress(canvas, LEFT, pos=a)
        qtbot.mouseMove(canvas, b)
        qtbot.mouseRelease(canvas, LEFT, pos=b)
        qtbot.keyClick(canvas, chance.choice(KEYS[:4] + KEYS[6:8]))
    while window.desk.undo_label:
        window.desk.undo()
    assert not window.desk.changed


def test_views_follow_themes_sizes_and_an_empty_plan(window, qtbot, told):
    for theme, size in (("stage", (1024, 700)), ("day", (1900, 1100))):
        window.resize(*size)
        THEME.use(theme)
        for ident in window.rail.buttons:
            window.show_view(ident)
            QApplication.processEvents()
    window.desk.load(window.desk.plan, None)
    devices = list(window.desk.plan.devices)
    for number, device in enumerate(devices, 1):
        window.perform(remove_device(device.id))
        looked_at = list(window.rail.buttons) if number in (4, len(devices)) else []
        for ident in looked_at:
            window.show_view(ident)
            QApplication.processEvents()
    assert not window.desk.plan.devices and not window.desk.plan.wishes
    while window.desk.undo_label:
        window.desk.undo()
    assert len(window.desk.plan.devices) == 12


def test_removing_what_is_shown_leaves_no_view_behind(window, qtbot, told):
    pads = show(window, qtbot, "pads")
    assert pads.canvas.device == "dipper"
    window.perform(remove_device("dipper"))
    assert pads.canvas.device == "curlew"
    window.perform(remove_device("curlew"))
    assert pads.owner is None
    window.desk.undo()
    assert pads.owner.id == "curlew"
    assert lookup.device(window.desk.plan, "curlew").inputs


def test_the_collector_waits_for_calm(window, qtbot, monkeypatch):
    import gc

    from vastzone.app import garbage

    collected = []
    monkeypatch.setattr(gc, "collect", lambda generation=2: collected.append(generation))
    monkeypatch.setattr(gc, "get_count", lambda: (9000, 20, 20))
    monkeypatch.setattr(gc, "freeze", lambda: None)
    window._garbage._touched = garbage.now_ms()
    window._garbage.collect()
    assert collected == [0], "hands are at work: only what is young"
    window._garbage._touched = garbage.now_ms() - 10 * garbage.CALM_MS
    window._garbage._busy = lambda: True
    window._garbage.collect()
    assert collected == [0, 0], "something is worked out: only what is young"
    window._garbage._busy = lambda: False
    window._garbage.collect()
    assert collected == [0, 0, 2]


def test_a_job_runs_in_slices_and_can_be_given_up(qtbot, qapp):
    from PySide6.QtCore import QObject

    from vastzone.app.jobs import Job

    def steps(count):
        for n in range(count):
            yield n / count
        return count

    parent, done = QObject(), []
    job = Job(parent)
    job.start(steps(5), done.append)
    qtbot.waitUntil(lambda: done == [5])
    assert not job.running
    job.start(steps(10**9), done.append)
    assert job.running
    job.stop()
    assert not job.running and done == [5]
