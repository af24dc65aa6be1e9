"""``vastzone why``: the verdict on a key or control, and what is behind it."""

import argparse

from vastzone.cli.check import as_json
from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import device_for, read_rig
from vastzone.cli.trace import scene_for
from vastzone.core.errors import ReadError
from vastzone.core.memory.rig import as_dialled
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.why import Why, why
from vastzone.core.proof.words import mark_words
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number


def run(options: argparse.Namespace) -> int:
    """Print the verdict with its causes and what is left to look at; 1 when one is known."""
    rig = read_rig(options.file)
    plan = as_dialled(rig.plan, rig.memory) if options.dialled else rig.plan
    scene = scene_for(plan, options.scene)
    owner, thing = _source(plan, options.source)
    is_bed = any(bed.id == thing for bed in owner.keybeds)
    number = _key(owner, options.number) if is_bed else _bank(options.number)
    if not 1 <= options.velocity <= 127:
        raise ReadError(say("A velocity is 1–127: write one of these after --velocity."))
    source = ref_to(owner.id, thing)
    found = why(plan, scene, source, number, options.velocity, rig.memory)
    if options.json:
        print_json(_as_json(found))
    else:
        _print(plan, found)
    return 1 if found.is_wrong else 0


def _as_json(found: Why) -> dict[str, object]:
    """What is known as the command line's JSON has it."""
    cause = found.silence.cause
    return {
        "verdict": found.verdict,
        "cause": cause._asdict() if cause else None,
        "causes": [as_json(finding) for finding in found.causes],
        "checklist": list(found.silence.checklist),
    }


def _print(plan: Plan, found: Why) -> None:
    """The verdict, its causes with what would mend them, and what only a person can see."""
    out, mark, silence = Printer(), found.mark, found.silence
    if mark is not None:
        out.write(
            (
                "bold",
                say("{mark} is {verdict}.", mark=mark_words(plan, mark), verdict=mark.verdict),
            ),
            f" {mark.remark}".rstrip(),
        )
    if silence.cause is not None and found.verdict in ("", "silent"):
        out.write(silence.cause.sentence)
    for finding in found.causes:
        out.write(finding.sentence)
        for fix in finding.fixes:
            out.write("  ", ("dim", say("can be mended:")), f" {fix.label}")
    if not found.is_wrong and mark is None:
        out.write(("bold", say("The plan shows no cause: it should sound.")))
    if found.verdict in ("", "silent", "as meant"):
        for line in silence.checklist:
            out.write(f"  ☐ {line}")


def _key(owner: Device, words: str | None) -> int:
    return pitch.parse(words, owner.octaves) if words else pitch.MIDDLE_C


def _bank(words: str | None) -> int:
    number = whole_number(words) if words else 1
    if number is None or number < 1:
        raise ReadError(say("“{words}” is no bank: write its number, from 1.", words=quoted(words)))
    return number


def _source(plan: Plan, wanted: str) -> tuple[Device, str]:
    name, thing = read_ref(wanted)
    owner = device_for(plan, name)
    things = [*(bed.id for bed in owner.keybeds), *(control.id for control in owner.controls)]
    if not thing and things:
        return owner, things[0]
    if thing not in things:
        raise ReadError(
            say(
                "{owner} has no “{thing}”: it has {things}.",
                owner=owner.name,
                thing=quoted(thing),
                things=", ".join(things),
            )
        )
    return owner, thing
