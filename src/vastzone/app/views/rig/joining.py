"""What a plug in the hand can be put into: ports by MIDI cables, audio sockets by audio cables."""

from vastzone.app.views.rig.geometry import AudioSocket, BundleShape, JackShape
from vastzone.core.engine.audio import jack_of
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import audio, cables
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Cable, Plan, Port
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say
from vastzone.core.text import listed

LINKS = {**cables.LINKS, "audio": say("audio")}
WAYS = {"in": say("input"), "out": say("output"), "both": say("in and out")}


def jack_words(port: Port | AudioSocket) -> str:
    """What a jack is, as "MIDI input"."""
    return f"{LINKS[port.link]} {WAYS[port.flow]}"


def refusal(plan: Plan, one: JackShape, other: JackShape) -> str:
    """Why two jacks cannot be joined; nothing where they can."""
    sounds = [isinstance(jack.port, AudioSocket) for jack in (one, other)]
    if not any(sounds):
        return cables.refusal(plan, one.ref, other.ref)
    if not all(sounds):
        return say("One is for MIDI and one for sound: join two of a kind.")
    if one.port.flow == other.port.flow:
        if one.port.flow == "out":
            return say("Both are audio outputs: join outputs to inputs.")
        return say("Both are audio inputs: join outputs to inputs.")
    try:
        _patched(plan, one, other)
    except EditError as error:
        return str(error)
    return ""


def joined(plan: Plan, one: JackShape, other: JackShape) -> Edit:
    """The edit that joins two jacks; all free outputs to the next free inputs for sound.

    Raises EditError where it cannot be.
    """
    if isinstance(one.port, AudioSocket):
        return _patched(plan, one, other)
    return cables.connect(plan, one.ref, other.ref)


def _patched(plan: Plan, one: JackShape, other: JackShape) -> Edit:
    source, dest = (one, other) if one.port.flow == "out" else (other, one)
    return audio.patch(plan, device_of(source.ref), device_of(dest.ref))


def bundle_words(plan: Plan, bundle: BundleShape) -> str:
    """Which audio cables go from one device to another."""
    told = []
    for cable in bundle.cables:
        output, into = jack_of(plan, cable.source)[1].name, jack_of(plan, cable.dest)[1].name
        side = "" if cable.leg == "both" else f" {say(cable.leg)}"
        box = say(" through a DI box") if cable.di else ""
        told.append(
            say("{output}{side} to {into}{box}", output=output, side=side, into=into, box=box)
        )
    ends = [lookup.device(plan, ident).name for ident in (bundle.source, bundle.dest)]
    return say("{first} to {last}: {told}", first=ends[0], last=ends[1], told=listed(told, 8))


def bundle_ref(bundle: BundleShape) -> str:
    """How the audio cables between two devices are told as what is selected."""
    return f"audio {bundle.source} {bundle.dest}"


def cable_ref(cable: Cable) -> str:
    """How a selected cable is told."""
    return f"cable {cable.source} {cable.dest}"
