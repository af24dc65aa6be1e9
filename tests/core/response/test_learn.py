"""Learning by striking: what each mistake looks like."""

import pytest

from vastzone.core.midi.messages import Message
from vastzone.core.response.learn import Mistake, TimedMessage, learn


def struck(*hits):
    """Notes on channel 10, one every half second unless a time is given."""
    return [
        TimedMessage(
            hit[1] if isinstance(hit, tuple) else 500.0 * n,
            Message("note_on", 9, hit[0] if isinstance(hit, tuple) else hit, 90),
        )
        for n, hit in enumerate(hits)
    ]


def test_an_unhurried_run_is_learned_without_mistakes():
    found = learn(struck(36, 38, 42, 46), 4)
    assert [(t.place, t.kind, t.channel, t.number) for t in found.pads] == [
        (0, "note", 10, 36),
        (1, "note", 10, 38),
        (2, "note", 10, 42),
        (3, "note", 10, 46),
    ]
    assert found.mistakes == ()


@pytest.mark.parametrize(
    ("hits", "numbers", "mistake"),
    [
        ((36, 36, 37, 38), [36, 37, 38], Mistake("twice", 0)),
        ((36, 37, 39, 40, 41), [36, 37, 39, 40, 41], Mistake("skipped", 2)),
        ((36, 37, 36), [36, 37, 36], Mistake("same message", 2, 0)),
        ((36, (41, 8.0), (37, 600.0)), [36, 37], Mistake("two messages", 0)),
    ],
)
def test_each_mistake_is_named_at_its_pad(hits, numbers, mistake):
    found = learn(struck(*hits), 8)
    assert [t.number for t in found.pads] == numbers and found.mistakes == (mistake,)


def test_releases_do_not_count_and_what_comes_after_the_last_pad_is_left_out():
    heard = [
        *struck(36, 37, 38),
        TimedMessage(100.0, Message("note_off", 9, 36)),
        TimedMessage(160.0, Message("note_on", 9, 36, 0)),
        TimedMessage(2100.0, Message("controller", 9, 20, 0)),
    ]
    assert [t.number for t in learn(heard, 2).pads] == [36, 37]
    button = [TimedMessage(0.0, Message("controller", 0, 20, 127))]
    assert learn(button, 1).pads[0][1:] == ("controller", 1, 20)
