"""Telling controls what to do in their own device."""

from collections.abc import Iterable

from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.pedals import Pedal, PedalJack
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.functions import offered_by, told_in
from vastzone.core.say import say


def tell_function(
    device: Device, control: str, programs: Iterable[int], does: Function | None, label: str = ""
) -> Edit:
    """Tell a control what to do in some programs; in all of them where the device has it once."""
    everywhere = is_global(device)
    numbers = [program.number for program in device.programs] if everywhere else list(programs)

    def apply(plan: Plan) -> Plan:
        for number in numbers:
            plan = set_send(device.id, number, control, 1, "", does=does).change(plan)
        return plan

    return Edit(label or say("Tell a control what to do"), apply)


def is_global(device: Device) -> bool:
    """Whether a device keeps the functions of its controls once, and not in each program."""
    for limit in device.limits:
        if isinstance(limit, ScopeLimit) and limit.setting == "send-function":
            return limit.scope in ("global", "fixed")
    return False


def told_as_wished(plan: Plan, device: Device, jack: PedalJack, pedal: Pedal) -> Plan:
    """A plan in which a jack is told, in every program, the first thing that it can of its pedal.

    One that already does something that is wanted stays as it is.
    """
    if jack.control is None:
        return plan
    wanted: list[Function] = []
    for wish in pedal.wishes:
        if wish.device in (None, device.id) and wish.function in offered_by(jack):
            wanted.append(wish.function)
    for program in device.programs if wanted else ():
        now = told_in(device, program, jack.control)
        if now not in wanted:
            edit = set_send(device.id, program.number, jack.control, 1, "", does=wanted[0])
            plan = edit.change(plan)
    return plan
