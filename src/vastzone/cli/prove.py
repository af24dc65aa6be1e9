"""``vastzone prove``: everything simulated and compared with the wishes."""

import argparse

from vastzone.cli.output import Printer, add_row, print_json, table
from vastzone.cli.places import read_rig
from vastzone.core.memory.model import Memory
from vastzone.core.memory.rig import as_dialled
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.causes import Cause, causes
from vastzone.core.proof.dialled import prove_dialled
from vastzone.core.proof.marking import Proof, prove
from vastzone.core.proof.verdict import VERDICTS, Mark, Verdict
from vastzone.core.proof.words import hits_words, mark_words
from vastzone.core.say import say, say_many

COLOURS = {"silent": "red", "wrong": "red", "extra": "yellow", "double": "yellow"}
UNKNOWN = "dim"


def run(options: argparse.Namespace) -> int:
    """Print what is not as meant; 1 when there is anything."""
    rig = read_rig(options.file)
    plan, proof = rig.plan, prove(*rig)
    if options.dialled:
        plan, proof = as_dialled(*rig), prove_dialled(*rig)
    if options.json:
        print_json(
            {
                "plan": plan.name,
                "good": proof.good,
                "counts": {verdict: proof.count(verdict) for verdict in _verdicts(options.dialled)},
                "causes": _causes_as_json(plan, rig.memory),
                "faults": [_as_json(scene, mark) for scene, mark in proof.faults()],
            }
        )
    else:
        _print(plan, rig.memory, proof, options.dialled)
    return 0 if proof.good else 1


def _causes_as_json(plan: Plan, memory: Memory) -> list[dict[str, object]]:
    return [_cause_as_json(cause) for cause in causes(plan, memory) if cause.weight]


def _cause_as_json(cause: Cause) -> dict[str, object]:
    finding = cause.finding
    return {
        "rule": finding.rule,
        "why": finding.sentence,
        "keys": cause.keys,
        "controls": cause.controls,
        "scenes": list(finding.scenes),
        "fixes": [edit.label for edit in finding.fixes],
    }


def _as_json(scene: str, mark: Mark) -> dict[str, object]:
    told = mark._asdict() | {"scene": scene}
    for name in ("meant", "missing", "extra"):
        told[name] = [{"part": hit.ref, "shift": hit.shift} for hit in told[name]]
    return told


def _print(plan: Plan, memory: Memory, proof: Proof, dialled: bool) -> None:
    out = Printer()
    names = lookup.names_of(plan.scenes)
    rows = table(say("Scene"), say("Struck"), say("Verdict"), say("Missing"), say("Too much"))
    for scene, mark in proof.faults():
        verdict = (COLOURS.get(mark.verdict, UNKNOWN), say(mark.verdict))
        missing = mark.remark or hits_words(plan, mark.missing)
        add_row(
            rows,
            names.get(scene, ""),
            mark_words(plan, mark),
            verdict,
            missing,
            hits_words(plan, mark.extra),
        )
    if not proof.good:
        out.show(rows)
        behind = table(say("Behind it"), say("Spoilt"), "")
        for cause in causes(plan, memory):
            if cause.weight:
                fixes = cause.finding.fixes
                mend = say("can be mended: {fixes}", fixes=fixes[0].label) if fixes else ""
                add_row(
                    behind,
                    cause.finding.sentence,
                    say_many("{count} strike", "{count} strikes", cause.weight),
                    mend,
                )
        out.show(behind)
    counts = ", ".join(f"{proof.count(v)} {say(v)}" for v in _verdicts(dialled))
    lens = say(", as dialled") if dialled else ""
    out.write(f"{plan.name}{lens}: {counts}.")


def _verdicts(dialled: bool) -> tuple[Verdict, ...]:
    """The verdicts that are counted: of what is dialled, something may not be known."""
    return (*VERDICTS, "not known") if dialled else VERDICTS
