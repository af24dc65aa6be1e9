"""How a device keeps what is set in it, as rows of facts."""

from typing import Any

from vastzone.app.frame.sheet import FactRow, Make
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say

KEEPS = ((say("at once"), "at once"), (say("only when written"), "on write"))
EDITORS = (
    (say("none"), "none"),
    (say("sends to the buffer"), "buffer"),
    (say("writes slots"), "slots"),
)


def storage_rows(owner: Device) -> list[FactRow]:
    """Slots, buffer, what is kept when, an editor, how the display counts."""
    kept = owner.storage

    def set_(field: str) -> Make:
        def make(value: Any) -> Edit:
            storage = changed(kept, **{field: value})
            return set_device(owner.id, say("Change how it keeps settings"), storage=storage)

        return make

    rows = []
    if owner.programs:
        rows += [
            FactRow(say("Slots"), "number", kept.slots, set_("slots"), 0, 128),
            FactRow(say("Edit buffer"), "check", kept.buffer, set_("buffer")),
            FactRow(say("Display letters of"), "number", kept.letters, set_("letters"), 0, 64),
        ]
    rows += [
        FactRow(say("Settings kept"), "choice", kept.whole, set_("whole"), choices=KEEPS),
        FactRow(say("Editor"), "choice", kept.editor, set_("editor"), choices=EDITORS),
        FactRow(say("Close the editor"), "check", kept.close_editor, set_("close_editor")),
        FactRow(say("Restores from a file"), "check", kept.restores, set_("restores")),
    ]
    return rows
