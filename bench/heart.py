"""The full house: its numbers, its whole proof, and the proof after one edit."""

from collections.abc import Iterator
from functools import partial
from itertools import count
from time import perf_counter

from bench.full_house import full_house
from bench.ordinary import ordinary_rigs
from bench.stops import console
from bench.table import Row, best
from vastzone import demo
from vastzone.core.plan.edits import wishes
from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.plan import Plan
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.files import native


def rows() -> Iterator[Row]:
    plan = full_house()
    found: list[object] = []
    took = best(lambda: found.append(work_out(plan)), 2)
    solved = found[-1]
    assert isinstance(solved, Solution)
    what = f"Full house: {len(solved.numbers)} numbers worked out, gap {solved.gap:.1%} (s)"
    yield Row(what, f"{took:.2f} s", "", took, 3.0)
    yield from _twice(took)
    yield from _others()
    yield from _proof(solved.plan)


def _twice(once: float) -> Iterator[Row]:
    """Twice the house: no more than two and a half times the time."""
    plan = full_house(2)
    took = best(lambda: work_out(plan), 2)
    what = "Twice the full house: its numbers beside those of one"
    yield Row(what, f"{took:.2f} s", f"{once:.2f} s", took / once, 2.5)


def _others() -> Iterator[Row]:
    """The demo, consoles of a hundred stops, and ordinary rigs that nobody chose."""
    plan = native.read(demo.AS_FOUND)
    took = best(lambda: work_out(plan), 2)
    yield Row("Demo: its numbers (s)", f"{took:.2f} s", "", took, 1.0)
    for channels, where in ((2, "two channels"), (3, "three channels"), (0, "any channel")):
        plan = console(channels)
        took = best(partial(work_out, plan), 1)
        what = f"A hundred stops on {where}: their numbers, or a refusal (s)"
        yield Row(what, f"{took:.2f} s", "", took, 5.0)
    slowest = 0.0
    for plan, memory in ordinary_rigs(300):
        # Not by ``best``: what it tidies up before each run takes longer than all of them.
        begun = perf_counter()
        work_out(plan, None, memory)
        slowest = max(slowest, perf_counter() - begun)
    what = "The slowest of 300 random rigs: its numbers, or a refusal (s)"
    yield Row(what, f"{slowest:.2f} s", "", slowest, 2.0)


def _proof(plan: Plan) -> Iterator[Row]:
    packed = native.to_json(plan)
    fresh = [native.from_json(packed, "full house") for _ in range(3)]
    whole = best(lambda: prove(fresh.pop()), 3)
    yield Row("Full house: the whole proof (s)", f"{whole:.2f} s", "", whole, 2.0)
    prove(plan)
    steps = count(1)
    ident = plan.wishes[300].id

    def zone() -> None:
        prove(set_zone("manual-0", 5, "z1", "Move", transpose=next(steps)).change(plan))

    def wish() -> None:
        prove(wishes.change(ident, "Move", shift=next(steps)).change(plan))

    def part() -> None:
        prove(set_part("module-0", "p3", "Move", transpose=next(steps)).change(plan))

    for what, edit, limit in (
        ("zone", zone, 1 / 20),
        ("wish", wish, 1 / 20),
        ("part that 128 scenes can reach", part, None),
    ):
        after = best(edit)
        yield Row(
            f"Full house: proof after one edit of a {what}",
            f"{after * 1e3:.0f} ms",
            f"{whole * 1e3:.0f} ms whole",
            after / whole,
            limit,
        )
