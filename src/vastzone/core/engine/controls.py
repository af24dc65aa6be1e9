"""Tables of what controls send: notes and movements, everywhere they go."""

from vastzone.core.cache import derived
from vastzone.core.engine.console_contacts import Reports
from vastzone.core.engine.listen import Audience, Movers
from vastzone.core.engine.network import Network, Tree
from vastzone.core.engine.outside_programs import Shell
from vastzone.core.engine.reach import (
    course_of,
    emission_of,
    hearers,
    hearings,
    joined_tree,
)
from vastzone.core.engine.receivers import Receivers, Sources
from vastzone.core.engine.tables import (
    Controls,
    KeyId,
    Motion,
    Sending,
)
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Port
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.queries.functions import Sole, told
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.response.velocity import sent_velocities

NOTHING: Controls = {}


@derived(4096)
def control_table(owner: Shell, program: Program, world: Receivers) -> Controls:
    """What each control of a device does in a program, as its wiring and its pads let it be."""
    if not program.sends:
        return NOTHING
    table = _own_table(owner, program, world)
    if owner.reports:
        table = {key: _reported(table, owner.reports, key) for key in table}
    strokes = dict(owner.strokes)
    if strokes:
        table = {key: _struck_as(table, strokes, key) for key in table}
    return table


def _reported(table: Controls, reports: Reports, key: KeyId) -> tuple[Sending, ...]:
    """What a contact sends whose wiring may take it for others."""
    ref, bank = key
    if (ref, 0) not in reports:
        return table[key]
    sendings: list[Sending] = []
    for other, _ in reports[ref, 0]:
        sendings.extend(table.get((other, bank), ()))
    return tuple(sendings)


def _struck_as(table: Controls, strokes: dict[str, str], key: KeyId) -> tuple[Sending, ...]:
    """What a control sends that a pad in its input may make sound as another."""
    ref, bank = key
    device, control = read_ref(ref)
    if control not in strokes:
        return table[key]
    return table.get((ref_to(device, strokes[control]), bank), ())


@derived(1024)
def struck_among(controls: tuple[Control, ...]) -> frozenset[str]:
    """The controls that are hit or pressed, not moved along a way; the same while they stay."""
    struck = set()
    for control in controls:
        if control_ability(control).pressed:
            struck.add(control.id)
    return frozenset(struck)


@derived(4096)
def _own_table(owner: Shell, program: Program, world: Receivers) -> Controls:
    channels = tuple(sorted({zone.channel for zone in program.zones if zone.sends}))
    used = _used_channels(program.sends, channels)
    return _sends_table(
        owner.id,
        owner.ports,
        owner.local,
        program.sends,
        channels,
        struck_among(owner.controls),
        world.network,
        used,
        tuple(world.audiences[channel - 1] for channel in used),
        world.movers,
        owner.sole,
        owner.latching,
    )


@derived(2048)
def _used_channels(sends: tuple[Send, ...], zones: tuple[int, ...]) -> tuple[int, ...]:
    own = set()
    for send in sends:
        if send.channel is not None:
            own.add(send.channel)
    return tuple(sorted(own | set(zones)))


@derived(2048)
def _sends_table(
    owner: str,
    ports: tuple[Port, ...],
    local: bool,
    sends: tuple[Send, ...],
    channels: tuple[int, ...],
    struck: frozenset[str],
    net: Network,
    used: tuple[int, ...],
    audiences: tuple[Audience, ...],
    movers: Movers,
    sole: Sole,
    latching: frozenset[str],
) -> Controls:
    """``channels`` are those of the zones; ``audiences`` who hears each of the ``used`` ones."""
    source, heard = Sources(owner, ports, local), dict(zip(used, audiences, strict=True))
    own = owner if local else ""
    table: dict[tuple[str, int], list[Sending]] = {}
    for send in sends:
        here = channels if send.channel is None else (send.channel,)
        tree = joined_tree(source, send.ports, net)
        hit = send.control in struck
        by_channel = tuple([heard[channel] for channel in here])
        sending = _sending(send, tree, here, hit, by_channel, movers, own)
        does, latches = told(send, sole), send.control in latching
        if does is not None or latches:
            sending = sending._replace(does=does, latches=latches)
        table.setdefault((ref_to(owner, send.control), send.bank), []).append(sending)
    return {key: tuple(sendings) for key, sendings in table.items()}


@derived(32768)
def _sending(
    send: Send,
    tree: Tree,
    channels: tuple[int, ...],
    struck: bool,
    audiences: tuple[Audience, ...],
    movers: Movers,
    own: str,
) -> Sending:
    """What a setting sends; kept while all that can hear it on these channels stays.

    The device ``own`` hears its own controls.
    """
    if send.message == "none":
        return Sending(send, (), (), struck)
    source = Sources(own, (), bool(own))
    heard = list(zip(channels, audiences, strict=True))
    if send.message == "note":
        window, sent = (send.vel_low, send.vel_high), sent_velocities(send)
        notes = []
        for channel, audience in heard:
            awake = hearers(source, tree, window, audience, sent)
            emission = emission_of(
                send.control, window, channel - 1, send.number, tree, awake, sent
            )
            notes.append(emission)
        return Sending(send, tuple(notes), (), struck)
    course, kind, number = course_of(tree, send.message), send.message, send.wide
    motions = []
    for channel, audience in heard:
        hearing = hearings(source, tree, kind, channel - 1, number, audience, movers)
        motions.append(Motion(kind, channel - 1, number, tree, course, tuple(hearing)))
    return Sending(send, (), tuple(motions), struck)
