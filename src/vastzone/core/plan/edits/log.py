"""What was tried on the real or simulated rig, and what came of it."""

from typing import Literal

import msgspec

from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.wishes import LogEntry

Result = Literal["pass", "fail", "untested"]


def record(entries: tuple[LogEntry, ...], label: str = "Record walk-through") -> Edit:
    """Put entries at the end of the plan's log."""
    return Edit(label, lambda plan: msgspec.structs.replace(plan, log=(*plan.log, *entries)))
