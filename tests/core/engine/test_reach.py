"""Worked examples of ways and times."""

import pytest

from tests.rigs import keyboard, module, part, rig, simple, zone
from vastzone.core.engine.compile import compile_scene, emission_at
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.report import report_key
from vastzone.core.engine.why import why_silent
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.plan import Device, Port, Thru

KEYS = "board:keys"


def press(plan, key=60, velocity=80, at=0.0):
    return Performance(compile_scene(plan, None)).press((KEYS, key), velocity, at)


def merger(*sources):
    inputs = tuple(Port(id=f"in{n}", name=f"in {n}", flow="in") for n in range(2))
    return Device(
        id="merge",
        name="Merge",
        kind="merger",
        delay_ms=0.5,
        ports=(*inputs, Port(id="out", name="out", flow="out")),
        thrus=tuple(Thru(source=p.id, dest="out") for p in inputs),
    )


@pytest.mark.parametrize(("link", "ms"), [("din", 0.96), ("usb", 1.0), ("bluetooth", 15.0)])
def test_one_cable_takes_its_time(link, ms):
    (voice,) = press(simple(link))
    assert voice.delay_ms == pytest.approx(ms)


def test_a_merger_adds_its_delay_and_a_second_cable():
    cables = (("board:out", "merge:in0"), ("merge:out", "box:in"))
    plan = rig(keyboard(zone()), merger(), module(part(), delay_ms=2.0), cables=cables)
    (voice,) = press(plan)
    assert voice.delay_ms == pytest.approx(0.96 + 0.5 + 0.96 + 2.0)
    compiled = compile_scene(plan, None)
    hops = report_key(compiled, "board", "keys", 60, 80, [voice]).reached[0].hops
    assert [(h.source, h.dest, h.link) for h in hops] == [
        ("Board", "Merge", "din"),
        ("Merge", "Box", "din"),
        ("Box", "Piano", "internal"),
    ]
    assert sum(h.ms + h.waited_ms for h in hops) + 0.5 == pytest.approx(voice.delay_ms)


def test_ten_notes_at_once_queue_on_din():
    playing = Performance(compile_scene(simple(), None))
    delays = [playing.press((KEYS, 60 + n), 80, 100.0)[0].delay_ms for n in range(10)]
    assert delays == pytest.approx([0.96 * (n + 1) for n in range(10)])
    assert playing.press((KEYS, 72), 80, 200.0)[0].delay_ms == pytest.approx(0.96)


def test_running_status_shortens_the_queue():
    plan = rig(keyboard(zone(), running_status=True), module(part()))
    playing = Performance(compile_scene(plan, None))
    delays = [playing.press((KEYS, 60 + n), 80, 0.0)[0].delay_ms for n in range(3)]
    assert delays == pytest.approx([0.96, 0.96 + 0.64, 0.96 + 2 * 0.64])


def test_shifts_of_zone_and_part_add_up():
    plan = rig(keyboard(zone(octave=-1, transpose=2)), module(part(transpose=-5)))
    (voice,) = press(plan, 60)
    assert (voice.emission.note, voice.landing.note) == (50, 45)


def test_velocity_windows_of_zone_and_part_meet():
    plan = rig(keyboard(zone(vel_low=20, vel_high=100)), module(part(vel_low=64)))
    assert [len(press(plan, 60, v)) for v in (19, 63, 64, 100, 101)] == [0, 0, 1, 1, 0]


def test_omni_hears_every_channel_and_a_port_filter_only_its_own():
    heard = rig(
        keyboard(zone(channel=7)), module(part(channel=None), part("other", 7, ports=("in",)))
    )
    assert len(press(heard)) == 2


def test_a_kit_answers_only_its_notes():
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="kick", name="Kick", note=36),))
    plan = rig(keyboard(zone()), module(part(kit="kit"), kits=(kit,)))
    assert [len(press(plan, key)) for key in (36, 37)] == [1, 0]
    (reason,) = why_silent(compile_scene(plan, None), "board", "keys", 37, 80)
    assert reason.cause == "kit" and "Kick" in reason.sentence


def test_local_control_plays_the_own_parts():
    plan = rig(keyboard(zone(), parts=(part("own", 1),)), module(part()))
    assert {(v.landing.ref, v.landing.step) for v in press(plan)} == {
        ("board:own", -1),
        ("box:piano", 0),
    }
    silent = rig(keyboard(zone(), parts=(part("own", 1),), local=False), module(part()))
    assert [v.landing.ref for v in press(silent)] == ["box:piano"]


def test_a_ring_is_found_and_followed_once():
    def through(ident):
        ports = (Port(id="in", name="in", flow="in"), Port(id="out", name="out", flow="out"))
        return module(part(), ident=ident, ports=ports, thrus=(Thru(source="in", dest="out"),))

    cables = (("board:out", "a:in"), ("a:out", "b:in"), ("b:out", "a:in"))
    plan = rig(keyboard(zone()), through("a"), through("b"), cables=cables)
    heard = [v.landing.ref for v in press(plan)]
    assert sorted(heard) == ["a:piano", "a:piano", "b:piano"]
    assert emission_at(compile_scene(plan, None), "board:out", 0, 60).tree.rings


def test_usb_carries_both_ways():
    usb = Port(id="usb", name="USB", flow="both", link="usb")
    plan = rig(
        keyboard(zone(), ports=(usb,), parts=(part("own", 1),), local=False),
        module(ident="host", ports=(usb,), thrus=(Thru(source="usb", dest="usb"),)),
        cables=(("board:usb", "host:usb"),),
    )
    (voice,) = press(plan)
    assert voice.landing.ref == "board:own" and voice.delay_ms == pytest.approx(2.0)


@pytest.mark.parametrize(
    ("plan", "key", "cause"),
    [
        (simple(), 20, "not a key"),
        (rig(keyboard(zone(high=50)), module(part())), 60, "dead key"),
        (rig(keyboard(zone(on=False)), module(part())), 60, "zone off"),
        (rig(keyboard(zone(vel_low=100)), module(part())), 60, "zone velocity"),
        (rig(keyboard(zone(octave=5)), module(part())), 96, "outside 0–127"),
        (rig(keyboard(zone()), module(part()), cables=()), 60, "no cable"),
        (rig(keyboard(zone(channel=3)), module(part())), 60, "channel"),
        (rig(keyboard(zone()), module(part(high=59))), 60, "note range"),
        (rig(keyboard(zone()), module(part(vel_low=100))), 60, "part velocity"),
    ],
)
def test_silence_has_its_first_cause(plan, key, cause):
    (reason,) = why_silent(compile_scene(plan, None), "board", "keys", key, 80)
    assert reason.cause == cause
    assert reason.sentence.endswith(".")


def test_a_controller_moves_the_target_that_listens():
    moves = Send(control="knob", message="controller", number=20, channel=4)
    board = keyboard(
        controls=(Control(id="knob", name="Knob", kind="knob"),),
        programs=(Program(number=0, name="First", sends=(moves,)),),
    )
    bright = Target(id="bright", name="Bright", part="piano", controller=20, unit="%", high=100)
    plan = rig(board, module(part(channel=4), targets=(bright,)))
    (movement,) = Performance(compile_scene(plan, None)).move(("board:knob", 1), 127)
    assert isinstance(movement, Movement)
    assert [h.ref for h in movement.motion.hearings] == ["box:bright"]
