"""``vastzone cards`` and ``vastzone diff``."""

import argparse
from datetime import date
from pathlib import Path

from vastzone.cli.output import console, print_json
from vastzone.core.cards.card import Card, cards, effort
from vastzone.core.cards.diff import differences
from vastzone.files import native
from vastzone.files.sheets import write_cards


def run(options: argparse.Namespace) -> int:
    """Write the cards into a folder, or print them."""
    plan = native.read(options.file)
    made = cards(plan, options.all)
    written: tuple[Path, ...] = ()
    if options.output:
        written = write_cards(plan.name, made, options.output, date.today().isoformat())
    if options.json:
        print_json({"plan": plan.name, "files": [str(p) for p in written],
                    "cards": [_as_json(card) for card in made]})  # fmt: skip
        return 0
    out = console()
    for card in made:
        _print(out, card)
    steps, presses = effort(made)
    out.print(f"{len(made)} cards, {steps} steps, about {presses} presses.")
    for path in written:
        out.print(f"Written: {path}")
    return 0


def _as_json(card: Card) -> dict[str, object]:
    return {
        "device": card.device, "preparation": list(card.preparation), "presses": card.presses,
        "sections": [
            {"title": section.title, "steps": [step._asdict() for step in section.steps],
             "closing": list(section.closing)}
            for section in card.sections
        ],
    }  # fmt: skip


def _print(out: object, card: Card) -> None:
    say = out.print  # type: ignore[attr-defined]
    say(f"\n[bold]{card.name}[/]  about {card.presses} presses")
    for line in card.preparation:
        say(f"  ☐ {line}")
    for section in card.sections:
        say(f"  [bold]{section.title}[/]")
        for step in section.steps:
            mark = "☑" if step.state in ("stored", "checked") else "☐"
            what = f"{step.thing}, {step.field.lower()}"
            say(f"    {mark} {what}: {step.before} → [bold]{step.after}[/]")
        for line in section.closing:
            say(f"    ☐ {line}")


def run_diff(options: argparse.Namespace) -> int:
    """Print what differs; 1 when anything does."""
    told = differences(native.read(options.file), native.read(options.new))
    if options.json:
        print_json({"differences": told})
    else:
        out = console()
        for sentence in told:
            out.print(sentence)
        out.print(f"{len(told)} differences." if told else "The plans do not differ.")
    return 1 if told else 0
