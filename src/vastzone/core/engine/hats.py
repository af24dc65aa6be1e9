"""Hands and a foot on a hi-hat: the pedal decides what a stroke sounds, plays by itself and chokes.

A foot that closes the pedal within ``CHICK_MS`` of its being open plays the chick, the harder the
faster; one that opens it again within ``SPLASH_MS`` plays the splash instead.  Closing chokes
whatever the hat was ringing.  These times are taken from players' feet and are no standard.
"""

from typing import NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.receivers import outsides
from vastzone.core.engine.tables import KeyId
from vastzone.core.engine.voice import Voice
from vastzone.core.plan.queries.hats import Hat

CHICK_MS = 120.0
SPLASH_MS = 150.0
SOFTEST, HARDEST = 40, 127
SPLASH_VELOCITY = 90

Done = list[Voice | Movement]


class Foot(NamedTuple):
    """Where a pedal is, 0 (up) to 127; when it was last open, and when it last closed smartly."""

    position: float = 0.0
    open_at: float | None = None
    closed_at: float | None = None


class HatPlayer:
    """Plays the hi-hats of whatever a performance plays; every other control goes as it is."""

    def __init__(self, performance: Performance) -> None:
        self._performance = performance
        self._feet: dict[str, Foot] = {}
        self._down: dict[KeyId, KeyId] = {}
        self._ringing: dict[str, dict[str, None]] = {}

    def hit(self, key: KeyId, value: float, at: float = 0.0) -> Done:
        """Strike a control at 1–127, or let it go at 0: a hat sounds as its pedal stands."""
        if value <= 0:
            return self._performance.move(self._down.pop(key, key), 0, at)
        hat = self._hat_struck(key[0])
        heard = key
        if hat is not None:
            heard = (hat.sounds_as(key[0], self.position(hat)), key[1])
            if hat.state(self.position(hat)) != "closed":
                self._ringing.setdefault(hat.ref, {})[heard[0]] = None
        self._down[key] = heard
        return self._performance.move(heard, value, at)

    def sounds_as(self, key: KeyId) -> KeyId:
        """The control that a hit on one sounds as now: itself where it is no hat's."""
        hat = self._hat_struck(key[0])
        return key if hat is None else (hat.sounds_as(key[0], self.position(hat)), key[1])

    def position(self, hat: Hat) -> float:
        """Where the pedal of a hat is, 0 (up) to 127 (down)."""
        return self._feet.get(hat.ref, Foot()).position

    def tread(self, hat: Hat, position: float, at: float = 0.0) -> Done:
        """Move the pedal of a hat to 0 (up) – 127 (down); what the foot played by that."""
        foot = self._feet.get(hat.ref, Foot(open_at=at))
        before, after = hat.state(foot.position), hat.state(position)
        done: Done = []
        if hat.pedal:
            done += self._performance.move((hat.pedal, 1), position, at)
        open_at = at if "open" in (before, after) else foot.open_at
        closed_at = foot.closed_at
        if after == "closed" and before != "closed":
            closed_at = None
            self.choke(hat, at)
            if open_at is not None and at - open_at <= CHICK_MS:
                closed_at = at
                done += self._play(hat.chick, _speed(at - open_at), at)
        elif before == "closed" and after != "closed":
            self._let_go(hat.chick, at)
        if after == "open" and before != "open" and closed_at is not None:
            if at - closed_at <= SPLASH_MS:
                self._performance.cut(hat.chick)
                done += self._play(hat.splash, SPLASH_VELOCITY, at)
                self._ringing.setdefault(hat.ref, {})[hat.splash] = None
            closed_at = None
        self._feet[hat.ref] = Foot(position, open_at, closed_at)
        return done

    def ringing(self, hat: Hat) -> tuple[str, ...]:
        """The controls of a hat that ring since they were struck with the pedal up or half up."""
        return tuple(control for control in self._ringing.get(hat.ref, ()) if control)

    def choke(self, hat: Hat, at: float = 0.0) -> None:
        """Stop what a hat is ringing: a hand at its edge, or its pedal coming down."""
        self._ringing.pop(hat.ref, None)
        self._let_go(hat.splash, at)
        for control in (*hat.struck, *hat.heard.values(), hat.splash):
            if control:
                self._performance.cut(control)

    def clear(self) -> None:
        """All pedals are up."""
        self._feet.clear()
        self._ringing.clear()
        self._down.clear()

    def hats(self) -> tuple[Hat, ...]:
        """The hats of the plan that is played."""
        return hats_in(self._performance.compiled)

    def hat_trodden(self, control: str) -> Hat | None:
        """The hat that a control ``device:control`` is the pedal of."""
        for hat in self.hats():
            if control and control == hat.pedal:
                return hat
        return None

    def _hat_struck(self, control: str) -> Hat | None:
        for hat in self.hats():
            if control in hat.struck:
                return hat
        return None

    def _play(self, control: str, velocity: int, at: float) -> Done:
        if not control:
            return []
        self._performance.move((control, 1), 0, at)
        return self._performance.move((control, 1), velocity, at)

    def _let_go(self, control: str, at: float) -> None:
        if control:
            self._performance.move((control, 1), 0, at)


def hats_in(compiled: Compiled) -> tuple[Hat, ...]:
    """The hats of a plan whose pedals are plugged in."""
    hats: list[Hat] = []
    for shell in outsides(compiled.plan).shells:
        hats.extend(shell.hats)
    return tuple(hats)


def _speed(ms: float) -> int:
    """How hard a chick is that took so long from open to closed."""
    share = 1.0 - max(0.0, min(1.0, ms / CHICK_MS))
    return round(SOFTEST + (HARDEST - SOFTEST) * share)
