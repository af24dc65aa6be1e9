"""``vastzone memory``: what a device is known to hold, into a file and out of one."""

import argparse
from datetime import date

from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import device_for, read_rig, write_plan
from vastzone.core.memory.model import DeviceMemory, Known
from vastzone.core.memory.provenance import known_of, last_day
from vastzone.core.memory.restoring import (
    backed_up,
    begun_anew,
    is_backed_up,
    taken_from_file,
)
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.slots import slot_words
from vastzone.core.say import say
from vastzone.files.memory_file import read_memory, write_memory


def run(options: argparse.Namespace) -> int:
    """Say what a device holds; save it, load it, or begin anew."""
    plan, memory = read_rig(options.file)
    device = device_for(plan, options.device)
    held = memory_of(memory, device)
    today = Known(on=date.today().isoformat(), how="typed in", by=options.by)
    changed = held
    if options.save is not None:
        write_memory(held, options.save, replace=options.force)
        changed = backed_up(held, today)
    elif options.load is not None:
        changed = taken_from_file(held, device, read_memory(options.load), today)
    elif options.begin is not None:
        changed = begun_anew(held, device, options.begin, today)
    if changed is not held:
        write_plan(plan, with_memory(memory, changed), options.file, options)
    if options.json:
        print_json(_as_json(device, changed))
    else:
        _print(device, changed)
    return 0


def _as_json(device: Device, held: DeviceMemory) -> dict[str, object]:
    slots = {}
    for each in held.slots:
        slots[slot_words(device, each.slot)] = each.content.program.name
    selected = None if held.selected is None else slot_words(device, held.selected)
    return {
        "device": device.id,
        "slots": slots,
        "selected": selected,
        "unstored": held.buffer is not None,
        "unwritten": sorted(held.unwritten),
        "since": last_day(held),
        "backed_up": is_backed_up(held),
        "past": [{"on": state.on, "label": state.label} for state in held.past],
    }


def _print(device: Device, held: DeviceMemory) -> None:
    out = Printer()
    out.write(("bold", device.name))
    for each in held.slots:
        known = known_of(held, f"{each.bank}-{each.number}")
        who = "" if known is None else f"  {say(known.how)} {known.on} {known.by}".rstrip()
        on = say("  selected") if each.slot == held.selected else ""
        name = each.content.program.name
        out.write(
            say(
                "  slot {slot}: {name}{who}{on}",
                slot=slot_words(device, each.slot),
                name=name,
                who=who,
                on=on,
            )
        )
    if held.buffer is not None:
        out.write(say("  The buffer holds what is not stored."))
    if not held.slots and not held.values:
        out.write("  Nothing is known of it.")
