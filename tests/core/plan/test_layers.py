"""Layers, copies, strokes of trigger pads, note repeat, track lists."""

from itertools import pairwise

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone import demo
from vastzone.core.cards.card import card
from vastzone.core.cards.tracks import own_channels, tracks
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.errors import EditError
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.plan.edits import copies, layers, plugs
from vastzone.core.plan.edits.copies import PadSpot
from vastzone.core.plan.edits.edit import edit_device
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Repeat, Send
from vastzone.core.plan.model.parts import Sound, Target
from vastzone.core.plan.model.triggers import TriggerInput, TriggerPad, hat_state
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import heard_zone, strokes_as
from vastzone.core.proof.causes import causes
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.response.velocity import sent_velocities, strikes_for
from vastzone.core.solve.clash import work_out
from vastzone.core.timing.repeat import strikes_ms, tapped_bpm
from vastzone.files import native


@pytest.fixture
def ready():
    return native.read(demo.READY)


def program(plan, device, number=0):
    return lookup.program(lookup.device(plan, device), number)


def rules(plan):
    return {f.rule for f in check(plan)}


def pad(plan, device="dipper", control="pad-1", bank=1, layer=0):
    held = layers.layers_of(program(plan, device), control, bank)
    return next(s for s in held if s.layer == layer)


def sounding(plan, velocity, ref=("dipper:pad-1", 1)):
    return [v.landing.note for v in Performance(compile_scene(plan, None)).move(ref, velocity)]


def with_send(plan, control="pad-1", layer=0, **changes):
    return set_send("dipper", 0, control, 1, "Change", layer, **changes)(plan)


def test_a_layer_splits_the_velocities_and_gives_them_back(ready):
    split = layers.add_layer("dipper", 0, "pad-1", 1)(ready)
    assert [(s.vel_low, s.vel_high) for s in (pad(split), pad(split, layer=1))] == [
        (1, 64),
        (65, 127),
    ]
    other = with_send(split, layer=1, number=49)
    assert sounding(other, 64) == [36] and sounding(other, 65) == [49]
    whole = layers.remove_layer("dipper", 0, "pad-1", 1, 1)(other)
    assert program(whole, "dipper") == program(ready, "dipper")
    with pytest.raises(EditError):
        layers.remove_layer("dipper", 0, "pad-1", 1, 0)(ready)


def test_a_hole_between_layers_is_found_and_its_fix_closes_it(ready):
    holed = with_send(layers.add_layer("dipper", 0, "pad-1", 1)(ready), layer=1, vel_low=80)
    found = next(f for f in check(holed) if f.rule == "layer hole")
    assert "65–79" in found.sentence and sounding(holed, 70) == []
    assert any(c.finding.rule == "layer hole" and c.controls for c in causes(holed))
    mended = found.fixes[0](holed)
    assert "layer hole" not in rules(mended) and prove(mended).good
    together = with_send(holed, vel_high=100)
    assert "layers together" in rules(together)
    assert "layers together" not in rules(with_send(together, layer=1, fade=True))


def test_two_wishes_on_one_pad_are_worked_out_as_layers(ready):
    beat = lookup.by_id(ready.wishes, "beat", "wish")
    soft = msgspec.structs.replace(beat, vel_high=80)
    loud = msgspec.structs.replace(
        beat, id="loud", sources=("dipper:pad-1",), sounds=("crash",), vel_low=81
    )
    rest = tuple(soft if i is beat else i for i in ready.wishes)
    wished = msgspec.structs.replace(ready, wishes=(*rest, loud))
    assert not prove(wished).good
    solved = work_out(wished).plan
    assert prove(solved).good and work_out(solved).numbers == ()
    assert (pad(solved).number, pad(solved, layer=1).number) == (36, 49)
    assert sounding(solved, 80) == [36] and sounding(solved, 81) == [49]


@given(
    curve=st.sampled_from(("linear", "easy", "hard", "s-shaped")),
    low=st.integers(0, 127),
    high=st.integers(0, 127),
    wanted=st.tuples(st.integers(1, 127), st.integers(1, 127)),
)
def test_curves_are_monotone_and_windows_are_found_exactly(curve, low, high, wanted):
    send = Send(control="a", message="note", curve=curve, low=low, high=high)
    sent = sent_velocities(send) or bytes(range(128))
    steps = [b - a for a, b in pairwise(sent[1:])]
    assert all(s >= 0 for s in steps) if low <= high else all(s <= 0 for s in steps)
    assert sent[127] == max(1, high)
    window = (min(wanted), max(wanted))
    first, last = strikes_for(sent_velocities(send), (1, 127), window)
    assert [v for v in range(1, 128) if window[0] <= sent[v] <= window[1]] == list(
        range(first, last + 1)
    )


