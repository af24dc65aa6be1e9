"""The ``vastzone`` command: the window, and the same computation without one.

Exit status: 0 good, 1 faults or differences found, 2 could not read or do it, 3 a defect of the
program.
"""

import sys
from collections.abc import Sequence

from vastzone.cli.parser import COMMANDS, parser
from vastzone.core.say import say

FAILED, DEFECT = 2, 3


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; returns the exit status."""
    from vastzone.cli.output import let_pipe_go, safe_streams
    from vastzone.core.errors import PlanError
    from vastzone.core.text import printable

    safe_streams()
    words = list(sys.argv[1:] if argv is None else argv)
    if not words or (words[0] not in COMMANDS and not words[0].startswith("-")):
        words.insert(0, "open")
    try:
        options = parser().parse_args(words)
        status = int(options.run(options))
        sys.stdout.flush()
    except PlanError as error:
        print(say("vastzone: {error}", error=printable(str(error))), file=sys.stderr)
    except BrokenPipeError:
        let_pipe_go()
    except KeyboardInterrupt:
        print(say("vastzone: stopped."), file=sys.stderr)
    except Exception as error:
        return _defect(error)
    else:
        return status
    return FAILED


def _defect(error: Exception) -> int:
    """Write the report of a defect and say where it lies."""
    from vastzone.files.state import details, write_report

    place = write_report(error)
    where = say("The report is in {place}.", place=place) if place else details(error)
    print(
        say(
            "vastzone: something went wrong in the program itself ({name}). {where}",
            name=type(error).__name__,
            where=where,
        ),
        file=sys.stderr,
    )
    return DEFECT
