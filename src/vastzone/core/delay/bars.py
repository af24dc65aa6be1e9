"""Ways gathered for a picture: what takes the same way in the same time is one bar."""

from typing import NamedTuple

from vastzone.core.delay.paths import DelayPath, Piece
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.say import say
from vastzone.core.text import listed


class DelayBar(NamedTuple):
    """Ways of one device to another that take the same pieces: names of both ends, the pieces."""

    paths: tuple[DelayPath, ...]
    begins: str
    ends: str
    drummed: bool

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """What they take."""
        return self.paths[0].pieces

    @property
    def worst_ms(self) -> float:
        """What that comes to at worst."""
        return self.paths[0].worst_ms

    @property
    def usual_ms(self) -> float:
        """What that comes to usually."""
        return self.paths[0].usual_ms

    @property
    def words(self) -> str:
        """Both ends and all pieces in words."""
        told = []
        for piece in self.pieces:
            told.append(
                say(
                    "{kind} {worst_ms:.1f} ({where})",
                    kind=piece.kind,
                    worst_ms=piece.worst_ms,
                    where=piece.where,
                )
            )
        return say(
            "{begins} to {ends}: {told}; {worst_ms:.1f} ms at worst, usually {usual_ms:.1f}.",
            begins=self.begins,
            ends=self.ends,
            told=", ".join(told) or say("nothing"),
            worst_ms=self.worst_ms,
            usual_ms=self.usual_ms,
        )


def bars(plan: Plan, paths: tuple[DelayPath, ...]) -> tuple[DelayBar, ...]:
    """Bars of some ways: drummers first, then the latest first; movements after what sounds."""
    gathered: dict[tuple[str, str, tuple[Piece, ...]], list[DelayPath]] = {}
    for path in paths:
        key = (device_of(path.source), device_of(path.dest), path.pieces)
        gathered.setdefault(key, []).append(path)
    made = []
    for (source, dest, _), together in gathered.items():
        made.append(
            DelayBar(
                tuple(together),
                _begins(plan, source, together),
                _ends(plan, dest, together),
                _is_drummed(plan, together[0]),
            )
        )
    return tuple(
        sorted(made, key=lambda bar: (not bar.paths[0].sounds, not bar.drummed, -bar.worst_ms))
    )


def _begins(plan: Plan, source: str, paths: list[DelayPath]) -> str:
    device = lookup.device(plan, source).name
    names = dict.fromkeys(path.name.removeprefix(f"{device}, ") for path in paths)
    return f"{device}, {listed(names, 2)}"


def _ends(plan: Plan, dest: str, paths: list[DelayPath]) -> str:
    device = lookup.device(plan, dest).name
    names = dict.fromkeys(
        path.ends_at.removesuffix(say(" of {device}", device=device)) for path in paths
    )
    return f"{device}, {listed(names, 2)}"


def _is_drummed(plan: Plan, path: DelayPath) -> bool:
    """Whether it begins at a pad or a trigger."""
    device = lookup.device(plan, device_of(path.source))
    control = lookup.controls_by_id(device).get(thing_of(path.source))
    return control is not None and control_ability(control).hard
