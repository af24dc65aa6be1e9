"""``vastzone check``: the findings of a plan."""

import argparse

from vastzone.cli.output import COLOURS, Printer, print_json
from vastzone.cli.places import read_rig
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.causes import everything
from vastzone.core.proof.check import tally
from vastzone.core.proof.finding import Finding
from vastzone.core.say import say, say_many


def run(options: argparse.Namespace) -> int:
    """Print the findings; 1 when there is a fault."""
    rig = read_rig(options.file)
    plan, findings = rig.plan, everything(rig.plan, rig.memory)
    if options.json:
        print_json({"plan": plan.name, "findings": [as_json(finding) for finding in findings]})
    else:
        _print(plan, findings)
    return 1 if tally(findings).faults else 0


def as_json(finding: Finding) -> dict[str, object]:
    """A finding as the command line's JSON has it."""
    return {
        "rule": finding.rule,
        "severity": finding.severity,
        "subjects": list(finding.subjects),
        "scenes": list(finding.scenes),
        "sentence": finding.sentence,
        "fixes": [fix.label for fix in finding.fixes],
    }


def _print(plan: Plan, findings: tuple[Finding, ...]) -> None:
    out = Printer()
    counts = tally(findings)
    names = lookup.names_of(plan.scenes)
    for finding in findings:
        mark = (COLOURS[finding.severity], f"{say(finding.severity):>7}")
        out.write(mark, f"  {finding.sentence}")
        if finding.scenes and len(finding.scenes) < len(names):
            where = ", ".join(names[scene] for scene in finding.scenes)
            out.write("         ", ("dim", say("in {where}", where=where)))
        for fix in finding.fixes:
            out.write("         ", ("dim", say("can be mended:")), f" {fix.label}")
    faults, cautions, hints = counts
    out.write(
        say(
            "{plan}: {faults}, {cautions}, {hints}.",
            plan=plan.name,
            faults=say_many("{count} fault", "{count} faults", faults),
            cautions=say_many("{count} caution", "{count} cautions", cautions),
            hints=say_many("{count} hint", "{count} hints", hints),
        )
    )
