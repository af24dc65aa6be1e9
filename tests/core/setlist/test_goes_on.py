"""What goes on over a change of song; songs that are transposed; rules about the evening."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import keyboard, module, part, rig, zone
from tests.rigs import wish as wished
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import setlists as edits
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.plan import ProgramChoice, Scene
from vastzone.core.plan.model.setlists import PlayerNote, SetList, SetStep
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.setlist.goes_on import goes_on, is_seamless


def stage(takeover="jump", rings_on=False, second=True, stops=False):
    """A keyboard into a module that changes its program, with a loop and a fader."""
    pad = Send(control="pad", message="note", number=90, channel=2)
    fader = Send(control="fader", message="controller", number=20, channel=1)
    other = Send(control="fader", message="controller", number=21, channel=1)
    zones = (zone("all", 36, 96, channel=1),)
    one = Program(number=0, name="One", zones=zones, sends=(pad, fader))
    two = Program(number=1, name="Two", zones=zones, sends=(other, *((pad,) if stops else ())))
    controls = (
        Control(id="pad", name="Pad", kind="pad"),
        Control(id="fader", name="Fader", kind="fader"),
    )
    board = keyboard(programs=(one, two), controls=controls)
    targets = (
        Target(id="a", name="A", part="piano", controller=20, takeover=takeover),
        Target(id="b", name="B", part="piano", controller=21, takeover=takeover),
    )
    programs = (Program(number=0, name="X"), Program(number=1, name="Y"))
    box = module(
        part("piano", 1),
        part("loop", 2, trigger="toggle"),
        targets=targets,
        programs=programs,
        rings_on=rings_on,
    )
    there = 1 if second else 0
    scenes = (
        Scene(id="a", name="A"),
        Scene(
            id="b",
            name="B",
            programs=(
                ProgramChoice(device="board", program=1),
                ProgramChoice(device="box", program=there),
            ),
        ),
    )
    steps = (SetStep(scene="a"), SetStep(scene="b"))
    lists = (SetList(id="n", name="N", steps=steps),)
    return rig(board, box, scenes=scenes, setlists=lists)


def fates(plan):
    found = goes_on(plan, *plan.scenes)
    return sorted((one.fate, one.what.partition(":")[2]) for one in found)


def rules(plan):
    return {finding.rule for finding in check(plan)}


def test_a_program_change_cuts_what_sounds_and_loops():
    plan = stage()
    assert fates(plan) == [("cut", "loop"), ("cut", "piano"), ("jumps", "b")]
    assert "loop over a change" in rules(plan)
    assert fates(stage(rings_on=True)) == [("jumps", "b"), ("runs on", "loop")]
    assert fates(stage(rings_on=True, stops=True, takeover="pick-up")) == [("waits", "b")]
    calm = stage(rings_on=True, stops=True, takeover="pick-up")
    assert is_seamless(calm, *calm.scenes)
    assert fates(stage(second=False)) == [("jumps", "b"), ("runs on", "loop")]


@given(st.lists(st.tuples(st.integers(36, 96), st.booleans()), max_size=12), st.booleans())
def test_no_history_of_changes_leaves_a_note_hanging(history, loops):
    """Keys struck and let go around changes never hang; only loops do, and those are told."""
    plan = stage(rings_on=True)
    hands = Performance(compile_scene(plan, plan.scenes[0]))
    if loops:
        hands.move(("board:pad", 1), 100)
        hands.move(("board:pad", 1), 0)
    at, down = 0, set()
    for key, change in history:
        if key in down:
            hands.release(("board:keys", key))
            down.discard(key)
        else:
            hands.press(("board:keys", key), 90)
            down.add(key)
        if change:
            at = 1 - at
            hands.load(compile_scene(plan, plan.scenes[at]))
    for key in down:
        hands.release(("board:keys", key))
    left = {voice.landing.ref for voice in hands.sounding}
    told = {one.what for one in goes_on(plan, *plan.scenes) if one.fate == "runs on"}
    assert left <= told
    assert bool(left) == loops


@given(st.integers(-12, 12), st.integers(40, 80))
def test_a_transposed_song_leaves_drums_alone(by, key):
    """Keys sound so many semitones away and are proved so; what sounds a kit stays."""
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="kick", name="Kick", note=36),))
    drums = part("drums", 10, kit="kit", rhythm=True)
    board = keyboard(zone("low", 36, 38, channel=10), zone("high", 39, 96, channel=1))
    box = module(part("piano", 1), drums, kits=(kit,))
    scenes = (Scene(id="a", name="A"), Scene(id="b", name="B", transpose=by))
    wishes = (wished("w", "box:piano", 39, 96), wished("d", "box:drums", 36, 36))
    plan = rig(board, box, scenes=scenes, wishes=wishes)
    hands = Performance(compile_scene(plan, plan.scenes[1]))
    assert [voice.landing.note for voice in hands.press(("board:keys", key), 90)] == [key + by]
    hands.release(("board:keys", key))
    assert [voice.landing.note for voice in hands.press(("board:keys", 36), 90)] == [36]
    proof = prove(plan)
    assert [m for _, m in proof.faults() if m.low >= 52 and m.high <= 80] == []


def test_rules_of_the_evening():
    """Two clocks, no clock, busy hands, a value sent while a device loads, spare programs."""
    plan = stage()
    board, box = plan.devices

    def with_devices(**more):
        one = changed(board, **more.get("board", {}))
        two = changed(box, **more.get("box", {}))
        return changed(plan, devices=(one, two))

    assert "no clock" in rules(with_devices(box={"clock": "follows"}))
    both = with_devices(board={"clock": "sends"}, box={"clock": "sends"})
    assert not {"two clocks", "no clock"} & rules(both)
    third = module(part("x", 5), ident="third", clock="follows")
    clashing = changed(both, devices=(*both.devices, third))
    assert "two clocks" in rules(clashing)
    (found,) = [f for f in check(clashing) if f.rule == "two clocks"]
    assert "two clocks" not in rules(found.fixes[0].change(clashing))
    busy = with_devices(board={"player": "Ro"})
    note = PlayerNote(player="Ro", busy=True)
    scenes = (busy.scenes[0], changed(busy.scenes[1], players=(note,)))
    assert "hands are busy" in rules(changed(busy, scenes=scenes))
    heard = edits.set_note("b", "Ro", click=True).change(plan)
    assert "click without a clock" in rules(heard)
    assert edits.set_note("b", "Ro", click=False).change(heard).scenes == plan.scenes
    led = (changed(board, clock="sends"), box)
    assert "click without a clock" not in rules(changed(heard, devices=led))
    early = edits.set_start("b", "box:a", 64.0).change(with_devices(box={"program_ms": 80.0}))
    assert "sent too early" in rules(early)
    with pytest.raises(EditError, match="128"):
        edits.set_start("b", "box:a", 128.0).change(plan)
    small = changed(box.storage, slots=1)
    assert "no such slot" in rules(with_devices(box={"storage": small}))
    unused = changed(plan, scenes=(plan.scenes[0], changed(plan.scenes[0], id="b", name="B")))
    assert "program nobody selects" in rules(unused)


def test_tails_are_cut_and_switches_stay_on():
    """A one-shot's tail with its device; a hold that nothing in the next song moves."""
    plan = stage(takeover="pick-up")
    board, box = plan.devices
    shot = part("shot", 3, trigger="one-shot")
    hold = Target(id="hold", name="Hold", channel=1, controller=30, mode="toggle")
    box = changed(box, parts=(*box.parts, shot), targets=(*box.targets, hold))
    first, second = board.programs
    pad = Send(control="pad", message="note", number=60, channel=3, bank=2)
    flips = Send(control="sustain", message="controller", number=30, channel=1, mode="toggle")
    first = changed(first, sends=(*first.sends, pad, flips))
    pads = tuple(changed(c, banks=2) if c.id == "pad" else c for c in board.controls)
    board = changed(board, programs=(first, second), controls=pads)
    plan = changed(plan, devices=(board, box))
    assert ("cut", "shot") in fates(plan)
    stays = changed(plan, devices=(board, changed(box, programs=box.programs[:1])))
    scenes = (plan.scenes[0], changed(plan.scenes[1], programs=plan.scenes[1].programs[:1]))
    stays = changed(stays, scenes=scenes)
    assert ("runs on", "hold") in fates(stays)
    off = edits.set_start("b", "box:hold", 0.0).change(stays)
    assert ("runs on", "hold") not in fates(off)


