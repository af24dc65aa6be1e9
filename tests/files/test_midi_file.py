import mido
import pytest

from vastzone import demo
from vastzone.core.errors import DamagedFile, ReadError
from vastzone.core.midi.messages import Message
from vastzone.files.midi_file import read_song


def test_tempo_changes_are_worked_in(tmp_path):
    track = mido.MidiTrack()
    track.append(mido.MetaMessage("set_tempo", tempo=500_000))
    track.append(mido.Message("note_on", note=60, velocity=1, time=480))
    track.append(mido.MetaMessage("set_tempo", tempo=1_000_000))
    track.append(mido.Message("note_on", note=60, velocity=0, time=480))
    file = mido.MidiFile(ticks_per_beat=480, tracks=[track])
    file.save(tmp_path / "a.mid")
    song = read_song(tmp_path / "a.mid")
    assert song.events == (
        (500.0, Message("note_on", 0, 60, 1)),
        (1500.0, Message("note_off", 0, 60)),
    )


WHOLE = demo.TUNE.read_bytes()


@pytest.mark.parametrize(
    "data",
    [b"", b"MThd", WHOLE[:10], WHOLE[:40], WHOLE[:-3], b"RIFF" + WHOLE, WHOLE[:22] + b"\xff" * 40],
)
def test_a_cut_or_foreign_file_gets_one_sentence(tmp_path, data):
    path = tmp_path / "cut.mid"
    path.write_bytes(data)
    with pytest.raises(DamagedFile, match=r"cut\.mid"):
        read_song(path)


def test_an_absent_file_is_told(tmp_path):
    with pytest.raises(ReadError, match="cannot be read"):
        read_song(tmp_path / "none.mid")
