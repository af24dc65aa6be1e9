"""What is derived is kept by identity, also while a solver works beside the window."""

import sys

from vastzone.core.plan.cache import derived


@derived(2)
def doubled(items):
    return [2 * item for item in items]


def test_what_is_asked_elsewhere_at_any_moment_changes_no_answer():
    """Another thread is played by force: what was just found is pushed out before it is given."""
    first, others = (1, 2), [(3,), (4,), (5,)]
    inside = []

    def interrupt(frame, event, _):
        is_found = frame.f_code.co_name == "lookup" and frame.f_locals.get("found") is not None
        if is_found and event == "line" and not inside:
            inside.append(frame)
            for other in others:
                assert doubled(other) == [2 * other[0]]
            inside.clear()
        return interrupt

    doubled(first)
    sys.settrace(interrupt)
    try:
        assert doubled(first) == [2, 4]
    finally:
        sys.settrace(None)
    assert doubled(first) == [2, 4]
