"""The Pedals view, told: controls with where they stand and what hangs on them, jacks in turn."""

from collections.abc import Callable, Iterable
from functools import partial

from PySide6.QtCore import QRectF

from vastzone.app.reader import Element, Role
from vastzone.core.plan.model.pedals import Pedal
from vastzone.core.say import say
from vastzone.desk.moved_controls import Worked
from vastzone.desk.session import Desk


def control(
    desk: Desk, held: Worked, place: QRectF, value: int, press: Callable[[Worked], object]
) -> Element:
    """A control: its value, what it moves, the pedal in its jack and how that works there."""
    moves = ", ".join(move.target.name for move in held.moves) or say("moves nothing")
    about = [say("of {owner}", owner=held.owner.name), moves]
    if held.jack is not None:
        about.append(held.pedal.name if held.pedal is not None else say("no pedal"))
    if held.meets is not None and held.meets.works != "works":
        about.append(say("works {works}", works=say(held.meets.works)))
    on = say("on") if value >= 64 else say("off")
    return Element(
        f"{held.ref} {held.bank}",
        held.name,
        place,
        Role.Button if held.is_switch else Role.Slider,
        on if held.is_switch else str(value),
        ", ".join(about),
        desk.selection == held.ref,
        value >= 64 if held.is_switch else None,
        partial(press, held),
    )


def loose(desk: Desk, pedals: Iterable[tuple[Pedal, QRectF]], ref: str) -> list[Element]:
    """Pedals that are in no jack."""
    found = []
    for pedal, place in pedals:
        own = f"{ref}{pedal.id}"
        found.append(
            Element(
                own,
                pedal.name,
                place,
                Role.ListItem,
                say("in no jack"),
                chosen=desk.selection == own,
                press=partial(desk.select, own),
            )
        )
    return found
