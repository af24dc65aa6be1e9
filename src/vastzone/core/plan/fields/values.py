"""Values of settings as a device shows them: its octaves, its first program, its own choices.

A value is a whole number in the plan's tables: a choice by its place, on as 1, none as ``MISSING``.
"""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import label
from vastzone.core.midi.wide import WIDE, name
from vastzone.core.plan import lookup
from vastzone.core.plan.cache import derived
from vastzone.core.plan.console import Encoder
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.model import Device

MISSING = -1
"""Stands for «none» where a channel follows the zones, is omni, or a target has no controller."""
Say = Callable[[Owner, int], str]


class Choice(NamedTuple):
    """One of several names, in the order in which they are counted."""

    names: tuple[str, ...]

    def say(self, _owner: Owner, value: int) -> str:
        """The name."""
        return self.names[value]

    def chosen(self, value: int) -> str:
        """The name at a place.  Raises EditError where there is none."""
        if 0 <= value < len(self.names):
            return self.names[value]
        raise EditError(f"There is no choice {value + 1} among {len(self.names)}.")

    def place(self, chosen: str) -> int:
        """Where a name stands among them."""
        return self.names.index(chosen)


def number(_owner: Owner, value: int) -> str:
    """A plain number."""
    return "none" if value == MISSING else str(value)


def channel(_owner: Owner, value: int) -> str:
    """A channel; none follows the zones."""
    return "as the zones" if value == MISSING else str(value)


def channel_heard(_owner: Owner, value: int) -> str:
    """A channel listened on; none is every one."""
    return "all" if value == MISSING else str(value)


def on_off(_owner: Owner, value: int) -> str:
    """On or off."""
    return "on" if value else "off"


def percent(_owner: Owner, value: int) -> str:
    """A share in percent."""
    return f"{value} %"


def signed(_owner: Owner, value: int) -> str:
    """A shift, with its sign."""
    return f"{value:+}".replace("-", "−") if value else "0"


def note(owner: Owner, value: int) -> str:
    """A note in the device's own naming."""
    return pitch.label(value, owner.device.octaves)


def input_type(owner: Owner, value: int) -> str:
    """A type of a trigger input."""
    types: Sequence[str] = owner.held.types
    return types[value]


def outputs(owner: Owner, value: int) -> str:
    """Outputs as bits, in the order of the device's ports; 0 is all of them."""
    ports = [port.name for place, port in enumerate(owner.device.ports) if value >> place & 1]
    return " and ".join(ports) or "all"


def mute_group(owner: Owner, value: int) -> str:
    """A mute group by its place among those of the device."""
    held = mute_groups(owner.device)
    return held[value] if value < len(held) else str(value + 1)


@derived(256)
def mute_groups(device: Device) -> tuple[str, ...]:
    """The mute groups of a device's pads, in the order of their names."""
    sends = [send for program in device.programs for send in program.sends]
    groups = {group for send in sends for group in (send.mutes, send.muted_by)}
    return tuple(sorted(group for group in groups if group))


def zone_shift(owner: Owner, value: int) -> str:
    """A zone's shift; the lowest note of the keyboard where a console's encoder asks for that."""
    device = owner.device
    if device.console is None:
        return signed(owner, value)
    lowest = lookup.keybed(device, owner.held.keybed).low + value
    if not 0 <= lowest <= 127:
        return f"{value:+}".replace("-", "−")
    encoder: Encoder = device.console.encoder
    if encoder.asks == "note number":
        return pitch.label(lowest, device.octaves)
    octave, index = pitch.octave_and_index(lowest, device.octaves, encoder.first_index)
    return f"{pitch.name(lowest, device.octaves)}: octave {octave}, index {index}"


def sent_number(owner: Owner, value: int) -> str:
    """What a control sends: a note by name, a controller by meaning, a program, a parameter."""
    device, send = owner.device, owner.held
    if send.message == "controller":
        return label(value)
    if send.message in WIDE:
        return name(send.message, send.page << 7 | value)
    if send.message == "program":
        return str(value + device.first_program)
    return pitch.label(value, device.octaves)


def answered(owner: Owner, value: int) -> str:
    """The controller or parameter that moves a target."""
    if value == MISSING:
        return "none"
    target = owner.held
    if target.answers == "controller":
        return label(value)
    return name(target.answers, target.page << 7 | value)
