"""Devices in files of their own: those that ship with the program, and people's own."""

from pathlib import Path
from typing import Annotated, Literal

import msgspec

from vastzone.core.errors import DamagedFile, PlanError, ReadError, WriteError
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.consistency import problems
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.migrate import VERSION
from vastzone.files.native import as_text, converted, parsed, up_to_date
from vastzone.files.reading import DEVICE_LIMIT, read_whole
from vastzone.files.whole import write_whole

SUFFIX = ".vzdevice"
SHIPPED = Path(__file__).parents[1] / "library"


MOST = 2000
"""Things of one kind that a device may have."""


class DeviceFile(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What stands in a device file."""

    format: Literal["vastzone-device"]
    version: Annotated[int, msgspec.Meta(ge=1)]
    device: Device


def read_device(path: Path) -> Device:
    """Read a device.  Raises ReadError: DamagedFile when it is no whole device, NewerFile."""
    name = quoted(path.name)
    raw = parsed(read_whole(path, DEVICE_LIMIT), name)
    if not isinstance(raw, dict) or raw.get("format") != "vastzone-device":
        raise DamagedFile(
            say(
                "{name} is no device file: choose a file that ends in {suffix}.",
                name=name,
                suffix=SUFFIX,
            )
        )
    device = converted(up_to_date(raw, name), DeviceFile, name).device
    for group in ("controls", "parts", "targets", "programs", "inputs", "jacks", "ports"):
        count = len(getattr(device, group))
        if count > MOST:
            raise ReadError(
                say(
                    "{name} has {count:,} {group}, and a device has {most:,} at most: divide it.",
                    name=name,
                    count=count,
                    group=group,
                    most=MOST,
                )
            )
    for problem in problems(Plan(name="Library", devices=(device,))):
        raise DamagedFile(say("{name} contradicts itself: {problem}", name=name, problem=problem))
    return device


def write_device(device: Device, path: Path, *, replace: bool = True) -> None:
    """Save a device for reuse.  Raises WriteError."""
    data = as_text(DeviceFile("vastzone-device", VERSION, device))
    write_whole(data, path, say("The device"), replace=replace)


def own_devices(folder: Path) -> tuple[Device, ...]:
    """One's own devices, kept in a folder for reuse; what cannot be read there is passed over."""
    devices = []
    for path in sorted(folder.glob(f"*{SUFFIX}")):
        try:
            devices.append(read_device(path))
        except PlanError:
            continue
    return tuple(devices)


def keep_for_reuse(device: Device, folder: Path) -> Path:
    """Keep a device among one's own, in place of one of the same name.  Raises WriteError."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        why = error.strerror or str(error)
        raise WriteError(
            say(
                "{folder} cannot be made ({why}): save elsewhere.",
                folder=quoted(folder.name),
                why=why,
            )
        ) from None
    path = folder / f"{device.id}{SUFFIX}"
    write_device(device, path)
    return path


def shipped() -> dict[str, Device]:
    """The generic kinds that ship with the program, by file name without ending."""
    return {path.stem: read_device(path) for path in sorted(SHIPPED.glob(f"*{SUFFIX}"))}
