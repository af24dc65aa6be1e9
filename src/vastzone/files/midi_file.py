"""Standard MIDI Files as timed messages."""

from bisect import bisect_right
from io import BytesIO
from operator import itemgetter
from pathlib import Path
from typing import Any, NamedTuple

from vastzone.core.cache import no_collecting
from vastzone.core.errors import DamagedFile
from vastzone.core.midi.messages import BEND_CENTRE, Kind, Message
from vastzone.core.progress import Cancelled
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.reading import MIDI_LIMIT, read_whole

TEMPO = 500_000
"""Microseconds a beat until a file says otherwise (Standard MIDI Files 1.0)."""
FIELDS: dict[str, tuple[Kind, str, str]] = {
    "note_off": ("note_off", "note", "velocity"),
    "note_on": ("note_on", "note", "velocity"),
    "polytouch": ("poly_pressure", "note", "value"),
    "control_change": ("controller", "control", "value"),
    "program_change": ("program", "program", ""),
    "aftertouch": ("pressure", "value", ""),
    "pitchwheel": ("bend", "pitch", ""),
}
"""mido’s name of each kind of message: ours, and the fields that hold its one or two values."""


class Song(NamedTuple):
    """A MIDI file's channel messages with their times in milliseconds, in order."""

    name: str
    events: tuple[tuple[float, Message], ...]
    length_ms: float


class SongReader:
    """Reads one file; ``share`` and ``stop`` may be used from elsewhere meanwhile."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._stream = BytesIO()
        self._size = 1
        self._stopped = False

    @property
    def share(self) -> float:
        """How much has been read, 0–1."""
        return 1.0 if self._stream.closed else min(1.0, self._stream.tell() / self._size)

    def stop(self) -> None:
        """Give it up: the next byte that is wanted is not there any more."""
        self._stopped = True
        self._stream.close()

    def run(self) -> Song:
        """Read it, tempo changes worked in.

        Raises ReadError when it cannot be opened, DamagedFile when it is cut short or no MIDI file,
        and Cancelled when it was stopped.
        """
        import mido

        name = quoted(self._path.name)
        data = read_whole(self._path, MIDI_LIMIT)
        if not data.startswith(b"MThd"):
            raise DamagedFile(
                say("{name} is not a MIDI file: choose a file that ends in .mid.", name=name)
            )
        self._size, self._stream = len(data), BytesIO(data)
        if self._stopped:
            raise Cancelled
        try:
            with no_collecting():
                return _song(name, mido.MidiFile(file=self._stream, clip=False))
        except DamagedFile:
            raise
        except (
            Exception
        ):  # what a damaged file makes the reader stumble over is many kinds of error
            if self._stopped:
                raise Cancelled from None
            raise DamagedFile(
                say("{name} is cut short or damaged: export it again.", name=name)
            ) from None


def read_song(path: Path) -> Song:
    """Read a Standard MIDI File.  Raises ReadError and DamagedFile."""
    return SongReader(path).run()


def _song(name: str, file: Any) -> Song:
    if file.type == 2:
        raise DamagedFile(
            say("{name} holds separate songs (MIDI file type 2): export it as type 1.", name=name)
        )
    if file.ticks_per_beat <= 0:
        raise DamagedFile(
            say("{name} counts time in film frames: export it with beats.", name=name)
        )
    heard = _Found([], [], [])
    last = max((_read_track(track, heard) for track in file.tracks), default=0)
    clock = _Clock(heard.tempos, file.ticks_per_beat)
    times = clock.all_ms(heard.ticks)
    events = list(zip(times, heard.messages, strict=True))
    if len(file.tracks) > 1:
        events.sort(key=itemgetter(0))
    return Song(name, tuple(events), clock.ms(last))


class _Found(NamedTuple):
    """What the tracks hold: messages with their ticks, and tempos with theirs."""

    ticks: list[int]
    messages: list[Message]
    tempos: list[tuple[int, int]]


def _read_track(track: Any, song: _Found) -> int:
    """Add what a track holds; the tick of its end."""
    tick = 0
    for one in track:
        said = vars(one)
        tick += said["time"]
        kind = said["type"]
        if kind in FIELDS:
            song.ticks.append(tick)
            song.messages.append(_message(kind, said))
        elif kind == "set_tempo":
            song.tempos.append((tick, said["tempo"]))
    return tick


def _message(kind: str, said: dict[str, Any]) -> Message:
    """A message from the fields of one of mido’s."""
    ours, first, second = FIELDS[kind]
    value = said[first]
    if ours == "bend":
        return Message("bend", said["channel"], value + BEND_CENTRE)
    if not second:
        return Message(ours, said["channel"], value)
    if kind == "note_on" and not said["velocity"]:
        ours = "note_off"
    return Message(ours, said["channel"], value, said[second])


class _Clock:
    """Ticks as milliseconds, along the tempo changes of a file."""

    def __init__(self, tempos: list[tuple[int, int]], beat: int) -> None:
        tempos.sort(key=itemgetter(0))
        self._thousand_beats = beat * 1000
        self._ticks, self._begins, self._tempos = [0], [0.0], [TEMPO]
        for tick, tempo in tempos:
            begin = self.ms(tick)
            self._ticks.append(tick)
            self._begins.append(begin)
            self._tempos.append(tempo)

    def ms(self, tick: int) -> float:
        """When a tick is, in milliseconds."""
        at = bisect_right(self._ticks, tick) - 1
        since = (tick - self._ticks[at]) * self._tempos[at]
        return self._begins[at] + since / self._thousand_beats

    def all_ms(self, ticks: list[int]) -> list[float]:
        """When each tick is; quicker where one tempo holds throughout."""
        if len(self._ticks) == 1:
            return [tick * TEMPO / self._thousand_beats for tick in ticks]
        return [self.ms(tick) for tick in ticks]
