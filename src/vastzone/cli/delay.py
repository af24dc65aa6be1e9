"""``vastzone delay``."""

import argparse

from vastzone.cli.output import Printer, add_row, print_json, table
from vastzone.cli.places import read_plan
from vastzone.cli.trace import entry_for, scene_for
from vastzone.core.delay.bars import DelayBar, bars
from vastzone.core.delay.crowd import crowd, crowded_paths, line_names
from vastzone.core.delay.late_notes import Lateness, play_through
from vastzone.core.delay.paths import delay_paths, verdict_of
from vastzone.core.delay.what_if import WhatIf, as_it_is, what_ifs
from vastzone.core.engine.compile import Compiled, compile_scene
from vastzone.core.say import say, say_many
from vastzone.core.timing.hops import PLAYABLE_MS
from vastzone.files.midi_file import read_song

COLOURS = {"good": "green", "playable": "yellow", "late": "red"}


def run(options: argparse.Namespace) -> int:
    """Say how late everything is; status 1 where something that sounds is past 10 ms."""
    plan = read_plan(options.file)
    scene = scene_for(plan, options.scene)
    compiled = compile_scene(plan, scene)
    told = bars(plan, delay_paths(compiled))
    played = None
    if options.midi is not None:
        song = read_song(options.midi)
        played = play_through(compiled, song.events, entry_for(plan, options.at), PLAYABLE_MS)
    tried = (as_it_is(plan, scene), *what_ifs(plan, scene)) if options.what_if else ()
    if options.json:
        print_json(_as_json(compiled, told, tried, played))
    else:
        _print(Printer(), compiled, told, tried, played)
    late = any(bar.paths[0].sounds and bar.worst_ms > PLAYABLE_MS for bar in told)
    return 1 if late or (played is not None and played.late) else 0


def _print(
    out: Printer,
    compiled: Compiled,
    told: tuple[DelayBar, ...],
    tried: tuple[WhatIf, ...],
    played: Lateness | None,
) -> None:
    _print_bars(out, told)
    _print_crowd(out, compiled)
    for each in tried:
        out.write(
            say(
                "{each}: {worst_ms:.1f} ms, {crowded_ms:.1f} in the crowd, {ways} late",
                each=each.name,
                worst_ms=each.worst_ms,
                crowded_ms=each.crowded_ms,
                ways=say_many("{count} way", "{count} ways", each.late),
            )
        )
    if played is not None:
        out.write(
            say(
                "{notes} played: {mean_ms:.1f} ms on average, {worst_ms:.1f} at worst, "
                "{many_played} "
                "late.",
                notes=say_many("{count} note", "{count} notes", played.notes),
                mean_ms=played.mean_ms,
                worst_ms=played.worst_ms,
                many_played=say_many("{count} note", "{count} notes", len(played.late)),
            )
        )


def _print_bars(out: Printer, told: tuple[DelayBar, ...]) -> None:
    rows = table(
        say("From"), say("To"), ">" + say("Worst"), ">" + say("Usual"), "", say("Most of it")
    )
    for bar in told:
        verdict = verdict_of(bar.worst_ms)
        add_row(
            rows,
            bar.begins,
            bar.ends,
            say("{worst_ms:.1f} ms", worst_ms=bar.worst_ms),
            say("{usual_ms:.1f} ms", usual_ms=bar.usual_ms),
            (COLOURS[verdict], say(verdict)),
            _longest_words(bar),
        )
    out.show(rows)


def _longest_words(bar: DelayBar) -> str:
    longest = bar.paths[0].longest
    if not longest:
        return ""
    return say(
        "{kind} {worst_ms:.1f} ms, {where}",
        kind=longest.kind,
        worst_ms=longest.worst_ms,
        where=longest.where,
    )


def _print_crowd(out: Printer, compiled: Compiled) -> None:
    together = crowd(compiled)
    strokes = say_many("{count} stroke", "{count} strokes", together.strokes)
    out.write(("bold", say("{strokes} at once:", strokes=strokes)))
    for line in together.lines[:6]:
        said = say(
            "{messages}, busy {busy_ms:.1f} ms",
            messages=say_many("{count} message", "{count} messages", line.messages),
            busy_ms=line.busy_ms,
        )
        out.write(f"    {line_names(compiled.plan, line)}: {said}")


def _as_json(
    compiled: Compiled,
    told: tuple[DelayBar, ...],
    tried: tuple[WhatIf, ...],
    played: Lateness | None,
) -> dict[str, object]:
    ways = []
    for bar in told:
        pieces = []
        for piece in bar.pieces:
            pieces.append(
                {
                    "kind": piece.kind,
                    "where": piece.where,
                    "usual_ms": round(piece.usual_ms, 3),
                    "worst_ms": round(piece.worst_ms, 3),
                }
            )
        ways.append(
            {
                "from": [path.source for path in bar.paths],
                "to": sorted({path.dest for path in bar.paths}),
                "sounds": bar.paths[0].sounds,
                "worst_ms": round(bar.worst_ms, 3),
                "usual_ms": round(bar.usual_ms, 3),
                "verdict": verdict_of(bar.worst_ms),
                "pieces": pieces,
            }
        )
    result: dict[str, object] = {"ways": ways, "crowd": _crowd(compiled)}
    if tried:
        result["what_if"] = [
            {
                "name": each.name,
                "worst_ms": round(each.worst_ms, 3),
                "crowded_ms": round(each.crowded_ms, 3),
                "late": each.late,
            }
            for each in tried
        ]
    if played is not None:
        late = []
        for note in played.late:
            late.append(
                {
                    "at_ms": round(note.at_ms, 3),
                    "part": note.part,
                    "note": note.note,
                    "ms": round(note.ms, 3),
                    "line": note.line,
                }
            )
        result["played"] = {"notes": played.notes, "worst_ms": played.worst_ms, "late": late}
    return result


def _crowd(compiled: Compiled) -> dict[str, object]:
    together, plan = crowd(compiled), compiled.plan
    worst = max((path.worst_ms for path in crowded_paths(compiled)), default=0.0)
    lines = []
    for line in together.lines:
        lines.append(
            {
                "line": line_names(plan, line),
                "messages": line.messages,
                "busy_ms": round(line.busy_ms, 3),
            }
        )
    return {"strokes": together.strokes, "worst_ms": round(worst, 3), "lines": lines}
