"""The desk list as a table or on paper."""

from pathlib import Path

from vastzone.core.cards.desk_list import desk_csv
from vastzone.core.errors import WriteError
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.files.whole import write_whole


def write_desk_list(plan: Plan, path: Path, *, replace: bool = True) -> None:
    """Write the desk list as its name ends, .csv.  Raises WriteError."""
    if path.suffix.lower() != ".csv":
        raise WriteError(say("{path} is no desk list: call it .csv.", path=path.name))
    write_whole(desk_csv(plan).encode(), path, say("The desk list"), replace=replace)
