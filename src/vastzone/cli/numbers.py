"""``vastzone numbers``: work every number out and save the result."""

import argparse

from vastzone.cli.output import Printer, add_row, print_json, table
from vastzone.cli.places import read_rig, write_plan
from vastzone.core.cards.card import cards, effort
from vastzone.core.errors import EditError
from vastzone.core.memory.model import Memory
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.edits.schools import choose_school
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.fields.words import number_words
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import ControllerSchool
from vastzone.core.say import say, say_many
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.numbers import Number, Solution


def run(options: argparse.Namespace) -> int:
    """Print what changes and why; 1 when the wishes cannot all hold."""
    rig = read_rig(options.file)
    solved = work_out(_as_wanted(rig.plan, options), memory=rig.memory)
    if isinstance(solved, Refusal):
        _refused(solved, options.json)
        return 3 if solved.defects else 1
    if solved.silences and not options.accept:
        _would_silence(solved, options.json)
        return 1
    if options.output:
        write_plan(solved.plan, rig.memory, options.output, options)
    _solved(solved, rig.memory, options.json)
    return 0


def _as_wanted(plan: Plan, options: argparse.Namespace) -> Plan:
    """The plan with numbers to be chosen as the options say: of some controls, or of all."""
    school: ControllerSchool | None = options.school
    if school is None and options.run_from is not None:
        school = "run"
    if school is None:
        if options.of:
            raise EditError(say("Say how their numbers are to be chosen: add --school or --from."))
        return plan
    first = plan.schools.run_from if options.run_from is None else options.run_from
    if options.of:
        return choose_school(options.of, school, first)(plan)
    schools = changed(plan.schools, controllers=school, run_from=first)
    return set_plan(say("Change how numbers are chosen"), schools=schools)(plan)


def _refused(refusal: Refusal, as_json: bool) -> None:
    mends = [{"mend": m.label, "cost": m.cost} for m in refusal.mends]
    if as_json:
        print_json(
            {
                "solved": False,
                "why": refusal.sentence,
                "wishes": list(refusal.wishes),
                "locks": list(refusal.locks),
                "mends": mends,
            }
        )
        return
    out = Printer()
    out.write(("red", say("Not possible:")), f" {refusal.sentence}")
    for mend in refusal.mends:
        out.write("  ", ("dim", say("would mend it:")), f" {mend.label} ({mend.cost})")


def _would_silence(solution: Solution, as_json: bool) -> None:
    """Say what would fall silent: nothing is written unless that is accepted."""
    if as_json:
        print_json({"solved": False, "silent": list(solution.warnings)})
        return
    out = Printer()
    for sentence in solution.warnings:
        out.write(("yellow", "Caution:"), f" {sentence}")
    out.write(say("Nothing is written: add --accept to let them fall silent, or wish for them."))


def _solved(solution: Solution, memory: Memory, as_json: bool) -> None:
    if as_json:
        print_json(
            {
                "solved": True,
                "gap": solution.gap,
                "numbers": [
                    {"setting": n.ref, "from": n.before, "to": n.after, "why": n.reason}
                    for n in solution.numbers
                ],
                "others": list(solution.others),
                "silent": list(solution.warnings),
            }
        )
        return
    out, rows = (
        Printer(),
        table(
            say("Device"), say("Where"), say("What"), ">" + say("From"), ">" + say("To"), say("Why")
        ),
    )
    for number in solution.numbers:
        add_row(rows, *row_of(solution.plan, number))
    for sentence in solution.warnings:
        out.write(("yellow", "Caution:"), f" {sentence}")
    out.show(rows)
    for sentence in solution.others:
        out.write(sentence)
    steps, presses = effort(cards(solution.plan, memory))
    best = (
        say("proved to be the fewest")
        if not solution.gap
        else say("within {gap:.1%} of the best", gap=solution.gap)
    )
    out.write(
        say(
            "{numbers} to change ({best}); {steps}, about {presses}.",
            numbers=say_many("{count} number", "{count} numbers", len(solution.numbers)),
            best=best,
            steps=say_many("{count} step", "{count} steps", steps),
            presses=say_many("{count} press", "{count} presses", presses),
        )
    )


def row_of(plan: Plan, number: Number) -> tuple[str, str, str, str, str, str]:
    """A number in words: device, where, what, from, to, why."""
    dial = dials(plan)[number.ref]
    program, where, what, before, after = number_words(dial, number.before, number.after)
    place = say("program {program}, {where}", program=program, where=where) if program else where
    return dial.owner.device.name, place, what, before, after, number.reason
