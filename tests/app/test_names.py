"""A person's words are plain text everywhere: no markup, no shortcut, no picture is read in them."""

import pytest
from PySide6.QtCore import QCoreApplication, QPoint, Qt
from PySide6.QtWidgets import QAbstractButton, QApplication, QLabel, QMenu, QMessageBox

from tests.nasty import NAMES
from tests.plan_of_names import renamed
from vastzone import demo
from vastzone.app import dialogs
from vastzone.app.frame.text import unmarked
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.text import printable
from vastzone.files import native

LEFT = Qt.MouseButton.LeftButton


def widgets():
    return [w for w in QApplication.allWidgets() if w.isVisible()]


def harmless(window):
    """No label reads markup; no button or menu has a shortcut made of a person's «&»."""
    for label in (w for w in widgets() if isinstance(w, QLabel)):
        plain = label.textFormat() is Qt.TextFormat.PlainText
        assert plain or label is window.keys.pointer, label.text()
    for button in (w for w in widgets() if isinstance(w, QAbstractButton)):
        assert button.shortcut().isEmpty(), button.text()
    for widget in widgets():
        tip = widget.toolTip()
        assert "<" not in tip or tip.startswith("<qt>"), tip


@pytest.fixture
def named(window, qtbot, told):
    window.desk.load(renamed(native.read(demo.AS_FOUND)), None)
    window.desk.wake()
    return window


def test_every_view_and_page_shows_nasty_names_unharmed(named, qtbot):
    window, plan = named, named.desk.plan
    refs = [d.id for d in plan.devices]
    refs += [f"{d.id}:{x.id}" for d in plan.devices for x in (*d.parts[:2], *d.controls[:2])]
    for view in window.rail.buttons:
        window.show_view(view)
        shown = window.view(view)
        for page in range(7):
            if hasattr(shown, "show_page"):
                try:
                    shown.show_page(page)
                except (IndexError, AttributeError):
                    break
            QCoreApplication.processEvents()
            harmless(window)
    for ref in refs:
        window.desk.select(ref)
        QCoreApplication.processEvents()
        harmless(window)
    assert named.desk.plan is plan, "looking changes nothing"


def test_a_name_typed_in_is_kept_as_it_is_and_saved(window, told, tmp_path):
    for name in NAMES:
        window.perform(set_device("heron", "Rename", name=name[:80]))
        window.desk.select("heron")
        QCoreApplication.processEvents()
        harmless(window)
        assert window.desk.plan.devices[0].name == name[:80] and not told
        window.desk.save(tmp_path / "a.vastzone")
        assert native.read(tmp_path / "a.vastzone") == window.desk.plan


def test_dialogs_go_to_and_menus_show_nasty_names(named, qtbot, monkeypatch):
    from vastzone.app.frame.goto import GoTo

    window = named
    window.go_to()
    goto = window.findChildren(GoTo)[-1]
    goto.line.setText("device")
    assert goto.list.count
    harmless(window)
    goto.close()
    window.show_view("keys")
    QCoreApplication.processEvents()
    canvas = window.keys.canvas
    for x in range(60, canvas.width() - 20, 160):
        hit = canvas.hit(QPoint(x, 120).toPointF())
        if hit is None:
            continue
        canvas.menu_wanted.emit(hit, canvas.mapToGlobal(QPoint(x, 120)))
        menu = next(m for m in reversed(window.keys.findChildren(QMenu)))
        for action in menu.actions():
            assert action.text().replace("&&", "").count("&") == 0
        menu.close()
    window.keys.pointer.setText("")
    assert unmarked("a & b") == "a && b"


def test_messages_are_plain_text(window, qtbot, monkeypatch):
    said = []

    def shown(box):
        said.append((box.textFormat(), box.text()))
        return 0

    monkeypatch.undo()
    monkeypatch.setattr(QMessageBox, "exec", shown)
    for name in NAMES:
        dialogs.tell(window, name)
        dialogs.ask_recover(window, name)
        dialogs.ask_whose(window, name)
    assert {kind for kind, _ in said} == {Qt.TextFormat.PlainText}
    assert all(printable(text, keep="\n") == text for _, text in said)
