"""``vastzone check``: the findings of a plan."""

import argparse

from vastzone.cli.output import COLOURS, console, print_json
from vastzone.core.plan.model import Plan
from vastzone.core.proof.check import check, tally
from vastzone.core.proof.finding import Finding
from vastzone.files import native


def run(options: argparse.Namespace) -> int:
    """Print the findings; 1 when there is a fault."""
    plan = native.read(options.file)
    findings = check(plan)
    if options.json:
        print_json({"plan": plan.name, "findings": [as_json(f) for f in findings]})
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
    out = console()
    counts = tally(findings)
    names = {scene.id: scene.name for scene in plan.scenes}
    for finding in findings:
        mark = f"[{COLOURS[finding.severity]}]{finding.severity:>7}[/]"
        out.print(f"{mark}  {finding.sentence}")
        if finding.scenes and len(finding.scenes) < len(names):
            out.print(f"         [dim]in {', '.join(names[s] for s in finding.scenes)}[/]")
        for fix in finding.fixes:
            out.print(f"         [dim]can be mended:[/] {fix.label}")
    said = zip(counts, ("fault", "caution", "hint"), strict=True)
    words = ", ".join(f"{count} {word}{'' if count == 1 else 's'}" for count, word in said)
    out.print(f"{plan.name}: {words}.")
