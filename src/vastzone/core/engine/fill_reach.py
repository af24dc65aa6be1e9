"""Which notes sound something when the pads of a device send them, before any pad is filled."""

from vastzone.core.cache import derived
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.reach import emission_of, hearers, joined_tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.engine.tables import Landing
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import answered_notes
from vastzone.core.plan.refs import device_of


@derived(64)
def notes_answered(
    plan: Plan, scene: Scene | None, owner: Device, channel: int | None
) -> frozenset[int]:
    """The notes 0–127 that sound something when a control of a device sends them on a channel 1–16.

    On the channels of the zones that are on where ``channel`` is None.  What takes all answers
    nothing, and a device only what its limits say that it answers at all.
    """
    program = lookup.program_in(scene, owner)
    channels: set[int] = set()
    if channel is not None:
        channels = {channel}
    elif program is not None:
        channels = {zone.channel for zone in program.zones if zone.sends}
    world = compile_scene(plan, scene).world
    source = Sources(owner.id, owner.ports, owner.local)
    tree = joined_tree(source, (), world.network)
    own = Sources(owner.id if owner.local else "", (), owner.local)
    answered = set()
    for each in channels:
        awake = hearers(own, tree, (1, 127), world.audiences[each - 1])
        for note in range(128):
            emission = emission_of("", (1, 127), each - 1, note, tree, awake)
            if any(_counts(plan, landing, note) for landing in emission.landings):
                answered.add(note)
    return frozenset(answered)


def _counts(plan: Plan, landing: Landing, note: int) -> bool:
    low, high = answered_notes(lookup.device(plan, device_of(landing.ref)))
    return landing.part.receives != "takes all" and low <= note <= high
