"""Ceilings written where a name is moved, and volumes that keep a control even."""

import pytest

from tests.rigs import keyboard, module, part, rig, zone
from vastzone.core.engine.compile import compile_scene
from vastzone.core.errors import EditError
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.proof.check import scenes_compiled
from vastzone.core.response.loudness import Capped
from vastzone.core.solve.caps import keep_even, write_caps

BRIGHT = Target(
    id="bright",
    name="Bright",
    part="piano",
    controller=74,
    louder=((0, 0.0), (64, 5.0), (127, 9.0)),
)
VOLUME = Target(id="vol", name="Volume", part="piano", controller=7, role=7)


def sending(*sends, targets=(BRIGHT, VOLUME), parts=None):
    board = keyboard(
        controls=tuple(Control(id=c, name=c.upper(), kind="knob") for c in "ab"),
        programs=(Program(number=0, name="P", zones=(zone(),), sends=sends),),
    )
    return rig(board, module(*(parts or (part(),)), targets=targets))


def knob(control="a", number=74, **more):
    return Send(control=control, message="controller", number=number, channel=1, **more)


def capped(name, top):
    return (Capped(name, top, 0.0, 0, 0.0),)


def held(plan):
    return [(s.low, s.high) for s in plan.devices[0].programs[0].sends]


def test_what_moves_a_target_or_the_volume_of_a_part_sends_no_more():
    plan = sending(knob(), knob("b", 7), knob("b", 20, layer=1))
    compiled = scenes_compiled(plan)
    bright = write_caps(plan, compiled, capped("bright", 90), "senders")
    assert held(bright.edit(plan)) == [(0, 90), (0, 127), (0, 127)]
    assert bright.written == ("bright",) and bright.unknown == ()
    volume = write_caps(plan, compiled, capped("PIANO", 90), "senders")
    assert held(volume.edit(plan)) == [(0, 127), (0, 90), (0, 127)]
    turned = sending(knob(low=127, high=0))
    edit = write_caps(turned, scenes_compiled(turned), capped("Bright", 90), "senders").edit
    assert held(edit(turned)) == [(90, 0)]


def test_a_receiver_ends_at_its_cap():
    plan = sending(knob(), targets=(Target(id="t", name="Mix", controller=74, high=200.0),))
    new = write_caps(plan, scenes_compiled(plan), capped("mix", 64), "receivers").edit(plan)
    assert new.devices[1].targets[0].high == pytest.approx(200 * 64 / 127)
    assert held(new) == held(plan)
    for where in ("senders", "receivers"):
        with pytest.raises(EditError):
            write_caps(plan, scenes_compiled(plan), capped("gone", 64), where)


def even(plan, ref="board:a"):
    return (
        keep_even(plan, compile_scene(plan, None), (ref, 1), 0.5)(plan).devices[0].programs[0].sends
    )


def test_a_control_gets_a_second_message_that_takes_the_volume_down():
    bright, volume = even(sending(knob()))
    assert bright == knob() and (volume.number, volume.layer) == (7, 1)
    assert volume.low > volume.high and volume.control == "a"
    layered = even(sending(knob(), knob(number=20, layer=3)))
    assert [s.layer for s in layered] == [0, 3, 4]


def test_without_known_loudness_a_volume_or_room_there_is_nothing_to_even():
    plain = Target(id="plain", name="Plain", part="piano", controller=74)
    full = [knob(), *(knob(number=20 + n, layer=n) for n in range(1, 8))]
    for plan in (
        sending(knob(), targets=(plain, VOLUME)),
        sending(knob(), targets=(BRIGHT,)),
        sending(*full),
    ):
        with pytest.raises(EditError):
            even(plan)
    last = [knob(), knob(number=21, layer=6)]
    assert even(sending(*last))[-1].layer == 7
    with pytest.raises(EditError):
        even(sending(knob()), "board:b")


@pytest.mark.parametrize(
    ("volume", "works"),
    [
        (Target(id="v", name="V", part="piano", controller=7), True),
        (Target(id="v", name="V", part="piano", controller=11), True),
        (Target(id="v", name="V", part="piano", controller=30, role=7), True),
        (Target(id="v", name="V", part="piano", controller=30), False),
        (Target(id="v", name="V", part="piano", role=7), False),
    ],
)
def test_a_volume_is_known_by_its_number_or_by_its_role(volume, works):
    plan = sending(knob(), targets=(BRIGHT, volume))
    if works:
        assert even(plan)[-1].number == volume.controller
        return
    with pytest.raises(EditError):
        even(plan)
