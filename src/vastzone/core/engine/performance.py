"""Hands on the rig: strikes, releases, pedals, and what sounds because of them.

The law: a release reaches exactly what its strike reached, whatever changed in between.  It holds
because a held key remembers its voices and never looks anything up again.
"""

from collections.abc import Iterable

from vastzone.core.engine.compile import Compiled, emission_at
from vastzone.core.engine.tables import Emission, KeyId, Line, Motion, Sending
from vastzone.core.engine.voice import Voice
from vastzone.core.midi.controllers import ALL_NOTES_OFF, ALL_SOUND_OFF, SUSTAIN


class Movement:
    """A control moved: the motion it sent, its value, and when each step had it."""

    __slots__ = ("at", "key", "motion", "times", "value")

    def __init__(
        self, key: KeyId, motion: Motion, value: int, at: float, times: list[float]
    ) -> None:
        self.key, self.motion, self.value, self.at, self.times = key, motion, value, at, times


class Performance:
    """The running state of a rig; ``load`` swaps the plan or the scene under the player's hands."""

    def __init__(self, compiled: Compiled) -> None:
        self.sounding: set[Voice] = set()
        self._held: dict[KeyId, list[Voice]] = {}
        self._sustained: dict[str, list[Voice]] = {}
        self._pedals: dict[KeyId, set[str]] = {}
        self._latched: dict[tuple[str, int], Voice] = {}
        self._flipped: dict[KeyId, bool] = {}
        self._down: dict[KeyId, list[KeyId]] = {}
        self._busy: dict[int, float] = {}
        self._status: dict[int, int] = {}
        self.load(compiled)

    def load(self, compiled: Compiled) -> None:
        """Use other tables from the next strike on; what is held stays as it was struck."""
        self.compiled = compiled
        self._keys = compiled.keys
        self._controls = compiled.controls

    def press(self, key: KeyId, velocity: int, at: float = 0.0) -> list[Voice]:
        """Strike a key at velocity 1–127, ``at`` milliseconds; the voices that begin."""
        return self._sound(key, self._keys.get(key, ()), velocity, at)

    def press_at(self, ref: str, channel: int, note: int, velocity: int, at: float) -> list[Voice]:
        """Let a raw note on channel 0–15 leave the output ``device:port``."""
        emission = emission_at(self.compiled, ref, channel, note)
        return self._sound((ref, channel << 7 | note), (emission,), velocity, at)

    def release_at(self, ref: str, channel: int, note: int, at: float) -> list[Voice]:
        """Let the raw note end."""
        return self.release((ref, channel << 7 | note), at)

    def _sound(
        self, key: KeyId, emissions: Iterable[Emission], velocity: int, at: float
    ) -> list[Voice]:
        if key in self._held:
            self.release(key, at)
        voices: list[Voice] = []
        for emission in emissions:
            if emission.low <= velocity <= emission.high:
                times = self._travel(emission.lines, 0x90 | emission.channel, at)
                for landing in emission.landings:
                    if landing.low <= velocity <= landing.high:
                        voice = Voice(key, emission, landing, velocity, at, times)
                        if landing.plain or self._begin(voice):
                            self.sounding.add(voice)
                            voices.append(voice)
        self._held[key] = voices
        return voices

    def _travel(self, lines: tuple[Line, ...], status: int, at: float) -> list[float]:
        """When the message has arrived after each step; DIN lines carry one message at a time."""
        times: list[float] = []
        for line, parent, before_ms, ms, short_ms in lines:
            start = (times[parent] if parent >= 0 else at) + before_ms
            if line >= 0:
                free = self._busy.get(line, 0.0)
                start = max(start, free)
                start += short_ms if self._status.get(line) == status else ms
                self._busy[line] = start
                self._status[line] = status
            else:
                start += ms
            times.append(start)
        return times

    def _begin(self, voice: Voice) -> bool:
        """What a mono, muting or toggling part does first; False when the strike stops a loop."""
        part, ref = voice.landing.part, voice.landing.ref
        if part.trigger == "toggle":
            running = self._latched.pop((ref, voice.landing.note), None)
            if running is not None:
                self.sounding.discard(running)
                return False
            self._latched[ref, voice.landing.note] = voice
        if part.mono:
            self._silence(v for v in list(self.sounding) if v.landing.ref == ref)
        if part.mute_group is not None:
            group = (ref.partition(":")[0], part.mute_group)
            self._silence(
                v for v in list(self.sounding)
                if (v.landing.ref.partition(":")[0], v.landing.part.mute_group) == group
            )  # fmt: skip
        return True

    def _silence(self, voices: Iterable[Voice]) -> None:
        for voice in voices:
            self.sounding.discard(voice)
            self._latched.pop((voice.landing.ref, voice.landing.note), None)

    def release(self, key: KeyId, at: float = 0.0) -> list[Voice]:
        """Let a key go; the voices that end (those under a pedal end with the pedal)."""
        ended: list[Voice] = []
        off: Emission | None = None
        for voice in self._held.pop(key, ()):
            if voice.emission is not off:
                off = voice.emission
                self._travel(off.lines, 0x80 | off.channel, at)
            landing = voice.landing
            if landing.part.trigger == "toggle":
                continue
            if self._pedals and landing.part.sustains and self._pedalled(landing.ref):
                self._sustained.setdefault(landing.ref, []).append(voice)
            elif voice in self.sounding:
                self.sounding.discard(voice)
                ended.append(voice)
        return ended

    def _pedalled(self, ref: str) -> bool:
        return any(ref in parts for parts in self._pedals.values())

    def move(self, key: KeyId, value: int, at: float = 0.0) -> list[Voice | Movement]:
        """Press, release or move a control: 127 is pressed or full travel, 0 released or rest."""
        done: list[Voice | Movement] = []
        sendings = self._controls.get(key, ())
        for index, sending in enumerate(sendings):
            sent = self._sent(key, sending, value)
            if sent is not None:
                done.extend(self._send(key, index, sending, sent, at))
        if value < 64:
            self._lift(key)
            for own in self._down.pop(key, ()):
                self.release(own, at)
        return done

    def _sent(self, key: KeyId, sending: Sending, value: int) -> int | None:
        """The value that a sender in its mode sends for a position; None for nothing."""
        send = sending.send
        if send.mode == "momentary":
            return send.low + round((send.high - send.low) * value / 127)
        if value < 64:
            return None
        if send.mode == "trigger":
            return send.high
        self._flipped[key] = not self._flipped.get(key, False)
        return send.high if self._flipped[key] else send.low

    def _send(
        self, key: KeyId, index: int, sending: Sending, value: int, at: float
    ) -> list[Voice | Movement]:
        done: list[Voice | Movement] = []
        follows_hand = sending.send.mode == "momentary"
        own = (f"{key[0]}#{index}", key[1])
        if sending.notes and value > 0:
            done.extend(self._sound(own, sending.notes, value, at))
            if follows_hand:
                self._down.setdefault(key, []).append(own)
        elif sending.notes:
            self.release(own, at)
        for motion in sending.motions:
            times = self._travel(motion.lines, 0xB0 | motion.channel, at)
            done.append(Movement(key, motion, value, at, times))
            self._hear(key if follows_hand else own, motion, value)
        return done

    def move_at(self, ref: str, motion: Motion, value: int, at: float) -> Movement:
        """Let a raw controller leave the output ``device:port``."""
        key = (ref, motion.channel << 7 | motion.number)
        times = self._travel(motion.lines, 0xB0 | motion.channel, at)
        self._hear(key, motion, value)
        return Movement(key, motion, value, at, times)

    def _hear(self, key: KeyId, motion: Motion, value: int) -> None:
        if motion.message != "controller":
            return
        parts = {h.ref for h in motion.hearings if h.is_part}
        if motion.number == SUSTAIN:
            if value >= 64:
                self._pedals.setdefault(key, set()).update(parts)
            else:
                self._lift(key)
        elif motion.number in (ALL_NOTES_OFF, ALL_SOUND_OFF):
            self._silence(v for v in list(self.sounding) if v.landing.ref in parts)

    def _lift(self, key: KeyId) -> None:
        """A pedal comes up: every part that it held is let go, whatever the scene says now."""
        for ref in self._pedals.pop(key, ()):
            if not self._pedalled(ref):
                for voice in self._sustained.pop(ref, ()):
                    self.sounding.discard(voice)

    def panic(self) -> list[Voice]:
        """Stop everything; the voices that were sounding."""
        stopped = list(self.sounding)
        for state in (self.sounding, self._held, self._sustained, self._pedals, self._latched,
                      self._flipped, self._down, self._busy, self._status):  # fmt: skip
            state.clear()
        return stopped

    def held(self) -> list[KeyId]:
        """The keys and controls that are down."""
        return list(self._held)
