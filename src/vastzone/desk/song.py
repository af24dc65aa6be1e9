"""A MIDI file played through the plan at its own tempo."""

from bisect import bisect_left

from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.trace import Player, TraceEntry
from vastzone.core.engine.voice import Voice
from vastzone.core.midi.messages import Message
from vastzone.files.midi_file import Song

MOST_AT_ONCE = 1000
"""Messages that one call plays at most: a file may hold any number at one moment."""


class SongPlayer:
    """Start, stop and position of one song.  ``advance`` is told the time and catches up."""

    def __init__(self, song: Song, performance: Performance, entry: TraceEntry) -> None:
        self.song, self.playing = song, False
        self.use(performance, entry)
        self._times = [at for at, _ in song.events]
        self._next = 0
        self._started_ms = 0.0
        self._position_ms = 0.0
        self._down: dict[tuple[int, int], None] = {}

    def use(self, performance: Performance, entry: TraceEntry) -> None:
        """Let the song enter elsewhere; only while it is stopped."""
        self._player = Player(performance, entry)

    @property
    def entry(self) -> TraceEntry:
        """Where the song enters."""
        return self._player.entry

    @property
    def position_ms(self) -> float:
        """Where the song is."""
        return self._position_ms

    @property
    def ended(self) -> bool:
        """Whether everything has been played."""
        return self._next >= len(self._times)

    def start(self, now_ms: float) -> None:
        """Go on from the position; from the beginning when the song has ended."""
        if self.ended:
            self.seek(0.0, now_ms)
        self._started_ms = now_ms - self._position_ms
        self.playing = True

    def stop(self, now_ms: float) -> None:
        """Hold still and let every key go."""
        self.playing = False
        self._let_go(now_ms)

    def seek(self, position_ms: float, now_ms: float) -> None:
        """Jump to a position; nothing between is played."""
        self._let_go(now_ms)
        self._position_ms = max(0.0, min(position_ms, self.song.length_ms))
        self._next = bisect_left(self._times, self._position_ms)
        self._started_ms = now_ms - self._position_ms

    def advance(self, now_ms: float) -> list[tuple[Message, list[Voice | Movement]]]:
        """Play what is due, each message with what it began; of very many the first."""
        if not self.playing:
            return []
        self._position_ms = min(now_ms - self._started_ms, self.song.length_ms)
        due: list[tuple[Message, list[Voice | Movement]]] = []
        while self._is_due() and len(due) < MOST_AT_ONCE:
            at, message = self.song.events[self._next]
            self._note(message)
            due.append((message, self._player.play(message, self._started_ms + at)))
            self._next += 1
        if self.ended and self._position_ms >= self.song.length_ms:
            self.stop(now_ms)
        return due

    def _is_due(self) -> bool:
        return not self.ended and self._times[self._next] <= self._position_ms

    def _note(self, message: Message) -> None:
        if message.kind == "note_on":
            self._down[message.channel, message.first] = None
        elif message.kind == "note_off":
            self._down.pop((message.channel, message.first), None)

    def _let_go(self, now_ms: float) -> None:
        for channel, note in list(self._down):
            self._player.play(Message("note_off", channel, note), now_ms)
        self._down.clear()
        for channel in {message.channel for _, message in self.song.events[: self._next]}:
            self._player.play(Message("controller", channel, 64, 0), now_ms)
