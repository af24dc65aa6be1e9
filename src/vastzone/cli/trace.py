"""``vastzone trace``: a MIDI file run through a plan."""

import argparse

from vastzone.cli.output import Printer, add_row, print_json, table
from vastzone.cli.places import device_for, read_plan
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.trace import Trace, TraceEntry, trace
from vastzone.core.errors import ReadError
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.midi_file import read_song


def run(options: argparse.Namespace) -> int:
    """Print what each part sounded; 1 when an event reached nothing or a note hangs."""
    plan = read_plan(options.file)
    song = read_song(options.midi)
    scene = scene_for(plan, options.scene)
    result = trace(compile_scene(plan, scene), song.events, entry_for(plan, options.at))
    if options.json:
        print_json(_as_json(plan, scene, result))
    else:
        _print(plan, scene, result)
    return 1 if result.lost or result.hanging else 0


def scene_for(plan: Plan, wanted: str | None) -> Scene | None:
    """The scene of that name or id, the first when none is named.  Raises ReadError."""
    if wanted is None:
        return plan.scenes[0] if plan.scenes else None
    for scene in plan.scenes:
        if wanted.lower() in (scene.id, scene.name.lower()):
            return scene
    names = ", ".join(s.name for s in plan.scenes) or say("none")
    raise ReadError(
        say("The plan has no scene “{wanted}”: it has {names}.", wanted=quoted(wanted), names=names)
    )


def entry_for(plan: Plan, wanted: str | None) -> TraceEntry:
    """Where a file enters: ``DEVICE``, ``DEVICE:KEYBED``, ``DEVICE:PORT``, or the first keyboard.

    Raises ReadError when there is no such place.
    """
    beds = lookup.keybeds(plan)
    if wanted is None:
        if not beds:
            raise ReadError(say("The plan has no keyboard: say with --at where the file enters."))
        return TraceEntry(beds[0][0].id, beds[0][1].id)
    name, thing = read_ref(wanted)
    owner = device_for(plan, name)
    for bed in owner.keybeds:
        if thing in ("", bed.id):
            return TraceEntry(owner.id, bed.id)
    if any(port.id == thing and port.flow != "in" for port in owner.ports):
        return TraceEntry(owner.id, port=thing)
    places = ", ".join(
        [keybed.id for keybed in owner.keybeds]
        + [port.id for port in owner.ports if port.flow != "in"]
    )
    raise ReadError(
        say(
            "{owner} has no keys or output “{thing}”: it has {places}.",
            owner=owner.name,
            thing=quoted(thing),
            places=places,
        )
    )


def _as_json(plan: Plan, scene: Scene | None, result: Trace) -> dict[str, object]:
    return {
        "plan": plan.name,
        "scene": scene.id if scene else None,
        "events": result.events,
        "parts": [
            {
                "part": hit.ref,
                "notes": hit.notes,
                "lowest": hit.low,
                "highest": hit.high,
                "worst_ms": round(hit.worst_ms, 3),
            }
            for hit in result.heard
        ],
        "lost": [{"why": lost.sentence, "events": lost.events} for lost in result.lost],
        "worst_ms": round(result.worst_ms, 3),
        "hanging": result.hanging,
    }


def _print(plan: Plan, scene: Scene | None, result: Trace) -> None:
    out = Printer()
    where = f", {scene.name}" if scene else ""
    out.write(("bold", f"{plan.name}{where}"), say(": {events} events", events=result.events))
    rows = table(say("Part"), ">" + say("Notes"), say("Range"), ">" + say("Worst delay"))
    for heard in result.heard:
        device, ident = read_ref(heard.ref)
        owner = lookup.device(plan, device)
        name = say("{part} in {owner}", part=lookup.part(owner, ident).name, owner=owner.name)
        keys = pitch.span(heard.low, heard.high, owner.octaves)
        add_row(
            rows, name, str(heard.notes), keys, say("{worst_ms:.2f} ms", worst_ms=heard.worst_ms)
        )
    out.show(rows)
    for lost in result.lost:
        out.write(
            ("red", say("{events} events reached nothing:", events=lost.events)),
            f" {lost.sentence}",
        )
    if result.hanging:
        out.write(("red", say("{hanging} notes still sound at the end.", hanging=result.hanging)))
