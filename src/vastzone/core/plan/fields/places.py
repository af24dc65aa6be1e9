"""Where settings are in a device now: the slots that a program is stored in, the input of a drum.

A setting is named after its owner, which stays the same when a program is stored elsewhere or a
drum is plugged into another input.  What a device holds is known by place.
"""

from vastzone.core.cache import derived
from vastzone.core.plan.fields.dials import Dial
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.model.controls import Program, Slot
from vastzone.core.plan.refs import read_setting_ref, setting_in, spot_in


@derived(4096)
def slots_of(program: Program) -> tuple[Slot, ...]:
    """The slots that a program stands in, its own first."""
    return (Slot(number=program.number), *program.also)


def places(dial: Dial) -> tuple[str, ...]:
    """Where a setting is in its device: once for each slot that it is stored in.

    «heron/0-4/zone.viol/channel» is that of a zone in slot 4 of bank 0, and
    «curlew/0-0/input.in-3.rim/number» that of the rim of whatever is plugged into an input.
    """
    owner = dial.owner
    if owner.program is None:
        return (dial.ref,)
    device, field = owner.device.id, read_setting_ref(dial.ref).field
    places_held = []
    for slot in slots_of(owner.program):
        places_held.append(setting_in(f"{device}/{slot.bank}-{slot.number}/{_spot(owner)}", field))
    return tuple(places_held)


def _spot(owner: Owner) -> str:
    """What a setting belongs to inside a slot."""
    control = owner.control
    if owner.kind == "program":
        return "program"
    if control is None or control.input is None or control.zone is None:
        return spot_in(owner.place)
    layer = f".{owner.thing.layer}" if owner.thing.layer else ""
    return f"input.{control.input}.{control.zone.replace(' ', '-')}{layer}"
