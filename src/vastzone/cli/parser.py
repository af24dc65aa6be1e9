"""The words that the command understands."""

import argparse
from pathlib import Path
from typing import NoReturn

from vastzone import __version__
from vastzone.core.say import say
from vastzone.core.text import quoted

PLAN = say("a .vastzone plan, or “demo” or “demo-ready” for those that ship with the program")
DIALLED = say("with what the devices are known to hold, not with what is planned")
FORCE = say("replace files that are there already")
BY = say("who says so, kept beside what is known")
BEGINNINGS = ("out of the box", "as planned", "not known")
COMMANDS = (
    "open",
    "demo",
    "check",
    "trace",
    "numbers",
    "prove",
    "cards",
    "diff",
    "memory",
    "devices",
    "why",
    "setlist",
    "outputs",
    "delay",
    "without",
    "sheets",
    "tables",
)


class Parser(argparse.ArgumentParser):
    """A parser whose complaints quote what was typed without letting it act in the terminal."""

    def error(self, message: str) -> NoReturn:
        """One sentence on standard error, and status 2."""
        said = say(
            "vastzone: {message}. See “{prog} --help”.\n", message=quoted(message), prog=self.prog
        )
        self.exit(2, said)


def parser() -> argparse.ArgumentParser:
    """The parser; each command sets ``run`` to what carries it out."""
    top: argparse.ArgumentParser = Parser(
        prog="vastzone",
        description=say("Says what every control of a MIDI rig must send, and proves it."),
        epilog="vastzone FILE opens the window with a plan; without a FILE, a new one.",
    )
    top.add_argument(
        "--version", action="version", version=say("vastzone {version}", version=__version__)
    )
    commands = top.add_subparsers(metavar="COMMAND", required=True)
    _windows(commands)
    _check(commands)
    _trace(commands)
    _numbers(commands)
    _cards(commands)
    _devices(commands)
    return top


