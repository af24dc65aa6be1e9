"""Where a message goes from a sender, when it arrives, and who hears it there."""

from collections.abc import Iterable, Iterator

from vastzone.core.cache import derived
from vastzone.core.engine.listen import Audience, Listener, Movers
from vastzone.core.engine.network import ArcTaken, Network, Tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.engine.tables import (
    Emission,
    Hearing,
    Landing,
    TimedStep,
    Timing,
)
from vastzone.core.engine.traffic import Lines, simulate
from vastzone.core.midi.controllers import HEARD_BY_PARTS
from vastzone.core.midi.wide import PIECES, sent_numbers
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.response.velocity import strikes_for
from vastzone.core.timing.hops import din_ms, link_ms

LOCAL = -1


Awake = list[tuple[Listener, tuple[int, int, int, float, bool], bool]]
"""Listeners that can sound: velocities, step, delay and whether plain; whether that is simple."""


def awake_among(
    here: Iterable[tuple[Listener, int, float]], window: tuple[int, int], sent: bytes = b""
) -> Awake:
    """Who can sound within a window of strikes that send these velocities."""
    awake: Awake = []
    for listener, step, delay_ms in here:
        part = listener.part
        low, high = strikes_for(sent, window, (part.vel_low, part.vel_high))
        if low <= high:
            plain = _plain(part)
            simple = plain and (low, high) == window
            awake.append((listener, (low, high, step, delay_ms, plain), simple))
    return awake


def joined_tree(source: Sources, chosen: tuple[str, ...], net: Network) -> Tree:
    """The trees of the outputs that a sender uses (all of its device's when none is chosen)."""
    outs = tuple(
        port.id for port in source.ports if port.flow != "in" and (not chosen or port.id in chosen)
    )
    return _joined(source.id, outs, net)


@derived(512)
def _joined(owner: str, outs: tuple[str, ...], net: Network) -> Tree:
    steps: list[ArcTaken] = []
    rings: list[tuple[str, ...]] = []
    for out in outs:
        # Parents are counted within their own tree: joined, they move up by what lies before.
        tree, offset = net.trees[ref_to(owner, out)], len(steps)
        for step in tree.steps:
            steps.append(step._replace(parent=step.parent + offset if step.parent >= 0 else -1))
        rings.extend(tree.rings)
    return Tree(tuple(steps), tuple(rings))


@derived(1024)
def course_of(tree: Tree, sent: str = "note") -> Timing:
    """The steps of a tree with the milliseconds that a movement of a kind takes on each."""
    lines = tuple(_line(step, *PIECES[sent]) for step in tree.steps)
    children: list[list[int]] = []
    for _ in lines:
        children.append([])
    for place, step in enumerate(lines):
        if step.parent >= 0:
            children[step.parent].append(place)
    calm = not any(step.arc.running_status for step in tree.steps)
    idle = Timing(lines, tuple(map(tuple, children)), (), 0.0, calm)
    used: Lines = {}
    times: list[float] = []
    simulate(used, [(0.0, idle, 0, times)])
    busy = max((line.busy for line in used.values()), default=0.0)
    return idle._replace(times=tuple(times), busy_ms=busy)


def _line(step: ArcTaken, messages: int, size: int) -> TimedStep:
    """One step as the clock needs it: with running status each message but the first is shorter,
    and the first too where the line carried such a one before.
    """
    arc, whole = step.arc, messages * size
    if arc.link != "din":
        ms = link_ms(arc.link, whole)
        return TimedStep(-1, step.parent, step.before_ms, ms, ms)
    if not arc.running_status:
        ms = din_ms(whole)
        return TimedStep(arc.line, step.parent, step.before_ms, ms, ms)
    first = whole - (messages - 1)
    return TimedStep(arc.line, step.parent, step.before_ms, din_ms(first), din_ms(first - 1))


def emission_of(
    origin: str,
    window: tuple[int, int],
    channel: int,
    note: int,
    tree: Tree,
    awake: Awake,
    sent: bytes = b"",
) -> Emission:
    landings, simple = [], True
    for listener, rest, is_simple in awake:
        sounding = listener.sounds(note)
        if sounding is not None:
            landings.append(Landing(listener.ref, listener.part, sounding, *rest))
            simple = simple and is_simple
    return Emission(
        origin, *window, channel, note, tree, course_of(tree), tuple(landings), simple, sent
    )


def arrivals(source: Sources, tree: Tree) -> Iterator[tuple[int, str, str]]:
    """Where a message is heard: step, device and port; the device's own keys as step −1."""
    if source.local:
        yield LOCAL, source.id, ""
    for index, step in enumerate(tree.steps):
        device, port = read_ref(step.arc.dest)
        yield index, device, port


def reached_from(owner: Device, net: Network) -> tuple[str, ...]:
    """The devices that messages of a device arrive at, by any of its outputs, nearest first."""
    source = Sources(owner.id, owner.ports, False)
    tree = joined_tree(source, (), net)
    return tuple(dict.fromkeys(device for _, device, _ in arrivals(source, tree)))


def hearers(
    source: Sources,
    tree: Tree,
    window: tuple[int, int],
    audience: Audience,
    sent: bytes = b"",
) -> Awake:
    """Who hears a note of one channel along a tree, as far as its velocities wake them."""
    here: list[tuple[Listener, int, float]] = []
    for step, device, port in arrivals(source, tree):
        delay_ms, listeners = audience.at(device, port)
        for listener in listeners:
            here.append((listener, step, delay_ms))
    return awake_among(here, window, sent)


def _plain(part: Part) -> bool:
    return part.trigger == "gate" and not part.mono and part.mute_group is None


def hearings(
    source: Sources,
    tree: Tree,
    message: str,
    channel: int,
    number: int,
    audience: Audience,
    movers: Movers,
) -> Iterator[Hearing]:
    """Who hears a movement or a program change on channel 0–15, ``audience`` being its parts."""
    sent = sent_numbers(message, number)
    for step, device, port in arrivals(source, tree):
        for mover, reads in movers.moved(device, port, message, channel, number):
            yield Hearing(mover.ref, step, reads, mover.target)
        if sent and not any(n in HEARD_BY_PARTS for n, _ in sent):
            continue
        for listener in audience.at(device, port)[1]:
            yield Hearing(listener.ref, step)
