"""A rough stage plot: where devices stand, and a first arrangement to begin with."""

from vastzone.core.cache import derived
from vastzone.core.pictures.rig_columns import columns
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.power import put_at
from vastzone.core.plan.edits.together import together
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say

ACROSS, DEEP = 1.8, 1.0
FAR = 6.0
"""Metres between columns and rows; a desk stands this far from the stage."""
STEP = 0.25


@derived(8)
def size_of(plan: Plan) -> tuple[float, float]:
    """How wide and deep the picture is, in metres: all places, and room to drag into."""
    wide, deep = 6.0, 4.0
    for device in plan.devices:
        if device.place is not None:
            wide = max(wide, device.place.x + 2.2)
            deep = max(deep, device.place.y + 1.0)
    return wide, deep


def arrange(plan: Plan, anew: bool = False) -> Edit:
    """Put every device that has no place yet somewhere sensible: hands left, sound right.

    ``anew`` moves those that have one as well.
    """
    known = lookup.by_ids(plan.devices)
    edits = []
    for column, idents in enumerate(columns(plan)):
        row = 0
        for ident in idents:
            device = known.get(ident)
            if device is None:
                continue
            if device.place is None or anew:
                far = FAR if device.kind == "desk" else 0.0
                edits.append(put_at(ident, 0.5 + column * ACROSS + far, 0.5 + row * DEEP))
            row += 1
    return together(say("Arrange the stage"), edits)


def snapped(metres: float) -> float:
    """To the quarter of a metre, not before the edge."""
    return max(0.0, round(metres / STEP) * STEP)
