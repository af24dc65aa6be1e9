from pathlib import Path

from tests.crashes import crashed
from vastzone import demo
from vastzone.app import dialogs
from vastzone.core.plan.edits.edit import set_plan
from vastzone.files import native

RENAME = set_plan("Rename plan", name="Changed")


def test_a_damaged_file_is_told_and_the_plan_untouched(window, told, tmp_path):
    plan = window.desk.plan
    for name, data in (("a.vastzone", b"{"), ("b.vastzone", b'{"format":"vastzone","version":9}')):
        (tmp_path / name).write_bytes(data)
        window.documents.open_path(tmp_path / name)
    assert len(told) == 2 and window.desk.plan is plan
    window.keys.songs.load(tmp_path / "a.vastzone")


def test_a_midi_file_that_is_none_is_told(window, told, qtbot, tmp_path):
    (tmp_path / "a.mid").write_bytes(b"nothing")
    window.keys.songs.load(tmp_path / "a.mid")
    qtbot.waitUntil(lambda: bool(told), timeout=5000)
    assert "a.mid" in told[0]


def test_an_unwritable_folder_is_told_and_nothing_lost(window, told, monkeypatch):
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: Path("/proc/no/such.vastzone"))
    window.perform(RENAME)
    assert not window.documents.save()
    assert len(told) == 1 and window.desk.changed


def test_closing_asks_about_unsaved_changes(window, monkeypatch, tmp_path):
    window.perform(RENAME)
    answers = ["cancel", "save"]
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda *_: answers.pop(0))
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: tmp_path / "kept.vastzone")
    assert not window.close()
    assert window.close()
    assert native.read(tmp_path / "kept.vastzone").name == "Changed"


def test_what_a_crash_left_is_offered_and_opened(window, monkeypatch, tmp_path):
    folder = tmp_path / "state" / "recovery"
    lost = crashed(folder, demo.READY)
    monkeypatch.setattr(dialogs, "ask_recover", lambda *_: True)
    window.documents.recover()
    assert window.desk.plan == lost and window.desk.changed
    assert len(list(folder.glob("*.vastzone"))) == 1, "its own copy of what is not saved yet"


def test_recent_plans_and_theme_are_remembered(window, tmp_path):
    path = tmp_path / "one.vastzone"
    window.desk.save(path)
    window.documents.open_path(path)
    window.switch_theme()
    from vastzone.desk.preferences import load

    held, _ = load(tmp_path / "state" / "preferences.json")
    assert held.recent == (str(path),) and held.theme == "stage"


def test_damage_at_the_start_is_said_once_and_the_program_goes_on(qtbot, qapp, told, tmp_path):
    from vastzone.app.window import Window

    folder = tmp_path / "mine"
    crashed(folder / "recovery", demo.READY)
    (copy,) = (folder / "recovery").glob("*.vastzone")
    copy.write_bytes(b"{")
    (folder / "recovery" / "1-dead.lock").touch()
    (folder / "preferences.json").write_bytes(b"\xff")
    made = Window(folder)
    made.fill()
    made.documents.recover()
    assert len(told) == 1 and "preferences.json.damaged" in told[0] and "set aside" in told[0]
    assert not made.desk.plan.devices and made.documents.preferences.theme == "day"
    made.documents.recover()
    assert len(told) == 1
    made.close()
    made.deleteLater()
