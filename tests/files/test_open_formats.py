"""Tables out and in, tunes: what is written and read back is the same, what differs is one edit."""

import io

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.random_rigs import wide_plans
from tests.trial_rigs import RIGS
from vastzone import demo
from vastzone.core.cards.control_tune import control_tune
from vastzone.core.cards.open_tables import KINDS, kind_of, read_back, table_of
from vastzone.core.engine.compile import compile_scene
from vastzone.core.errors import DamagedFile, EditError
from vastzone.core.midi.messages import Message, from_bytes
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import sounds_of
from vastzone.files import native
from vastzone.files.columns import cells_of
from vastzone.files.table_files import read_table, write_tables
from vastzone.files.tune_files import struck_bytes, tune_bytes


@pytest.fixture(scope="module")
def ready():
    return native.read(demo.READY)


def reread(plan, kind):
    cells = cells_of(table_of(plan, kind).text())
    return read_back(plan, cells[0], cells[1:])


def no_difference(plan):
    for kind in KINDS:
        told = reread(plan, kind)
        assert (told.changes, told.mistakes, told.edit) == ((), (), None), kind


@given(wide_plans())
def test_what_is_written_and_read_back_says_nothing_else(plan):
    no_difference(plan)


@pytest.mark.parametrize("name", [*RIGS, "ready", "as found"])
def test_so_it_is_for_whole_rigs(name):
    if name in RIGS:
        no_difference(RIGS[name]())
    else:
        no_difference(native.read(demo.READY if name == "ready" else demo.AS_FOUND))


@given(st.data())
def test_settings_of_one_plan_read_into_another_make_them_alike(data):
    """The table of settings carries all of them: what it changes ends where it came from."""
    ready_plan, found = native.read(demo.READY), native.read(demo.AS_FOUND)
    cells = cells_of(table_of(ready_plan, "mappings").text())
    known = {row[0] for row in table_of(found, "mappings").rows}
    rows = [row for row in cells[1:] if row[0] in known]
    rows = data.draw(st.lists(st.sampled_from(rows), min_size=1, max_size=12, unique_by=tuple))
    told = read_back(found, cells[0], rows)
    assert not told.mistakes
    after = told.edit(found) if told.edit else found
    now = {row[0]: row for row in table_of(after, "mappings").rows}
    for row in rows:
        assert now[row[0]][-1] == row[-1].removeprefix("'")


def edited(plan, kind, change):
    """A table with its rows changed, read back."""
    cells = cells_of(table_of(plan, kind).text())
    return read_back(
        plan, cells[0], [change(dict(zip(cells[0], row, strict=True))) for row in cells[1:]]
    )


def test_outputs_and_desk_are_changed_as_one_edit(ready):
    def to_two(row):
        if row["name"] == "Kick":
            row |= {"output": "Output 2", "level": "90"}
        return list(row.values())

    told = edited(ready, "outputs", to_two)
    assert len(told.changes) == 2
    after = told.edit(ready)
    kick = next(u for u in sounds_of(lookup.device(after, "dovecote")) if u.name == "Kick")
    assert (kick.output, kick.level) == ("2", 90)

    def longer(row):
        if row["name"] == "Channel 9":
            row |= {"DI": "no", "metres": "12.5", "phantom": "yes"}
        return list(row.values())

    told = edited(ready, "desk", longer)
    after = told.edit(ready)
    (cable,) = [one for one in after.audio_cables if one.dest == "desk:ch-9"]
    assert (cable.di, cable.metres) == (False, 12.5)
    assert lookup.device(after, "desk").audio_inputs[8].phantom


def test_controls_wires_and_set_lists_are_read_back(ready):
    def renamed(row):
        if row["name"] == "Knob 1":
            row["name"] = "Mix"
        return list(row.values())

    after = edited(ready, "controls", renamed).edit(ready)
    names = [control.name for control in lookup.device(after, "dipper").controls]
    assert "Mix" in names

    def untested(row):
        row["tested"] = "no"
        return list(row.values())

    told = edited(ready, "wires", untested)
    assert lookup.device(told.edit(ready), "bittern").console.tested == ()
    cells = cells_of(table_of(ready, "setlists").text())
    told = read_back(ready, cells[0], [*cells[2:], cells[1]])
    songs = told.edit(ready).setlists[0].played
    assert songs == (*ready.setlists[0].played[1:], ready.setlists[0].played[0])


@pytest.mark.parametrize(
    ("kind", "cell", "words"),
    [
        ("outputs", "output", "Output 99"),
        ("outputs", "level", "loud"),
        ("desk", "phantom", "perhaps"),
        ("mappings", "setting", "nowhere/at.all/x"),
        ("wires", "wire", "bittern:none"),
        ("setlists", "song", "Nobody knows it"),
    ],
)
def test_a_bad_cell_is_told_with_its_line_and_nothing_is_changed(ready, kind, cell, words):
    cells = cells_of(table_of(ready, kind).text())
    place = cells[0].index(cell)
    row = [*cells[1][:place], words, *cells[1][place + 1 :]]
    told = read_back(ready, cells[0], [row])
    assert len(told.mistakes) == 1 and told.mistakes[0].startswith("Line 2")


def test_another_table_is_refused(ready, tmp_path):
    with pytest.raises(EditError, match="first column"):
        read_back(ready, ("title",), [])
    (tmp_path / "t.csv").write_text("")
    with pytest.raises(DamagedFile):
        read_table(ready, tmp_path / "t.csv")
    assert kind_of(("Sound", "x")) == "outputs" and kind_of(()) is None


def test_tables_are_written_into_a_folder_and_read_from_it(ready, tmp_path):
    written = write_tables(ready, tmp_path / "out")
    assert {path.stem for path in written} == set(KINDS)
    assert all(not read_table(ready, path).changes for path in written)


def test_a_test_tune_sends_what_every_control_sends_each_under_its_marker(ready):
    compiled = compile_scene(ready, ready.scenes[0])
    tones = control_tune(compiled, "dipper")
    names = [tone.name for tone in tones]
    assert names == list(dict.fromkeys(names)) and "Dipper 12, Knob 1" in names[-8:] + names
    file = mido.MidiFile(file=io.BytesIO(tune_bytes("Dipper", tones)))
    markers = [m.text for m in file.tracks[0] if m.type == "marker"]
    assert markers == names
    sent = [from_bytes(m.bytes()) for m in file.tracks[0] if not m.is_meta]
    told = [message for tone in tones for _, message in tone.messages]
    assert sorted(sent) == sorted(told)


def test_what_was_struck_begins_with_the_first_strike():
    struck = [(1000.0, Message("note_on", 2, 60, 90)), (1500.0, Message("note_off", 2, 60))]
    file = mido.MidiFile(file=io.BytesIO(struck_bytes("Tour", struck)))
    assert file.length == pytest.approx(0.5, abs=0.01)
