"""Learning a device by touching it: a simulated one tells what it sends, and so it is learned."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.random_rigs import wide_plans
from tests.trial_rigs import RIGS
from vastzone.core.describe.atoms import TimedMessage
from vastzone.core.describe.learning import taught, teach
from vastzone.core.describe.simulated import (
    HELD_MS,
    REST_MS,
    Gesture,
    struck_keys,
    touches,
    zone_channel,
)
from vastzone.core.describe.striking import TAKEN_BACK_MS, learn_keys, learn_run
from vastzone.core.midi.messages import Message
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.files.devices import shipped

DEVICES = [
    *shipped().values(),
    *(device for make in RIGS.values() for device in make().devices),
]


def heard_in(gestures):
    return [message for gesture in gestures for message in gesture.messages]


def sent(device, program, gesture):
    """What a control sends, as far as it can be heard."""
    control = lookup.controls_by_id(device)[gesture.control]
    send = next(
        s
        for s in program.sends
        if (s.control, s.bank, s.layer) == (gesture.control, gesture.bank, 0)
    )
    channel = send.channel or zone_channel(program)
    number = 0 if send.message in ("bend", "pressure") else send.wide
    pressed = control_ability(control).pressed or send.message in ("note", "program")
    mode = send.mode if pressed and send.message != "program" else None
    plain = send.message in ("note", "program") or control.endless
    ends = None if plain else (send.low, send.high)
    return send.message, channel, number, mode, ends, control.endless


def learned(learnt, like):
    """What was learned, as far as ``like`` tells."""
    mode = learnt.mode if like[3] is not None else None
    ends = (learnt.low, learnt.high) if like[4] is not None else None
    return (*learnt.mover[:1], *learnt.mover[1:], mode, ends, learnt.endless)


def without_twins(device, program, gestures):
    """Gestures one after the other that can be told apart."""
    apart = []
    for gesture in gestures:
        what = sent(device, program, gesture)
        if not apart or apart[-1][1][:3] != what[:3]:
            apart.append((gesture, what))
    return apart


def assert_learned(device):
    for program in device.programs:
        apart = without_twins(device, program, touches(device, program))
        run = learn_run(heard_in(gesture for gesture, _ in apart))
        wanted = [what for _, what in apart]
        found = [learned(one, like) for one, like in zip(run.learnt, wanted, strict=True)]
        assert found == wanted
        for bed in device.keybeds:
            keys = learn_keys(struck_keys(bed, 3))
            assert bed.keys == 1 or keys == (bed.low, bed.high, 3)


@pytest.mark.parametrize("device", DEVICES, ids=lambda device: device.id)
def test_learning_a_simulated_device_gives_what_it_sends(device):
    assert_learned(device)


@given(wide_plans())
def test_any_device_is_learned_as_it_sends(plan):
    for device in plan.devices:
        for program in device.programs:
            for send in program.sends:
                # A value that never leaves its place cannot be told from one that does not move,
                # and of a drawn curve or a limited travel only the ends are heard.
                if send.low == send.high or send.points or send.threshold or send.starts:
                    return
        assert_learned(device)


def blank(device):
    """A device of which it is not known what its controls send."""
    programs = tuple(
        changed(p, sends=tuple(s for s in p.sends if s.layer)) for p in device.programs
    )
    controls = tuple(changed(control, endless=False) for control in device.controls)
    return changed(device, programs=programs, controls=controls)


def as_heard(device, program):
    """What can be heard of a program: where it goes, and how."""
    heard = {}
    for send in program.sends:
        if send.message != "none" and not send.layer:
            like = sent(device, program, Gesture(send.control, send.bank, ()))
            heard[send.control, send.bank] = like
    return heard


@pytest.mark.parametrize("device", DEVICES, ids=lambda device: device.id)
def test_a_described_device_that_is_learned_sends_what_the_simulated_one_does(device):
    told = blank(device)
    plan = Plan(name="Plan", devices=(told,))
    for program in device.programs:
        gestures = touches(device, program)
        for bank in {gesture.bank for gesture in gestures}:
            mine = [gesture for gesture in gestures if gesture.bank == bank]
            twins = without_twins(device, program, mine)
            if len(twins) < len(mine):
                return
            known = [c for c in told.controls if c.id in {g.control for g in mine}]
            run = learn_run(heard_in(mine))
            edit = teach(told.id, program.number, taught(told, run.learnt, known), bank)
            plan = edit(plan)
            told = plan.devices[0]
    for program in device.programs:
        now = next(p for p in told.programs if p.number == program.number)
        assert as_heard(told, now) == as_heard(device, program)


def run_of(*struck):
    """Notes on channel 1, each struck and let go, so many milliseconds apart."""
    heard = []
    at = 0.0
    for wait, note in struck:
        at += wait
        heard.append(TimedMessage(at, Message("note_on", 0, note, 90)))
        heard.append(TimedMessage(at + HELD_MS, Message("note_off", 0, note)))
    return learn_run(sorted(heard, key=lambda each: each.at_ms))


def kinds(run):
    return [(remark.kind, remark.place) for remark in run.remarks]


def test_mistakes_are_caught_at_the_strike():
    assert kinds(run_of((500, 36), (500, 37), (500, 37), (500, 38))) == [("twice", 1)]
    assert kinds(run_of((500, 36), (500, 37), (5, 60), (500, 38))) == [("two messages", 1)]
    assert kinds(run_of((500, 36), (500, 37), (500, 36))) == [("same message", 2)]
    # One left out, and two left out, are noticed alike.
    assert kinds(run_of(*((500, n) for n in (36, 37, 38, 39, 41)))) == [("skipped", 4)]
    assert kinds(run_of(*((500, n) for n in (36, 37, 38, 39, 42)))) == [("skipped", 4)]
    for left_out in (1, 2, 3):
        (told,) = run_of(*((500, n) for n in (36, 37, 38, 39, 40 + left_out))).remarks
        assert told.left_out == left_out


def test_a_neighbour_moved_by_mistake_is_left_out():
    heard = []
    for step in range(20):
        value = step * 6
        heard.append(TimedMessage(step * 30.0, Message("controller", 0, 20, value)))
        if step == 9:
            heard.append(TimedMessage(step * 30.0 + 25, Message("controller", 0, 21, 64)))
    run = learn_run(heard)
    assert [one.mover.number for one in run.learnt] == [20]
    assert (run.learnt[0].low, run.learnt[0].high) == (0, 114)
    assert kinds(run) == [("neighbour", 0)]


def test_a_press_that_is_not_let_go_is_not_certain_until_it_is_pressed_again():
    def pressed(*values):
        heard = []
        for place, value in enumerate(values):
            heard.append(TimedMessage(place * REST_MS, Message("controller", 0, 80, value)))
        return learn_run(heard).learnt[0]

    assert not pressed(127).certain
    assert (pressed(127, 127).mode, pressed(127, 127).certain) == ("trigger", True)
    assert pressed(127, 0).mode == "toggle"


@given(st.lists(st.tuples(st.floats(0, 2000), st.integers(0, 127), st.integers(0, 127))))
def test_whatever_comes_in_is_learned_or_left_out(moves):
    heard = []
    at = 0.0
    for wait, number, value in moves:
        at += wait
        heard.append(TimedMessage(at, Message("controller", 0, number, value)))
    run = learn_run(heard)
    assert len(run.learnt) <= len(moves)
    assert all(0 <= remark.place < len(run.learnt) for remark in run.remarks)


@given(st.lists(st.tuples(st.integers(30, 90), st.integers(0, 3)), min_size=1, max_size=10))
def test_what_is_struck_again_unhurried_is_taken_back(strikes):
    """Struck once it is learned, twice taken back, three times learned again, and so on."""
    struck, expected, taken = [], [], None
    for note, again in strikes:
        if note in (struck[-1:] and struck[-1][1], expected[-1:] and expected[-1]):
            continue  # One that is struck beside itself is taken back as well.
        taken = note if again % 2 else None
        struck += [(600, note)] + [(TAKEN_BACK_MS + HELD_MS + 50, note)] * again
        if again % 2 == 0:
            expected.append(note)
    run = run_of(*struck)
    assert [one.mover.number for one in run.learnt] == expected
    assert (run.taken_back.number if run.taken_back else None) == taken
