"""What once was called solved and was not as meant, by hand: locks, silences, what plays unwished."""

import pytest

from tests.rigs import joined, keyboard, module, pads, part, rig, scene, wish, zone
from vastzone.core.memory.beginnings import out_of_the_box
from vastzone.core.memory.model import Memory
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.wishes import Schools, Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.numbers import Solution


def boxed(plan):
    return Memory(devices=tuple(out_of_the_box(device, "") for device in plan.devices))


def solved(plan, memory=None):
    answer = work_out(plan, memory=memory or boxed(plan))
    assert isinstance(answer, Solution), answer
    assert all(not mark.wishes for _, mark in prove(answer.plan, memory or boxed(plan)).faults())
    return answer


def value(plan, ref):
    return dials(plan)[ref].value


def sends(plan, device="board"):
    return {send.control: send for send in lookup.device(plan, device).programs[0].sends}


LOCKED_END = "board/0/zone.all/high"


@pytest.mark.parametrize(
    ("ref", "wished"),
    [
        (LOCKED_END, wish("w", "box:piano", 36, 72)),
        ("board/0/zone.all/low", wish("w", "box:piano", 40, 96)),
        ("board/0/zone.all/vel_high", wish("w", "box:piano", vel_high=80)),
    ],
)
def test_a_locked_end_of_the_only_zone_is_kept_and_named(ref, wished):
    limits = (ScopeLimit(setting="zone-shift", scope="fixed"),)
    board = keyboard(zone(), limits=limits)
    few = changed(board, limits=(*limits, *one_zone()))
    plan = lock(ref)(rig(few, module(part()), wishes=(wished,)))
    answer = work_out(plan)
    assert isinstance(answer, Refusal) and answer.locks == (ref,)


def one_zone():
    from vastzone.core.plan.model.limits import CountLimit

    return (CountLimit(what="zones", most=1),)


def test_a_zone_whose_end_is_locked_elsewhere_is_left_for_another():
    plan = rig(keyboard(zone(high=60)), module(part()), wishes=(wish("w", "box:piano", 36, 72),))
    answer = solved(lock(LOCKED_END)(plan))
    assert value(answer.plan, LOCKED_END) == 60
    assert len(lookup.device(answer.plan, "board").programs[0].zones) == 2


@pytest.mark.parametrize("fixed", [True, False])
def test_a_pad_beyond_a_range_that_stays_is_refused(fixed):
    limits = (ScopeLimit(setting="part-range", scope="fixed"),) if fixed else ()
    wished = wish("w", "box:piano", sources=("pads:pad-1",), note=90)
    plan = joined(pads(1), module(part(high=72), limits=limits), wishes=(wished,))
    answer = work_out(plan if fixed else lock("box/part.piano/high")(plan))
    assert isinstance(answer, Refusal)
    assert answer.locks == (() if fixed else ("box/part.piano/high",))


def knob_rig(target, zones, held=(), wishes=()):
    knob = Control(id="k", name="K", kind="knob")
    board = keyboard(
        controls=(knob,),
        programs=(Program(number=0, name="P", zones=zones, sends=held),),
    )
    moves = Wish(id="m", name="M", sources=("board:k",), moves="box:t")
    return rig(board, module(part(), targets=(target,)), wishes=(moves, *wishes))


ANY = Target(id="t", name="T", controller=20)


@pytest.mark.parametrize("zones", [(), (zone(on=False),), (zone("a"), zone("b", channel=2))])
def test_a_knob_that_cannot_follow_the_zones_gets_a_channel(zones):
    answer = solved(knob_rig(ANY, zones))
    assert sends(answer.plan)["k"].channel is not None


def test_a_knob_that_follows_a_zone_which_fits_goes_on_following():
    held = Send(control="k", message="controller", number=20)
    aim = Target(id="t", name="T", channel=1, controller=20)
    plan = knob_rig(aim, (zone(),), (held,), (wish("w", "box:piano"),))
    assert sends(solved(plan).plan)["k"].channel is None


def test_an_old_window_of_velocities_does_not_stay_on_a_pad():
    old = Send(control="pad-1", message="note", number=60, channel=1, vel_low=80)
    box = pads(1)
    box = changed(box, programs=(Program(number=0, name="One", sends=(old,)),))
    wished = wish("w", "box:piano", sources=("pads:pad-1",), note=60)
    (send,) = sends(solved(joined(box, module(part()), wishes=(wished,))).plan, "pads").values()
    assert (send.vel_low, send.vel_high) == (1, 127)


