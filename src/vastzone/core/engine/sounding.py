"""What sounds: voices that begin, exclude each other, are held by pedals, and end."""

from collections.abc import Callable, Iterable
from typing import NamedTuple

from vastzone.core.engine.tables import KeyId, Landing
from vastzone.core.engine.voice import Strike, Voice
from vastzone.core.plan.refs import device_of


class Held(NamedTuple):
    """Parts that a pedal holds, and whether its hand lets them go by coming up.

    It holds those that answer a sustain pedal, or ``every`` one; of what is struck everything, or
    ``only`` what already sounded as it went down.
    """

    parts: set[str]
    by_hand: bool
    every: bool = False
    only: frozenset[Strike] | None = None

    def holds(self, voice: Voice) -> bool:
        """Whether a voice goes on because of it."""
        landing = voice.landing
        if landing.ref not in self.parts or not (self.every or landing.part.sustains):
            return False
        return self.only is None or voice.strike in self.only


class Sounding:
    """Everything that sounds now, and why it still does.

    ``strikes`` have voices in them; ``sustained`` are those whose key is up, by their key, and
    ``pedals`` what holds them.
    """

    def __init__(self) -> None:
        self.strikes: set[Strike] = set()
        self.sustained: dict[KeyId, list[Voice]] = {}
        self.pedals: dict[KeyId, Held] = {}
        self._latched: dict[tuple[str, int], Voice] = {}

    @property
    def voices(self) -> set[Voice]:
        """Every voice."""
        voices = set()
        for strike in self.strikes:
            for voice in strike.voices:
                voices.add(voice)
        return voices

    def clear(self) -> None:
        """Silence."""
        for state in (self.strikes, self.sustained, self.pedals, self._latched):
            state.clear()

    def arrive(self, begun: list[Strike]) -> None:
        """Let what was struck arrive, the earliest first: it decides what mono parts end on."""
        voices: list[Voice] = []
        for strike in begun:
            voices += (Voice(strike, la) for la in strike.landings if _answers(la, strike))
            strike.landings = []
        voices.sort(key=_arrival)
        for voice in voices:
            strike, landing = voice
            if landing.plain or self._starts(voice):
                strike.landings = [*strike.landings, landing]
                self.strikes.add(strike)

    def _starts(self, voice: Voice) -> bool:
        """Whether a voice begins to stay; False where it stops a loop, or is cut off already."""
        part, ref = voice.landing.part, voice.landing.ref
        loop = (ref, voice.landing.note)
        if part.trigger == "toggle":
            # A loop that runs is stopped by the next strike of it, which itself begins nothing.
            running = self._latched.pop(loop, None)
            if running is not None:
                self.end(running)
                return False
            self._latched[loop] = voice
        if part.mono or part.mute_group is not None:
            rivals = []
            for other in self.voices:
                if _excludes(voice, other):
                    rivals.append(other)
            # Struck earlier but longer on its way: the rival has the last word.
            if any(other.arrives > voice.arrives for other in rivals):
                self._latched.pop(loop, None)
                return False
            for other in rivals:
                self.cut(other)
        return True

    def cut(self, voice: Voice) -> None:
        """End a voice, and the loop that it was."""
        self.end(voice)
        self._latched.pop((voice.landing.ref, voice.landing.note), None)

    def end(self, voice: Voice) -> bool:
        """Take one voice out of its strike; whether it was still sounding."""
        strike, landing = voice
        if strike not in self.strikes or landing not in strike.landings:
            return False
        strike.landings = [la for la in strike.landings if la is not landing]
        if not strike.landings:
            self.strikes.discard(strike)
        return True

    def silence(self, which: Callable[[Landing], bool]) -> None:
        """End every voice that is meant."""
        for voice in self.voices:
            if which(voice.landing):
                self.cut(voice)

    def key_up(self, voice: Voice) -> bool:
        """Whether a voice ends as its key is let go.

        A loop goes on, and a one-shot runs to its own end: neither is ended by the release, though
        a one-shot counts as sounding no longer, since nobody here knows how long it lasts.
        """
        landing = voice.landing
        if landing.part.trigger == "toggle":
            return False
        if landing.part.trigger == "one-shot":
            self.end(voice)
            return False
        if self.pedals and self._pedalled(voice):
            self.sustained.setdefault(voice.key, []).append(voice)
            return False
        return self.end(voice)

    def shots_over(self, strikes: Iterable[Strike]) -> None:
        """The hand is up: one-shots count as sounding no longer, whether or not that is sent."""
        for strike in strikes:
            for voice in strike.voices:
                if voice.landing.part.trigger == "one-shot":
                    self.end(voice)

    def _pedalled(self, voice: Voice) -> bool:
        return any(pedal.holds(voice) for pedal in self.pedals.values())

    def lift(self, key: KeyId) -> None:
        """A pedal comes up: every part that it held is let go, whatever the scene says now."""
        pedal = self.pedals.pop(key, None)
        if pedal is None:
            return
        # Two pedals may hold one part: only what no pedal holds any longer ends.
        for struck, voices in list(self.sustained.items()):
            kept = []
            for voice in voices:
                if self._pedalled(voice):
                    kept.append(voice)
                else:
                    self.end(voice)
            if kept:
                self.sustained[struck] = kept
            else:
                del self.sustained[struck]


def _answers(landing: Landing, strike: Strike) -> bool:
    return landing.low <= strike.velocity <= landing.high


def _arrival(voice: Voice) -> float:
    return voice.arrives


def _excludes(voice: Voice, other: Voice) -> bool:
    """Whether one voice takes the place of another: of its mono part, or of its mute group."""
    one, two = voice.landing, other.landing
    if one.ref == two.ref and one.part.mono:
        return True
    same_device = device_of(one.ref) == device_of(two.ref)
    group = one.part.mute_group
    return group is not None and group == two.part.mute_group and same_device
