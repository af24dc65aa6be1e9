"""What goes over each cable in a scene: which channels, and how many messages a strike at most."""

from collections.abc import Mapping
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.network import Tree
from vastzone.core.engine.tables import Emission, Motion
from vastzone.core.plan.refs import device_of

Way = tuple[str, str]
"""One direction of a cable, as its two ports ``device:port``."""


class Use(NamedTuple):
    """What uses one direction of a cable: the channels 1–16, and who sends on each."""

    channels: tuple[int, ...]
    senders: dict[int, tuple[str, ...]]


@derived(160)
def usage(compiled: Compiled) -> Mapping[Way, Use]:
    """The use of every cable direction that carries anything."""
    by_way: dict[Way, dict[int, list[str]]] = {}
    for tree, channel, device in _trees(compiled).values():
        for step in tree.steps:
            channels = by_way.setdefault((step.arc.source, step.arc.dest), {})
            names = channels.setdefault(channel + 1, [])
            if device not in names:
                names.append(device)
    return {way: _use(channels) for way, channels in by_way.items()}


def _use(by_channel: dict[int, list[str]]) -> Use:
    senders = {}
    for channel, names in by_channel.items():
        senders[channel] = tuple(names)
    return Use(tuple(sorted(by_channel)), senders)


def _trees(compiled: Compiled) -> dict[tuple[int, int, str], tuple[Tree, int, str]]:
    """Every way that something is sent, with its channel 0–15 and the device that sends it."""
    trees: dict[tuple[int, int, str], tuple[Tree, int, str]] = {}
    for (ref, _), emissions in compiled.keys.items():
        device = device_of(ref)
        for emission in emissions:
            key = (id(emission.tree), emission.channel, device)
            trees[key] = (emission.tree, emission.channel, device)
    for (ref, _), sendings in compiled.controls.items():
        device = device_of(ref)
        for sending in sendings:
            both: list[Emission | Motion] = [*sending.notes, *sending.motions]
            for sent in both:
                trees[id(sent.tree), sent.channel, device] = (sent.tree, sent.channel, device)
    return trees
