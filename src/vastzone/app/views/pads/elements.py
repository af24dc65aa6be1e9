"""The Pads view, told: pads with what they send and sound, banks, jacks and pad bodies."""

from collections.abc import Callable, Iterable
from functools import partial

from PySide6.QtCore import QRectF

from vastzone.app.reader import Element, Role
from vastzone.app.views.pads.inputs_layout import Heading, InputSocket, PadTile
from vastzone.app.views.pads.minis import Mini
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.say import say
from vastzone.desk.pad_faces import Face, channel_words, number_words
from vastzone.desk.session import Desk


def pad_element(
    desk: Desk, owner: Device, face: Face, place: QRectF, strike: Callable[[Face], object]
) -> Element:
    """A pad, knob or button: what it sounds, what it sends, the verdict, what else it has."""
    sends = (
        f"{number_words(owner, face)} {channel_words(face)}" if face.send else say("sends nothing")
    )
    group = say("group {mute}", mute=face.mute) if face.mute else ""
    sounds = face.sound or say("no sound")
    about = ", ".join(filter(None, (say(face.verdict), face.feel, group)))
    return Element(
        f"{face.ref} {face.bank}",
        face.control.name,
        place,
        Role.Button,
        f"{sounds}, {sends}",
        about,
        desk.selection == face.ref,
        face.ref in desk.chosen if desk.chosen else None,
        partial(strike, face),
    )


def bank_element(mini: Mini, place: QRectF, go: Callable[[Mini], object]) -> Element:
    """A bank or program beside the pads."""
    key = f"mini {mini.program} {mini.bank}"
    return Element(
        key, mini.name, place, Role.RadioButton, checked=mini.chosen, press=partial(go, mini)
    )


def inputs(
    plan: Plan,
    selection: str,
    sockets: Iterable[InputSocket],
    tiles: Iterable[PadTile],
    headings: Iterable[Heading],
    zones: Callable[[PadTile], str],
    step: Callable[[InputSocket], object],
    choose: Callable[[PadTile], object],
) -> list[Element]:
    """Jacks with their types, then pads with their jacks and what is heard of them."""
    found: list[Element] = []
    names = {}
    for heading in headings:
        found.append(Element(f"head {heading.words}", heading.words, heading.rect, Role.Heading))
    for socket in sockets:
        names[socket.ref] = socket.input.name
        others = [say(kind) for kind in socket.input.types if kind != socket.input.type]
        found.append(
            Element(
                socket.ref,
                say("Input {input}", input=socket.input.name),
                socket.rect,
                Role.Button,
                say(socket.input.type),
                say("or {others}", others=", ".join(others)) if others else "",
                selection == socket.ref,
                press=partial(step, socket),
            )
        )
    jacks = {plug.pad: names.get(plug.input, "") for plug in plan.plugs}
    for tile in tiles:
        body = tile.pad
        jack = jacks.get(body.id)
        found.append(
            Element(
                f"pad {body.id}",
                body.name,
                tile.rect,
                Role.ListItem,
                say("in {jack}", jack=jack) if jack else say("in no input"),
                f"{say(body.sensor)} · {say(body.importance)}, {zones(tile)}",
                selection == f"pad {body.id}",
                press=partial(choose, tile),
            )
        )
    return found
