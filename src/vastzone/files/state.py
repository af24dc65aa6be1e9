"""Reports of defects of the program, kept for whoever mends them."""

import platform
import traceback
from datetime import datetime
from pathlib import Path

from vastzone import __version__
from vastzone.core.errors import PlanError
from vastzone.core.say import say
from vastzone.files.folders import data_folder
from vastzone.files.whole import write_whole

REPORTS = 20
"""Reports kept; older ones are removed."""


def details(error: BaseException) -> str:
    """All that helps to find a defect, as text."""
    head = f"Vast Zone {__version__}, Python {platform.python_version()}, {platform.platform()}"
    return f"{head}\n\n{''.join(traceback.format_exception(error))}"


def write_report(error: BaseException) -> Path | None:
    """Write down what went wrong in the program; None where that cannot be written either."""
    return keep_report(details(error))


def keep_report(text: str) -> Path | None:
    """Keep a report; None where it cannot be written."""
    folder = data_folder() / "reports"
    place = folder / f"{datetime.now():%Y-%m-%d %H.%M.%S %f}.txt"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        write_whole(text.encode(errors="replace"), place, say("The report"), mode=0o600)
        for old in sorted(folder.glob("*.txt"))[:-REPORTS]:
            old.unlink(missing_ok=True)
    except (OSError, PlanError):
        return None
    return place
