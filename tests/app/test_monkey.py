"""Wild hands in the real window: a little of what ``make monkey`` does for as long as one likes."""

import random

import pytest

from tests.app.monkey import Monkey, answer_dialogs
from tests.app.monkeys import load, odd_files
from vastzone.app import dialogs


@pytest.mark.parametrize(
    ("plan", "seed", "actions"),
    [
        ("demo", 1, 60),
        ("ready", 2, 70),
        ("empty", 3, 60),
        ("full", 4, 25),
        ("a", 5, 45),
        ("b", 6, 45),
        ("c", 7, 45),
        ("d", 8, 45),
    ],
)
def test_the_window_survives_wild_hands(window, monkeypatch, tmp_path, plan, seed, actions):
    files = odd_files(tmp_path)
    answer_dialogs(
        lambda name, run: monkeypatch.setattr(dialogs, name, run), random.Random(seed), files
    )
    window.desk.load(window.desk.plan, None)
    load(window, plan)
    window.desk.wake()
    monkey = Monkey(window, seed, wedge_s=10.0)
    monkey.play(actions)
    assert sum(monkey.done.values()) == actions
    monkey.close_dialogs()
