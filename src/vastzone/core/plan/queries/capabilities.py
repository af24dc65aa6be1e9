"""What controls and devices can do at all: nothing is listed, asked or printed that is not there.

A control can do what its kind usually can, unless the plan names the messages that it ``sends``; a
device has what its kind usually has, but for the fields that it ``lacks``.
"""

from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import ControlKind, DeviceKind, Sending

PRESSED: tuple[Sending, ...] = (
    "none",
    "note",
    "controller",
    "pair",
    "rpn",
    "nrpn",
    "program",
    "bend",
    "pressure",
)
"""What can be sent at all, in the order in which it is offered."""


class ControlAbility(NamedTuple):
    """What a kind of control can do.

    ``hard`` ones feel how hard they are struck, ``swept`` ones have a travel; a strike on a
    ``pressed`` one is a press, however soft; ``laid`` ones lie as faces that are filled and copied;
    ``wired`` ones are contacts, and ``shoes`` potentiometers, that a console's encoder can scan;
    ``moving`` ones move by themselves, and one that ``stays`` is left where it was put.
    """

    messages: tuple[Sending, ...] = PRESSED
    hard: bool = False
    swept: bool = False
    pressed: bool = False
    laid: bool = False
    wired: bool = False
    shoe: bool = False
    moving: bool = False
    stays: bool = False


_SWEPT = ControlAbility(swept=True)
_SWITCH = ControlAbility(pressed=True, wired=True)
CONTROLS: dict[ControlKind, ControlAbility] = {
    "wheel": _SWEPT,
    "lever": _SWEPT,
    "pedal": _SWEPT,
    "knob": _SWEPT,
    "fader": _SWEPT,
    "breath": _SWEPT,
    "aftertouch": ControlAbility(("none", "pressure", "controller"), swept=True),
    "shoe": ControlAbility(swept=True, shoe=True),
    "source": ControlAbility(swept=True, moving=True),
    "switch": ControlAbility(pressed=True),
    "button": _SWITCH,
    "stop": ControlAbility(pressed=True, wired=True, stays=True),
    "pad": ControlAbility(hard=True, swept=True, pressed=True, laid=True),
}


class DeviceAbility(NamedTuple):
    """What a kind of device can do.

    One that ``chooses_thru`` passes on from any input to any output as it is told, a ``usb_host``
    takes any number of USB devices, one that ``only_joins`` has nothing to play and nothing that
    sounds, one that ``scans`` has a console of contacts; all of them lack the fields named.  Its
    ``purpose`` is to be played, to sound, or to join others.
    """

    chooses_thru: bool = False
    usb_host: bool = False
    only_joins: bool = False
    scans: bool = False
    lacks: frozenset[str] = frozenset()
    purpose: Literal["play", "sound", "join"] = "sound"


_PLAIN = DeviceAbility()
DEVICES: dict[DeviceKind, DeviceAbility] = {
    "computer": DeviceAbility(chooses_thru=True, usb_host=True, only_joins=True, purpose="join"),
    "merger": DeviceAbility(only_joins=True, purpose="join"),
    "interface": DeviceAbility(only_joins=True, purpose="join"),
    "desk": DeviceAbility(only_joins=True, purpose="join"),
    "keyboard": DeviceAbility(scans=True, purpose="play"),
    "pads": DeviceAbility(purpose="play"),
    "floorboard": DeviceAbility(purpose="play"),
    "encoder": DeviceAbility(
        scans=True,
        lacks=frozenset(("zone/vel_low", "zone/vel_high", "zone/octave")),
        purpose="play",
    ),
}


def control_ability(control: Control) -> ControlAbility:
    """What a control can do."""
    return CONTROLS[control.kind]


def messages_of(control: Control) -> tuple[Sending, ...]:
    """The messages that a control can send."""
    return control.sends or control_ability(control).messages


def device_ability(device: Device) -> DeviceAbility:
    """What a device can do."""
    return DEVICES.get(device.kind, _PLAIN)


@derived(1024)
def _lacking(device: Device) -> frozenset[str]:
    return frozenset(device.lacks) | device_ability(device).lacks


def has_field(device: Device, field: str) -> bool:
    """Whether a device has a field, named by its owner and itself: «zone/vel_low»."""
    return field not in _lacking(device)


def can_be_limited(device: Device, target: Target) -> bool:
    """Whether a receiver can be told how far its controller moves a target."""
    told = target.receives in ("set", "learns") and target.sweeps
    return told and has_field(device, "target/least")


def has_pads(device: Device) -> bool:
    """Whether a device has faces to fill."""
    return any(control_ability(control).laid for control in device.controls)