def test_one_voice_gives_way_to_who_plays_it_in_the_next_song():
    """A mono part held by a keyboard and taken over by another is cut; with more voices it stays."""
    here, elsewhere = zone("all", 36, 96, channel=1), zone("all", 36, 96, channel=2)
    leading = Program(number=0, name="One", zones=(here,))
    silent = Program(number=0, name="One", zones=(elsewhere,))
    apart = Program(number=1, name="Two", zones=(elsewhere,))
    taking = Program(number=1, name="Two", zones=(here,))
    choices = tuple(ProgramChoice(device=name, program=1) for name in ("board", "other"))
    scenes = (Scene(id="a", name="A"), Scene(id="b", name="B", programs=choices))
    for mono, fate in ((True, "cut"), (False, "sounds on")):
        plan = rig(
            keyboard(programs=(leading, apart)),
            keyboard(programs=(silent, taking), ident="other"),
            module(part("piano", 1, mono=mono)),
            cables=(("board:out", "box:in"), ("other:out", "box:in")),
            scenes=scenes,
        )
        (found,) = goes_on(plan, *plan.scenes)
        assert (found.fate, found.what, found.by) == (fate, "box:piano", "board:keys")
        hands = Performance(compile_scene(plan, plan.scenes[0]))
        (held,) = hands.press(("board:keys", 60), 90)
        hands.load(compile_scene(plan, plan.scenes[1]))
        hands.press(("other:keys", 64), 90)
        assert (held not in hands.sounding) == mono


@given(st.integers(0, 127), st.lists(st.integers(0, 127), min_size=1, max_size=6))
def test_a_fader_has_to_meet_what_a_song_begins_with(begins, moves):
    """With pick-up a target stays where its song put it until a move goes over that value."""
    plan = edits.set_start("b", "box:b", float(begins)).change(stage(takeover="pick-up"))
    hands = Performance(compile_scene(plan, plan.scenes[0]))
    hands.load(compile_scene(plan, plan.scenes[1]))
    met, before = False, None
    for value in moves:
        (moved,) = hands.move(("board:fader", 1), value)
        low, high = sorted((value if before is None else before, value))
        met, before = met or low <= begins <= high, value
        assert ("box:b" in moved.waiting) == (not met)
    assert any(one.fate == "waits" and one.what == "box:b" for one in goes_on(plan, *plan.scenes))
