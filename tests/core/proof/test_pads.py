"""Rules about pads, each with what it must find, what it must leave alone, and its fix."""

import pytest

from tests.rigs import keyboard, module, part, rig, scene, wish, zone
from vastzone import demo
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound
from vastzone.core.plan.model.plan import Device, Port
from vastzone.core.plan.model.wishes import Schools
from vastzone.core.proof.check import check
from vastzone.files import native

KIT = Kit(
    id="kit",
    name="Kit",
    sounds=(Sound(id="kick", name="Kick", note=36), Sound(id="snare", name="Snare", note=38)),
)


def pads(*notes, channel=10, bank=1, programs=None):
    controls = tuple(
        Control(id=f"pad-{n}", name=f"Pad {n}", kind="pad", banks=2) for n in range(len(notes))
    )
    sends = tuple(
        Send(control=f"pad-{n}", message="note", number=note, channel=channel, bank=bank)
        for n, note in enumerate(notes)
    )
    return Device(
        id="pads",
        name="Pads",
        kind="pads",
        controls=controls,
        ports=(Port(id="out", name="out", flow="out"),),
        programs=programs or (Program(number=0, name="P", sends=sends),),
    )


def drums(*notes, parts=None, **more):
    parts = parts or (part("drums", 10, kit="kit", rhythm=True),)
    return rig(pads(*notes, **more), module(*parts, kits=(KIT,)), cables=(("pads:out", "box:in"),))


def found(plan, rule):
    return [f for f in check(plan) if f.rule == rule]


def test_two_pads_on_one_note_are_told_and_parted():
    plan = drums(36, 36, 38)
    (one,) = found(plan, "two pads on one note")
    assert one.subjects[:2] == ("pads:pad-1", "pads:pad-0")
    assert not found(one.fixes[0](plan), "two pads on one note")
    assert not found(drums(36, 38), "two pads on one note")


def test_pads_of_different_banks_may_share_a_note():
    sends = tuple(
        Send(control=f"pad-{n}", message="note", number=36, channel=10, bank=n + 1)
        for n in range(2)
    )
    device = pads(36, 36, programs=(Program(number=0, name="P", sends=sends),))
    plan = rig(
        device, module(part("drums", 10, kit="kit"), kits=(KIT,)), cables=(("pads:out", "box:in"),)
    )
    assert not found(plan, "two pads on one note")


def test_a_pad_outside_the_kit_names_the_nearest_sound():
    plan = drums(36, 41)
    (one,) = found(plan, "pad outside the kit")
    assert one.subjects[0] == "pads:pad-1" and "Snare" in one.sentence
    assert not found(one.fixes[0](plan), "pad outside the kit")


def test_pads_on_no_kits_channel_are_no_matter_of_the_kit():
    assert not found(drums(36, 41, channel=3), "pad outside the kit")


def test_pads_that_play_what_keys_play_are_told():
    board = keyboard(zone())
    merge = module(ident="merge", ports=(Port(id="a", name="a", flow="in"),))
    plan = rig(
        board,
        pads(40, channel=1),
        module(
            part(),
            ports=(Port(id="in", name="in", flow="in"), Port(id="in2", name="in 2", flow="in")),
        ),
        merge,
        cables=(("board:out", "box:in"), ("pads:out", "box:in2")),
    )
    (one,) = found(plan, "pads double keys")
    assert "Board" in one.sentence and one.subjects[0] == "pads:pad-0"


def test_a_mute_group_of_one_is_told_and_left():
    plan = rig(keyboard(zone()), module(part(mute_group="hats"), part("two", 2)))
    (one,) = found(plan, "mute group alone")
    assert not found(one.fixes[0](plan), "mute group alone")
    both = rig(keyboard(zone()), module(part(mute_group="hats"), part("two", 2, mute_group="hats")))
    assert not found(both, "mute group alone")


@pytest.mark.parametrize(
    ("channel", "liked", "count"), [(9, True, 1), (10, True, 0), (9, False, 0)]
)
def test_rhythm_by_custom_is_on_ten(channel, liked, count):
    plan = rig(
        keyboard(zone()),
        module(part("drums", channel, rhythm=True)),
        schools=Schools(rhythm_on_10=liked),
    )
    held = found(plan, "rhythm not on 10")
    assert len(held) == count
    if held:
        assert not found(held[0].fixes[0](plan), "rhythm not on 10")


def test_what_holds_in_every_scene_names_none_and_what_holds_in_one_names_it():
    sends = [(Send(control="pad-0", message="note", number=note, channel=10),) for note in (36, 41)]
    device = pads(
        36, programs=tuple(Program(number=n, name=f"P{n}", sends=s) for n, s in enumerate(sends))
    )
    plan = rig(
        device,
        module(part("drums", 10, kit="kit"), kits=(KIT,)),
        cables=(("pads:out", "box:in"),),
        scenes=(scene("one", pads=0), scene("two", pads=1)),
    )
    (one,) = found(plan, "pad outside the kit")
    assert one.scenes == ("two",)


def test_the_demo_has_the_honest_mistakes_of_its_percussion():
    rules = {f.rule for f in check(native.read(demo.AS_FOUND))}
    assert {
        "pads double keys",
        "pad outside the kit",
        "zone lost",
        "more pads than inputs",
    } <= rules
    ready = {f.rule for f in check(native.read(demo.READY))}
    assert "zone lost" not in ready and "pads double keys" not in ready
    assert "more pads than inputs" in ready, "the thunder sheet is still to be decided"


def test_a_toggle_that_needs_two_presses_is_found_behind_the_pad():
    from vastzone.core.proof.causes import causes

    plan = drums(36, parts=(part("drums", 10, kit="kit", trigger="toggle"),))
    send = plan.devices[0].programs[0].sends[0]
    import msgspec

    toggled = msgspec.structs.replace(send, mode="toggle")
    program = msgspec.structs.replace(plan.devices[0].programs[0], sends=(toggled,))
    device = msgspec.structs.replace(plan.devices[0], programs=(program,))
    plan = msgspec.structs.replace(
        plan,
        devices=(device, plan.devices[1]),
        wishes=(wish("kick", "box:drums", sources=("pads:pad-0",), sounds=("kick",)),),
    )
    (cause,) = [c for c in causes(plan) if c.weight]
    assert cause.finding.rule == "modes that do not fit"
    assert {e.label for e in cause.finding.fixes} == {
        "Set Pad 0 to momentary",
        "Set Pad 0 to trigger",
    }


def test_a_pad_is_parted_to_the_lowest_note_from_36_that_nothing_sends():
    plan = drums(38, 38, 36)
    (one,) = found(plan, "two pads on one note")
    new = one.fixes[0](plan).devices[0].programs[0].sends
    assert [s.number for s in new] == [38, 37, 36]
