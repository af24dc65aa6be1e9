"""Standard MIDI Files as timed messages."""

from pathlib import Path
from typing import NamedTuple

from vastzone.core.errors import DamagedFile, ReadError
from vastzone.core.midi.messages import Message, from_bytes


class Song(NamedTuple):
    """A MIDI file's channel messages with their times in milliseconds, in order."""

    name: str
    events: tuple[tuple[float, Message], ...]
    length_ms: float


def read_song(path: Path) -> Song:
    """Read a Standard MIDI File, its tempo changes worked in.

    Raises ReadError when it cannot be opened and DamagedFile when it is cut short or no MIDI file.
    """
    import mido

    try:
        if path.stat().st_size and path.open("rb").read(4) != b"MThd":
            raise DamagedFile(f"{path.name} is not a MIDI file: choose a file that ends in .mid.")
        file = mido.MidiFile(path, clip=False)
        return _song(path.name, file)
    except OSError as error:
        if error.strerror:
            raise ReadError(
                f"{path.name} cannot be read ({error.strerror}): choose another file."
            ) from None
        raise _cut(path) from None
    except (EOFError, ValueError, KeyError, IndexError, TypeError, OverflowError):
        raise _cut(path) from None


def _cut(path: Path) -> DamagedFile:
    return DamagedFile(f"{path.name} is cut short or damaged: export it again.")


def _song(name: str, file: object) -> Song:
    from mido import merge_tracks, tick2second

    tracks, beat = file.tracks, file.ticks_per_beat  # type: ignore[attr-defined]
    if file.type == 2:  # type: ignore[attr-defined]
        raise DamagedFile(f"{name} holds separate songs (MIDI file type 2): export it as type 1.")
    if beat <= 0:
        raise DamagedFile(f"{name} counts time in film frames: export it with beats.")
    events: list[tuple[float, Message]] = []
    at, tempo = 0.0, 500_000
    for held in merge_tracks(tracks):
        at += tick2second(held.time, beat, tempo) * 1000
        if held.type == "set_tempo":
            tempo = held.tempo
        elif not held.is_meta:
            message = from_bytes(held.bytes())
            if message is not None:
                events.append((at, message))
    return Song(name, tuple(events), at)
