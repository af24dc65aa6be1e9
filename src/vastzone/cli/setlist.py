"""``vastzone setlist``."""

import argparse

from vastzone.cli.output import Printer, print_json
from vastzone.cli.places import read_plan
from vastzone.core.cards.setlist import SongRow, by_player, rows_of, step_words
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.setlists import add_setlist
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.setlists import SetList
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.say import say, say_many
from vastzone.core.solve.running_order import RunningOrder, best_order, presses_in
from vastzone.core.solve.storing import Stored, best_storing
from vastzone.core.text import quoted
from vastzone.files.setlist_files import write_setlist


def run(options: argparse.Namespace) -> int:
    """Print a set list with what each change costs; write it where that is asked."""
    plan = read_plan(options.file)
    one, plan = _chosen(plan, options.list)
    rows = rows_of(plan, one)
    stored = _storings(plan, one) if options.best else ()
    order = best_order(plan, one.played) if options.best and one.played else None
    if options.output:
        write_setlist(plan, one, options.output, replace=options.force)
    if options.json:
        print_json(_as_json(plan, one, rows, stored, order))
        return 0
    out = Printer()
    for row in rows:
        _print(out, plan, row)
    total = presses_in(plan, one.played) if one.played else 0
    out.write(
        say(
            "{songs}, {presses} between them.",
            songs=say_many("{count} song", "{count} songs", len(one.played)),
            presses=say_many("{count} press", "{count} presses", total),
        )
    )
    for each in stored:
        out.write(_stored_words(plan, each))
    if order is not None and order.presses < total:
        names = lookup.names_of(plan.scenes)
        out.write(
            say(
                "In another order {presses}: {names}.",
                presses=say_many("{count} press", "{count} presses", order.presses),
                names=", ".join(names[ident] for ident in order.songs),
            )
        )
    if options.output:
        out.write(say("Written: {output}", output=options.output))
    return 0


def _chosen(plan: Plan, wanted: str | None) -> tuple[SetList, Plan]:
    """The set list by name or id; all songs in their order where the plan has none."""
    if not plan.setlists and wanted is None:
        if not plan.scenes:
            raise EditError(
                say("{plan} has no songs yet: add scenes first.", plan=quoted(plan.name))
            )
        plan = add_setlist(say("All songs")).change(plan)
    for one in plan.setlists:
        if wanted in (None, one.id, one.name):
            return one, plan
    known = ", ".join(f"“{one.name}”" for one in plan.setlists) or say("none")
    raise EditError(
        say(
            "There is no set list “{wanted}”: choose one of {known}.",
            wanted=quoted(wanted or ""),
            known=known,
        )
    )


def _storings(plan: Plan, one: SetList) -> tuple[Stored, ...]:
    found = []
    for device in plan.devices:
        if device.changes_by == "own buttons" and device.storage.step != "none":
            stored = best_storing(plan, device, [one.played])
            if stored.now.presses:
                found.append(stored)
    return tuple(found)


def _stored_words(plan: Plan, stored: Stored) -> str:
    device = lookup.device(plan, stored.now.device)
    best = stored.best
    if best.presses >= stored.now.presses:
        return say(
            "{device} is stored as well as can be: {presses} presses.",
            device=device.name,
            presses=stored.now.presses,
        )
    slots = []
    for number, places in sorted(best.slots.items(), key=lambda item: item[1]):
        name = lookup.program(device, number).name
        slots.append(f"{' and '.join(program_words(device, slot) for slot in places)} {name}")
    proved = "" if best.is_best else say(", up to {gap} fewer might be possible", gap=best.gap)
    return say(
        "{device}: {presses} presses instead of {stored_now}{proved}, with {slots} stored "
        "anew: {join_slots}.",
        device=device.name,
        presses=best.presses,
        stored_now=stored.now.presses,
        proved=proved,
        slots=say_many("{count} slot", "{count} slots", best.moved),
        join_slots=", ".join(slots),
    )


def _print(out: Printer, plan: Plan, row: SongRow) -> None:
    number = f"{row.number}. " if row.number else ""
    spare = "  (spare)" if row.spare else ""
    out.write(("bold", f"{number}{row.title}"), spare)
    if row.change is None:
        return
    for step in row.change.steps:
        out.write(f"    {step_words(plan, step)}")
    pressed = ", ".join(by_player(row))
    if pressed:
        out.write(
            say(
                "    presses: {pressed}; about {seconds:.1f} s",
                pressed=pressed,
                seconds=row.change.seconds,
            )
        )
    for one in row.heard:
        if one.is_heard:
            out.write("    ", ("yellow", f"{one.why}."))


def _as_json(
    plan: Plan,
    one: SetList,
    rows: tuple[SongRow, ...],
    stored: tuple[Stored, ...],
    order: RunningOrder | None,
) -> dict[str, object]:
    told: dict[str, object] = {"setlist": one.name, "songs": [_row_json(plan, r) for r in rows]}
    if stored:
        told["best"] = [_stored_json(each) for each in stored]
    if order is not None:
        told["order"] = {"songs": list(order.songs), "presses": order.presses, "gap": order.gap}
    return told


def _row_json(plan: Plan, row: SongRow) -> dict[str, object]:
    told: dict[str, object] = {"title": row.title, "number": row.number, "spare": row.spare}
    if row.change is not None:
        told |= {
            "presses": dict(row.change.by_player),
            "dives": row.change.dives,
            "ms": row.change.ms,
            "seconds": row.change.seconds,
            "changes": [step_words(plan, step) for step in row.change.steps],
            "heard": [{"fate": g.fate, "what": g.what, "why": g.why} for g in row.heard],
        }
    return told


def _stored_json(stored: Stored) -> dict[str, object]:
    best = stored.best
    return {
        "device": best.device,
        "now": stored.now.presses,
        "presses": best.presses,
        "without_copies": stored.without.presses,
        "moved": best.moved,
        "gap": best.gap,
        "slots": {str(number): list(slots) for number, slots in best.slots.items()},
    }
