"""The full house on its way into the devices: cards after an edit, the lens, the file."""

from collections.abc import Iterator
from itertools import count

from bench.full_house import full_house
from bench.table import Row, best
from vastzone.core.cards.card import card, cards
from vastzone.core.cards.card import count as counted
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.model import Known, Memory
from vastzone.core.memory.operations import perform
from vastzone.core.memory.rig import memory_of, with_memory
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.plan import Plan
from vastzone.core.proof.dialled import prove_dialled
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution
from vastzone.desk.session import Desk
from vastzone.files import native


def rows() -> Iterator[Row]:
    house = full_house()
    found = work_out(house)
    assert isinstance(found, Solution)
    plan, memory = found.plan, of_plan(house)
    yield from _cards(plan, memory)
    yield from _lens(plan, memory)
    yield _file(plan, memory)


def _cards(plan: Plan, memory: Memory) -> Iterator[Row]:
    first = best(lambda: cards(plan, memory), 1)
    yield Row("Full house: cards for the first time (s)", f"{first:.2f} s", "", first, 2.0)
    steps = count(1)

    def edited() -> None:
        after = set_zone("manual-0", 5, "z1", "Move", channel=next(steps) % 16 + 1)(plan)
        for device in after.devices:
            counted(after, memory, device)
        card(after, memory, after.devices[0])

    took = best(edited)
    what = "Full house: what is left, and a card, after one edit (ms)"
    yield Row(what, f"{took * 1e3:.0f} ms", "", took * 1e3, 50.0)

    def all_of_it() -> None:
        cards(set_zone("manual-0", 5, "z1", "Move", channel=next(steps) % 16 + 1)(plan), memory)

    took = best(all_of_it)
    words = f"{took * 1e3:.0f} ms"
    yield Row("Full house: all cards after one edit (ms)", words, "", took * 1e3, 50.0)


def _lens(plan: Plan, memory: Memory) -> Iterator[Row]:
    desk = Desk()
    desk.load(plan, None, memory=memory)

    def there_and_back() -> None:
        for lens in ("dialled", "planned"):
            desk.look(lens)
            while desk.pending:
                desk.work(1.0)
            assert desk.proof is not None

    first = best(there_and_back, 1)
    yield Row("Full house: as dialled for the first time (s)", f"{first:.2f} s", "", first, None)
    took = best(there_and_back)
    what = "Full house: as dialled and back, once it is known (ms)"
    yield Row(what, f"{took * 1e3:.0f} ms", "", took * 1e3, 100.0)
    device = plan.devices[0]
    lines = [line for line in card(plan, memory, device).lines if line.waits][:2]
    held = memory_of(memory, device)
    for line in lines:
        held = perform(held, device, line.operation, Known(on="2026-05-02"))
    ticked = with_memory(memory, held)
    after = best(lambda: prove_dialled(plan, ticked), 1)
    words = f"{after * 1e3:.0f} ms"
    yield Row("Full house: proof as dialled after a tick (s)", words, "", after, 0.5)


def _file(plan: Plan, memory: Memory) -> Row:
    alone, with_held = len(native.to_json(plan)), len(native.to_json(plan, memory))
    ratio = with_held / alone
    words = f"{with_held / 1e6:.1f} MB", f"{alone / 1e6:.1f} MB alone"
    return Row("Full house: a file with what the devices hold", *words, ratio, 2.0)
