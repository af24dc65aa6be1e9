"""How soon the window answers a hand: 50 gestures each, until what they change has been painted."""

import time
from collections.abc import Callable, Iterator
from itertools import cycle
from typing import Any

from PySide6.QtCore import QCoreApplication

from bench.full_house import full_house
from bench.shown import demo_window
from bench.table import Row
from bench.window import FRAME_MS
from vastzone import demo
from vastzone.app.theme.current import THEME
from vastzone.app.window import Window
from vastzone.core.cards.card import count
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.plan.edits.zones import move_edge
from vastzone.core.plan.refs import ref_to
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.losing import losses
from vastzone.core.solve.numbers import Solution
from vastzone.core.solve.without import without

TIMES = 50
MEDIAN_MS, LATE_MS = 33.0, 50.0
THEME_MS, FULL_MS = 200.0, 100.0
LATE = 0.95
REST = 0.12
"""Seconds between two gestures."""
Gesture = Callable[[], object]


def rows() -> Iterator[Row]:
    with demo_window(demo.AS_FOUND) as (app, window):
        for ident in window.rail.buttons:  # the program itself is loaded by now
            window.show_view(ident)
            _calm(app, window)
        for what, gesture in _gestures(window):
            yield from _answers(app, window, f"Demo: {what}", gesture, MEDIAN_MS, LATE_MS)
        yield from _theme(app, window)
        window.show_view("keys")
        window.desk.load(full_house(), None)
        _calm(app, window)
        for what, gesture in _gestures(window):
            if what != "tick":  # it holds what stands in its plan
                yield from _answers(app, window, f"Full house: {what}", gesture, FULL_MS, FULL_MS)
        yield from _full_ticks(app, window)


def _full_ticks(app: QCoreApplication, window: Window) -> Iterator[Row]:
    """Ticking what the solver changed in the full house."""
    before = full_house()
    solved = work_out(before)
    assert isinstance(solved, Solution)
    window.desk.load(solved.plan, None, memory=of_plan(before))
    window.show_view("cards")
    cards: Any = window.view("cards")
    waiting = [d.id for d in solved.plan.devices if count(solved.plan, window.desk.memory, d).steps]
    cards.show_device(waiting[0])
    _calm(app, window)

    def tick() -> None:
        lines = [row for row, at in enumerate(cards.page.rows) if at.line and at.line.waits]
        cards.page.tick(lines[0])

    yield from _answers(app, window, "Full house: tick", tick, FULL_MS, FULL_MS)


def _calm(app: QCoreApplication, window: Window) -> None:
    while window.desk.derivation.pending:
        app.processEvents()
    for _ in range(10):
        app.processEvents()


def _rest(app: QCoreApplication, window: Window) -> None:
    """The hand goes on to the next thing; no hand is there sooner."""
    _calm(app, window)
    until = time.perf_counter() + REST
    while time.perf_counter() < until:
        app.processEvents()
        time.sleep(0.002)


def _took(gesture: Gesture) -> float:
    """From a gesture until what it changes is laid out and painted; timers come after that."""
    begun = time.perf_counter()
    gesture()
    for _ in range(3):
        QCoreApplication.sendPostedEvents()
    return (time.perf_counter() - begun) * 1e3


def _answers(
    app: QCoreApplication, window: Window, what: str, gesture: Gesture, median: float, late: float
) -> Iterator[Row]:
    times = []
    for _ in range(TIMES):
        times.append(_took(gesture))
        _rest(app, window)
    times.sort()
    middle, last = times[TIMES // 2], times[int(TIMES * LATE)]
    yield _row(f"{what}, median of {TIMES} (ms)", middle, median)
    yield _row(f"{what}, 95th percentile (ms)", last, late)


def _row(what: str, took: float, limit: float) -> Row:
    return Row(what, f"{took:.0f} ms", f"{took / FRAME_MS:.1f} frames", took, limit)


def _gestures(window: Window) -> Iterator[tuple[str, Gesture]]:
    """What a hand does most; each can be repeated."""
    desk, plan = window.desk, window.desk.plan
    window.show_view("keys")
    owner = next(device for device in plan.devices if device.keybeds and device.programs)
    program = owner.programs[0]
    zone = program.zones[0]
    refs = cycle([ref_to(owner.id, one.id) for one in program.zones] + [owner.id])
    yield "select", lambda: desk.select(next(refs))
    steps = cycle((1, -1))

    def move_end() -> None:
        now = next(one for one in desk.plan.devices if one.id == owner.id).programs[0].zones[0]
        key = now.high - next(steps)
        window.perform(move_edge(owner.id, program.number, zone.id, "high", key))

    yield "a zone's end", move_end
    undoing = cycle((desk.undo, desk.redo))
    yield "undo or redo", lambda: next(undoing)()
    scenes = cycle([scene.id for scene in plan.scenes[:2]])
    yield "change scene", lambda: desk.go_to_scene(next(scenes))
    views = cycle(window.rail.buttons)
    yield "switch view", lambda: window.show_view(next(views))
    window.show_view("outputs")
    yield "switch page", lambda: window.turn_page(1)
    outputs: Any = window.view("outputs")
    page = outputs.without
    loss = losses(plan)[0]

    def turn_while_it_works() -> None:
        if not page._aside.busy:
            page._aside.start(lambda tell: without(desk.plan, loss, tell), lambda _: None)
        window.turn_page(1)

    yield "switch page while a solver works", turn_while_it_works
    page._aside.cancel()
    window.show_view("cards")
    cards: Any = window.view("cards")
    yield "tick", lambda: cards.page.tick(cards.page.at)


def _theme(app: QCoreApplication, window: Window) -> Iterator[Row]:
    names = cycle(("stage", "day"))
    for ident in ("keys", "plays", "cards"):
        window.show_view(ident)
        _calm(app, window)
        times = sorted(_took(lambda: THEME.use(next(names))) for _ in range(8))
        middle = times[len(times) // 2]
        yield _row(f"Demo: theme in {ident} (ms)", middle, THEME_MS)