def test_a_fixed_velocity_is_sent_however_hard_it_is_struck(ready):
    plan = with_send(ready, fixed=90)
    emission = compile_scene(plan, None).controls["dipper:pad-1", 1][0].notes[0]
    assert {emission.message(v).second for v in (1, 64, 127)} == {90}


def test_a_pad_that_mutes_a_group_stops_the_pads_of_that_group(ready):
    plan = with_send(with_send(ready, mutes="hat"), "pad-2", muted_by="hat")
    hands = Performance(compile_scene(plan, None))
    hands.move(("dipper:pad-2", 1), 100)
    hands.move(("dipper:pad-3", 1), 100)
    hands.move(("dipper:pad-1", 1), 100)
    assert sorted(v.key[0] for v in hands.sounding) == ["dipper:pad-1#0", "dipper:pad-3#0"]
    assert "mute group one-sided" not in rules(plan)
    alone = next(
        f for f in check(with_send(ready, mutes="hat")) if f.rule == "mute group one-sided"
    )
    assert "mute group one-sided" not in rules(alone.fixes[0](with_send(ready, mutes="hat")))


@pytest.mark.parametrize(
    ("sensor", "kind", "stroke", "heard"),
    [
        ("dual", "dual", "rim", "rim"),
        ("dual", "dual", "cross-stick", "rim"),
        ("dual", "mono", "rim", "head"),
        ("single", "dual", "rim", ""),
        ("switch", "piezo-switch", "edge", "edge"),
        ("two switches", "piezo-switch", "bell", "bow"),
        ("two switches", "three-way", "bell", "bell"),
        ("switch", "piezo-switch", "open", "bow"),
        ("hi-hat", "hi-hat", "foot splash", "pedal"),
        ("hi-hat", "dual", "foot splash", ""),
    ],
)
def test_what_an_input_hears_of_a_stroke(sensor, kind, stroke, heard):
    jack = TriggerInput(id="j", name="J", types=(kind,), type=kind)
    assert heard_zone(TriggerPad(id="p", name="P", sensor=sensor), jack, stroke) == heard


def test_a_lost_zone_sounds_as_the_main_one_and_an_empty_input_not_at_all(ready):
    jack = next(g.input for g in ready.plugs if g.pad == "snare")
    plan = plugs.change_input(jack, "Link", linked=True)(ready)
    owner = lookup.device(plan, "curlew")
    assert dict(strokes_as(plan, owner))["snare-rim"] == "trigger-2"
    assert sounding(plan, 100, ("curlew:snare-rim", 1)) == [38]
    assert "zones linked" in rules(plan)
    assert pad(plan, "curlew", "snare-rim").number == 40
    pulled = plugs.pull_out("snare")(ready)
    assert sounding(pulled, 100, ("curlew:trigger-2", 1)) == []
    assert any(c.finding.rule == "stroke not heard" for c in causes(pulled))


def test_hi_hat_thresholds_and_the_school_without_a_pedal(ready):
    jack = lookup.by_id(lookup.device(ready, "curlew").inputs, "in-10", "input")
    assert [hat_state(jack, p) for p in (0, 39, 40, 95, 96, 127)] == [
        "open",
        "open",
        "half",
        "half",
        "closed",
        "closed",
    ]
    crossed = plugs.change_input("curlew:in-10", "x", half=90, closed=60)(ready)
    assert "hi-hat thresholds" in rules(crossed)
    device = lookup.device(crossed, "curlew")
    lines = card(crossed, of_plan(crossed), device, True).lines
    told = ", ".join(line.after for line in lines if line.thing.startswith("Input"))
    assert "half open from 90, closed from 60" in told
    plan = layers.hat_without_pedal(ready, "curlew", 0, "in-2")(ready)
    head, rim = (pad(plan, "curlew", c) for c in ("trigger-2", "snare-rim"))
    assert (head.number, head.mutes, rim.number, rim.muted_by) == (42, "hi-hat", 46, "hi-hat")
    with pytest.raises(EditError):
        layers.hat_without_pedal(ready, "curlew", 0, "in-1")


def without_half_hats(plan):
    """No kit has a half-open hat."""

    def change(owner):
        kits = []
        for kit in owner.kits:
            kept = [sound for sound in kit.sounds if "half" not in sound.name.lower()]
            kits.append(changed(kit, sounds=tuple(kept)))
        return changed(owner, kits=tuple(kits))

    for device in plan.devices:
        plan = edit_device(device.id, "", change)(plan)
    return plan