KIT = Kit(
    id="kit", name="Kit", sounds=tuple(Sound(id=f"s{n}", name=f"S{n}", note=n) for n in (36, 37))
)


def test_a_kit_ignores_the_transposition_of_its_part():
    drums = part("drums", kit="kit", transpose=12)
    wished = wish("w", "box:drums", sources=("pads:pad-1",), note=36)
    plan = solved(joined(pads(1), module(drums, kits=(KIT,)), wishes=(wished,))).plan
    assert sends(plan, "pads")["pad-1"].number == 36


def test_keys_wished_onto_too_small_a_kit_are_told_where_they_could_end():
    drums = part("drums", kit="kit")
    wished = wish("w", "box:drums", 36, 40)
    answer = work_out(rig(keyboard(zone()), module(drums, kits=(KIT,)), wishes=(wished,)))
    assert isinstance(answer, Refusal)
    assert "2 of the 5" in answer.sentence and "36–37" in answer.sentence
    narrower = answer.mends[0].edit(
        rig(keyboard(zone()), module(drums, kits=(KIT,)), wishes=(wished,))
    )
    assert (narrower.wishes[0].low, narrower.wishes[0].high) == (36, 37)
    assert not isinstance(work_out(narrower), Refusal)


def test_a_shift_that_neither_zone_nor_part_can_make_is_refused():
    limits = (ScopeLimit(setting="zone-shift", scope="fixed"),)
    box = module(part(), limits=(ScopeLimit(setting="part-shift", scope="fixed"),))
    wished = wish("w", "box:piano", shift=12)
    answer = work_out(rig(keyboard(zone(), limits=limits), box, wishes=(wished,)))
    assert isinstance(answer, Refusal) and answer.wishes == ("w",)


@pytest.mark.parametrize(
    ("first", "second"),
    [((36, 96), (36, 96)), ((36, 60), (50, 96)), ((36, 96), (40, 50))],
)
def test_wishes_that_say_the_same_of_some_keys_sound_them_once(first, second):
    scenes = (scene("one"), scene("two"))
    wishes = (
        wish("all", "box:piano", *first),
        wish("again", "box:piano", *second, scenes=("one",)),
    )
    plan = rig(keyboard(zone()), module(part()), scenes=scenes, wishes=wishes)
    assert prove(solved(plan).plan).good


def test_a_range_that_is_lengthened_for_one_sound_wakes_no_other():
    sounds = tuple(Sound(id=f"s{n}", name=f"S{n}", note=n) for n in (36, 40))
    kit = Kit(id="kit", name="Kit", sounds=sounds)
    drums = part("drums", low=50, high=60, kit="kit")
    board = keyboard(zone(low=36, high=39))
    wishes = (
        wish("keys", "box:piano", 36, 39),
        wish("beat", "box:drums", sources=("pads:pad-1",), sounds=("s40",)),
    )
    plan = joined(board, pads(1), module(part(), drums, kits=(kit,)), wishes=wishes)
    assert prove(solved(plan).plan, boxed(plan)).good


def filled(scope):
    """Sixteen pads filled by hand onto a kit on 10, and a knob wished onto a target on 1."""
    controls = tuple(Control(id=f"pad-{n}", name=f"Pad {n}", kind="pad") for n in range(1, 5))
    knob = Control(id="knob", name="Knob", kind="knob")
    notes = tuple(
        Send(control=c.id, message="note", number=36 + n % 2, channel=10)
        for n, c in enumerate(controls)
    )
    box = pads(1)
    limits = (ScopeLimit(setting="send-channel", scope=scope),)
    program = Program(number=0, name="One", sends=notes)
    box = changed(box, controls=(*controls, knob), programs=(program,), limits=limits)
    drums = part("drums", 10, kit="kit", receives="fixed")
    target = Target(id="t", name="T", channel=1, controller=20)
    moves = Wish(id="m", name="M", sources=("pads:knob",), moves="box:t")
    return joined(box, module(drums, kits=(KIT,), targets=(target,)), wishes=(moves,))


