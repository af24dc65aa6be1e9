"""Devices in files of their own: those that ship with the program, and people's own."""

from pathlib import Path
from typing import Annotated, Literal

import msgspec

from vastzone.core.errors import DamagedFile, ReadError, WriteError
from vastzone.core.plan.consistency import problems
from vastzone.core.plan.model import Device, Plan

SUFFIX = ".vzdevice"
SHIPPED = Path(__file__).parents[1] / "library"
VERSION = 1


class DeviceFile(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What stands in a device file."""

    format: Literal["vastzone-device"]
    version: Annotated[int, msgspec.Meta(ge=1, le=VERSION)]
    device: Device


def read_device(path: Path) -> Device:
    """Read a device.  Raises ReadError, or DamagedFile when it is no whole device."""
    try:
        device = msgspec.json.decode(path.read_bytes(), type=DeviceFile).device
    except OSError as error:
        raise ReadError(
            f"{path.name} cannot be read ({error.strerror}): choose another file."
        ) from None
    except msgspec.DecodeError as error:
        said = str(error)
        raise DamagedFile(
            f"{path.name} is no device file that this program can read ({said}): "
            f"choose a file that ends in {SUFFIX}."
        ) from None
    for problem in problems(Plan(name="Library", devices=(device,))):
        raise DamagedFile(f"{path.name} contradicts itself: {problem}")
    return device


def write_device(device: Device, path: Path) -> None:
    """Save a device for reuse.  Raises WriteError."""
    packed = msgspec.json.encode(DeviceFile("vastzone-device", VERSION, device))
    try:
        path.write_bytes(msgspec.json.format(packed, indent=2) + b"\n")
    except OSError as error:
        raise WriteError(
            f"{path.name} cannot be saved in {path.parent} ({error.strerror}): "
            "choose a folder that you may write to."
        ) from None


def shipped() -> dict[str, Device]:
    """The generic kinds that ship with the program, by file name without ending."""
    return {path.stem: read_device(path) for path in sorted(SHIPPED.glob(f"*{SUFFIX}"))}
