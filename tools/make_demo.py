"""Make the two demo plans and the demo tune from the descriptions in this folder.

    python tools/make_demo.py

The results in ``src/vastzone/demo`` are committed.
"""

from pathlib import Path

import mido

from demo_memory import memory
from demo_rig import as_found, ready
from vastzone import demo
from vastzone.files.native import to_json

BEAT = 480
STAIR = (28, 35, 40, 43, 47, 52, 55, 59, 64, 67, 71, 76, 79, 83, 88, 91)


def tune(path: Path) -> None:
    """A stair of broken chords up and down the keys, with the sustain switch on each landing."""
    file = mido.MidiFile(ticks_per_beat=BEAT)
    track = mido.MidiTrack()
    file.tracks.append(track)
    track.append(mido.MetaMessage("track_name", name="The Keeper's Stair"))
    track.append(mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(96)))
    for turn in range(8):
        steps = STAIR if turn % 2 == 0 else STAIR[::-1]
        track.append(mido.Message("control_change", control=64, value=127))
        for index, note in enumerate(steps):
            velocity = 52 + 4 * index if turn % 2 == 0 else 116 - 4 * index
            track.append(mido.Message("note_on", note=note, velocity=velocity))
            track.append(mido.Message("note_off", note=note, velocity=0, time=BEAT // 4))
        track.append(mido.Message("control_change", control=64, value=0, time=BEAT // 2))
        chord = [note for note in steps if note % 12 in (4, 7, 11)][:4]
        for note in chord:
            track.append(mido.Message("note_on", note=note, velocity=90))
        for index, note in enumerate(chord):
            track.append(mido.Message("note_off", note=note, time=0 if index else BEAT))
    file.save(path)


if __name__ == "__main__":
    found = as_found()
    held = memory(found)
    demo.AS_FOUND.write_bytes(to_json(found, held))
    demo.READY.write_bytes(to_json(ready(), held))
    tune(demo.TUNE)
