"""A drum module, a desk and what lies between, to put outputs to the test."""

from vastzone.core.plan.model.audio import AudioCable, AudioInput, OutputWish
from vastzone.core.plan.model.bodies import AudioOutput
from vastzone.core.plan.model.parts import Kit, Part, Sound
from vastzone.core.plan.model.plan import Device, Plan

DRUMS = ("Kick", "Snare", "Hat", "Tom 1", "Tom 2", "Tom 3", "Crash", "Ride")


def kit_of(names=DRUMS, ident="kit"):
    sounds = []
    for place, name in enumerate(names):
        called = name.lower().replace(" ", "-")
        sounds.append(Sound(id=called, name=name, note=36 + place))
    return Kit(id=ident, name=ident.title(), sounds=tuple(sounds))


def outputs(count, kind="mono"):
    return tuple(
        AudioOutput(id=str(place), name=f"Output {place}", kind=kind)
        for place in range(1, count + 1)
    )


def module(count=4, names=DRUMS, **more):
    part = Part(id="drums", name="Drums", tag="DR", channel=10, kit="kit")
    values = {
        "kits": (kit_of(names),),
        "parts": (part,),
        "outputs": outputs(count),
        **more,
    }
    return Device(id="skua", name="Skua", kind="module", **values)


def desk(channels=8, kind="mono"):
    inputs = tuple(
        AudioInput(id=f"ch-{place}", name=f"Channel {place}", kind=kind)
        for place in range(1, channels + 1)
    )
    return Device(id="desk", name="Desk", kind="desk", audio_inputs=inputs)


def cable(source, dest, **more):
    return AudioCable(source=source, dest=dest, **more)


def straight(count=4):
    """Each output of the module into the channel of the same number."""
    return tuple(cable(f"skua:{place}", f"desk:ch-{place}") for place in range(1, count + 1))


def wish(want, *sounds, strength=3, **more):
    return OutputWish(
        id=more.pop("id", f"{want}-{sounds[0]}"),
        name=f"{sounds[0]} {want}",
        of=tuple(f"skua:drums/{sound}" for sound in sounds),
        want=want,
        strength=strength,
        **more,
    )


def on_stage(*wishes, count=4, **more):
    return Plan(
        name="Hay cart",
        devices=(module(count, **more), desk()),
        audio_cables=straight(count),
        output_wishes=wishes,
    )