def _windows(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import window

    opening = commands.add_parser("open", help=say("open the window (the same as no command)"))
    opening.add_argument("file", type=Path, nargs="?", metavar="FILE")
    opening.set_defaults(run=window.run_open)
    demo = commands.add_parser("demo", help=say("open the window with the demo plan"))
    demo.add_argument("--ready", action="store_true", help=say("the demo worked out, not as found"))
    demo.set_defaults(run=window.run_demo)


def _plan_command(
    commands: "argparse._SubParsersAction[argparse.ArgumentParser]", name: str, text: str
) -> argparse.ArgumentParser:
    command = commands.add_parser(name, help=text, description=text)
    command.add_argument("file", type=Path, metavar="FILE", help=PLAN)
    command.add_argument(
        "--json", action="store_true", help=say("print JSON for a program to read")
    )
    return command


def _check(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import check

    command = _plan_command(commands, "check", say("say what is wrong with a plan"))
    command.set_defaults(run=check.run)


def _numbers(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import numbers, prove

    command = _plan_command(commands, "numbers", say("work out every number that the wishes need"))
    command.add_argument("-o", dest="output", type=Path, metavar="OUT", help=say("save the result"))
    command.add_argument("--force", action="store_true", help=FORCE)
    command.add_argument(
        "--accept", action="store_true", help=say("let fall silent what would, instead of refusing")
    )
    command.add_argument(
        "--of",
        nargs="+",
        metavar="DEVICE:CONTROL",
        default=(),
        help=say("choose the numbers of these controls anew, whatever they are"),
    )
    command.add_argument(
        "--school",
        choices=("standard", "undefined", "run"),
        help=say("how: by standard roles, by undefined numbers, in a run"),
    )
    command.add_argument(
        "--from", dest="run_from", type=int, metavar="N", help=say("where a run begins")
    )
    command.set_defaults(run=numbers.run)
    _why(commands)
    command = _plan_command(
        commands, "prove", say("simulate everything and compare with the wishes")
    )
    command.add_argument("--dialled", action="store_true", help=DIALLED)
    command.set_defaults(run=prove.run)


def _why(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import why

    command = _plan_command(commands, "why", say("why a key or control is silent"))
    command.add_argument("source", metavar="DEVICE[:THING]", help=say("keys or a control"))
    command.add_argument("number", nargs="?", metavar="KEY", help=say("a note name, or a bank"))
    command.add_argument("--scene", help=say("the scene to be in; the first one if not given"))
    command.add_argument("--velocity", type=int, default=96, help="1–127")
    command.add_argument("--dialled", action="store_true", help=DIALLED)
    command.set_defaults(run=why.run)


def _cards(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import cards

    command = _plan_command(commands, "cards", say("what to dial into each device"))
    command.add_argument(
        "-o", dest="output", type=Path, metavar="DIR", help=say("write CSV and PDF here")
    )
    command.add_argument("--force", action="store_true", help=FORCE)
    command.add_argument(
        "--all", action="store_true", help=say("every setting, not only what differs")
    )
    states = say("follow the card of a device: until it is sent, stored or checked")
    command.add_argument("--mark", metavar="DEVICE=STATE", help=states)
    command.add_argument("--by", default="", metavar="INITIALS", help=BY)
    command.set_defaults(run=cards.run)
    _diff(commands)
    _memory(commands)
    _setlist(commands)
    _outputs(commands)
    _delay(commands)
    _without(commands)
    _sheets(commands)
    _tables(commands)


def _diff(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import cards

    command = _plan_command(commands, "diff", say("what differs between two plans, in words"))
    newer = say(
        "the newer plan, or a .vzmemory file to compare with what its device holds; without it, "
        "what the devices do not hold yet"
    )
    command.add_argument("new", type=Path, nargs="?", metavar="NEW", help=newer)
    held = say("compare what the devices hold, not what is planned")
    command.add_argument("--held", action="store_true", help=held)
    command.set_defaults(run=cards.run_diff)


def _setlist(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import setlist

    command = _plan_command(commands, "setlist", say("the evening: what each change of song costs"))
    command.add_argument(
        "--list", metavar="NAME", help=say("which set list; the first if not given")
    )
    best = say("how programs are best stored, and what another order of songs would save")
    command.add_argument("--best", action="store_true", help=best)
    written = say(
        "write it: .csv, .txt, or .mid with a marker and the program changes of each song"
    )
    command.add_argument("-o", dest="output", type=Path, metavar="OUT", help=written)
    command.add_argument("--force", action="store_true", help=FORCE)
    command.set_defaults(run=setlist.run)


def _outputs(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import outputs

    command = _plan_command(commands, "outputs", say("what arrives on which channel of the desk"))
    give = say("give the outputs out so that as many wishes as can be are kept")
    command.add_argument("--give", action="store_true", help=give)
    command.add_argument("--device", metavar="DEVICE", help=say("of this device only"))
    written = say("write the desk list as .csv, or the plan as .vastzone")
    command.add_argument("-o", dest="output", type=Path, metavar="OUT", help=written)
    command.add_argument("--force", action="store_true", help=FORCE)
    command.set_defaults(run=outputs.run)


def _delay(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import delay

    command = _plan_command(commands, "delay", say("how late everything is, from hand to ear"))
    command.add_argument("--scene", help=say("the scene to be in; the first one if not given"))
    tried = say("what smaller buffers, USB, a splitter or running status would bring")
    command.add_argument("--what-if", action="store_true", help=tried)
    played = say("play a MIDI file through, and say which notes are late")
    command.add_argument("--midi", type=Path, metavar="IN.mid", help=played)
    command.add_argument("--at", metavar="DEVICE[:PORT]", help=say("where the file enters"))
    command.set_defaults(run=delay.run)


def _without(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import without

    command = _plan_command(
        commands, "without", say("what works when something dies, what stands in")
    )
    what = say("a device, cable or pedal; every device in turn if not given")
    command.add_argument("thing", nargs="?", metavar="DEVICE", help=what)
    written = say("write the stand-in as a plan of its own")
    command.add_argument("-o", dest="output", type=Path, metavar="OUT", help=written)
    command.add_argument("--force", action="store_true", help=FORCE)
    command.set_defaults(run=without.run)


def _sheets(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import sheets

    command = _plan_command(commands, "sheets", say("everything that can be printed, and the book"))
    command.add_argument(
        "-o",
        dest="output",
        type=Path,
        metavar="DIR",
        help=say("write them here; else they are listed"),
    )
    only = say("of these kinds only, such as desk, labels or book")
    command.add_argument("--only", nargs="+", metavar="KIND", default=(), help=only)
    command.add_argument("--svg", action="store_true", help=say("a picture for each page, not PDF"))
    command.add_argument("--page", choices=("A4", "Letter"), default="A4", help=say("which paper"))
    command.add_argument("--large", action="store_true", help=say("in large print"))
    command.add_argument("--by", default="", metavar="INITIALS", help=say("who made the book"))
    command.add_argument("--force", action="store_true", help=FORCE)
    command.set_defaults(run=sheets.run)


def _tables(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import tables

    command = _plan_command(commands, "tables", say("a plan as tables, and a table read back"))
    command.add_argument("-o", dest="output", type=Path, metavar="DIR", help=say("write them here"))
    tune = say("write a MIDI file with what every control sends, each with a marker")
    command.add_argument("--tune", type=Path, metavar="OUT.mid", help=tune)
    read = say("read a table that was edited, and say what differs")
    command.add_argument("--read", type=Path, metavar="TABLE.csv", help=read)
    saved = say("with --read: write the plan with what differs")
    command.add_argument("--save", type=Path, metavar="OUT", help=saved)
    command.add_argument("--force", action="store_true", help=FORCE)
    command.set_defaults(run=tables.run)


def _memory(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import memory

    command = _plan_command(commands, "memory", say("what a device is known to hold"))
    command.add_argument("device", metavar="DEVICE", help=say("a device of the plan"))
    does = command.add_mutually_exclusive_group()
    does.add_argument(
        "--save", type=Path, metavar="OUT", help=say("back it up to a .vzmemory file")
    )
    does.add_argument("--load", type=Path, metavar="IN", help=say("take it from a .vzmemory file"))
    begin = say("say how the device is")
    does.add_argument("--begin", choices=BEGINNINGS, help=begin)
    command.add_argument("--by", default="", metavar="INITIALS", help=BY)
    command.add_argument("--force", action="store_true", help=FORCE)
    command.set_defaults(run=memory.run)


def _devices(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import devices

    text = say("the device library; devices out of plans and into them")
    command = commands.add_parser("devices", help=text, description=text)
    command.add_argument("file", type=Path, nargs="?", metavar="FILE", help=say("a .vastzone plan"))
    command.add_argument(
        "--add", metavar="NAME", help=say("a library device, a .vzdevice file, or a line")
    )
    command.add_argument(
        "--save", metavar="DEVICE", help=say("save a device of the plan for reuse")
    )
    command.add_argument("-o", dest="output", type=Path, metavar="OUT", help=say("where to save"))
    command.add_argument("--force", action="store_true", help=FORCE)
    command.add_argument(
        "--json", action="store_true", help=say("print JSON for a program to read")
    )
    command.set_defaults(run=devices.run)


def _trace(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    from vastzone.cli import trace

    command = _plan_command(commands, "trace", say("run a MIDI file through a plan"))
    command.add_argument("--midi", type=Path, required=True, metavar="IN.mid")
    command.add_argument("--scene", help=say("the scene to be in; the first one if not given"))
    command.add_argument(
        "--at",
        metavar="DEVICE[:PORT]",
        help=say(
            "where the file enters: the keys of a device, or a port that its messages leave "
            "with their own channels; the first keyboard if not given"
        ),
    )
    command.set_defaults(run=trace.run)