def test_pads_that_a_kit_answers_go_on_and_where_they_cannot_that_is_said():
    free = solved(filled("control"))
    assert free.silences == () and prove(free.plan, boxed(free.plan)).good
    tied = solved(filled("global"))
    assert tied.warnings == ("Pad 1, Pad 2, Pad 3 and Pad 4 of Pads would fall silent.",)


def test_what_was_made_by_hand_goes_on_and_what_the_factory_sent_does_not():
    plan = joined(
        keyboard(zone()), pads(2), module(part("piano", 1)), wishes=(wish("w", "box:piano"),)
    )
    memory = boxed(plan)
    by_hand = set_send("pads", 0, "pad-1", 1, "By hand", number=60)(plan)
    answer = solved(by_hand, memory)
    heard = {mark.source: mark.verdict for mark in prove(answer.plan, memory).marks("")}
    assert heard == {"board:keys": "as meant", "pads:pad-1": "as meant"}


def faders(schools, taken=()):
    names = [f"fader-{n}" for n in range(1, 6)]
    controls = tuple(
        Control(id=name, name=name, kind="fader", column=n) for n, name in enumerate(names)
    )
    targets = tuple(Target(id=f"t{n}", name=f"T{n}", channel=1) for n in range(5))
    others = tuple(
        Target(id=f"x{n}", name=f"X{n}", channel=1, controller=n, receives="fixed") for n in taken
    )
    wishes = tuple(
        Wish(id=f"w{n}", name=f"W{n}", sources=(f"board:{name}",), moves=f"box:t{n}")
        for n, name in enumerate(names)
    )
    board = keyboard(controls=controls[::-1], programs=(Program(number=0, name="P"),))
    box = module(targets=(*targets[::-1], *others))
    return rig(board, box, wishes=wishes[::-1], schools=schools), names


RUN = Schools(controllers="run", run_from=75)


@pytest.mark.parametrize(
    ("schools", "taken", "numbers"),
    [
        (Schools(), (), [20, 21, 22, 23, 24]),
        (Schools(controllers="run", run_from=29), (), [29, 30, 31, 85, 86]),
        (Schools(), (22, 23), [20, 21, 24, 25, 26]),
        (RUN, (), [75, 76, 77, 78, 79]),
        (RUN, (76,), [75, 77, 78, 79, 80]),
        (Schools(controllers="run", run_from=86), (), [86, 87, 89, 90, 102]),
    ],
)
def test_controllers_ascend_as_the_faders_lie(schools, taken, numbers):
    plan, names = faders(schools, taken)
    there = sends(solved(plan).plan)
    assert [there[name].number for name in names] == numbers


def test_more_targets_on_all_channels_than_controllers_are_refused_at_once():
    count = 90
    stops = tuple(Control(id=f"s{n}", name=f"Stop {n}", kind="stop") for n in range(count))
    targets = tuple(Target(id=f"t{n}", name=f"T{n}") for n in range(count))
    wishes = tuple(
        Wish(id=f"w{n}", name=f"W{n}", sources=(f"board:s{n}",), moves=f"box:t{n}")
        for n in range(count)
    )
    board = keyboard(controls=stops, programs=(Program(number=0, name="P"),))
    answer = work_out(rig(board, module(targets=targets), wishes=wishes))
    assert isinstance(answer, Refusal) and len(answer.wishes) < count


@pytest.mark.parametrize(
    ("top", "sent", "good"),
    [(100.0, 63, True), (100.0, 64, False), (100.0, 62, False), (200.0, 127, True)],
)
def test_a_wish_to_move_is_over_its_range_never_beyond_and_no_step_short(top, sent, good):
    target = Target(id="t", name="T", channel=1, controller=20, high=200.0)
    held = Send(control="k", message="controller", number=20, channel=1, high=sent)
    plan = knob_rig(target, (), (held,))
    (moves,) = plan.wishes
    plan = changed(plan, wishes=(changed(moves, from_value=0.0, to_value=top),))
    assert prove(plan).good is good
    assert prove(solved(plan).plan).good


def test_what_takes_all_hears_nothing_too_much():
    takes = part("takes", None, receives="takes all")
    plan = rig(keyboard(zone()), module(part(), takes), wishes=(wish("w", "box:piano"),))
    assert prove(plan).good and solved(plan).numbers == ()
