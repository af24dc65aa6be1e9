"""Sheets for the stage: the desk list, delays, power, packing."""

from collections.abc import Sequence

from vastzone.core.cards.desk_list import desk_lines, scene_words
from vastzone.core.cards.packing import TO_PACK, PackLine, is_ticked, packing_lines, weight
from vastzone.core.delay.bars import DelayBar, bars
from vastzone.core.delay.crowd import crowd, line_names
from vastzone.core.delay.paths import sounding_paths, verdict_of
from vastzone.core.engine.compile import compile_scene
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.power.lengths import cable_needs
from vastzone.core.power.sums import own_batteries, source_sums, usb_sums
from vastzone.core.say import say, say_many
from vastzone.core.sheets.layout import (
    WIDTH,
    Block,
    Cell,
    Heading,
    Page,
    Paragraph,
    Rows,
    Sheet,
    Text,
    Tick,
    table_rows,
)
from vastzone.core.text import listed

DESK_HEAD = (
    say("Channel"),
    say("What is heard"),
    say("Source and jack"),
    "",
    say("Box"),
    say("Phantom"),
    say("Scenes"),
)
DESK_SHARES = (1.1, 2.0, 1.9, 0.8, 0.6, 1.15, 1.8)


def desk_sheet(plan: Plan) -> Sheet:
    """The list that the desk gets, a page for each desk."""
    pages = []
    for desk in plan.devices:
        if desk.kind != "desk":
            continue
        lines = []
        for line in desk_lines(plan):
            if line.desk.id == desk.id and line.cable is not None:
                source = f"{line.source}, {line.jack}"
                scenes = scene_words(plan, line)
                told = (line.channel.name, line.name, source, line.side, line.di, line.phantom)
                lines.append((*told, scenes))
        used = say_many("{count} channel", "{count} channels", len(lines))
        pages.append(
            Page(
                say("{desk}: channels", desk=desk.name),
                say("{used} in use", used=used),
                (_desk_rows(lines),),
            )
        )
    return Sheet("desk", say("Desk list"), tuple(pages))


def _desk_rows(lines: Sequence[Sequence[str]]) -> Rows:
    return table_rows(DESK_HEAD, lines, DESK_SHARES)


def delay_sheet(plan: Plan) -> Sheet:
    """How late everything is, scene by scene; scenes that say the same are told together."""
    seen: dict[tuple[tuple[str, ...], ...], list[Scene | None]] = {}
    for scene in plan.scenes or (None,):
        told = bars(plan, sounding_paths(compile_scene(plan, scene)))
        lines = tuple(_delay_line(bar) for bar in told)
        seen.setdefault(lines, []).append(scene)
    pages = []
    for lines, scenes in seen.items():
        names = listed((scene.name for scene in scenes if scene is not None), 6)
        blocks: list[Block] = [
            table_rows(
                (say("From"), say("To"), say("At worst"), say("Usually"), "", say("Most of it")),
                lines,
                (2.2, 2.0, 0.9, 0.9, 0.9, 2.2),
            ),
            Paragraph(_crowd_words(plan, scenes[0]), size=11),
        ]
        below = names or say("as it is switched on")
        pages.append(Page(say("Delays"), below, tuple(blocks)))
    return Sheet("delay", say("Delays"), tuple(pages))


def _delay_line(bar: DelayBar) -> tuple[str, ...]:
    longest = bar.paths[0].longest
    most = (
        say(
            "{kind} {worst_ms:.1f} ms, {where}",
            kind=longest.kind,
            worst_ms=longest.worst_ms,
            where=longest.where,
        )
        if longest
        else ""
    )
    return (
        bar.begins,
        bar.ends,
        say("{worst_ms:.1f} ms", worst_ms=bar.worst_ms),
        say("{usual_ms:.1f} ms", usual_ms=bar.usual_ms),
        verdict_of(bar.worst_ms),
        most,
    )


