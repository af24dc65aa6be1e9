"""Facts of what is swept: the number it goes by, its range and curve, what moves by itself."""

from collections.abc import Callable
from typing import Any

from vastzone.app.frame.sheet import Make, Row
from vastzone.app.frame.sheets_feel import CURVE_WORDS, points_words, read_points
from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import label
from vastzone.core.midi.wide import FINE
from vastzone.core.plan import edits
from vastzone.core.plan.fields.table import CURVES
from vastzone.core.plan.model import Device
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Control, Drive, Send
from vastzone.core.text import decimal, quoted, whole_number

MESSAGE_WORDS = {
    "none": "nothing",
    "pair": "14-bit pair",
    "rpn": "registered parameter",
    "nrpn": "unregistered parameter",
}
DRIVES = (("playing speed", "speed"), ("chance", "random"), ("a row of values", "steps"))
Named = Callable[[str], str]
Setter = Callable[[str, str], Make]


def number_rows(
    kind: str, number: int | None, page: int, named: Named, set_: Setter, field: str
) -> list[Row]:
    """The number of a controller, of a pair, or of a parameter in its two parts."""
    words = "Change number"
    if kind in ("rpn", "nrpn"):
        return [
            Row(named("number, high part"), "number", page, set_(words, "page"), 0, 127),
            Row(named("number, low part"), "number", number or 0, set_(words, field), 0, 127),
        ]
    if kind == "pair":
        choices: tuple[tuple[str, Any], ...] = tuple(
            (f"{label(n)}, with {n + FINE}", n) for n in range(FINE)
        )
    else:
        choices = tuple((label(n), n) for n in range(120))
    if field == "controller":
        choices = (("none", None), *choices)
    return [Row(named("controller"), "choice", number, set_(words, field), choices=choices)]


def range_rows(send: Send, named: Named, set_: Setter) -> list[Row]:
    """What is sent at both ends, along which curve, for which part of the travel."""
    return [
        Row(named("rest sends"), "number", send.low, set_("Change lowest", "low"), 0, 127),
        Row(named("full sends"), "number", send.high, set_("Change highest", "high"), 0, 127),
        Row(
            named("curve"),
            "choice",
            send.curve,
            set_("Change curve", "curve"),
            choices=tuple((CURVE_WORDS[c], c) for c in CURVES.names),
        ),
        Row(
            named("drawn through"),
            "text",
            points_words(send),
            lambda v: set_("Draw curve", "points")(read_points(v)),
        ),
        Row(named("travel from"), "number", send.starts, set_("Change travel", "starts"), 0, 126),
        Row(named("travel to"), "number", send.ends, set_("Change travel", "ends"), 1, 127),
        Row(
            named("at rest below"),
            "number",
            send.threshold,
            set_("Change threshold", "threshold"),
            0,
            127,
        ),
    ]


def drive_rows(owner: Device, control: Control) -> list[Row]:
    """What moves a source by itself."""
    if control.kind != "source":
        return []
    drive = control.drive or Drive()

    def set_(field: str) -> Make:
        return lambda v: edits.set_thing(
            owner.id,
            "controls",
            control.id,
            "control",
            "Change source",
            drive=edits.changed(drive, **{field: v}),
        )

    rows = [Row("Moved by", "choice", drive.kind, set_("kind"), choices=DRIVES)]
    if drive.kind == "speed":
        rows += [
            Row(
                "Begins at, strikes/s",
                "number",
                round(drive.slow),
                lambda v: set_("slow")(float(max(1, v))),
                1,
                60,
            ),
            Row(
                "Full at, strikes/s",
                "number",
                round(drive.fast),
                lambda v: set_("fast")(float(max(1, v))),
                1,
                60,
            ),
            Row(
                "Smoothed over, ms",
                "number",
                round(drive.smooth_ms),
                lambda v: set_("smooth_ms")(float(v)),
                1,
                10_000,
            ),
        ]
    elif drive.kind == "random":
        rows.append(Row("Throw", "number", drive.seed, set_("seed"), 0, 9999))
    else:
        rows.append(
            Row(
                "Values",
                "text",
                ", ".join(map(str, drive.values)),
                lambda v: set_("values")(read_values(v)),
            )
        )
    return rows


def read_values(words: str) -> tuple[int, ...]:
    """Values as they are typed.  Raises EditError where one is no number 0–127."""
    found = []
    for piece in (p.strip() for p in words.split(",") if p.strip()):
        value = whole_number(piece)
        if value is None or not 0 <= value <= 127:
            raise EditError(
                f"“{quoted(piece)}” is no value: write numbers 0–127 with commas between."
            )
        found.append(value)
    if not 1 <= len(found) <= 32:
        raise EditError("A row of values has 1 to 32 of them.")
    return tuple(found)


def louder_words(target: Target) -> str:
    """How much louder a target makes it: «0 0, 127 9», value and dB."""
    return ", ".join(f"{v} {db:g}" for v, db in target.louder)


def read_louder(words: str) -> tuple[tuple[int, float], ...]:
    """Values with dB as they are typed.  Raises EditError where one is missing."""
    found: dict[int, float] = {}
    for piece in (p.strip() for p in words.split(",") if p.strip()):
        first, _, second = piece.partition(" ")
        value, db = whole_number(first), decimal(second)
        if value is None or db is None or not 0 <= value <= 127 or abs(db) > 60:
            raise EditError(f"“{quoted(piece)}” is no value with its dB: write such as “127 9”.")
        found[value] = db
    return tuple(sorted(found.items()))


def read_ceiling(words: str) -> float | None:
    """A ceiling as it is typed, None for none.  Raises EditError for anything else."""
    if not words.strip():
        return None
    value = decimal(words)
    if value is None:
        raise EditError(f"“{quoted(words)}” is no number: write the highest value wanted.")
    return value
