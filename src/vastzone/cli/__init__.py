"""The ``vastzone`` command: the window, and the same computation without one.

Exit status: 0 good, 1 faults found, 2 could not read or do it.
"""

import sys
from collections.abc import Sequence

from vastzone.cli.parser import COMMANDS, parser

GOOD, FAULTS, FAILED = 0, 1, 2


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; returns the exit status."""
    from vastzone.core.errors import PlanError

    words = list(sys.argv[1:] if argv is None else argv)
    if not words or (words[0] not in COMMANDS and not words[0].startswith("-")):
        words.insert(0, "open")
    options = parser().parse_args(words)
    try:
        return int(options.run(options))
    except PlanError as error:
        print(f"vastzone: {error}", file=sys.stderr)
    except BrokenPipeError:
        sys.stderr.close()
    except KeyboardInterrupt:
        print("vastzone: stopped.", file=sys.stderr)
    return FAILED
