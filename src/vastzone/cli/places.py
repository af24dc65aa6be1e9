"""Finding what a person names on the command line."""

from vastzone.core.errors import ReadError
from vastzone.core.plan.model import Device, Plan


def device_for(plan: Plan, name: str) -> Device:
    """The device with that id.  Raises ReadError with the ids that there are."""
    for device in plan.devices:
        if device.id == name:
            return device
    known = ", ".join(d.id for d in plan.devices)
    raise ReadError(f"The plan has no device “{name}”: it has {known}.")
