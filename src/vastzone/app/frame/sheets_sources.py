"""Facts of what moves by itself."""

from vastzone.app.frame.sheet import FactRow, Make
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import set_thing
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Drive
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.text import quoted, whole_number

DRIVES = (("playing speed", "speed"), ("chance", "random"), ("a row of values", "steps"))


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
            "Change source",
            drive=changed(drive, **{field: v}),
        )

    rows = [FactRow("Moved by", "choice", drive.kind, set_("kind"), choices=DRIVES)]
    if drive.kind == "speed":
        rows += [
            FactRow(
                "Begins at, strikes/s",
                "number",
                round(drive.slow),
                lambda v: set_("slow")(float(max(1, v))),
                1,
                60,
            ),
            FactRow(
                "Full at, strikes/s",
                "number",
                round(drive.fast),
                lambda v: set_("fast")(float(max(1, v))),
                1,
                60,
            ),
            FactRow(
                "Smoothed over, ms",
                "number",
                round(drive.smooth_ms),
                lambda v: set_("smooth_ms")(float(v)),
                1,
                10_000,
            ),
        ]
    elif drive.kind == "random":
        rows.append(FactRow("Throw", "number", drive.seed, set_("seed"), 0, 9999))
    else:
        rows.append(
            FactRow(
                "Values",
                "text",
                ", ".join(map(str, drive.values)),
                lambda v: set_("values")(read_values(v)),
            )
        )
    return rows


def read_values(words: str) -> tuple[int, ...]:
    """Values as they are typed.  Raises EditError where one is no number 0–127."""
    values = []
    for piece in (part.strip() for part in words.split(",") if part.strip()):
        value = whole_number(piece)
        if value is None or not 0 <= value <= 127:
            raise EditError(
                f"“{quoted(piece)}” is no value: write numbers 0–127 with commas between."
            )
        values.append(value)
    if not 1 <= len(values) <= 32:
        raise EditError("A row of values has 1 to 32 of them.")
    return tuple(values)
