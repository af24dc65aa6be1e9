"""Channels that are in use and free."""

from vastzone.core.cache import derived
from vastzone.core.plan.model.plan import Device, Plan


def channel_free(plan: Plan, device: Device) -> int | None:
    """The lowest channel that no zone, control or part of the plan uses."""
    kept = set()
    for limit in device.limits:
        for channel in getattr(limit, "channels", ()):
            kept.add(channel)
    return next((channel for channel in range(1, 17) if channel not in _used(plan) | kept), None)


@derived(16)
def _used(plan: Plan) -> frozenset[int | None]:
    used = set()
    for device in plan.devices:
        for part in device.parts:
            used.add(part.channel)
    for owner in plan.devices:
        for program in owner.programs:
            used |= {zone.channel for zone in program.zones} | {
                send.channel for send in program.sends
            }
    return frozenset(used)
