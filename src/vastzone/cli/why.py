"""``vastzone why``: why a key or control is silent."""

import argparse

from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import device_for, read_rig
from vastzone.cli.trace import scene_for
from vastzone.core.errors import ReadError
from vastzone.core.memory.rig import as_dialled
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.silence import why_is_it_silent
from vastzone.core.text import quoted, whole_number


def run(options: argparse.Namespace) -> int:
    """Print the first cause and what is left to look at; 1 when the plan shows a cause."""
    rig = read_rig(options.file)
    plan = as_dialled(rig.plan, rig.memory) if options.dialled else rig.plan
    scene = scene_for(plan, options.scene)
    owner, thing = _source(plan, options.source)
    is_bed = any(bed.id == thing for bed in owner.keybeds)
    number = _key(owner, options.number) if is_bed else _bank(options.number)
    if not 1 <= options.velocity <= 127:
        raise ReadError("A velocity is 1–127: write one of these after --velocity.")
    reasons = why_is_it_silent(plan, scene, ref_to(owner.id, thing), number, options.velocity)
    if options.json:
        cause = reasons.cause._asdict() if reasons.cause else None
        print_json({"cause": cause, "checklist": list(reasons.checklist)})
    else:
        out = Printer()
        said = (
            reasons.cause.sentence if reasons.cause else "The plan shows no cause: it should sound."
        )
        out.say(("bold", said))
        for line in reasons.checklist:
            out.say(f"  ☐ {line}")
    return 1 if reasons.cause else 0


def _key(owner: Device, words: str | None) -> int:
    return pitch.parse(words, owner.octaves) if words else pitch.MIDDLE_C


def _bank(words: str | None) -> int:
    number = whole_number(words) if words else 1
    if number is None or number < 1:
        raise ReadError(f"“{quoted(words)}” is no bank: write its number, from 1.")
    return number


def _source(plan: Plan, wanted: str) -> tuple[Device, str]:
    name, thing = read_ref(wanted)
    owner = device_for(plan, name)
    things = [*(bed.id for bed in owner.keybeds), *(control.id for control in owner.controls)]
    if not thing and things:
        return owner, things[0]
    if thing not in things:
        raise ReadError(f"{owner.name} has no “{quoted(thing)}”: it has {', '.join(things)}.")
    return owner, thing
