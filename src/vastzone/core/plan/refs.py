"""How a plan names things: «device:thing», and the settings of a device by where they are dialled.

heron:keys                       a keybed, control, part, target, port or input of a device
heron/0/zone.viol/channel        a setting of a zone in the program that is called 0
dipper/0/pad-3.2/number          of what a control sends in bank 2 of program 0
dipper/0/pad-3.2.1/number        of the second layer there
dovecote/part.viol/channel       of a part
curlew/route.kit.kick/output     of a sound that goes to an output of its own
curlew/kit.rock/kick             the note of a sound
echo-pool/target.mix/controller  the controller that moves a target
heron/device.panel/local         of the device as a whole
heron/switch.clock/choice        of one of its switches
heron/0/program.0/name           of a program itself
dovecote/0/choice.drums/kit      of the kit that a part is on in a program
coot/block.great/declared        of what an encoder is told of a keyboard or a shoe

They are kept as text in the plan, for a person to read; only here is that text taken apart.
"""

from typing import Literal, NamedTuple, get_args

OwnerName = Literal[
    "zone",
    "part",
    "route",
    "target",
    "kit",
    "input",
    "jack",
    "device",
    "switch",
    "block",
    "shoe",
    "program",
    "choice",
    "coupler",
    "combination",
    "crescendo",
]
NAMED: frozenset[str] = frozenset(get_args(OwnerName))
IN_PROGRAMS = frozenset(("zone", "program", "choice"))
"""Owners of settings whose name comes after a dot; every other owner is a control."""


class Ref(NamedTuple):
    """A thing of a device; the device itself where there is no thing."""

    device: str
    thing: str


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
    program: str | None
    owner: str
    ident: str
    field: str

    @property
    def thing(self) -> str:
        """What it belongs to, as «device:thing»; the device for what is set in it as a whole."""
        if self.owner == "device":
            return self.device
        dotted = self.owner in ("control", "route")
        return ref_to(self.device, self.control if dotted else self.ident)

    @property
    def control(self) -> str:
        """The control that sends; the part that a sound with a way of its own belongs to."""
        return self.ident.partition(".")[0]


def read_setting_ref(text: str) -> SettingRef:
    """Take the name of a setting apart.  Raises ValueError for what is none."""
    device, *middle, where, field = text.split("/")
    program = middle[0] if middle else None
    owner, _, ident = where.partition(".")
    if owner in (IN_PROGRAMS if middle else NAMED):
        return SettingRef(device, program, owner, ident, field)
    return SettingRef(device, program, "control", where, field)


def device_of_setting(text: str) -> str:
    """The device of a setting."""
    return text.partition("/")[0]


def place_of_setting(text: str) -> str:
    """What a setting is named after: the reference without its last piece."""
    return text.rpartition("/")[0]


def field_of_setting(text: str) -> str:
    """The last piece of the name of a setting: its field, or the sound that it is the note of."""
    return text.rpartition("/")[2]


def setting_in(place: str, field: str) -> str:
    """Name a setting of what ``place`` stands for, as below."""
    return f"{place}/{field}"


def owner_place(device: str, owner: OwnerName, ident: str, program: str | None = None) -> str:
    """What the settings of something in a device, or in one of its programs, are named after."""
    where = device if program is None else f"{device}/{program}"
    return f"{where}/{owner}.{ident}"


def send_place(device: str, program: str, thing: str) -> str:
    """What the settings of a send are named after: «pad-3.2» for pad 3 in bank 2."""
    return f"{device}/{program}/{thing}"


def spot_in(place: str) -> str:
    """What the settings of a place belong to within its device or program: «zone.viol»."""
    return place.rpartition("/")[2]
