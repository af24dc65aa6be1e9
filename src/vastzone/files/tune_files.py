"""Standard MIDI Files of what controls send, a marker each, and of what was struck."""

import io
from collections.abc import Iterable
from pathlib import Path

from vastzone.core.cards.control_tune import Tone
from vastzone.core.midi.messages import Message
from vastzone.core.say import say
from vastzone.core.text import printable
from vastzone.files.whole import write_whole

TICKS, TEMPO = 480, 500_000
"""Ticks a beat, microseconds a beat: 120 beats a minute."""
A_TICK = TEMPO / TICKS / 1000
Event = tuple[float, int, object]


def tune_bytes(name: str, tones: Iterable[Tone]) -> bytes:
    """A test tune: the messages in order, each tone named by a marker."""
    import mido

    events: list[Event] = []
    for tone in tones:
        marker = mido.MetaMessage("marker", text=_latin(tone.name))
        events.append((tone.at_ms, 0, marker))
        for at, message in tone.messages:
            events.append((at, 1, mido.Message.from_bytes(message.to_bytes())))
    return _file(name, events)


def struck_bytes(name: str, struck: Iterable[tuple[float, Message]]) -> bytes:
    """What was struck, as it was sent, from the first strike on."""
    import mido

    events: list[Event] = []
    begun = None
    for at, message in struck:
        begun = at if begun is None else begun
        events.append((at - begun, 1, mido.Message.from_bytes(message.to_bytes())))
    return _file(name, events)


def _file(name: str, events: list[Event]) -> bytes:
    import mido

    file = mido.MidiFile(ticks_per_beat=TICKS)
    track = mido.MidiTrack()
    file.tracks.append(track)
    track.append(mido.MetaMessage("track_name", name=_latin(name)))
    track.append(mido.MetaMessage("set_tempo", tempo=TEMPO))
    before = 0
    for at, _, message in sorted(events, key=lambda event: event[:2]):
        now = round(at / A_TICK)
        track.append(message.copy(time=now - before))  # type: ignore[attr-defined]
        before = now
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def _latin(words: str) -> str:
    """Words as a MIDI file can hold them."""
    return printable(words).encode("latin-1", "replace").decode("latin-1")


def write_tune(data: bytes, path: Path, *, replace: bool = True) -> None:
    """Write a tune.  Raises WriteError."""
    write_whole(data, path, say("The tune"), replace=replace)
