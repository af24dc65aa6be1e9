"""Fields as rows of facts: what the table of fields says of a thing, to be read and entered."""

from collections.abc import Collection
from functools import partial
from typing import Any

from vastzone.app.frame.sheet import FactRow
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.settings import set_field
from vastzone.core.plan.fields.dials import dial_of
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.table import fields_for

RARE: frozenset[tuple[str, str]] = frozenset(
    (
        *(("send", each) for each in ("outputs", "curve", "points", "starts", "ends", "threshold")),
        *(("part", each) for each in ("root", "repitch", "mono", "mute_group", "inputs", "layer")),
        *(("part", each) for each in ("bend", "loud", "vel_low", "vel_high", "output")),
        *(("target", each) for each in ("rise_ms", "fall_ms", "takeover", "louder", "together")),
        *(("target", each) for each in ("channel", "answers", "unit")),
        *(("zone", each) for each in ("vel_low", "vel_high", "outputs", "layer")),
        *(("input", each) for each in ("mask_ms", "crosstalk")),
        *(("jack", each) for each in ("hysteresis",)),
    )
)
"""Fields that are seldom touched: the facts show them when they are asked for."""


def field_rows(
    owner: Owner,
    before: str = "",
    only: Collection[str] = (),
    without: Collection[str] = (),
) -> list[FactRow]:
    """The fields that something has, in the order of the table; ``only`` some, or ``without``.

    ``before`` stands in front of their names, where several things share a sheet.
    """
    rows = []
    for field in fields_for(owner.kind):
        if (not only or field.id in only) and field.id not in without and field.belongs_to(owner):
            rows.append(field_row(owner, field, before))
    return rows


def field_row(owner: Owner, field: Field, before: str = "") -> FactRow:
    """One field as a row."""
    name = field.asked_on(owner)
    form = field.values.form(owner)
    return FactRow(
        f"{before}{name[0].lower()}{name[1:]}" if before else name,
        form.kind,
        field.values.shown(owner, field.held(owner)),
        partial(_enter, owner, field),
        form.low,
        form.high,
        form.choices,
        owner.device.octaves,
        _lockable(owner, field),
        (owner.kind, field.id) in RARE,
    )


def _lockable(owner: Owner, field: Field) -> str:
    """The setting that a row stands for where it is worked out; nothing where it never changes."""
    dial = dial_of(owner, field) if field.solved and field.is_dialled else None
    return "" if dial is None or dial.scope == "fixed" else dial.ref


def _enter(owner: Owner, field: Field, shown: Any) -> Edit:
    return set_field(owner, field, field.values.entered(owner, shown))
