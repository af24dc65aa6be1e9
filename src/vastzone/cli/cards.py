"""``vastzone cards`` and ``vastzone diff``."""

import argparse
from collections.abc import Iterator
from datetime import date
from pathlib import Path

from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import read_plan, read_rig, write_plan
from vastzone.core.cards.card import Card, CardLine, card, cards, effort
from vastzone.core.cards.diff import (
    Differing,
    as_plain,
    by_device,
    differences,
    held_otherwise,
    undialled,
)
from vastzone.core.cards.tracks import to_csv, tracks
from vastzone.core.errors import ReadError, WriteError
from vastzone.core.memory.checks import checked
from vastzone.core.memory.model import Known, Memory
from vastzone.core.memory.operations import perform
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.core.text import quoted
from vastzone.files.memory_file import SUFFIX, read_memory
from vastzone.files.native import Rig
from vastzone.files.reading import is_there
from vastzone.files.sheets import card_files, to_pdf, write_cards
from vastzone.files.tables import write_table


def run(options: argparse.Namespace) -> int:
    """Write the cards into a folder, or print them; tick a device's steps first if asked."""
    plan, memory = read_rig(options.file)
    if options.mark:
        memory = _marked(plan, memory, options.mark, options.by)
        write_plan(plan, memory, options.file, options)
    printed = cards(plan, memory, options.all)
    written: tuple[Path, ...] = ()
    if options.output:
        today = date.today().isoformat()
        _refuse_replacing(plan, options)
        written = write_cards(printed, to_pdf(plan.name, printed, today), options.output)
        written += _track_lists(plan, options.output)
    if options.json:
        print_json(
            {
                "plan": plan.name,
                "files": [str(p) for p in written],
                "cards": [_as_json(one) for one in printed],
            }
        )
        return 0
    out = Printer()
    for one in printed:
        _print(out, one)
    steps, presses = effort(printed)
    pressed = say_many("{count} press", "{count} presses", presses)
    out.write(
        say(
            "{cards}, {lines}, about {pressed}.",
            cards=say_many("{count} card", "{count} cards", len(printed)),
            lines=say_many("{count} line", "{count} lines", steps),
            pressed=pressed,
        )
    )
    for path in written:
        out.write(say("Written: {path}", path=path))
    return 0


def _refuse_replacing(plan: Plan, options: argparse.Namespace) -> None:
    """Refuse to write over files that are there, before the first is written."""
    folder: Path = options.output
    wanted = [*card_files(folder), *(path for _, path in _track_files(plan, folder))]
    there = []
    for path in wanted:
        if is_there(path):
            there.append(path.name)
    if there and not options.force:
        raise WriteError(
            say(
                "{there} in {folder} would be replaced: choose another folder, or say --force.",
                there=", ".join(there),
                folder=quoted(folder),
            )
        )


def _track_files(plan: Plan, folder: Path) -> Iterator[tuple[Device, Path]]:
    for owner in plan.devices:
        if owner.inputs and owner.programs:
            yield owner, folder / f"tracks-{owner.id}.csv"


def _track_lists(plan: Plan, folder: Path) -> tuple[Path, ...]:
    """A track list for a recorder for each drum module."""
    written = []
    for owner, path in _track_files(plan, folder):
        listed = tracks(plan, owner)
        write_table(to_csv(listed), path, say("The track list"))
        written.append(path)
    return tuple(written)


MARKS = ("sent", "stored", "checked")


def _marked(plan: Plan, memory: Memory, wanted: str, by: str) -> Memory:
    """The memory once the card of one device was followed as far as is said."""
    name, _, state = wanted.partition("=")
    device = lookup.find(plan.devices, name)
    if device is None or state not in MARKS:
        known = ", ".join(d.id for d in plan.devices)
        raise ReadError(
            say(
                "“{wanted}” marks nothing: write DEVICE=STATE with one of the devices {known} and "
                "one of {marks}.",
                wanted=quoted(wanted),
                known=known,
                marks=", ".join(MARKS),
            )
        )
    today = Known(on=date.today().isoformat(), how="dialled", by=by)
    lines = card(plan, memory, device).lines
    held = memory_of(memory, device)
    refs: list[str] = []
    for line in lines:
        if state == "sent" and line.kind == "store":
            break
        refs.extend(line.operation.refs)
        if line.waits:
            held = perform(held, device, line.operation, today)
    if state == "checked":
        held = checked(held, device, refs, None, today)
    return with_memory(memory, held)


def line_as_json(line: CardLine) -> dict[str, object]:
    """A line of a card for a program to read."""
    told: dict[str, object] = {
        "kind": line.kind,
        "words": line.words,
        "state": line.state,
        "refs": list(line.operation.refs),
        "presses": line.presses,
    }
    for name in ("thing", "before", "after", "path"):
        if getattr(line, name):
            told[name] = getattr(line, name)
    if line.why:
        told["why"] = list(line.why)
    if line.known is not None:
        told |= {"on": line.known.on, "by": line.known.by, "how": line.known.how}
    return told


def _as_json(printed: Card) -> dict[str, object]:
    sections = []
    for section in printed.sections:
        lines = [line_as_json(line) for line in section.lines]
        sections.append({"title": section.title, "lines": lines})
    return {
        "device": printed.device,
        "preparation": list(printed.preparation),
        "plugging": list(printed.plugging),
        "presses": printed.presses,
        "sections": sections,
    }


def _print(out: Printer, printed: Card) -> None:
    out.write(
        "\n", ("bold", printed.name), say("  about {presses} presses", presses=printed.presses)
    )
    for line in printed.preparation:
        out.write(f"  ☐ {line}")
    if printed.plugging:
        out.write("  ", ("bold", say("What goes into its jacks")))
    for line in printed.plugging:
        out.write(f"    ☐ {line}")
    for section in printed.sections:
        out.write("  ", ("bold", section.title))
        for todo in section.lines:
            mark = {"sent": "◐", "stored": "☑", "checked": "☑"}.get(todo.state, "☐")
            out.write(f"    {mark} {todo.words}")


def run_diff(options: argparse.Namespace) -> int:
    """Print what differs; 1 when anything does."""
    rig = read_rig(options.file)
    same = say("The devices hold what is planned.")
    if options.new is None:
        told = undialled(rig.plan, rig.memory)
    elif options.new.suffix == SUFFIX:
        told = _from_backup(rig, options.new)
        same = say("The device holds what was backed up.")
    elif options.held:
        told = held_otherwise(rig.plan, rig.memory, read_rig(options.new).memory)
        same = say("The devices hold the same.")
    else:
        told = differences(rig.plan, read_plan(options.new))
        same = say("The plans do not differ.")
    if options.json:
        print_json({"differences": [each.whole for each in told], "grouped": as_plain(told)})
        return 1 if told else 0
    out = Printer()
    for (device, program), sentences in by_device(told).items():
        out.write(("bold", ", ".join(filter(None, (device, program))) or say("The plan")))
        for sentence in sentences:
            out.write(f"  {sentence}")
    count = (
        say("{count} difference.", count=len(told))
        if len(told) == 1
        else say("{count} differences.", count=len(told))
    )
    out.write(count if told else same)
    return 1 if told else 0


def _from_backup(rig: Rig, path: Path) -> tuple[Differing, ...]:
    """What a device holds otherwise than a file of its memory says."""
    held = read_memory(path)
    return held_otherwise(rig.plan, with_memory(rig.memory, held), rig.memory)
