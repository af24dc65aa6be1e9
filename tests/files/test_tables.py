"""Sweeps from tables and MIDI files; tables that cannot be written."""

import mido
import pytest

from vastzone.core.errors import DamagedFile, ReadError, WriteError
from vastzone.core.response.travel import examine
from vastzone.files.tables import read_sweep, write_table


def test_a_sweep_is_read_from_a_midi_file(tmp_path):
    track = mido.MidiTrack()
    for n in range(120):
        track.append(mido.Message("control_change", control=11, value=120 - n, time=20))
        if n % 30 == 0:
            track.append(mido.Message("control_change", control=7, value=n, time=0))
    mido.MidiFile(tracks=[track]).save(tmp_path / "sweep.mid")
    found = examine(read_sweep(tmp_path / "sweep.mid"))
    assert found.sense == "reversed" and abs(found.heel - 120) <= 2


def test_a_table_is_read_and_what_is_wrong_is_told_by_line(tmp_path):
    path = tmp_path / "sweep.csv"
    path.write_text("travel,value\n0,3\n1,120\n")
    assert read_sweep(path) == ((0.0, 3), (1.0, 120))
    for words, told in (("travel,value\n0,3\nx,4\n", "line 3"), ("a\n1\n", "no columns")):
        path.write_text(words)
        with pytest.raises(DamagedFile, match=told):
            read_sweep(path)
    empty = mido.MidiFile(tracks=[mido.MidiTrack()])
    empty.save(tmp_path / "empty.mid")
    with pytest.raises(DamagedFile, match="moves no controller"):
        read_sweep(tmp_path / "empty.mid")
    with pytest.raises(ReadError):
        read_sweep(tmp_path / "none.csv")
    with pytest.raises(WriteError, match="The list"):
        write_table("a", tmp_path / "nowhere" / "x.csv", "The list")
