"""Set lists from files and to files, and the command that prints them."""

import json

import mido
import pytest

from tests.core.setlist.evenings import device, evening
from vastzone.cli import main
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.setlists import add_setlist
from vastzone.core.plan.model.checked import changed
from vastzone.files import native
from vastzone.files.setlist_files import read_setlist, write_setlist


@pytest.fixture
def plan():
    owner = device("d", (0, 4, 9), player="Ro", hears_programs=3)
    return evening([owner], [{"d": 0}, {"d": 9}, {"d": 4}])


def titles(plan):
    names = {scene.id: scene.name for scene in plan.scenes}
    return [names.get(step.scene, f"break {step.minutes}") for step in plan.setlists[0].steps]


def test_titles_are_matched_added_and_told_where_they_are_alike(plan, tmp_path):
    path = tmp_path / "songs.csv"
    path.write_text('Title,key\nSong 1,D\nsong 1,E\nAnother,\n"Break, 5 min",\n')
    twins = tuple(changed(scene, name="Song 1") for scene in plan.scenes[:2])
    plan = changed(plan, scenes=(*twins, plan.scenes[2]))
    found = read_setlist(plan, "night", path)
    assert titles(found.plan) == ["Song 1", "Song 1", "Another", "break 5"]
    assert (found.new, found.alike) == (("Another",), ("Song 1", "song 1"))


@pytest.mark.parametrize("suffix", ["csv", "txt"])
def test_what_is_written_is_read_again(plan, tmp_path, suffix):
    path = tmp_path / f"night.{suffix}"
    write_setlist(plan, plan.setlists[0], path)
    other = add_setlist("Other", ()).change(plan)
    read = read_setlist(other, other.setlists[-1].id, path).plan
    assert [s.scene for s in read.setlists[-1].steps] == [s.scene for s in plan.setlists[0].steps]


def test_a_midi_file_has_markers_tempi_and_program_changes(plan, tmp_path):
    scenes = (changed(plan.scenes[0], tempo=96.0), *plan.scenes[1:])
    plan = changed(plan, scenes=scenes)
    path = tmp_path / "night.mid"
    write_setlist(plan, plan.setlists[0], path)
    events = list(mido.MidiFile(path).tracks[0])
    assert [e.text for e in events if e.type == "marker"] == ["Song 0", "Song 1", "Song 2"]
    sent = [(e.channel, e.program) for e in events if e.type == "program_change"]
    assert sent == [(2, 0), (2, 9), (2, 4)]
    tempi = [round(mido.tempo2bpm(e.tempo)) for e in events if e.type == "set_tempo"]
    assert tempi == [96, 120, 120]


@pytest.mark.parametrize("words", ["", "\n\n", "x\n" * 401])
def test_a_file_that_is_no_set_list_is_one_sentence(plan, tmp_path, words):
    path = tmp_path / "odd.txt"
    path.write_text(words)
    with pytest.raises(PlanError) as told:
        read_setlist(plan, "night", path)
    assert "\n" not in str(told.value)
    table = tmp_path / "odd.csv"
    table.write_text("a,b\n1,2\n")
    with pytest.raises(PlanError):
        read_setlist(plan, "night", table)
    with pytest.raises(PlanError):
        write_setlist(plan, plan.setlists[0], tmp_path / "night.pdf")


def test_the_command_prints_the_evening(plan, tmp_path, capsys):
    path = tmp_path / "plan.vastzone"
    native.write(plan, path)
    out = tmp_path / "night.csv"
    assert main(["setlist", str(path), "--best", "-o", str(out)]) == 0
    told = capsys.readouterr().out
    assert "Song 1" in told and "presses: Ro 2" in told and out.exists()
    assert main(["setlist", str(path), "--json", "--best"]) == 0
    read = json.loads(capsys.readouterr().out)
    assert [song["title"] for song in read["songs"]] == ["Song 0", "Song 1", "Song 2"]
    assert read["best"][0]["presses"] == 2 and read["best"][0]["now"] == 3
    assert read["order"]["presses"] == 2
    assert main(["setlist", str(path), "--list", "nowhere"]) == 2
    assert "Night" in capsys.readouterr().err
