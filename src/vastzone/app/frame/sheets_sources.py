"""Facts of what moves by itself."""

from vastzone.app.frame.sheet import FactRow, Make
from vastzone.core.plan.edits.edit import set_thing
from vastzone.core.plan.fields.values import read_values, values_words
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Drive
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.say import say

DRIVES = (
    (say("playing speed"), "speed"),
    (say("chance"), "random"),
    (say("a row of values"), "steps"),
)


def drive_rows(owner: Device, control: Control) -> list[FactRow]:
    """What moves a source by itself."""
    if not control_ability(control).moving:
        return []
    drive = control.drive or Drive()

    def set_(field: str) -> Make:
        return lambda v: set_thing(
            owner.id,
            "controls",
            control.id,
            "control",
            say("Change source"),
            drive=changed(drive, **{field: v}),
        )

    rows = [FactRow(say("Moved by"), "choice", drive.kind, set_("kind"), choices=DRIVES)]
    if drive.kind == "speed":
        rows += [
            FactRow(
                say("Begins at, strikes/s"),
                "number",
                round(drive.slow),
                lambda v: set_("slow")(float(max(1, v))),
                1,
                60,
            ),
            FactRow(
                say("Full at, strikes/s"),
                "number",
                round(drive.fast),
                lambda v: set_("fast")(float(max(1, v))),
                1,
                60,
            ),
            FactRow(
                say("Smoothed over, ms"),
                "number",
                round(drive.smooth_ms),
                lambda v: set_("smooth_ms")(float(v)),
                1,
                10_000,
            ),
        ]
    elif drive.kind == "random":
        rows.append(FactRow(say("Throw"), "number", drive.seed, set_("seed"), 0, 9999))
    else:
        rows.append(
            FactRow(
                say("Values"),
                "text",
                values_words(drive.values),
                lambda v: set_("values")(read_values(v)),
            )
        )
    return rows
