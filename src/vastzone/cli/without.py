"""``vastzone without``."""

import argparse

from vastzone.cli.output import Printer, add_row, print_json, table
from vastzone.cli.places import read_plan
from vastzone.core.errors import EditError
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import number, say, say_many
from vastzone.core.solve.losing import Loss, losses
from vastzone.core.solve.without import (
    SceneWithout,
    Without,
    as_a_plan,
    every_loss,
    without,
    worst_first,
)
from vastzone.core.text import listed, quoted
from vastzone.files import native


def run(options: argparse.Namespace) -> int:
    """Say what works without something, and what stands in; of every device where none is named."""
    plan = read_plan(options.file)
    if options.thing is None:
        told = worst_first(list(every_loss(plan)))
    else:
        told = [without(plan, _loss(plan, options.thing))]
    if options.output is not None:
        if options.thing is None:
            raise EditError(say("Say what the plan shall be without before it is written."))
        native.write(as_a_plan(told[0]), options.output, replace=options.force)
    if options.json:
        print_json([_as_json(plan, one) for one in told])
    elif options.thing is None:
        _print_all(Printer(), told)
    else:
        _print(Printer(), plan, told[0])
    return 0 if all(one.weight >= 1.0 - 1e-9 for one in told) else 1


def _loss(plan: Plan, wanted: str) -> Loss:
    """What may fail, by id or name.  Raises EditError."""
    every = losses(plan)
    for loss in every:
        if wanted.lower() in (loss.ident.lower(), loss.name.lower()):
            return loss
    known = listed((loss.name for loss in every), 8)
    raise EditError(
        say(
            "There is no “{wanted}” that could fail: choose one of {known}.",
            wanted=quoted(wanted),
            known=known,
        )
    )


def _print_all(out: Printer, told: list[Without]) -> None:
    rows = table(
        say("Without"),
        ">" + say("Scenes whole"),
        ">" + say("Keeps"),
        ">" + say("With stand-in"),
        ">" + say("Keeps"),
        ">" + say("Changes"),
    )
    for one in told:
        count = len(one.scenes)
        add_row(
            rows,
            one.loss.name,
            say("{whole} of {count}", whole=one.whole, count=count),
            number(one.bare_weight, ".0%"),
            say("{rescued_whole} of {count}", rescued_whole=one.rescued_whole, count=count),
            number(one.weight, ".0%"),
            str(one.changes),
        )
    out.show(rows)


def _print(out: Printer, plan: Plan, one: Without) -> None:
    names = lookup.names_of(plan.scenes) | lookup.names_of(plan.wishes)
    out.write(
        ("bold", say("Without {loss}", loss=one.loss.name)),
        say(": {bare_weight:.0%} of what matters works.", bare_weight=one.bare_weight),
    )
    for scene in one.scenes:
        name = names.get(scene.scene, say("The whole plan"))
        lost = say("without {lost}", lost=listed(scene.lost, 5)) if scene.lost else ""
        out.write(f"    {name}: {scene.verdict} {lost}".rstrip())
    changes = say_many("{count} change", "{count} changes", one.changes)
    out.write(
        say(
            "The best that can stand in keeps {weight:.0%}, with {changes}:",
            weight=one.weight,
            changes=changes,
        )
    )
    for moved in one.moved:
        out.write(
            f"    {moved.words}"
            + (say(" ({share:.0%})", share=moved.share) if moved.share < 1 else "")
        )
    if one.dropped:
        out.write(
            say("    lost: {names}", names=listed((names[ident] for ident in one.dropped), 8))
        )


def _as_json(plan: Plan, one: Without) -> dict[str, object]:
    return {
        "without": one.loss.name,
        "kind": one.loss.kind,
        "keeps": round(one.bare_weight, 4),
        "scenes": [_scene(scene) for scene in one.scenes],
        "stand_in": {
            "keeps": round(one.weight, 4),
            "changes": one.changes,
            "moved": [moved.words for moved in one.moved],
            "kept": [wish.id for wish in plan.wishes if wish.id in one.kept],
            "dropped": list(one.dropped),
            "scenes": [_scene(scene) for scene in one.rescued],
        },
    }


def _scene(scene: SceneWithout) -> dict[str, object]:
    return {"scene": scene.scene, "verdict": scene.verdict, "lost": list(scene.lost)}
