"""Reading a long MIDI file, against mido alone on the same file."""

import random
import tempfile
from collections.abc import Iterator
from pathlib import Path

import mido

from bench.table import Row, best
from vastzone.files.midi_file import read_song

EVENTS = 100_000


def rows() -> Iterator[Row]:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "long.mid"
        _write(path)
        ours, theirs = best(lambda: read_song(path)), best(lambda: mido.MidiFile(path, clip=False))
    against = f"{theirs * 1e3:.0f} ms mido"
    yield Row(
        "Reading 100,000 MIDI events (ms)", f"{ours * 1e3:.0f} ms", against, ours / theirs, 1.25
    )


def _write(path: Path) -> None:
    chance, track = random.Random(1), mido.MidiTrack()
    for _ in range(EVENTS // 2):
        note = chance.randrange(128)
        track.append(mido.Message("note_on", note=note, velocity=chance.randrange(1, 128), time=3))
        track.append(mido.Message("note_off", note=note, time=2))
    mido.MidiFile(tracks=[track]).save(path)
