"""Edits of what controls send."""

from collections.abc import Callable
from typing import Any

from vastzone.core.plan.edits.edit import Edit, edit_device, edit_program
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup


def edit_sends(device: str, label: str, change: Callable[[Send], Send]) -> Edit:
    """An edit of everything that a device sends, in every program."""

    def inside(owner: Device) -> Device:
        programs = tuple(
            changed(program, sends=tuple(change(send) for send in program.sends))
            for program in owner.programs
        )
        return changed(owner, programs=programs)

    return edit_device(device, label, inside)


def set_send(
    device: str,
    program: int,
    control: str,
    bank: int,
    label: str,
    layer: int = 0,
    **changes: Any,
) -> Edit:
    """Change fields of what a control sends in a program; it begins to send where it did not."""

    def change(program: Program, owner: Device) -> Program:
        lookup.by_id(owner.controls, control, "control")
        key = (control, bank, layer)
        mine = []
        for send in program.sends:
            if (send.control, send.bank, send.layer) == key:
                mine.append(send)
        if not mine:
            fresh = Send(control=control, bank=bank, layer=layer, message="none")
            return changed(program, sends=(*program.sends, changed(fresh, **changes)))
        return changed(program, sends=swapped(program.sends, mine[0], changed(mine[0], **changes)))

    return edit_program(device, program, label, change)
