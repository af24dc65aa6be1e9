"""Edits of how late things are: buffers of devices, and how each player hears."""

from typing import Any

from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.bodies import AudioBuffer, Hearing
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.say import say


def set_buffer(device: str, **changes: Any) -> Edit:
    """Change the ``frames``, ``rate``, ``periods`` or ``converter_ms`` of a device's buffer."""

    def change(owner: Device) -> Device:
        return changed(owner, buffer=changed(owner.buffer or AudioBuffer(), **changes))

    return edit_device(device, say("Change the buffer"), change)


def remove_buffer(device: str) -> Edit:
    """A device in which sound does not wait."""
    return edit_device(device, say("Remove the buffer"), lambda owner: changed(owner, buffer=None))


def set_hearing(player: str, **changes: Any) -> Edit:
    """Change how a player hears: ``by`` air or ears, ``metres``, ``wireless_ms``."""

    def apply(plan: Plan) -> Plan:
        for heard in plan.hearing:
            if heard.player == player:
                new = changed(heard, **changes)
                return changed(plan, hearing=swapped(plan.hearing, heard, new))
        new = changed(Hearing(player=player), **changes)
        return changed(plan, hearing=(*plan.hearing, new))

    return Edit(say("Change how {player} hears", player=player), apply)


def forget_hearing(player: str) -> Edit:
    """Leave out how a player hears."""

    def apply(plan: Plan) -> Plan:
        return changed(plan, hearing=tuple(h for h in plan.hearing if h.player != player))

    return Edit(say("Forget how {player} hears", player=player), apply)
