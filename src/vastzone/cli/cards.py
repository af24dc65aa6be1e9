"""``vastzone cards`` and ``vastzone diff``."""

import argparse
from collections.abc import Iterator
from datetime import date
from pathlib import Path

from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import read_plan, write_plan
from vastzone.core.cards.card import Card, CardStep, card, cards, effort, tick
from vastzone.core.cards.diff import differences, undialled
from vastzone.core.cards.tracks import to_csv, tracks
from vastzone.core.errors import ReadError, WriteError
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import STATES
from vastzone.core.plan.queries import lookup
from vastzone.core.text import quoted
from vastzone.files.reading import is_there
from vastzone.files.sheets import card_files, to_pdf, write_cards
from vastzone.files.tables import write_table


def run(options: argparse.Namespace) -> int:
    """Write the cards into a folder, or print them; tick a device's steps first if asked."""
    plan = read_plan(options.file)
    if options.mark:
        plan = _marked(plan, options.mark)
        write_plan(plan, options.file, options)
    printed = cards(plan, options.all)
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
    out.say(f"{len(printed)} cards, {steps} steps, about {presses} presses.")
    for path in written:
        out.say(f"Written: {path}")
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
            f"{', '.join(there)} in {quoted(folder)} would be replaced: choose another folder, or "
            "say --force."
        )


def _track_files(plan: Plan, folder: Path) -> Iterator[tuple[Device, Path]]:
    for owner in plan.devices:
        if owner.inputs and owner.programs:
            yield owner, folder / f"tracks-{owner.id}.csv"


def _track_lists(plan: Plan, folder: Path) -> tuple[Path, ...]:
    """A track list for a recorder for each drum module."""
    written = []
    for owner, path in _track_files(plan, folder):
        listed = tracks(plan, owner, owner.programs[0])
        write_table(to_csv(listed), path, "The track list")
        written.append(path)
    return tuple(written)


def _marked(plan: Plan, wanted: str) -> Plan:
    """The plan with all steps of one device ticked."""
    name, _, state = wanted.partition("=")
    device = lookup.find(plan.devices, name)
    if device is None or state not in STATES:
        known = ", ".join(d.id for d in plan.devices)
        raise ReadError(
            f"“{quoted(wanted)}” marks nothing: write DEVICE=STATE with one of the devices {known} "
            f"and one of {', '.join(STATES)}."
        )
    refs: list[str] = []
    for step in card(plan, device).steps:
        refs.extend(step.refs)
    return tick(refs, state, date.today().isoformat())(plan)


def _step(step: CardStep) -> dict[str, object]:
    """A step, with the way to it where that is known."""
    told = step._asdict()
    if not step.path:
        del told["path"]
    return told


def _as_json(printed: Card) -> dict[str, object]:
    return {
        "device": printed.device,
        "preparation": list(printed.preparation),
        "presses": printed.presses,
        "sections": [
            {
                "title": section.title,
                "steps": [_step(step) for step in section.steps],
                "closing": list(section.closing),
            }
            for section in printed.sections
        ],
    }


def _print(out: Printer, printed: Card) -> None:
    out.say("\n", ("bold", printed.name), f"  about {printed.presses} presses")
    for line in printed.preparation:
        out.say(f"  ☐ {line}")
    for section in printed.sections:
        out.say("  ", ("bold", section.title))
        for step in section.steps:
            mark = "☑" if step.state in ("stored", "checked") else "☐"
            what = f"{step.thing}, {step.field.lower()}"
            out.say(f"    {mark} {what}: {step.before} → ", ("bold", step.after))
        for line in section.closing:
            out.say(f"    ☐ {line}")


def run_diff(options: argparse.Namespace) -> int:
    """Print what differs; 1 when anything does."""
    old = read_plan(options.file)
    told = differences(old, read_plan(options.new)) if options.new else undialled(old)
    if options.json:
        print_json({"differences": told})
    else:
        out = Printer()
        for sentence in told:
            out.say(sentence)
        same = "The plans do not differ." if options.new else "The devices hold what is planned."
        count = f"{len(told)} difference{'' if len(told) == 1 else 's'}."
        out.say(count if told else same)
    return 1 if told else 0