def _crowd_words(plan: Plan, scene: Scene | None) -> str:
    together = crowd(compile_scene(plan, scene))
    if not together.lines:
        return say("Under 5 ms is good, under 10 playable.")
    line = together.lines[0]
    return say(
        "Under 5 ms is good, under 10 playable. {strokes} at once take the line {line_names} "
        "for {busy_ms:.1f} ms.",
        strokes=say_many("{count} stroke", "{count} strokes", together.strokes),
        line_names=line_names(plan, line),
        busy_ms=line.busy_ms,
    )


def power_sheet(plan: Plan) -> Sheet:
    """What feeds what, with sums; batteries; the cables by kind and length."""
    blocks: list[Block] = []
    lines: list[tuple[str, ...]] = []
    for told in source_sums(plan):
        source, load = told.source, told.load
        fed = listed((_name(plan, ident) for ident in source.feeds), 8)
        gives = say("{milliamps} mA", milliamps=source.milliamps) if source.milliamps else ""
        hours = say(", {hours:.1f} h", hours=told.hours) if told.hours is not None else ""
        taken = say(
            "{milliamps} mA, {watts:.0f} W{hours}",
            milliamps=load.milliamps,
            watts=load.watts,
            hours=hours,
        )
        lines.append((source.name, say(source.kind), gives, taken, fed))
    for usb in usb_sums(plan):
        if usb.load.fed:
            host = lookup.device(plan, usb.host)
            port = lookup.find(host.ports, usb.port)
            fed = listed((_name(plan, ident) for ident in usb.load.fed), 8)
            name = f"{host.name}, {port.name}" if port is not None else host.name
            lines.append(
                (
                    name,
                    "USB",
                    say("{limit} mA", limit=usb.limit),
                    say("{milliamps} mA", milliamps=usb.load.milliamps),
                    fed,
                )
            )
    head = (say("Source"), say("Kind"), say("Gives"), say("Taken"), say("Feeds"))
    blocks.append(table_rows(head, lines, (1.5, 0.8, 1.0, 1.5, 2.6)))
    dying = []
    for one in own_batteries(plan):
        if one.hours is not None:
            dying.append(
                say("{device} after {hours:.1f} h", device=one.device.name, hours=one.hours)
            )
    if dying:
        blocks.append(
            Paragraph(say("What dies first: {dying}.", dying=listed(dying, 6)), "SemiBold")
        )
    blocks.append(Heading(say("Cables")))
    blocks.append(_cable_rows(plan))
    return Sheet(
        "power", say("Power and cables"), (Page(say("Power and cables"), plan.name, tuple(blocks)),)
    )


def _cable_rows(plan: Plan) -> Rows:
    lines = []
    for need in cable_needs(plan):
        metres = "" if need.metres is None else say("{metres:g} m", metres=need.metres)
        lines.append((need.kind, need.source, need.dest, metres))
    return table_rows(
        (say("Cable"), say("From"), say("To"), say("Length")), lines, (1.5, 2.0, 2.0, 1.0)
    )


def _name(plan: Plan, ident: str) -> str:
    device = lookup.find(plan.devices, ident)
    source = lookup.find(plan.power, ident)
    return device.name if device is not None else source.name if source is not None else ident


def packing_sheet(plan: Plan) -> Sheet:
    """What to pack, then how it is put up and tested, with a box for each."""
    lines = packing_lines(plan)
    heavy = say("{weight:g} kg as far as known", weight=weight(plan)) if weight(plan) else plan.name
    first = _sections(plan, [line for line in lines if line.section in TO_PACK])
    second = _sections(plan, [line for line in lines if line.section not in TO_PACK])
    pages = (
        Page(say("Packing list"), heavy, first),
        Page(say("Putting up and testing"), say("in this order"), second),
    )
    return Sheet("packing", say("Packing and putting up"), pages)


def _sections(plan: Plan, lines: list[PackLine]) -> tuple[Block, ...]:
    blocks: list[Block] = []
    grouped: dict[str, list[tuple[Cell, ...]]] = {}
    for line in lines:
        cells = (Tick(is_ticked(plan, line)), Text(line.what, size=12), Text(line.more, size=10))
        grouped.setdefault(say(line.section), []).append(cells)
    for section, rows in grouped.items():
        blocks.append(Heading(section))
        blocks.append(Rows(tuple(rows), (34.0, 290.0, WIDTH - 324.0)))
    return tuple(blocks)