def test_a_half_open_hat_without_a_pedal(ready):
    """On a third pad: the kit's own, or the open one cut short by the same stroke."""
    plan = layers.hat_without_pedal(ready, "curlew", 0, "in-2")(without_half_hats(ready))
    with pytest.raises(EditError):
        layers.half_open_hat(plan, "curlew", 0, "trigger-3")
    kits = next(device for device in plan.devices if device.kits)
    decay = Target(id="hat-decay", name="Hat decay", controller=75, channel=10)
    cut = edit_device(kits.id, "", lambda d: changed(d, targets=(*d.targets, decay)))(plan)
    cut = layers.half_open_hat(cut, "curlew", 0, "trigger-3")(cut)
    program = lookup.device(cut, "curlew").programs[0]
    for control, value in (("trigger-3", layers.HALF_OPEN), ("snare-rim", 127)):
        sets, note = [s for s in program.sends if s.control == control][:2]
        assert (sets.message, sets.number, sets.high, note.number) == ("controller", 75, value, 46)
        assert note.muted_by == "hi-hat"
    half = Sound(id="half", name="Half-open hat", note=99)
    kit = changed(kits.kits[0], sounds=(*kits.kits[0].sounds, half))
    own = edit_device(kits.id, "", lambda d: changed(d, kits=(kit, *d.kits[1:])))(plan)
    own = layers.half_open_hat(own, "curlew", 0, "trigger-3")(own)
    third = pad(own, "curlew", "trigger-3")
    assert (third.number, third.muted_by) == (99, "hi-hat")


def test_note_repeat_swings_and_taps_are_averaged():
    assert strikes_ms(Repeat(division="1/8"), 120, 4) == [0, 250, 500, 750]
    assert strikes_ms(Repeat(division="1/16", swing=60), 120, 4) == [0, 150, 250, 400]
    assert strikes_ms(Repeat(division="1/8t"), 100, 2) == [0, 200]
    assert tapped_bpm([0, 490, 1010, 1500]) == 120.0
    assert tapped_bpm([0, 5000]) is None and tapped_bpm([0, 5000, 5400]) == 150.0


def twice(plan):
    """The controller with a second program in which two pads differ."""

    def change(owner):
        first = owner.programs[0]
        sends = tuple(
            changed(s, number=s.number + 1) if s.control in ("pad-3", "pad-4") else s
            for s in first.sends
        )
        other = changed(first, id="other", number=1, name="Other", sends=sends)
        return changed(owner, programs=(first, other))

    return edit_device("dipper", "Add program", change)(plan)


def test_one_kit_is_spread_over_others_with_exceptions(ready):
    plan = twice(ready)
    owner = lookup.device(plan, "dipper")
    assert copies.exceptions(owner, 0, 1, 1) == ("pad-3", "pad-4")
    some = copies.spread(owner, 0, 1, (1,), {(1, "pad-4")})(plan)
    assert copies.exceptions(lookup.device(some, "dipper"), 0, 1, 1) == ("pad-4",)
    assert copies.saving(owner, 0, 1, (1,)) == (8, 5)
    assert copies.saving(owner, 0, 1, (1,), {(1, "pad-4")}) == (4, 9)


def test_a_kit_is_copied_to_another_bank_and_a_pad_with_its_zones(ready):
    source, dest = PadSpot(0, "pad-5", 1), PadSpot(0, "pad-1", 2)
    plan = copies.copy(ready, "dipper", source, dest, "message", "bank")(ready)
    assert all(
        pad(plan, control=f"pad-{n}", bank=2).number == pad(plan, control=f"pad-{n}").number
        for n in range(1, 13)
    )
    hats = copies.copy(
        ready, "curlew", PadSpot(0, "trigger-9", 1), PadSpot(0, "trigger-8", 1), "message", "pad"
    )(ready)
    assert pad(hats, "curlew", "trigger-8").number == pad(hats, "curlew", "trigger-9").number


def test_each_drum_gets_a_track_and_seventeen_are_too_many(ready):
    plan = own_channels(ready, "curlew", 0)(ready)
    held = tracks(plan, lookup.device(plan, "curlew"))
    assert {t.number for t in held} == set(range(1, 11))
    assert all(t.channel == t.number for t in held)
    snare = [t for t in held if t.drum == "Snare"]
    assert [(t.zone, t.note) for t in snare] == [("head", 38), ("rim", 40)]
    hat = {t.zone: t.sound for t in held if t.drum == "Hat"}
    assert hat["closed"] == "Closed hat" and "foot chick" in hat
    held_back = lock("curlew/0/trigger-2.1/channel")(ready)
    assert {t.channel for t in tracks(held_back, lookup.device(held_back, "curlew"))} == {10}
    kept = own_channels(held_back, "curlew", 0)(held_back)
    channels = {t.drum: t.channel for t in tracks(kept, lookup.device(kept, "curlew"))}
    assert channels["Snare"] == 10 and len(set(channels.values())) == 10
    many = tuple(
        changed(lookup.device(ready, "dipper").controls[0], id=f"pad-{n}", name=f"Pad {n}")
        for n in range(17)
    )
    wide = edit_device(
        "dipper",
        "x",
        lambda d: changed(d, controls=many, programs=(changed(d.programs[0], sends=()),)),
    ).change(ready)
    with pytest.raises(EditError, match="17 drums"):
        own_channels(wide, "dipper", 0)
