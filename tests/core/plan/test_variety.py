"""Kits in the controller or presets in the receiver: what pads sound stays."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import module, part, rig
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.variety import kits_in_controller, presets_in_receiver
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound
from vastzone.core.plan.model.plan import Device, Port, ProgramChoice, Scene

PADS, NOTES = 4, range(40, 48)


def drums(kits, fixed=False):
    """A controller with a program a song, each pad on some note; a sampler with one kit."""
    controls = tuple(Control(id=f"p{n}", name=f"P{n}", kind="pad") for n in range(PADS))
    programs = []
    for number, notes in enumerate(kits):
        sends = tuple(
            Send(control=f"p{n}", message="note", number=note, channel=10)
            for n, note in enumerate(notes)
        )
        programs.append(Program(number=number, name=f"Kit {number}", sends=sends))
    box = Device(
        id="pads",
        name="Pads",
        kind="pads",
        ports=(Port(id="out", name="out", flow="out"),),
        controls=controls,
        programs=tuple(programs),
    )
    sounds = tuple(Sound(id=f"s{n}", name=f"S{n}", note=n) for n in NOTES)
    kit = Kit(id="kit", name="Kit", sounds=sounds, fixed=fixed)
    rack = module(part("drums", 10, kit="kit"), kits=(kit,))
    scenes = tuple(
        Scene(id=f"a{n}", name=f"A{n}", programs=(ProgramChoice(device="pads", program=n),))
        for n in range(len(kits))
    )
    return rig(box, rack, cables=(("pads:out", "box:in"),), scenes=scenes)


def heard(plan):
    """What every pad sounds in every song, by the sound's own name."""
    told = []
    for scene in plan.scenes:
        compiled = compile_scene(plan, scene)
        hands = Performance(compiled)
        box = next(device for device in plan.devices if device.id == "box")
        kit = next(iter(compiled.world.of("box").by_channel[9])).kit
        named = {sound.note: sound.id for sound in kit.sounds}
        assert box.parts
        for pad in range(PADS):
            voices = hands.move((f"pads:p{pad}", 1), 100)
            told.append([named[voice.landing.note] for voice in voices])
            hands.move((f"pads:p{pad}", 1), 0)
    return told


KITS = st.lists(
    st.lists(st.sampled_from(list(NOTES)), min_size=PADS, max_size=PADS, unique=True),
    min_size=2,
    max_size=4,
    unique_by=tuple,
)


@given(KITS)
def test_both_schools_sound_the_same_there_and_back(kits):
    """One edit each way; every pad of every song sounds what it did, from one program or many."""
    plan = drums(kits)
    before = heard(plan)
    presets = presets_in_receiver(plan, "pads", "box", "drums").change(plan)
    assert heard(presets) == before
    assert len({scene.programs for scene in presets.scenes}) == len(kits)
    back = kits_in_controller(presets, "pads", "box", "drums").change(presets)
    assert heard(back) == before


def test_what_cannot_be_rearranged_is_told():
    plan = drums([[40, 41, 42, 43], [44, 45, 46, 47]], fixed=True)
    with pytest.raises(EditError):
        presets_in_receiver(plan, "pads", "box", "drums")
    one = drums([[40, 41, 42, 43]])
    with pytest.raises(EditError):
        presets_in_receiver(one, "pads", "box", "drums")
