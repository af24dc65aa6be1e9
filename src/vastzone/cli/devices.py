"""``vastzone devices``: the library, a device out of a plan into a file, a device into a plan."""

import argparse
from datetime import date
from pathlib import Path

from vastzone.cli.output import Printer, add_row, print_json, table
from vastzone.cli.places import device_for, read_rig, write_plan
from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device
from vastzone.core.errors import ReadError
from vastzone.core.memory.described import out_of_its_box
from vastzone.core.memory.rig import memory_of, met
from vastzone.core.plan.edits.devices import add_device
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.devices import SUFFIX, read_device, shipped, write_device


def run(options: argparse.Namespace) -> int:
    """List the library, put a device into a plan, or write one out of it as it left its box."""
    if options.file is None:
        return _list(options.json)
    plan, memory = read_rig(options.file)
    if options.add:
        edit = add_device(_find(options.add))
        plan_with = edit(plan)
        held = met(memory, plan, plan_with, edit.out_of_the_box, date.today().isoformat())
        write_plan(plan_with, held, options.output or options.file, options)
    if options.save:
        device = device_for(plan, options.save)
        device = out_of_its_box(device, memory_of(memory, device))
        place = options.output or Path(f"{device.id}{SUFFIX}")
        write_device(device, place, replace=options.force)
    return 0


def _find(name: str) -> Device:
    library = shipped()
    if name in library:
        return library[name]
    if Path(name).suffix == SUFFIX:
        return read_device(Path(name))
    if " " in name.strip():
        return new_device(read_line(name))
    raise ReadError(
        say(
            "The library has no “{name}”: it has {library}.",
            name=quoted(name),
            library=", ".join(library),
        )
    )


def _list(as_json: bool) -> int:
    library = shipped()
    if as_json:
        print_json([{"id": k, "name": d.name, "kind": d.kind} for k, d in library.items()])
        return 0
    rows = table(
        say("Name to use"),
        say("Device"),
        say("Kind"),
        ">" + say("Keys"),
        ">" + say("Controls"),
        ">" + say("Parts"),
    )
    for name, device in library.items():
        keys = sum(bed.keys for bed in device.keybeds)
        counts = (str(n) if n else "" for n in (keys, len(device.controls), len(device.parts)))
        add_row(rows, name, device.name, say(device.kind), *counts)
    Printer().show(rows)
    return 0
