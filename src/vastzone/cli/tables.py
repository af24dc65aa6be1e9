"""``vastzone tables``."""

import argparse
from pathlib import Path

from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import read_plan
from vastzone.core.cards.control_tune import control_tune
from vastzone.core.engine.compile import compile_scene
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say, say_many
from vastzone.files import native
from vastzone.files.table_files import read_table, write_tables
from vastzone.files.tune_files import tune_bytes, write_tune


def run(options: argparse.Namespace) -> int:
    """Write tables and a test tune, or read a table back and say what differs."""
    plan = read_plan(options.file)
    if options.read is not None:
        return _read(options, plan)
    written: list[Path] = []
    if options.output is not None:
        written += write_tables(plan, options.output, replace=options.force)
    if options.tune is not None:
        scene = plan.scenes[0] if plan.scenes else None
        tones = control_tune(compile_scene(plan, scene))
        write_tune(tune_bytes(plan.name, tones), options.tune, replace=options.force)
        written.append(options.tune)
    if options.json:
        print_json({"plan": plan.name, "files": [str(path) for path in written]})
        return 0
    out = Printer()
    for path in written:
        out.write(say("Written: {path}", path=path))
    if not written:
        out.write(say("Say with -o where the tables go, or with --read which one is read back."))
    return 0


def _read(options: argparse.Namespace, plan: Plan) -> int:
    told = read_table(plan, options.read)
    after = told.edit(plan) if told.edit is not None and not told.mistakes else plan
    if options.save is not None and after is not plan:
        native.write(after, options.save, replace=options.force)
    if options.json:
        print_json(
            {"table": told.kind, "changes": list(told.changes), "mistakes": list(told.mistakes)}
        )
    else:
        out = Printer()
        for words in told.changes:
            out.write(words)
        for words in told.mistakes:
            out.write(("red", words))
        out.write(
            say(
                "{changes}, {mistakes}.",
                changes=say_many("{count} change", "{count} changes", len(told.changes)),
                mistakes=say_many("{count} mistake", "{count} mistakes", len(told.mistakes)),
            )
        )
    return 2 if told.mistakes else 1 if told.changes else 0
