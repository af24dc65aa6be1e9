"""What a device can do at most, and what it keeps for itself."""

from vastzone.core.plan.model.limits import Answers, Count, CountLimit, Reserved
from vastzone.core.plan.model.plan import Device


def most(device: Device, what: Count) -> CountLimit | None:
    """How many of something a device has; None where it does not say."""
    for limit in device.limits:
        if isinstance(limit, CountLimit) and limit.what == what:
            return limit
    return None


def slots_free(device: Device) -> int | None:
    """How many assign slots a device has that are not taken; None where it does not say."""
    limit = most(device, "assign-slots")
    return None if limit is None else limit.most - len(limit.taken)


def kept_channels(device: Device) -> frozenset[int]:
    """The channels 1–16 that a device keeps for itself."""
    kept: set[int] = set()
    for limit in device.limits:
        if isinstance(limit, Reserved):
            kept.update(limit.channels)
    return frozenset(kept)


def kept_controllers(device: Device) -> frozenset[int]:
    """The controllers that a device keeps for itself."""
    kept: set[int] = set()
    for limit in device.limits:
        if isinstance(limit, Reserved):
            kept.update(limit.controllers)
    return frozenset(kept)


def why_kept(device: Device, controller: int) -> str:
    """What a device keeps a controller for; nothing where it does not."""
    for limit in device.limits:
        if isinstance(limit, Reserved) and controller in limit.controllers:
            return limit.purpose
    return ""


def answered_notes(device: Device) -> tuple[int, int]:
    """The lowest and the highest note that a device answers at all."""
    low, high = 0, 127
    for limit in device.limits:
        if isinstance(limit, Answers):
            low, high = max(low, limit.low), min(high, limit.high)
    return low, high
