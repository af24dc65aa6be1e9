"""``vastzone outputs``."""

import argparse

from vastzone.cli.output import Printer, add_row, print_json, table
from vastzone.cli.places import read_plan
from vastzone.core.cards.desk_list import DeskLine, desk_lines, scene_words
from vastzone.core.engine.audio import channel_words
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import output_words
from vastzone.core.proof.at_desk import (
    AtDesk,
    WishKept,
    at_desk,
    sounding_devices,
    wishes_kept,
)
from vastzone.core.say import say, say_many
from vastzone.core.solve.desk_outputs import (
    GivenOut,
    choices_in_words,
    edit_of,
    give_out,
    one_more,
)
from vastzone.core.text import listed
from vastzone.files import native
from vastzone.files.desk_files import write_desk_list


def run(options: argparse.Namespace) -> int:
    """Say what arrives at the desk; give outputs out where that is asked."""
    plan = read_plan(options.file)
    found = _given(plan, options.device) if options.give else ()
    for each in found:
        plan = edit_of(plan, each)(plan)
    every, kept = at_desk(plan), wishes_kept(plan)
    if options.output is not None:
        if options.output.suffix == native.SUFFIX:
            native.write(plan, options.output, replace=options.force)
        else:
            write_desk_list(plan, options.output, replace=options.force)
    wrong = sum(one.verdict != "once" for one in every)
    unkept = sum(not told.kept for told in kept)
    if options.json:
        print_json(_as_json(plan, every, kept, found))
    else:
        _print(Printer(), plan, every, kept, found)
    return 1 if wrong or unkept else 0


def _given(plan: Plan, wanted: str | None) -> tuple[GivenOut, ...]:
    devices = [lookup.device(plan, wanted)] if wanted else sounding_devices(plan)
    return tuple(give_out(plan, device.id) for device in devices)


def _print(
    out: Printer,
    plan: Plan,
    every: tuple[AtDesk, ...],
    kept: tuple[WishKept, ...],
    found: tuple[GivenOut, ...],
) -> None:
    for each in found:
        _print_given(out, plan, each)
    rows = table(
        ">" + say("Channel"),
        say("Name"),
        say("Source"),
        say("Jack"),
        "",
        say("Box"),
        say("Phantom"),
        say("Scenes"),
    )
    for line in desk_lines(plan):
        if line.cable is not None:
            add_row(rows, *_cells(plan, line))
    out.show(rows)
    for one in every:
        if one.verdict != "once":
            where = channel_words(plan, one.channels) or say("no channel")
            device = lookup.device(plan, one.device).name
            out.write(
                ("red", say(one.verdict)),
                say(
                    "  {unit} of {device}: {where}", unit=one.unit.name, device=device, where=where
                ),
            )
    for told in kept:
        if not told.kept:
            out.write(("yellow", say("not kept")), f"  {told.wish.name}: {told.why}.")
    right = sum(one.verdict == "once" for one in every)
    out.write(
        say(
            "{right} of {sounds} at the desk once.",
            right=right,
            sounds=say_many("{count} sound", "{count} sounds", len(every)),
        )
    )


def _cells(plan: Plan, line: DeskLine) -> tuple[str, ...]:
    return (
        line.channel.name,
        line.name,
        line.source,
        line.jack,
        line.side,
        line.di,
        line.phantom,
        scene_words(plan, line),
    )


def _print_given(out: Printer, plan: Plan, found: GivenOut) -> None:
    device = lookup.device(plan, found.device)
    proved = "" if found.is_best else say(" (perhaps {gap:.0%} better is possible)", gap=found.gap)
    out.write(
        (
            "bold",
            say(
                "{device}: {sounds} moved{proved}",
                device=device.name,
                sounds=say_many("{count} sound", "{count} sounds", found.moved),
                proved=proved,
            ),
        )
    )
    for output, names in choices_in_words(device, found):
        out.write(f"    {output}: {names}")
    for given in found.given_up:
        out.write("    ", ("yellow", "given up"), f" {given.why}")
    more = one_more(plan, found.device, found)
    if more:
        out.write(
            say("    One more output would keep {wish}.", wish=listed(wish.name for wish in more))
        )


def _as_json(
    plan: Plan,
    every: tuple[AtDesk, ...],
    kept: tuple[WishKept, ...],
    found: tuple[GivenOut, ...],
) -> dict[str, object]:
    sounds = []
    for one in every:
        device = lookup.device(plan, one.device)
        sounds.append(
            {
                "sound": one.unit.ref,
                "name": one.unit.name,
                "output": output_words(device, one.unit.output),
                "verdict": one.verdict,
                "channels": list(one.channels),
                "stereo": one.is_stereo,
                "scenes": [scene for scene in one.scenes if scene],
            }
        )
    channels = []
    for line in desk_lines(plan):
        channels.append(
            {
                "desk": line.desk.name,
                "channel": line.channel.name,
                "name": line.name,
                "source": line.source,
                "jack": line.jack,
                "side": line.side,
                "di": bool(line.di),
                "phantom": line.channel.phantom,
            }
        )
    wishes = []
    for told in kept:
        wishes.append({"wish": told.wish.name, "kept": told.kept, "why": told.why})
    given = []
    for each in found:
        given.append(
            {
                "device": each.device,
                "outputs": dict(each.choices),
                "given_up": [one.wish.name for one in each.given_up],
                "moved": each.moved,
                "gap": each.gap,
            }
        )
    return {"sounds": sounds, "channels": channels, "wishes": wishes, "given": given}
