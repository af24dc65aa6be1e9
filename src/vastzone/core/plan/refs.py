"""How a plan names things: «device:thing», and the settings of a device by where they are dialled.

heron:keys                       a keybed, control, part, target, port or input of a device
heron/0/zone.viol/channel        a setting of a zone in program 0
dipper/0/pad-3.2/number          of what a control sends in bank 2 of program 0
dipper/0/pad-3.2.1/number        of the second layer there
dovecote/part.viol/channel       of a part
curlew/kit.rock/kick             the note of a sound
echo-pool/target.mix/controller  the controller that moves a target
heron/device.panel/local         of the device as a whole

They are kept as text in the plan, for a person to read; only here is that text taken apart.
"""

from typing import NamedTuple

NAMED = frozenset(("zone", "part", "target", "kit", "input", "jack", "device"))
"""Owners of settings whose name comes after a dot; every other owner is a control."""


class Ref(NamedTuple):
    """A thing of a device; the device itself where there is no thing."""

    device: str
    thing: str

    def __str__(self) -> str:
        return ref_to(self.device, self.thing) if self.thing else self.device


def read_ref(text: str) -> Ref:
    """Take «device:thing» apart; the thing is empty where only a device is named."""
    device, _, thing = text.partition(":")
    return Ref(device, thing)


def device_of(text: str) -> str:
    """The device of «device:thing»."""
    return text.partition(":")[0]


def thing_of(text: str) -> str:
    """The thing of «device:thing»; empty for a device."""
    return text.partition(":")[2]


def ref_to(device: str, thing: str) -> str:
    """Name a thing of a device."""
    return f"{device}:{thing}"


class SettingRef(NamedTuple):
    """A setting: of which device and program (None outside programs), whose, and which field.

    ``owner`` is the kind of what it belongs to, «control» for what a control sends, and ``ident``
    its name there: «pad-3.2» for the first layer of pad 3 in bank 2.
    """

    device: str
    program: int | None
    owner: str
    ident: str
    field: str

    @property
    def thing(self) -> str:
        """What it belongs to, as «device:thing»; the device for what is set in it as a whole."""
        if self.owner == "device":
            return self.device
        return ref_to(self.device, self.control if self.owner == "control" else self.ident)

    @property
    def control(self) -> str:
        """The control that sends."""
        return self.ident.partition(".")[0]

    @property
    def bank(self) -> str:
        """The bank of what a control sends, and the layer above the first after a dot."""
        return self.ident.partition(".")[2]


def read_setting_ref(text: str) -> SettingRef:
    """Take the name of a setting apart.  Raises ValueError for what is none."""
    device, *middle, where, field = text.split("/")
    program = int(middle[0]) if middle else None
    owner, _, ident = where.partition(".")
    if owner in NAMED:
        return SettingRef(device, program, owner, ident, field)
    return SettingRef(device, program, "control", where, field)


def device_of_setting(text: str) -> str:
    """The device of a setting."""
    return text.partition("/")[0]


def setting_in(place: str, field: str) -> str:
    """Name a setting by the place that it has in a device, one of those below."""
    return f"{place}/{field}"


def zone_place(device: str, program: int, zone: str) -> str:
    """Where the settings of a zone are."""
    return f"{device}/{program}/zone.{zone}"


def send_place(device: str, program: int, control: str) -> str:
    """Where the settings of what a control sends are: «pad-3.2» for pad 3 in bank 2."""
    return f"{device}/{program}/{control}"


def part_place(device: str, part: str) -> str:
    """Where the settings of a part are."""
    return f"{device}/part.{part}"


def target_place(device: str, target: str) -> str:
    """Where the settings of a target are."""
    return f"{device}/target.{target}"


def kit_place(device: str, kit: str) -> str:
    """Where the notes of a kit’s sounds are."""
    return f"{device}/kit.{kit}"


def input_place(device: str, ident: str) -> str:
    """Where the settings of a trigger input are."""
    return f"{device}/input.{ident}"


def jack_place(device: str, jack: str) -> str:
    """Where the settings of a pedal jack are."""
    return f"{device}/jack.{jack}"


def device_place(device: str, what: str) -> str:
    """Where something is set in a device as a whole: its «panel», its «thru»."""
    return f"{device}/device.{what}"
