"""What a crash leaves behind is offered once, whole, and only by programs that may."""

import os
import random
import stat
import threading

import pytest

from tests.crashes import crashed
from tests.kills import kill_once
from tests.rigs import simple
from vastzone import demo
from vastzone.core.errors import ChangedElsewhere, WriteError
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.edits.zones import set_zone
from vastzone.desk import preferences
from vastzone.desk.recovery import Autosave, discard, leftovers
from vastzone.desk.session import Desk
from vastzone.files import native

MOVE = set_zone("board", 0, "all", "Move", channel=2)


@pytest.fixture
def desk(tmp_path):
    made = Desk(Autosave(tmp_path / "state"))
    yield made
    made.close()


def test_work_of_a_program_that_runs_is_not_offered_and_only_its_owner_may_read_it(desk, tmp_path):
    desk.load(simple(), None)
    assert not desk.autosave(), "nothing has changed"
    desk.perform(MOVE)
    assert desk.autosave()
    assert not leftovers(tmp_path / "state").offers
    for path in (tmp_path / "state").iterdir():
        assert stat.S_IMODE(path.stat().st_mode) & 0o077 == 0, path.name
    desk.save(tmp_path / "a.vastzone")
    desk.close()
    assert not desk.changed and not list((tmp_path / "state").iterdir())


def test_a_copy_written_beside_the_window_is_neither_older_than_another_nor_left_of_saved_work(
    desk, tmp_path
):
    folder = tmp_path / "state"
    desk.load(simple(), None)
    desk.perform(MOVE)
    late = desk.autosaving()
    desk.perform(set_zone("board", 0, "all", "Move", channel=3))
    assert desk.autosave() and not late()
    (copy,) = folder.glob("*.vastzone")
    assert native.read(copy) == desk.plan
    later = desk.autosaving()
    desk.save(tmp_path / "a.vastzone")
    assert not later() and not list(folder.glob("*.vastzone"))
    desk.perform(MOVE)
    slow = threading.Thread(target=desk.autosaving())
    slow.start()
    desk.close()
    slow.join()
    assert not list(folder.iterdir())


def test_what_crashed_is_offered_once_by_one_program_and_newest_first(tmp_path):
    folder = tmp_path / "state"
    old = crashed(folder, demo.READY, "Old")
    new = crashed(folder, demo.READY, "New")
    other = crashed(folder, demo.AS_FOUND, "Other")
    found = leftovers(folder)
    assert [left.plan for left in found.offers] == [other, new]
    assert len(found.remarks) == 1 and "set aside" in found.remarks[0]
    assert not leftovers(folder).offers, "they are being offered already"
    (kept,) = (folder / "set-aside").iterdir()
    assert native.read(kept) == old
    for left in found.offers:
        discard(left.copy)
    assert [path.name for path in folder.iterdir()] == ["set-aside"]


def test_a_crash_of_the_process_leaves_the_work_and_where_it_happened(tmp_path):
    plan = crashed(tmp_path / "state", demo.READY, hard=True)
    (left,) = leftovers(tmp_path / "state").offers
    (report,) = (tmp_path / "state" / "vastzone" / "reports").iterdir()
    assert left.plan == plan and str(report) in left.crash
    assert "Segmentation fault" in report.read_text()
    discard(left.copy)


def test_damage_is_set_aside_and_litter_is_cleared(tmp_path):
    folder = tmp_path / "state"
    crashed(folder, demo.READY)
    (copy,) = folder.glob("*.vastzone")
    copy.write_bytes(copy.read_bytes()[:500])
    (folder / "99999-left.lock").touch()
    (folder / ".99999-left.saving").write_bytes(b"half")
    found = leftovers(folder)
    assert not found.offers and "damaged" in found.remarks[0]
    assert [path.name for path in folder.iterdir()] == ["set-aside"]


@pytest.mark.parametrize("data", [b"", b"{", b"\xff\xfe", b"[]", b'{"theme": 3}', b"[" * 100_000])
def test_damaged_preferences_are_set_aside(tmp_path, data):
    path = tmp_path / "preferences.json"
    path.write_bytes(data)
    held, remark = preferences.load(path)
    assert held == preferences.Preferences() and str(tmp_path) in remark
    assert not path.exists() and len(list(tmp_path.iterdir())) == 1


def test_a_file_that_somebody_else_changed_is_not_written_over_unasked(desk, tmp_path):
    path = tmp_path / "plan.vastzone"
    desk.load(simple(), None)
    desk.save(path)
    native.write(set_plan("Rename", name="Theirs")(simple()), path)
    desk.perform(MOVE)
    with pytest.raises(ChangedElsewhere):
        desk.save()
    assert native.read(path).name == "Theirs" and desk.changed
    desk.save(over=True)
    assert native.read(path) == desk.plan
    desk.perform(set_zone("board", 0, "all", "Move", channel=3))
    desk.save()
    path.write_bytes(b"")
    desk.perform(MOVE)
    desk.save()
    assert native.read(path) == desk.plan, "an empty file may be replaced"


def test_saving_follows_a_link_and_keeps_what_the_file_had(desk, tmp_path):
    path, link = tmp_path / "real.vastzone", tmp_path / "link.vastzone"
    desk.load(simple(), None)
    desk.save(path)
    path.chmod(0o640)
    os.setxattr(path, "user.note", b"mine")
    link.symlink_to(path)
    desk.perform(MOVE)
    desk.save(link)
    assert link.is_symlink() and native.read(path) == desk.plan
    assert stat.S_IMODE(path.stat().st_mode) == 0o640 and os.getxattr(path, "user.note") == b"mine"


@pytest.mark.parametrize(
    "name",
    [
        "x" * 300 + ".vastzone",
        "nul\0.vastzone",
        "folder",
        "only.vastzone",
        "round.vastzone",
        "no/such.vastzone",
        "pipe",
    ],
)
def test_names_that_cannot_be_written_are_refused_in_one_sentence(desk, tmp_path, name):
    (tmp_path / "folder").mkdir()
    only = tmp_path / "only.vastzone"
    only.write_bytes(native.to_json(simple()))
    only.chmod(0o444)
    (tmp_path / "round.vastzone").symlink_to(tmp_path / "round.vastzone")
    os.mkfifo(tmp_path / "pipe")
    desk.load(simple(), None)
    desk.perform(MOVE)
    with pytest.raises(WriteError) as refused:
        desk.save(tmp_path / name)
    assert "\n" not in str(refused.value) and len(str(refused.value)) < 500
    assert desk.changed and native.read(only) == simple()


def test_programs_killed_at_any_moment_leave_old_or_new_one_offer_and_no_litter(tmp_path):
    """``make kills`` does it three hundred times."""
    folder, plan = tmp_path / "state", tmp_path / "show.vastzone"
    native.write(simple(), plan)
    chance = random.Random(7)
    for _ in range(5):
        kill_once(folder, plan, chance)
