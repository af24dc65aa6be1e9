"""Each number that was worked out says why: what it was tied to, or what nothing else uses."""

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.core.solve.reasons import in_words, name_of


def reasons(plan):
    answer = work_out(plan)
    assert isinstance(answer, Solution)
    return {number.ref: number.reason for number in answer.numbers}


PIANO = wish("piano", "box:piano")


def test_a_channel_follows_what_is_locked_or_stays_or_is_the_lowest_that_is_free():
    plan = rig(keyboard(zone(channel=9)), module(part(channel=7)), wishes=(PIANO,))
    locked = reasons(lock("box/part.piano/channel")(plan))
    assert locked["board/0/zone.all/channel"] == "Piano in Box is locked at 7."
    stays = reasons(plan)
    (reason,) = [r for ref, r in stays.items() if ref.endswith("/channel")]
    assert reason.endswith("already.") and ("Piano in Box" in reason or "All of Board" in reason)
    fresh = rig(keyboard(), module(part("piano", None)), wishes=(PIANO,))
    assert "lowest channel" in " ".join(reasons(fresh).values())


def test_ranges_shifts_and_switches_say_what_the_wish_does():
    split = wish("piano", "box:piano", 40, 60, shift=12)
    told = reasons(rig(keyboard(zone()), module(part()), wishes=(split,)))
    assert told["board/0/zone.all/low"] == "The wish begins here."
    assert told["board/0/zone.all/high"] == "The wish ends here."
    assert any("pitch" in reason for ref, reason in told.items() if ref.endswith("transpose"))
    board = keyboard(zone(), zone("more", channel=2))
    told = reasons(rig(board, module(part(), part("two", 2)), wishes=(PIANO,)))
    switched = {ref: r for ref, r in told.items() if ref.endswith("/on")}
    assert set(switched.values()) <= {"A wish uses this zone.", "No wish uses this zone."}
    assert "No wish uses this zone." in switched.values()


def test_controllers_are_standard_or_free_and_parameters_are_listened_for():
    knob = Control(id="k", name="K", kind="knob")
    board = keyboard(controls=(knob,), programs=(Program(number=0, name="P", zones=(zone(),)),))
    moves = Wish(id="m", name="M", sources=("board:k",), moves="box:t")

    def number_of(target, **more):
        box = module(part(), targets=(target,))
        told = reasons(rig(board, box, wishes=(moves,), **more))
        return [r for ref, r in told.items() if ref.endswith(("/number", "/controller"))]

    role = number_of(Target(id="t", name="T", part="piano", role=74))
    assert role and all("brightness" in reason or "already" in reason for reason in role)
    free = number_of(
        Target(id="t", name="T", part="piano"), schools=Schools(controllers="undefined")
    )
    assert free and any("free here" in reason for reason in free)
    wide = number_of(Target(id="t", name="T", part="piano", answers="nrpn", controller=5))
    assert wide and any("parameter" in reason or "already" in reason for reason in wide)


def test_notes_are_those_wished_or_the_next_that_are_free():
    pad = ("pads:pad-1",)
    told = reasons(
        joined(pads(1), module(part()), wishes=(wish("w", "box:piano", sources=pad, note=72),))
    )
    assert told["pads/0/pad-1.1/number"] == "This is the pitch that was wished."
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="a", name="A", note=50),))
    box = module(part("drums", 10, kit="kit", rhythm=True), kits=(kit,))
    kicked = joined(pads(1), box, wishes=(wish("w", "box:drums", sources=pad, sounds=("a",)),))
    told = reasons(kicked)
    assert "already" in told["pads/0/pad-1.1/number"]
    assert "already" in told["pads/0/pad-1.1/channel"] or "10" in told["pads/0/pad-1.1/channel"]


def test_settings_are_called_by_what_they_belong_to():
    pad = Send(control="sustain", message="controller", number=64)
    kit = Kit(id="kit", name="Kit", sounds=(Sound(id="a", name="A", note=50),))
    box = module(part(), targets=(Target(id="t", name="T"),), kits=(kit,))
    plan = rig(keyboard(zone()), box, scenes=(scene("a"),))
    assert pad in plan.devices[0].programs[0].sends
    assert name_of(plan, "board/0/zone.all/channel") == "All of Board"
    assert name_of(plan, "board/0/sustain.1/number") == "Sustain of Board"
    assert name_of(plan, "box/part.piano/channel") == "Piano in Box"
    assert name_of(plan, "box/target.t/controller") == "T in Box"
    assert name_of(plan, "box/kit.kit/a") == "A in Kit"
    assert name_of(plan, "board/0/program.0/name") == "Board"
    assert in_words(plan, "board/0/zone.all/channel") == "All of Board, channel"
    assert in_words(plan, "board/0/zone.gone/channel") == "board/0/zone.gone/channel"
