"""What a device has once where scenes want it several times."""

import msgspec
import pytest

from tests.rigs import keyboard, module, part, rig, zone
from vastzone import demo
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import edit_device
from vastzone.core.plan.edits.scenes import choose_program
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import KitChoice, Program
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.parts import Kit
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.check import check
from vastzone.files import native


@pytest.fixture
def ready():
    return native.read(demo.READY)


def found(plan, rule):
    return [f for f in check(plan) if f.rule == rule]


def second_program(device, number, scenes, **changes):
    """A copy of a device's first program, changed, for some scenes."""

    def apply(plan):
        owner = lookup.device(plan, device)
        first = owner.programs[0] if owner.programs else Program(number=0, name="One")
        new = changed(first, id=str(number), number=number, name="Two", **changes)
        programs = (first, new)
        plan = set_device(device, "x", programs=programs)(plan)
        for scene in scenes:
            plan = choose_program(scene, device, number)(plan)
        return plan

    return apply


def test_a_channel_set_once_for_a_program_cannot_differ_within_it(ready):
    limit = ScopeLimit(setting="send-channel", scope="program")
    limited = edit_device("curlew", "x", lambda d: changed(d, limits=(limit,)))(ready)
    plan = set_send("curlew", 0, "trigger-2", 1, "x", channel=3)(limited)
    (one,) = found(plan, "one for all")
    assert "Snare trigger wants 3" in one.sentence and one.severity == "fault"
    for fix in one.fixes:
        assert not found(fix(plan), "one for all")


def test_a_global_setting_that_one_scene_needs_otherwise_is_told_with_the_scene(ready):
    wide = edit_device(
        "curlew",
        "x",
        lambda d: changed(d, limits=(ScopeLimit(setting="send-channel", scope="global"),)),
    )(ready)
    sends = tuple(changed(s, channel=9) for s in lookup.device(wide, "curlew").programs[0].sends)
    plan = second_program("curlew", 1, ("squall",), sends=sends)(wide)
    (one,) = found(plan, "one for all")
    assert "whole device" in one.sentence and one.scenes == ("squall",)


def test_a_kit_change_that_moves_sounds_names_the_pad_and_both_sounds(ready):
    def other_kit(owner):
        pit = owner.kits[0]
        moved = tuple(changed(s, note=s.note + 1) if s.id == "ride" else s for s in pit.sounds)
        brush = Kit(id="brush", name="Brush kit", sounds=moved)
        first = Program(number=0, name="Pit")
        second = Program(number=1, name="Brush", kits=(KitChoice(part="drums", kit="brush"),))
        return changed(owner, kits=(pit, brush), programs=(first, second))

    plan = edit_device("dovecote", "x", other_kit)(ready)
    assert not found(plan, "kit moves sounds")
    plan = choose_program("squall", "dovecote", 1)(plan)
    assert not found(plan, "kit moves sounds")  # the wish is there, so the proof tells of it
    without = msgspec.structs.replace(
        plan, wishes=tuple(i for i in plan.wishes if i.id not in ("beat", "drum-kit"))
    )
    (one,) = found(without, "kit moves sounds")
    assert "instead of Ride" in one.sentence and one.scenes == ("squall",)


def test_seventeen_channels_on_one_port_are_one_too_many():
    parts = tuple(part(f"p{n}", channel=n % 16 + 1) for n in range(17))
    plan = rig(keyboard(zone("all", 36, 96)), module(*parts))
    owner = next(d for d in plan.devices if d.parts)
    bed = next(f"{d.id}:{b.id}" for d in plan.devices for b in d.keybeds)

    def wished(count):
        wishes = tuple(
            Wish(id=f"w{n}", name=f"W {n}", sources=(bed,), plays=f"{owner.id}:p{n}", alone=True)
            for n in range(count)
        )
        return msgspec.structs.replace(plan, wishes=wishes)

    assert not found(wished(16), "more than 16 channels")
    assert "let 1 share" in found(wished(17), "more than 16 channels")[0].sentence
