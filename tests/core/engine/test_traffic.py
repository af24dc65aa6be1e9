"""Cables against a slow and plain reference."""

from itertools import count

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone.core.engine.network import Arc, ArcTaken, Tree
from vastzone.core.engine.reach import course_of
from vastzone.core.engine.traffic import Traffic

LINKS = st.sampled_from(["din", "din", "usb", "bluetooth"])
KINDS = {"note": (0x90, 1), "controller": (0xB0, 1), "pair": (0xB0, 2), "rpn": (0xB0, 4)}


@st.composite
def trees(draw):
    steps = []
    for n in range(draw(st.integers(1, 4))):
        line = draw(st.integers(0, 3))
        arc = Arc(line, f"a:{line}", f"b:{line}", "din" if line < 2 else draw(LINKS), line == 1)
        parent = draw(st.integers(-1, n - 1))
        steps.append(
            ArcTaken(arc, parent, draw(st.sampled_from([0.0, 0.5])) if parent >= 0 else 0.0)
        )
    return Tree(tuple(steps), ())


def reference(sent):
    """When each message is through each step: the earliest arrival anywhere is served next."""
    free, status, done = {}, {}, {}
    waiting = [
        (at + step.before_ms, number, place)
        for number, (tree, _, at) in enumerate(sent)
        for place, step in enumerate(tree.steps)
        if step.parent < 0
    ]
    while waiting:
        arrives, number, place = min(waiting)
        waiting.remove((arrives, number, place))
        tree, kind, _ = sent[number]
        step, (first, messages) = tree.steps[place], KINDS[kind]
        line = step.arc.line
        if step.arc.link != "din":
            done[number, place] = arrives + {"usb": 1.0, "bluetooth": 15.0}[step.arc.link]
        else:
            begin, bytes_ = max(arrives, free.get(line, 0.0)), 0
            for _ in range(messages):
                short = step.arc.running_status and status.get(line) == first
                bytes_ += 2 if short else 3
                status[line] = first
            done[number, place] = free[line] = begin + bytes_ * 0.32
        for child, other in enumerate(tree.steps):
            if other.parent == place:
                waiting.append((done[number, place] + other.before_ms, number, child))
    return done


class Told:
    times = ()


EVENTS = st.lists(
    st.tuples(st.integers(0, 2), st.sampled_from(sorted(KINDS)), st.sampled_from([0, 0.3, 2, 40])),
    max_size=20,
)


@settings(max_examples=300, deadline=None)
@given(st.lists(trees(), min_size=3, max_size=3), EVENTS)
def test_lines_serve_in_order_of_arrival_as_the_reference_does(held, events):
    quick, at, sent, told = Traffic(), 0.0, [], []
    for which, kind, later in events:
        at += later
        one = Told()
        one.times = quick.send(course_of(held[which], kind), KINDS[kind][0], at, one)
        sent.append((held[which], kind, at))
        told.append(one)
    done = reference(sent)
    for number, (one, (_, _, begun)) in enumerate(zip(told, sent, strict=True)):
        expected = [done[number, place] - begun for place in range(len(one.times))]
        assert list(one.times) == pytest.approx(expected), number


def line(number, link="din", running=False):
    return Arc(number, f"a:{number}", f"b:{number}", link, running)


def test_what_arrives_first_leaves_a_merger_first():
    """A Bluetooth key struck at 0 arrives at 15, a DIN key struck at 1 at 1.96: it goes first."""
    out = line(9)
    slow = Tree((ArcTaken(line(0, "bluetooth"), -1, 0.0), ArcTaken(out, 0, 0.0)), ())
    quick = Tree((ArcTaken(line(1), -1, 0.0), ArcTaken(out, 0, 0.0)), ())
    traffic, first, second = Traffic(), Told(), Told()
    first.times = traffic.send(course_of(slow), 0x90, 0.0, first)
    second.times = traffic.send(course_of(quick), 0x90, 1.0, second)
    assert list(second.times) == pytest.approx([0.96, 1.92])
    assert list(first.times) == pytest.approx([15.0, 15.96])


def test_running_status_shortens_a_message_of_the_same_kind_and_counts_inside_parameters():
    tree = Tree((ArcTaken(line(0, running=True), -1, 0.0),), ())
    traffic, times = Traffic(), count(0, 50.0)
    for kind, status, ms in (
        ("note", 0x90, 0.96),
        ("note", 0x90, 0.64),
        ("note", 0x80, 0.96),
        ("pair", 0xB0, 1.6),
        ("pair", 0xB0, 1.28),
        ("rpn", 0xB0, 2.56),
        ("rpn", 0xB1, 2.88),
    ):
        took = traffic.send(course_of(tree, kind), status, next(times))
        assert list(took) == pytest.approx([ms]), (kind, status)


def test_ten_notes_at_once_leave_after_9_6_ms_and_with_running_status_after_6_72():
    for running, last in ((False, 9.6), (True, 6.72)):
        tree = Tree((ArcTaken(line(0, running=running), -1, 0.0),), ())
        traffic = Traffic()
        sent = [traffic.send(course_of(tree), 0x90, 0.0) for _ in range(10)]
        assert sent[-1][0] == pytest.approx(last)
