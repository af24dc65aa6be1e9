"""Cables against a slow and plain reference."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone.core.engine.network import Arc, Step, Tree
from vastzone.core.engine.reach import course_of
from vastzone.core.engine.traffic import Traffic

LINKS = st.sampled_from(["din", "din", "usb", "bluetooth"])


@st.composite
def trees(draw):
    steps = []
    for n in range(draw(st.integers(1, 4))):
        line = draw(st.integers(0, 3))
        arc = Arc(
            line, f"a:{line}", f"b:{line}", draw(LINKS) if line else "din", draw(st.booleans())
        )
        parent = draw(st.integers(-1, n - 1))
        steps.append(Step(arc, parent, draw(st.sampled_from([0.0, 0.5])) if parent >= 0 else 0.0))
    return Tree(tuple(steps), ())


class Reference:
    """One message after the other over every line, nothing precomputed."""

    def __init__(self):
        self.free, self.status = {}, {}

    def send(self, tree, status, at):
        reached = []
        for step in tree.steps:
            start = (reached[step.parent] if step.parent >= 0 else at) + step.before_ms
            if step.arc.link == "din":
                start = max(start, self.free.get(step.arc.line, 0.0))
                short = step.arc.running_status and self.status.get(step.arc.line) == status
                start += 0.64 if short else 0.96
                self.free[step.arc.line] = start
                self.status[step.arc.line] = status
            else:
                start += {"usb": 1.0, "bluetooth": 15.0}[step.arc.link]
            reached.append(start)
        return [r - at for r in reached]


EVENTS = st.lists(
    st.tuples(st.integers(0, 2), st.sampled_from([0x90, 0x91]), st.floats(0, 30)), max_size=25
)


@settings(max_examples=200, deadline=None)
@given(st.lists(trees(), min_size=3, max_size=3), EVENTS)
def test_queues_are_those_of_the_reference(held, events):
    """Running status only counts on lines that were never idle in between, so it is left out."""
    plain = [
        Tree(tuple(s._replace(arc=s.arc._replace(running_status=False)) for s in tree.steps), ())
        for tree in held
    ]
    quick, slow, at = Traffic(), Reference(), 0.0
    for which, status, later in events:
        at += later
        got = quick.send(course_of(plain[which]), status, at)
        assert list(got) == pytest.approx(slow.send(plain[which], status, at))


def test_running_status_shortens_a_message_of_the_same_kind():
    tree = Tree((Step(Arc(0, "a:o", "b:i", "din", True), -1, 0.0),), ())
    traffic, course = Traffic(), course_of(tree)
    assert list(traffic.send(course, 0x90, 0.0)) == pytest.approx([0.96])
    assert list(traffic.send(course, 0x90, 50.0)) == pytest.approx([0.64])
    assert list(traffic.send(course, 0x80, 100.0)) == pytest.approx([0.96])
