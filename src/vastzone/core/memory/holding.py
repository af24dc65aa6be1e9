"""What a device holds of one setting, in the slot that is used for its program."""

from collections.abc import Mapping

from vastzone.core.cache import derived
from vastzone.core.memory.contents import played_on
from vastzone.core.memory.keys import Thing, is_once, key_of, spot, things
from vastzone.core.memory.model import DeviceMemory
from vastzone.core.plan.fields.dials import Dial
from vastzone.core.plan.fields.places import slots_of
from vastzone.core.plan.fields.values import Stored
from vastzone.core.plan.model.controls import Program


def held_value(dial: Dial, memory: DeviceMemory) -> Stored | None:
    """What a device holds of a setting; None where that is not known, or nothing is there."""
    program = dial.owner.program
    if program is None or is_once(dial):
        return memory.values.get(key_of(dial))
    content = played_on(memory, slots_of(program)[0])
    if content is None or key_of(dial) in content.unknown:
        return None
    thing = _things(content.program).get(spot(dial.owner))
    if thing is None:
        return None
    return dial.field.read(dial.owner._replace(thing=thing))


@derived(4096)
def _things(program: Program) -> Mapping[str, Thing]:
    return things(program)
