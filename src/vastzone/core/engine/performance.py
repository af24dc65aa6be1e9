"""Hands on the rig: strikes, releases, pedals, and what sounds because of them.

The law: a release reaches exactly what its strike reached, whatever changed in between.  It holds
because a held key remembers its voices and never looks anything up again.
"""

import math
from collections.abc import Callable, Sequence

from vastzone.core.engine.compile import Compiled, emission_at
from vastzone.core.engine.tables import Emission, Hearing, KeyId, Landing, Motion, Sending
from vastzone.core.engine.traffic import Traffic
from vastzone.core.engine.voice import Strike, Voice
from vastzone.core.midi.controllers import ALL_NOTES_OFF, ALL_SOUND_OFF, SUSTAIN
from vastzone.core.midi.wide import FINE_KINDS, TOP, Reading
from vastzone.core.response.sweep import exact_value, fine_value, sent_value


class Movement:
    """A control moved: the motion it sent, its value, and when each step had it.

    ``fine`` is the value in 14 bits; ``waiting`` are targets that its value has not met yet.
    """

    __slots__ = ("at", "fine", "key", "motion", "times", "value", "waiting")

    def __init__(
        self, key: KeyId, motion: Motion, value: int, at: float, times: Sequence[float],
        fine: int | None = None,
    ) -> None:  # fmt: skip
        self.key, self.motion, self.value, self.at, self.times = key, motion, value, at, times
        self.fine = value << 7 if fine is None else fine
        self.waiting: frozenset[str] = frozenset()

    def reaches(self, reads: Reading) -> float:
        """The value that a listener to these bits takes, as a share 0–1 of its range."""
        if reads == "fine":
            return (self.fine & 0x7F) / 127
        wide = self.motion.message in FINE_KINDS
        return self.fine / TOP if wide and reads == "whole" else self.value / 127


