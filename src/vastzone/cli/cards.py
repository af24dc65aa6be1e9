"""``vastzone cards`` and ``vastzone diff``."""

import argparse
from datetime import date
from pathlib import Path

from vastzone.cli.output import console, print_json
from vastzone.core.cards.card import Card, card, cards, effort, tick
from vastzone.core.cards.diff import differences, undialled
from vastzone.core.cards.tracks import to_csv, tracks
from vastzone.core.errors import ReadError
from vastzone.core.plan.model import Plan
from vastzone.core.plan.wish import STATES
from vastzone.files import native
from vastzone.files.sheets import write_cards
from vastzone.files.tables import write_table


def run(options: argparse.Namespace) -> int:
    """Write the cards into a folder, or print them; tick a device's steps first if asked."""
    plan = native.read(options.file)
    if options.mark:
        plan = _marked(plan, options.mark)
        native.write(plan, options.file)
    made = cards(plan, options.all)
    written: tuple[Path, ...] = ()
    if options.output:
        written = write_cards(plan.name, made, options.output, date.today().isoformat())
        written += _track_lists(plan, options.output)
    if options.json:
        print_json({"plan": plan.name, "files": [str(p) for p in written],
                    "cards": [_as_json(one) for one in made]})  # fmt: skip
        return 0
    out = console()
    for one in made:
        _print(out, one)
    steps, presses = effort(made)
    out.print(f"{len(made)} cards, {steps} steps, about {presses} presses.")
    for path in written:
        out.print(f"Written: {path}")
    return 0


def _track_lists(plan: Plan, folder: Path) -> tuple[Path, ...]:
    """A track list for a recorder for each drum module."""
    made = []
    for owner in plan.devices:
        if owner.inputs and owner.programs:
            path = folder / f"tracks-{owner.id}.csv"
            held = tracks(plan, owner, owner.programs[0])
            write_table(to_csv(held), path, "The track list")
            made.append(path)
    return tuple(made)


def _marked(plan: Plan, wanted: str) -> Plan:
    """The plan with all steps of one device ticked."""
    name, _, state = wanted.partition("=")
    device = next((d for d in plan.devices if d.id == name), None)
    if device is None or state not in STATES:
        known = ", ".join(d.id for d in plan.devices)
        raise ReadError(
            f"“{wanted}” marks nothing: write DEVICE=STATE with one of the devices {known} "
            f"and one of {', '.join(STATES)}."
        )
    refs = [ref for step in card(plan, device).steps for ref in step.refs]
    return tick(refs, state, date.today().isoformat())(plan)


def _as_json(one: Card) -> dict[str, object]:
    return {
        "device": one.device, "preparation": list(one.preparation), "presses": one.presses,
        "sections": [
            {"title": section.title, "steps": [step._asdict() for step in section.steps],
             "closing": list(section.closing)}
            for section in one.sections
        ],
    }  # fmt: skip


def _print(out: object, one: Card) -> None:
    say = out.print  # type: ignore[attr-defined]
    say(f"\n[bold]{one.name}[/]  about {one.presses} presses")
    for line in one.preparation:
        say(f"  ☐ {line}")
    for section in one.sections:
        say(f"  [bold]{section.title}[/]")
        for step in section.steps:
            mark = "☑" if step.state in ("stored", "checked") else "☐"
            what = f"{step.thing}, {step.field.lower()}"
            say(f"    {mark} {what}: {step.before} → [bold]{step.after}[/]")
        for line in section.closing:
            say(f"    ☐ {line}")


def run_diff(options: argparse.Namespace) -> int:
    """Print what differs; 1 when anything does."""
    old = native.read(options.file)
    told = differences(old, native.read(options.new)) if options.new else undialled(old)
    if options.json:
        print_json({"differences": told})
    else:
        out = console()
        for sentence in told:
            out.print(sentence)
        same = "The plans do not differ." if options.new else "The devices hold what is planned."
        count = f"{len(told)} difference{'' if len(told) == 1 else 's'}."
        out.print(count if told else same)
    return 1 if told else 0
