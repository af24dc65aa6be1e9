"""A flood of MIDI into the window: how long it does not answer, in milliseconds."""

import os
import random
import time
from collections.abc import Iterator

from PySide6.QtCore import QCoreApplication

from bench.shown import demo_window
from bench.table import Row
from vastzone import demo
from vastzone.core.midi.messages import Message
from vastzone.ports.standin import SimulatedKeyboard

A_SECOND, LIMIT_MS = 50_000, 100.0
SECONDS = float(os.environ.get("VZ_FLOOD_SECONDS", "1"))
VIEWS = ("rig", "plays", "keys", "pads", "pedals", "console", "prove", "cards")


def rows() -> Iterator[Row]:
    with demo_window(demo.READY) as (app, window):
        playing = window.playing
        playing.listen(playing.inputs.stand_in.inputs().inputs[0])
        for view in VIEWS:
            window.show_view(view)
            for _ in range(30):
                app.processEvents()
            ms = _flood(app, playing.inputs.stand_in.keyboard)
            what = f"Flood of 50,000 a second, window away in {view} (ms)"
            yield Row(what, f"{ms:.0f} ms", "", ms, LIMIT_MS)


def _flood(app: QCoreApplication, keyboard: SimulatedKeyboard) -> float:
    """The longest that the window did not answer while messages poured in."""
    chance = random.Random(1)
    held = [
        Message(kind, 0, chance.randrange(28, 101), 80)
        for kind in ("note_on", "note_off", "note_on", "note_off", "controller")
        for _ in range(200)
    ]
    chance.shuffle(held)
    begun = last = time.perf_counter()
    sent, worst = 0, 0.0
    while last - begun < SECONDS:
        while sent < (last - begun) * A_SECOND:
            keyboard.play(held[sent % len(held)])
            sent += 1
        before = time.perf_counter()
        app.processEvents()
        last = time.perf_counter()
        worst = max(worst, last - before)
    return worst * 1e3
