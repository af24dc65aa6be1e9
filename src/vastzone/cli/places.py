"""Finding what a person names on the command line."""

import argparse
from pathlib import Path

from vastzone import demo
from vastzone.core.errors import ReadError, WriteError
from vastzone.core.memory.model import Memory
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files import native
from vastzone.files.reading import is_there


def read_plan(path: Path) -> Plan:
    """The plan in a file, or a demo plan by its name where no such file is.

    Raises ReadError, DamagedFile or NewerFile.
    """
    return read_rig(path).plan


def read_rig(path: Path) -> native.Rig:
    """The plan in a file with what its devices hold; raises as ``read_plan``."""
    shipped = demo.PLANS.get(str(path))
    return native.read_rig(shipped if shipped is not None and not is_there(path) else path)


def write_plan(plan: Plan, memory: Memory, path: Path, options: argparse.Namespace) -> None:
    """Save a plan where it was read from, or elsewhere if nothing is there or --force is said.

    Raises WriteError.
    """
    own = path == options.file
    if own and str(path) in demo.PLANS and not is_there(path):
        raise WriteError(
            say("“{path}” ships with the program: copy it first, or save it elsewhere.", path=path)
        )
    may_replace = own or options.force
    if is_there(path) and not may_replace:
        raise WriteError(
            say("{path} would be replaced: choose another, or say --force.", path=quoted(path))
        )
    native.write(plan, path, memory, replace=may_replace)


def device_for(plan: Plan, name: str) -> Device:
    """The device with that id.  Raises ReadError with the ids that there are."""
    for device in plan.devices:
        if device.id == name:
            return device
    known = ", ".join(d.id for d in plan.devices)
    raise ReadError(
        say("The plan has no device “{name}”: it has {known}.", name=quoted(name), known=known)
    )
