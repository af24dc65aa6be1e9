"""The Rig view, told: devices with their jacks, and the cables between them."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QPointF, QRectF

from vastzone.app.reader import Element, Role
from vastzone.app.views.rig import joining
from vastzone.app.views.rig.faces import summary
from vastzone.app.views.rig.geometry import BundleShape, CableShape, JackShape, RigPicture
from vastzone.core.engine.usage import Use
from vastzone.core.plan.model.plan import Cable
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say
from vastzone.core.text import ALL, listed
from vastzone.desk.session import Desk


def elements(
    desk: Desk,
    picture: RigPicture,
    press: Callable[[JackShape], object],
    use_of: Callable[[Cable], Use],
) -> list[Element]:
    """Each device with its jacks, then every cable."""
    names = _names(picture)
    found: list[Element] = []
    for box in picture.boxes:
        device = box.device
        found.append(
            Element(
                device.id,
                device.name,
                box.rect,
                Role.Grouping,
                summary(device),
                chosen=desk.selection == device.id,
                press=partial(desk.select, device.id),
            )
        )
        for jack in box.jacks:
            found.append(
                Element(
                    jack.ref,
                    names[jack.ref],
                    QRectF(jack.at - QPointF(8, 8), jack.at + QPointF(8, 8)),
                    Role.Button,
                    _plugged(picture, names, jack),
                    joining.jack_words(jack.port),
                    desk.selection == jack.ref,
                    press=partial(press, jack),
                )
            )
    for wire in picture.wires:
        found.append(_cable(desk, names, wire, use_of(wire.cable)))
    for bundle in picture.bundles:
        found.append(_bundle(desk, bundle))
    return found


def _names(picture: RigPicture) -> dict[str, str]:
    """What each jack is called, with its device."""
    names = {}
    for box in picture.boxes:
        for jack in box.jacks:
            names[jack.ref] = say("{port} of {device}", port=jack.port.name, device=box.device.name)
    return names


def _cable(desk: Desk, names: dict[str, str], wire: CableShape, use: Use) -> Element:
    ref, cable = joining.cable_ref(wire.cable), wire.cable
    channels = ", ".join(str(channel) for channel in use.channels)
    return Element(
        ref,
        say(
            "Cable from {names} to {names_get}",
            names=names.get(cable.source, ""),
            names_get=names.get(cable.dest, ""),
        ),
        _label(wire),
        Role.ListItem,
        say("channels {channels}", channels=channels) if channels else say("nothing is sent here"),
        chosen=desk.selection == ref,
        press=partial(desk.select, ref),
    )


def _bundle(desk: Desk, bundle: BundleShape) -> Element:
    ref = joining.bundle_ref(bundle)
    return Element(
        ref,
        joining.bundle_words(desk.plan, bundle),
        _label(bundle.shape),
        Role.ListItem,
        say("audio"),
        chosen=desk.selection == ref,
        press=partial(desk.select, ref),
    )


def _label(wire: CableShape) -> QRectF:
    """Where the words of a cable stand, which is where a hand takes it."""
    return QRectF(wire.label - QPointF(26, 11), wire.label + QPointF(26, 11))


def _plugged(picture: RigPicture, names: dict[str, str], jack: JackShape) -> str:
    ends = []
    for wire in picture.wires:
        if wire.cable.source == jack.ref:
            ends.append(names.get(wire.cable.dest, ""))
        elif wire.cable.dest == jack.ref:
            ends.append(names.get(wire.cable.source, ""))
    audio = sum(device_of(jack.ref) in (one.source, one.dest) for one in picture.bundles)
    if jack.port.link == "audio":
        return say("patched") if audio else say("free")
    return say("cable to {ends}", ends=listed(ends, ALL)) if ends else say("free")
