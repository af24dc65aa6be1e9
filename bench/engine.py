"""One message through the engine against mido building the same message from bytes."""

from collections.abc import Iterator
from itertools import count

import mido

from bench.full_house import full_house
from bench.table import Row, best
from vastzone import demo
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.model.plan import Plan
from vastzone.core.proof.check import check
from vastzone.files import native

NOTES = [36 + n % 61 for n in range(20_000)]


def rows() -> Iterator[Row]:
    plan = native.read(demo.AS_FOUND)
    house = full_house()
    yield _message(house, "scene-5", "manual-0:keys", 25.0, "full house, one note at a time")
    yield _message(house, "scene-5", "manual-0:keys", 0.1, "full house, all at once: queues on DIN")
    yield _message(plan, "dusk", "heron:keys", 25.0, "demo as found, all notes doubled")
    yield from _check(plan)


def _message(plan: Plan, scene: str, bed: str, apart: float, what: str) -> Row:
    playing = Performance(compile_scene(plan, next(s for s in plan.scenes if s.id == scene)))

    def ours() -> None:
        strike, let_go = playing.strike, playing.let_go
        playing.panic()
        at = 0.0
        for note in NOTES:
            key = (bed, note)
            strike(key, 80, at)
            let_go(key, at + apart)
            at += 2 * apart

    data = [bytes((0x90, n, 80)) for n in NOTES], [bytes((0x80, n, 0)) for n in NOTES]

    def mido_s() -> None:
        build = mido.Message.from_bytes
        for on, off in zip(*data, strict=True):
            build(on)
            build(off)

    mine, theirs = best(ours), best(mido_s)
    each = 1e6 / (2 * len(NOTES))
    against = f"{theirs * each:.2f} µs mido"
    return Row(f"A message, {what}", f"{mine * each:.2f} µs", against, mine / theirs, 1.0)


def _check(plan: Plan) -> Iterator[Row]:
    fresh = (native.from_json(native.to_json(plan), "demo") for _ in count())
    plans = [next(fresh) for _ in range(5)]
    whole = best(lambda: check(plans.pop()))
    yield Row(
        "Check of the demo, everything new (ms)", f"{whole * 1e3:.1f} ms", "", whole * 1e3, None
    )
    channel = count()

    def edit() -> None:
        number = 9 + next(channel) % 6
        check(set_part("dovecote", "celesta", "Move", channel=number)(plan))

    after = best(edit)
    yield Row(
        "Check of the demo after one edit (ms)", f"{after * 1e3:.1f} ms", "", after * 1e3, None
    )
