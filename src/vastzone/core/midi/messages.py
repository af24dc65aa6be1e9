"""Channel voice messages as plain values.

One row a kind: status nibble and number of data bytes (MIDI 1.0 specification, table of channel
voice messages).  Channels are 0–15 here, as on the wire; everything above this folder says 1–16.
"""

from typing import Literal, NamedTuple

from vastzone.core.say import say

Kind = Literal["note_off", "note_on", "poly_pressure", "controller", "program", "pressure", "bend"]

STATUS: dict[Kind, tuple[int, int]] = {
    "note_off": (0x80, 2),
    "note_on": (0x90, 2),
    "poly_pressure": (0xA0, 2),
    "controller": (0xB0, 2),
    "program": (0xC0, 1),
    "pressure": (0xD0, 1),
    "bend": (0xE0, 2),
}
NOTE_OFF, NOTE_ON = STATUS["note_off"][0], STATUS["note_on"][0]
KINDS: dict[int, Kind] = {status: kind for kind, (status, _) in STATUS.items()}
BEND_CENTRE = 8192


class Message(NamedTuple):
    """A channel voice message; ``first`` and ``second`` are its data, ``second`` 0 if it has one.

    A bend keeps its 14-bit value 0–16383 in ``first``.
    """

    kind: Kind
    channel: int
    first: int
    second: int = 0

    def to_bytes(self) -> bytes:
        """The message as it goes over the wire."""
        status, count = STATUS[self.kind]
        if self.kind == "bend":
            return bytes((status | self.channel, self.first & 0x7F, self.first >> 7))
        return bytes((status | self.channel, self.first, self.second)[: count + 1])

    def text(self) -> str:
        """The message in words, channel shown 1–16: ``ch 1 · note on 52 · velocity 84``."""
        return say(
            "ch {channel} · {words}",
            channel=self.channel + 1,
            words=_WORDS[self.kind].format(a=self.first, b=self.second),
        )

    def hex(self) -> str:
        """The bytes in hexadecimal: ``90 34 54``."""
        return self.to_bytes().hex(" ").upper()


_WORDS: dict[Kind, str] = {
    "note_off": say("note off {a}"),
    "note_on": say("note on {a} · velocity {b}"),
    "poly_pressure": say("key pressure {a} · {b}"),
    "controller": say("controller {a} = {b}"),
    "program": say("program {a}"),
    "pressure": say("pressure {a}"),
    "bend": say("bend {a}"),
}


def from_bytes(data: bytes | list[int]) -> Message | None:
    """The channel voice message in ``data``; None for system messages and anything incomplete or
    with data bytes over 127.

    A note-on with velocity 0 is read as the note-off that it means.
    """
    if not data or data[0] < 0x80 or data[0] >= 0xF0:
        return None
    kind, channel = KINDS[data[0] & 0xF0], data[0] & 0x0F
    if len(data) != STATUS[kind][1] + 1 or max(data[1:]) > 127:
        return None
    first, second = data[1], data[2] if len(data) > 2 else 0
    if kind == "bend":
        return Message(kind, channel, first | second << 7)
    if kind == "note_on" and second == 0:
        kind = "note_off"
    return Message(kind, channel, first, second)
