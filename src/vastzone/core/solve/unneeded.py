"""What was changed and need not have been is put back."""

from vastzone.core.plan.edits.edit import with_device
from vastzone.core.plan.fields.dials import scope_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup


def without_unneeded(before: Plan, after: Plan) -> Plan:
    """A plan in which controls that followed the zones do so still, where those are on the channel
    that they need.
    """
    plan = after
    for owner in after.devices:
        old = lookup.find(before.devices, owner.id)
        shared = scope_of(owner, "send-channel") not in ("control", "fixed")
        if old is None or old is owner or shared:
            continue  # where it is one for all of them, it is not put back for some
        programs = tuple(_following(old, program) for program in owner.programs)
        if programs != owner.programs:
            plan = with_device(plan, owner, changed(owner, programs=programs))
    return plan


def _following(old: Device, program: Program) -> Program:
    channels = {zone.channel for zone in program.zones if zone.sends}
    followed = _followed(old, program.id)
    if len(channels) != 1 or not followed:
        return program
    sends: list[Send] = []
    for send in program.sends:
        fits = send.thing in followed and send.channel in channels and send.message != "note"
        sends.append(changed(send, channel=None) if fits else send)
    return changed(program, sends=tuple(sends))


def _followed(old: Device, program: str) -> frozenset[str]:
    """The sends of a program that followed the zones."""
    for there in old.programs:
        if there.id == program:
            return frozenset(
                send.thing
                for send in there.sends
                if send.channel is None and send.message != "none"
            )
    return frozenset()
