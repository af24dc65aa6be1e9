"""What a control sends as a hand moves it, in its mode: what senders remember between strokes."""

import math
from typing import Literal

from vastzone.core.engine.tables import KeyId, Sending
from vastzone.core.midi.turns import MOST_STEPS
from vastzone.core.plan.model.controls import Send
from vastzone.core.response.sources import falls, row_of
from vastzone.core.response.sweep import sent_value

Phase = Literal["press", "release", "travel"]


class Senders:
    """Toggles, switches that stay down, rows of values, knobs without ends: as they were left."""

    def __init__(self) -> None:
        self._flipped: dict[KeyId, bool] = {}
        self._latched: dict[KeyId, bool] = {}
        self._strokes: dict[KeyId, int] = {}
        self._turned: dict[KeyId, float] = {}

    def clear(self) -> None:
        """Everything is as after switching on."""
        for state in (self._flipped, self._latched, self._strokes, self._turned):
            state.clear()

    def latch(self, key: KeyId) -> float:
        """Where a control is after it was pressed that stays down until it is pressed again."""
        self._latched[key] = not self._latched.get(key, False)
        return 127.0 if self._latched[key] else 0.0

    def sent(self, own: KeyId, sending: Sending, value: float, phase: Phase) -> float | None:
        """The value that a sender in its mode sends; None for nothing."""
        send = sending.send
        moves = not sending.notes and send.message != "program"
        if moves and send.mode == "momentary" and send.drive is None:
            return sent_value(send, value / 127)
        if phase != "press" or not self._comes(own, send):
            return None
        if moves and send.drive is not None:
            place = row_of(send.drive, self._strokes[own])[-1]
            return sent_value(send, place / 127)
        if sending.notes:
            return self._struck(own, send, velocity_of(value))
        if send.message == "program" or send.mode == "trigger":
            return send.high
        return send.high if self._flips(own) else send.low

    def steps_turned(self, own: KeyId, position: float) -> int:
        """By how many steps a control without ends was turned since it was moved last."""
        before = self._turned.get(own, 0.0)
        steps = max(-MOST_STEPS, min(MOST_STEPS, round(position - before)))
        self._turned[own] = before + steps
        return steps

    def _comes(self, own: KeyId, send: Send) -> bool:
        """Whether a stroke sends at all, and does not fall to chance."""
        self._strokes[own] = self._strokes.get(own, 0) + 1
        return send.chance >= 100 or falls(send.chance, self._strokes[own])

    def _struck(self, own: KeyId, send: Send, velocity: int) -> int | None:
        """How hard a note is struck; 0 where a toggle lets it go, None where it is not meant."""
        if not within(send, velocity):
            return None
        lets_go = send.mode == "toggle" and not self._flips(own)
        return 0 if lets_go else velocity

    def _flips(self, key: KeyId) -> bool:
        self._flipped[key] = not self._flipped.get(key, False)
        return self._flipped[key]


def velocity_of(value: float) -> int:
    """How hard a value 0–127 strikes: at least 1."""
    return max(1, min(127, math.ceil(value)))


def within(send: Send, velocity: int) -> bool:
    """Whether a send is meant for strikes so hard."""
    return send.vel_low <= velocity <= send.vel_high
