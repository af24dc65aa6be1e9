"""What draws several things at once in an organ: couplers, pistons, a crescendo.

All of these are held by the device that they stand in: a console's encoder, which then sends what
each stop sends, or the organ itself, which then acts on its own targets.
"""

from typing import Annotated

from msgspec import Meta

from vastzone.core.plan.model.values import Id, Name, Ref, Semitones, Value


class Coupler(Value, frozen=True, kw_only=True, cache_hash=True):
    """While ``target`` is on, what plays the part ``of`` also plays another, ``shift`` away.

    One that goes ``through`` hands on what comes from other couplers.  It is ``on`` only in what
    is simulated.
    """

    id: Id
    name: Name
    target: Id | None = None
    of: Id
    plays: Id
    shift: Semitones = 0
    through: bool = False
    on: bool = False


class Combination(Value, frozen=True, kw_only=True):
    """What a piston draws: everything that it ``governs`` and ``draws`` goes on, the rest off.

    It is set off ``by`` a control of its device, and draws controls; or by a target, and draws
    targets.  One that governs nothing in particular governs what any combination there draws.
    """

    id: Id
    name: Name
    by: Id
    draws: Annotated[tuple[Id, ...], Meta(max_length=512)] = ()
    governs: Annotated[tuple[Id, ...], Meta(max_length=512)] = ()


class Crescendo(Value, frozen=True, kw_only=True):
    """What a shoe, or a target, adds stage by stage, besides what is drawn by hand."""

    id: Id
    name: Name
    by: Id
    stages: Annotated[
        tuple[Annotated[tuple[Id, ...], Meta(max_length=128)], ...], Meta(max_length=64)
    ] = ()


class Coupling(Value, frozen=True, kw_only=True):
    """A wish: while a stop (``device:control``) is drawn, some keys also play a part.

    The ``keys`` are a keybed, ``plays`` a part that sounds ``shift`` semitones from the key.  It
    holds in these scenes, in all of them when empty.
    """

    id: Id
    name: Name
    stop: Ref
    keys: Ref
    plays: Ref
    shift: Semitones = 0
    scenes: tuple[Id, ...] = ()


def stages_at(crescendo: Crescendo, value: float) -> int:
    """How many stages are drawn at a value 0–127: stage k of n from 128·k / (n + 1) on."""
    return int(value * (len(crescendo.stages) + 1) // 128)
