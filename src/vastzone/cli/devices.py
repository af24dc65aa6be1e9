"""``vastzone devices``: the library, a device out of a plan into a file, a device into a plan."""

import argparse
from pathlib import Path

from vastzone.cli.output import console, print_json, table
from vastzone.cli.places import device_for
from vastzone.core.errors import ReadError
from vastzone.core.plan import edits
from vastzone.core.plan.model import Device
from vastzone.files import native
from vastzone.files.devices import SUFFIX, read_device, shipped, write_device


def run(options: argparse.Namespace) -> int:
    """List the library, or move a device between a plan and a file."""
    if options.file is None:
        return _list(options.json)
    plan = native.read(options.file)
    if options.add:
        native.write(edits.add_device(_find(options.add))(plan), options.output or options.file)
    if options.save:
        device = device_for(plan, options.save)
        write_device(device, options.output or Path(f"{device.id}{SUFFIX}"))
    return 0


def _find(name: str) -> Device:
    library = shipped()
    if name in library:
        return library[name]
    if Path(name).suffix == SUFFIX:
        return read_device(Path(name))
    raise ReadError(f"The library has no “{name}”: it has {', '.join(library)}.")


def _list(as_json: bool) -> int:
    library = shipped()
    if as_json:
        print_json([{"id": k, "name": d.name, "kind": d.kind} for k, d in library.items()])
        return 0
    rows = table("Name to use", "Device", "Kind", ">Keys", ">Controls", ">Parts")
    for name, device in library.items():
        keys = sum(bed.keys for bed in device.keybeds)
        counts = (str(n) if n else "" for n in (keys, len(device.controls), len(device.parts)))
        rows.add_row(name, device.name, device.kind, *counts)
    console().print(rows)
    return 0