class Performance:
    """The running state of a rig; ``load`` swaps the plan or the scene under the player's hands.

    ``strike`` and ``let_go`` are what one message costs; ``press`` and ``release`` tell the same
    part by part.
    """

    def __init__(self, compiled: Compiled) -> None:
        self._strikes: set[Strike] = set()
        self._held: dict[KeyId, list[Strike]] = {}
        self._sustained: dict[str, list[Voice]] = {}
        self._pedals: dict[KeyId, set[str]] = {}
        self._latched: dict[tuple[str, int], Voice] = {}
        self._flipped: dict[KeyId, bool] = {}
        self._down: dict[KeyId, list[KeyId]] = {}
        self._stands: dict[str, tuple[float, KeyId]] = {}
        self._before: dict[tuple[str, KeyId], float] = {}
        self._traffic = Traffic()
        self.load(compiled)

    def load(self, compiled: Compiled) -> None:
        """Use other tables from the next strike on; what is held stays as it was struck."""
        self.compiled = compiled
        self._keys = compiled.keys
        self._controls = compiled.controls

    @property
    def sounding(self) -> set[Voice]:
        """Everything that sounds now."""
        return {voice for strike in self._strikes for voice in strike.voices}

    def press(self, key: KeyId, velocity: int, at: float = 0.0) -> list[Voice]:
        """Strike a key at velocity 1–127, ``at`` milliseconds; the voices that begin."""
        return [v for strike in self.strike(key, velocity, at) for v in strike.voices]

    def release(self, key: KeyId, at: float = 0.0) -> list[Voice]:
        """Let a key go; the voices that end (those under a pedal end with the pedal)."""
        ended: list[Voice] = []
        self.let_go(key, at, ended)
        return ended

    def strike(self, key: KeyId, velocity: int, at: float) -> list[Strike]:
        """Strike a key; what each of its emissions began."""
        return self._sound(key, self._keys.get(key, ()), velocity, at)

    def press_at(self, ref: str, channel: int, note: int, velocity: int, at: float) -> list[Voice]:
        """Let a raw note on channel 0–15 leave the output ``device:port``."""
        emission = emission_at(self.compiled, ref, channel, note)
        begun = self._sound((ref, channel << 7 | note), (emission,), velocity, at)
        return [v for strike in begun for v in strike.voices]

    def release_at(self, ref: str, channel: int, note: int, at: float) -> list[Voice]:
        """Let the raw note end."""
        return self.release((ref, channel << 7 | note), at)

    def _sound(
        self, key: KeyId, emissions: Sequence[Emission], velocity: int, at: float
    ) -> list[Strike]:
        if key in self._held:
            self.let_go(key, at)
        begun: list[Strike] = []
        for emission in emissions:
            if emission.low <= velocity <= emission.high:
                times = self._traffic.send(emission.course, 0x90 | emission.channel, at)
                strike = Strike(key, emission, velocity, at, times, emission.landings)
                if not emission.simple:
                    strike.landings = self._begin(strike)
                begun.append(strike)
        self._strikes.update(begun)
        self._held[key] = begun
        return begun

    def _begin(self, strike: Strike) -> list[Landing]:
        """The landings of a strike that begin, after what mono, muting and toggling parts do."""
        begun: list[Landing] = []
        for landing in strike.emission.landings:
            within = landing.low <= strike.velocity <= landing.high
            if within and (landing.plain or self._starts(Voice(strike, landing))):
                begun.append(landing)
        return begun

    def _starts(self, voice: Voice) -> bool:
        """Whether a voice begins; False when the strike stops a loop instead."""
        part, ref = voice.landing.part, voice.landing.ref
        if part.trigger == "toggle":
            running = self._latched.pop((ref, voice.landing.note), None)
            if running is not None:
                self._end(running)
                return False
            self._latched[ref, voice.landing.note] = voice
        if part.mono:
            self._silence(lambda landing: landing.ref == ref)
        if part.mute_group is not None:
            device, group = ref.partition(":")[0], part.mute_group
            self._silence(
                lambda la: la.part.mute_group == group and la.ref.partition(":")[0] == device
            )
        return True

    def _end(self, voice: Voice) -> bool:
        """Take one voice out of its strike; whether it was still sounding."""
        strike, landing = voice
        if strike not in self._strikes or landing not in strike.landings:
            return False
        strike.landings = [la for la in strike.landings if la is not landing]
        if not strike.landings:
            self._strikes.discard(strike)
        return True

    def _silence(self, which: Callable[[Landing], bool]) -> None:
        for voice in self.sounding:
            if which(voice.landing):
                self._end(voice)
                self._latched.pop((voice.landing.ref, voice.landing.note), None)

    def let_go(self, key: KeyId, at: float, ended: list[Voice] | None = None) -> None:
        """Let a key go; the voices that end are added to ``ended``."""
        for strike in self._held.pop(key, ()):
            emission = strike.emission
            self._traffic.send(emission.course, 0x80 | emission.channel, at)
            if emission.simple and not self._pedals:
                if ended is not None and strike in self._strikes:
                    ended.extend(strike.voices)
                self._strikes.discard(strike)
                continue
            for voice in strike.voices:
                if self._ends(voice) and ended is not None:
                    ended.append(voice)

    def _ends(self, voice: Voice) -> bool:
        """Whether a voice ends as its key is let go."""
        landing = voice.landing
        if landing.part.trigger == "toggle":
            return False
        if self._pedals and landing.part.sustains and self._pedalled(landing.ref):
            self._sustained.setdefault(landing.ref, []).append(voice)
            return False
        return self._end(voice)

    def _pedalled(self, ref: str) -> bool:
        return any(ref in parts for parts in self._pedals.values())

    def move(self, key: KeyId, value: float, at: float = 0.0) -> list[Voice | Movement]:
        """Press, release or move a control: 127 is pressed or full travel, 0 released or rest."""
        done: list[Voice | Movement] = []
        sendings = self._controls.get(key, ())
        if value > 0:
            self._choke(key[0].partition(":")[0], sendings)
        for index, sending in enumerate(sendings):
            sent = self._sent((f"{key[0]}#{index}", key[1]), sending, value)
            if sent is not None:
                done.extend(self._send(key, index, sending, sent, at, value))
        if value < 64:
            self._lift(key)
            for own in self._down.pop(key, ()):
                self.release(own, at)
        return done

    def _choke(self, device: str, sendings: Sequence[Sending]) -> None:
        """A pad that mutes a group stops what the pads of that group on its device began."""
        groups = {s.send.mutes for s in sendings} - {None}
        if not groups:
            return
        for (ref, bank), held in self._controls.items():
            if ref.partition(":")[0] == device and held is not sendings:
                for index, other in enumerate(held):
                    if other.send.muted_by in groups:
                        key = (f"{ref}#{index}", bank)
                        for voice in self.sounding:
                            if voice.key == key and self._end(voice):
                                self._latched.pop((voice.landing.ref, voice.landing.note), None)

    def _sent(self, key: KeyId, sending: Sending, value: float) -> int | None:
        """The value that a sender in its mode sends for a position; None for nothing."""
        send = sending.send
        if sending.notes and (send.mode == "momentary" or value > 0):
            struck = min(127, math.ceil(value))
            return struck if send.mode != "toggle" or self._flips(key) else 0
        if send.mode == "momentary":
            return sent_value(send, value / 127)
        if value < 64:
            return None
        if send.mode == "trigger":
            return send.high
        return send.high if self._flips(key) else send.low

    def _flips(self, key: KeyId) -> bool:
        self._flipped[key] = not self._flipped.get(key, False)
        return self._flipped[key]

    def _send(
        self, key: KeyId, index: int, sending: Sending, value: int, at: float, position: float
    ) -> list[Voice | Movement]:
        done: list[Voice | Movement] = []
        follows_hand = sending.send.mode == "momentary"
        own = (f"{key[0]}#{index}", key[1])
        if sending.notes and value > 0:
            begun = self._sound(own, sending.notes, value, at)
            done.extend(voice for strike in begun for voice in strike.voices)
            if follows_hand:
                self._down.setdefault(key, []).append(own)
        elif sending.notes:
            self.release(own, at)
        fine = None
        if sending.motions and sending.send.message in FINE_KINDS:
            exact = exact_value(sending.send, position / 127) if follows_hand else value
            fine = fine_value(exact)
            value = fine >> 7
        for motion in sending.motions:
            done.append(self._moved(key, motion, value, at, fine))
            self._hear(key if follows_hand else own, motion, value)
        return done

    def _moved(
        self, key: KeyId, motion: Motion, value: int, at: float, fine: int | None = None
    ) -> Movement:
        """Send a movement; targets with pick-up wait until it meets the value that stands."""
        times = self._traffic.send(motion.course, 0xB0 | motion.channel, at)
        moved = Movement(key, motion, value, at, times, fine)
        for hearing in motion.hearings:
            if hearing.target is not None and hearing.target.takeover == "pick-up":
                share = moved.reaches(hearing.reads)
                if self._catches(hearing, key, share):
                    self._stands[hearing.ref] = share, key
                else:
                    moved.waiting |= {hearing.ref}
                self._before[hearing.ref, key] = share
        return moved

    def _catches(self, hearing: Hearing, key: KeyId, share: float) -> bool:
        """Whether a control moves a target with pick-up: it did last, or meets what stands."""
        stands, mover = self._stands.get(hearing.ref, (share, key))
        before = self._before.get((hearing.ref, key), share)
        return mover == key or min(before, share) <= stands <= max(before, share)

    def move_at(
        self, ref: str, motion: Motion, value: int, at: float, fine: int | None = None
    ) -> Movement:
        """Let a raw controller leave the output ``device:port``; ``fine`` is all 14 bits."""
        kind = "" if motion.message == "controller" else f"#{motion.message}"
        key = (f"{ref}{kind}", motion.channel << 14 | motion.number)
        self._hear(key, motion, value)
        return self._moved(key, motion, value, at, fine)

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
            self._silence(lambda landing: landing.ref in parts)

    def _lift(self, key: KeyId) -> None:
        """A pedal comes up: every part that it held is let go, whatever the scene says now."""
        for ref in self._pedals.pop(key, ()):
            if not self._pedalled(ref):
                for voice in self._sustained.pop(ref, ()):
                    self._end(voice)

    def panic(self) -> list[Voice]:
        """Stop everything; the voices that were sounding."""
        stopped = list(self.sounding)
        for state in (self._strikes, self._held, self._sustained, self._pedals, self._latched,
                      self._flipped, self._down, self._stands, self._before):  # fmt: skip
            state.clear()
        self._traffic.clear()
        return stopped

    def held(self) -> list[KeyId]:
        """The keys and controls that are down."""
        return list(self._held)
