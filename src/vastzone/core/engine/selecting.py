"""Program changes on their way: which devices a program selects others in, and when."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.network import network
from vastzone.core.engine.reach import arrivals, course_of, joined_tree
from vastzone.core.engine.receivers import Sources
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.setlists import Banked, ProgramSent
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.timing.hops import din_ms

CONTROLLER_BYTES = 3


class Selected(NamedTuple):
    """A device that heard a program change: of whom, which number and bank, after how long.

    ``messages`` are all that it takes, in words: the bank before the program, as it is heard.
    """

    device: str
    leader: str
    sent: ProgramSent
    ms: float
    messages: tuple[str, ...] = ()


def selected_by(plan: Plan, leader: Device, program: Program) -> Iterator[Selected]:
    """Every device that hears what a program sends as it is selected, nearest first."""
    yield from _selected(plan, leader, program.selects)


@derived(4096)
def _selected(plan: Plan, leader: Device, selects: tuple[ProgramSent, ...]) -> tuple[Selected, ...]:
    net = network(plan)
    source = Sources(leader.id, leader.ports, False)
    found: list[Selected] = []
    for sent in selects:
        tree = joined_tree(source, sent.ports, net)
        times = course_of(tree, "program").times
        for step, device, _ in arrivals(source, tree):
            heard = lookup.device(plan, device)
            if heard.hears_programs == sent.channel and heard.programs:
                banks = bank_messages(sent, heard.bank_select)
                on_din = any(tree.steps[place].arc.link == "din" for place in tree.way(step))
                late = len(banks) * din_ms(CONTROLLER_BYTES) if on_din else 0.0
                words = (*banks, say("program {number}", number=sent.number))
                found.append(Selected(device, leader.id, sent, times[step] + late, words))
    return tuple(found)


def bank_messages(sent: ProgramSent, heard: Banked) -> tuple[str, ...]:
    """The bank select before a program change: controllers 0 and 32 (MIDI 1.0), as it is heard."""
    if sent.bank is None or heard == "none":
        return ()
    high, low = (
        say("controller 0: {bank}", bank=sent.bank >> 7),
        say("controller 32: {bank}", bank=sent.bank & 0x7F),
    )
    if heard == "msb":
        return (high,)
    return (low,) if heard == "lsb" else (high, low)


class Led(NamedTuple):
    """Where program changes leave the devices of a plan: numbers, who led each, when it is there.

    ``twice`` were led by several devices, ``rings`` are leaders that come round to one another.
    """

    numbers: dict[str, int]
    by: dict[str, Selected]
    ms: dict[str, float]
    twice: dict[str, tuple[str, ...]]
    rings: tuple[tuple[str, ...], ...]


def led_from(plan: Plan, chosen: dict[str, int]) -> Led:
    """What happens as these devices are put on these programs by hand: leaders lead, one another
    too, until nothing more changes.
    """
    numbers: dict[str, int] = {}
    by: dict[str, Selected] = {}
    ms: dict[str, float] = {}
    leaders: dict[str, list[str]] = {}
    rings: list[tuple[str, ...]] = []
    ways: list[tuple[str, int, tuple[str, ...], float]] = []
    for device, number in chosen.items():
        ways.append((device, number, (device,), 0.0))
    while ways:
        device, number, gone, at = ways.pop(0)
        owner = lookup.device(plan, device)
        if not lookup.has_program(owner, number):
            continue
        for one in selected_by(plan, owner, lookup.program(owner, number)):
            if one.device in gone:
                rings.append((*gone, one.device))
                continue
            leaders.setdefault(one.device, [])
            if device not in leaders[one.device]:
                leaders[one.device].append(device)
            arrives = at + one.ms + lookup.device(plan, one.device).program_ms
            numbers[one.device], by[one.device] = one.sent.number, one
            ms[one.device] = max(ms.get(one.device, 0.0), arrives)
            ways.append((one.device, one.sent.number, (*gone, one.device), arrives))
    twice = {device: tuple(names) for device, names in leaders.items() if len(names) > 1}
    return Led(numbers, by, ms, twice, tuple(rings))
