"""Tables of what controls send: notes and movements, everywhere they go."""

from vastzone.core.engine.network import Network, Tree
from vastzone.core.engine.reach import (
    course_of,
    emission_of,
    hearers,
    hearings,
    joined_tree,
)
from vastzone.core.engine.tables import (
    Controls,
    Motion,
    Sending,
)
from vastzone.core.engine.wired import reports
from vastzone.core.engine.world import Sources, World
from vastzone.core.plan.cache import alike, derived
from vastzone.core.plan.drums import Strokes
from vastzone.core.plan.model import Device, Port
from vastzone.core.plan.touch import Control, Program, Send
from vastzone.core.response.velocity import sent_velocities

NOTHING: Controls = {}
STRUCK = frozenset(("pad", "button", "switch", "stop"))
"""Kinds of controls of which any strike is a press, however soft."""


@derived(4096)
def control_table(owner: Device, program: Program, world: World, strokes: Strokes = ()) -> Controls:
    """What each control of a device does in a program, some strokes taken for others."""
    if not program.sends:
        return NOTHING
    table = _own_table(owner, program, world)
    changed = reports(owner)
    if changed:
        table = {
            (ref, bank): tuple(
                s for other, _ in changed[ref, 0] for s in table.get((other, bank), ())
            )
            if (ref, 0) in changed
            else held
            for (ref, bank), held in table.items()
        }
    if not strokes:
        return table
    return {
        (ref, bank): table.get((f"{owner.id}:{as_}", bank), ()) if as_ is not None else held
        for (ref, bank), held in table.items()
        for as_ in (dict(strokes).get(ref.partition(":")[2]),)
    }


@derived(1024)
def struck_among(controls: tuple[Control, ...]) -> frozenset[str]:
    """The controls that are hit or pressed, not moved along a way; the same while they stay."""
    return frozenset(control.id for control in controls if control.kind in STRUCK)


@derived(4096)
def _own_table(owner: Device, program: Program, world: World) -> Controls:
    channels = tuple(sorted({z.channel for z in program.zones if z.on}))
    used = _used_channels(program.sends, channels)
    return _sends_table(
        owner.id,
        owner.ports,
        owner.local,
        program.sends,
        channels,
        struck_among(owner.controls),
        world.network,
        _hearing(world, used),
        world,
    )


@derived(8192)
def _hearing(world: World, channels: tuple[int, ...]) -> tuple[object, ...]:
    """Everything that can hear these channels: what decides a table of sends."""
    movers = alike(tuple(held.movers for held in world.ears.values() if held.movers))
    return movers, *(world.heard[c - 1] for c in channels)


@derived(2048)
def _used_channels(sends: tuple[Send, ...], zones: tuple[int, ...]) -> tuple[int, ...]:
    own = {s.channel for s in sends if s.channel is not None}
    return tuple(sorted(own | set(zones)))


@derived(2048, hidden=1)
def _sends_table(
    owner: str,
    ports: tuple[Port, ...],
    local: bool,
    sends: tuple[Send, ...],
    channels: tuple[int, ...],
    struck: frozenset[str],
    net: Network,
    heard: tuple[object, ...],
    world: World,
) -> Controls:
    source, movers = Sources(owner, ports, local), heard[0]
    own = owner if local else ""
    table: dict[tuple[str, int], list[Sending]] = {}
    for send in sends:
        used = channels if send.channel is None else (send.channel,)
        tree = joined_tree(source, send.ports, world.network)
        here = tuple([world.heard[c - 1] for c in used])
        hit = send.control in struck
        sending = _sending(send, tree, used, hit, here, movers, own, source, world)
        table.setdefault((f"{owner}:{send.control}", send.bank), []).append(sending)
    return {key: tuple(held) for key, held in table.items()}


@derived(32768, hidden=2)
def _sending(
    send: Send,
    tree: Tree,
    channels: tuple[int, ...],
    struck: bool,
    heard: tuple[object, ...],
    movers: object,
    own: str,
    source: Sources,
    world: World,
) -> Sending:
    """What a setting sends; kept while all that can hear it on these channels stays."""
    if send.message == "none":
        return Sending(send, (), (), struck)
    if send.message == "note":
        window, sent = (send.vel_low, send.vel_high), sent_velocities(send)
        notes = tuple(
            emission_of(
                send.control,
                window,
                c - 1,
                send.number,
                tree,
                hearers(source, tree, c - 1, window, world, sent),
                sent,
            )
            for c in channels
        )
        return Sending(send, notes, (), struck)
    course = course_of(tree, send.message)
    motions = tuple(
        Motion(
            send.message,
            c - 1,
            send.wide,
            tree,
            course,
            tuple(hearings(source, tree, send.message, c - 1, send.wide, world)),
        )
        for c in channels
    )
    return Sending(send, (), motions, struck)
