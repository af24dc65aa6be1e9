"""``vastzone why``: why a key or control is silent."""

import argparse

from vastzone.cli.output import console, print_json
from vastzone.cli.places import device_for
from vastzone.cli.trace import scene_for
from vastzone.core.errors import ReadError
from vastzone.core.midi import pitch
from vastzone.core.plan.model import Device, Plan
from vastzone.core.proof.silence import why_is_it_silent
from vastzone.files import native


def run(options: argparse.Namespace) -> int:
    """Print the first cause and what is left to look at; 1 when the plan shows a cause."""
    plan = native.read(options.file)
    scene = scene_for(plan, options.scene)
    owner, thing = _source(plan, options.source)
    is_bed = any(bed.id == thing for bed in owner.keybeds)
    words = options.number or ("60" if is_bed else "1")
    number = pitch.parse(words, owner.octaves) if is_bed else int(words) if words.isdigit() else 1
    found = why_is_it_silent(plan, scene, f"{owner.id}:{thing}", number, options.velocity)
    if options.json:
        cause = found.cause._asdict() if found.cause else None
        print_json({"cause": cause, "checklist": list(found.checklist)})
    else:
        out = console()
        said = found.cause.sentence if found.cause else "The plan shows no cause: it should sound."
        out.print(f"[bold]{said}[/]")
        for line in found.checklist:
            out.print(f"  ☐ {line}")
    return 1 if found.cause else 0


def _source(plan: Plan, wanted: str) -> tuple[Device, str]:
    name, _, thing = wanted.partition(":")
    owner = device_for(plan, name)
    things = [*(b.id for b in owner.keybeds), *(c.id for c in owner.controls)]
    if not thing and things:
        return owner, things[0]
    if thing not in things:
        raise ReadError(f"{owner.name} has no “{thing}”: it has {', '.join(things)}.")
    return owner, thing
