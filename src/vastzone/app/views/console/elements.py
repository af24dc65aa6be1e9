"""The console, told: keys, stops and pistons by block, shoes, and crossings of the scan matrix."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QRectF

from vastzone.app.reader import Element, Role
from vastzone.app.views.console.shared import Bench
from vastzone.core.midi import pitch
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say


def contact_name(bench: Bench, index: int) -> str:
    """A contact by the names of its block and key, or of its stop."""
    owner, contact = bench.owner, bench.circuit.contacts[index]
    part = bench.circuit.parts[contact.block]
    if owner is None:
        return ""
    if part.block.keybed:
        key = pitch.label(part.low + contact.number, owner.octaves)
        return f"{part.block.name}, {key}"
    control = lookup.find(owner.controls, part.block.controls[contact.number])
    return control.name if control is not None else part.block.name


def contact(bench: Bench, index: int, place: QRectF, heard: bool, spoilt: bool) -> Element:
    """A key, stop or piston: held or not, heard or not."""
    held = index in bench.held
    told = []
    if heard:
        told.append(say("heard") if held else say("heard though not held"))
    elif held:
        told.append(say("held and not heard"))
    if spoilt:
        told.append(say("spoilt by a fault"))
    return Element(
        f"contact {index}",
        contact_name(bench, index),
        place,
        Role.Button,
        ", ".join(told),
        chosen=index == bench.at,
        checked=held,
        press=partial(_hold, bench, index),
    )


def shoe(
    name: str, place: QRectF, words: str, chosen: bool, press: Callable[[], object]
) -> Element:
    """A shoe with its travel and volts."""
    return Element(f"shoe {name}", name, place, Role.Slider, words, chosen=chosen, press=press)


def crossing(bench: Bench, index: int, place: QRectF, pin: int, line: int, closed: bool) -> Element:
    """A crossing of the scan matrix that has a contact."""
    return Element(
        f"crossing {index}",
        contact_name(bench, index),
        place,
        Role.Cell,
        say("reads as closed") if closed else say("open"),
        say("common C{common}, line {line}", common=pin + 1, line=line + 1),
        index == bench.at,
        index in bench.held,
        partial(_hold, bench, index),
    )


def _hold(bench: Bench, index: int) -> None:
    """Hold a contact down, or let it go."""
    (bench.release if index in bench.held else bench.press)(index)
