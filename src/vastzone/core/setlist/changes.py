"""What a change of song costs: messages, presses and dives into panels, by whom, how long.

The times are a person's, measured by nobody: half a second for a press, four for finding something
in the menus of a panel.  They only serve to compare one change with another.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.selecting import Led, led_from
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.setlists import Way
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.functions import told_in
from vastzone.core.plan.queries.slots import program_words
from vastzone.core.say import say

PRESS_S, DIVE_S = 0.5, 4.0
"""Seconds for a press, and for a dive into the menus of a panel."""
IN_A_MENU = 3
"""Presses that a dive takes."""
NOBODY = say("nobody in particular")


class DeviceChange(NamedTuple):
    """How one device gets from one song to the next: nothing where it stays on its program.

    ``presses`` are those of its player, ``dives`` visits to its menus; ``ms`` is how long its
    message takes, with what it needs itself.
    """

    device: str
    way: Way | None
    before: int | None
    after: int | None
    presses: int = 0
    dives: int = 0
    ms: float = 0.0
    leader: str = ""
    what: str = ""
    messages: tuple[str, ...] = ()
    channel: int = 0
    by_foot: bool = False

    @property
    def seconds(self) -> float:
        """How long a person needs for it, then the device."""
        return self.presses * PRESS_S + self.dives * DIVE_S + self.ms / 1000


class SongChange(NamedTuple):
    """What a change of song costs, device by device, in the order of the plan."""

    before: str
    after: str
    steps: tuple[DeviceChange, ...]
    by_player: Mapping[str, int]
    players: Mapping[str, str]

    @property
    def presses(self) -> int:
        """All presses, by whomever."""
        return sum(self.by_player.values())

    @property
    def dives(self) -> int:
        """How often somebody has to look for something in a panel."""
        return sum(step.dives for step in self.steps)

    @property
    def ms(self) -> float:
        """When the last device that is led by a message is there."""
        return max((step.ms for step in self.steps), default=0.0)

    @property
    def seconds(self) -> float:
        """How long it takes: players work beside one another, each at one device at a time."""
        each: dict[str, float] = {}
        for step in self.steps:
            player = self.players.get(step.device, "")
            each[player] = each.get(player, 0.0) + step.seconds
        return max(each.values(), default=0.0)


def way_of(scene: Scene | None, device: Device) -> Way:
    """How a device gets to its program in a song: as is said there, or as usual."""
    for arrival in scene.arrivals if scene else ():
        if arrival.device == device.id:
            return arrival.way
    if device.changes_by == "own buttons" and device.storage.step == "none":
        return "by number"
    return device.changes_by


class Arriving(NamedTuple):
    """How a device is to get to its program in a song: the number, the way, who leads it there.

    ``led_ms`` is when a message has it there, None where none does.
    """

    number: int
    way: Way
    led_ms: float | None = None
    leader: str = ""
    messages: tuple[str, ...] = ()
    channel: int = 0


def arriving(plan: Plan, scene: Scene, device: Device) -> Arriving | None:
    """How a device gets to its program in a song; None for one without programs."""
    number = lookup.program_number(scene, device)
    if number is None:
        return None
    way = way_of(scene, device)
    if way != "by message":
        return Arriving(number, way)
    led = led_in(plan, scene)
    if led.numbers.get(device.id) != number:
        return Arriving(number, way)
    one = led.by[device.id]
    return Arriving(number, way, led.ms[device.id], one.leader, one.messages, one.sent.channel)


class Price(NamedTuple):
    """What one device costs at a change: presses, dives into its panel, milliseconds."""

    presses: int = 0
    dives: int = 0
    ms: float = 0.0

    @property
    def seconds(self) -> float:
        """How long a person needs for it, then the device."""
        return self.presses * PRESS_S + self.dives * DIVE_S + self.ms / 1000


def price_of(device: Device, old: int | None, here: Arriving) -> Price:
    """What it costs to get a device from a program to another.

    Where nobody leads it there, somebody has to go into its panel.
    """
    new = here.number
    if old == new or (old is None and new == device.programs[0].number):
        return Price()
    if here.way == "by message":
        if here.led_ms is None:
            return Price(IN_A_MENU, 1, device.program_ms)
        return Price(0, 0, here.led_ms)
    presses, dives = presses_for(device, here.way, old, new)
    return Price(presses, dives, device.program_ms)


@derived(4096)
def song_change(plan: Plan, before: Scene | None, after: Scene) -> SongChange:
    """What changes from one song to another; the first song comes from switching on."""
    steps = []
    # Whatever is switched on is on its first program, as where no scene says another.
    old, new = lookup.program_numbers(plan, before), lookup.program_numbers(plan, after)
    for device in plan.devices:
        if old.get(device.id) != new.get(device.id):
            was = old[device.id] if before is not None else None
            steps.append(_program_change(plan, device, was, after))
        turned = _transposed(device, before, after)
        if turned is not None:
            steps.append(turned)
    players = {device.id: device.player or NOBODY for device in plan.devices}
    by_player: dict[str, int] = {}
    for step in steps:
        if step.presses:
            player = players[step.device]
            by_player[player] = by_player.get(player, 0) + step.presses
    return SongChange(before.id if before else "", after.id, tuple(steps), by_player, players)


@derived(1024)
def led_in(plan: Plan, scene: Scene) -> Led:
    """What follows from the programs that hands select in a song."""
    chosen = {}
    for device in plan.devices:
        number = lookup.program_number(scene, device)
        if number is not None and way_of(scene, device) != "by message":
            chosen[device.id] = number
    return led_from(plan, chosen)


def _program_change(plan: Plan, device: Device, old: int | None, after: Scene) -> DeviceChange:
    """How a device that changes its program gets there."""
    here = arriving(plan, after, device)
    assert here is not None, "it has programs"
    price = price_of(device, old, here)
    what = f"{program_words(device, here.number)} {lookup.program(device, here.number).name}"
    return DeviceChange(
        device.id,
        here.way,
        old,
        here.number,
        *price,
        leader=here.leader,
        what=what,
        messages=here.messages,
        channel=here.channel,
        by_foot=here.way == "own buttons" and steps_by_foot(device, old),
    )


def steps_by_foot(device: Device, number: int | None) -> bool:
    """Whether a foot switch of a device steps through its programs, in the one that it is on."""
    if number is None or not lookup.has_program(device, number):
        return False
    program = lookup.program(device, number)
    for jack in device.jacks:
        if jack.control is not None:
            does = told_in(device, program, jack.control)
            if does in ("program up", "program down"):
                return True
    return False


def _transposed(device: Device, before: Scene | None, after: Scene) -> DeviceChange | None:
    """A keyboard that is turned to another transposition by hand."""
    was = before.transpose if before else 0
    if was == after.transpose or not device.keybeds:
        return None
    what = say("transpose {transpose:+}", transpose=after.transpose)
    return DeviceChange(device.id, "by hand", None, None, IN_A_MENU, 1, 0.0, "", what)


def presses_for(device: Device, way: Way, old: int | None, new: int) -> tuple[int, int]:
    """The presses and the dives that lead from one program to another.

    With up and down one goes from slot to slot that holds something, to the nearest that holds the
    program; a number takes its digits, or a letter and a number; a list in a host one press.
    """
    if way == "host list":
        return 1, 0
    if way == "by hand":
        return IN_A_MENU, 1
    if way == "by number":
        return digits(device, new), 0
    return steps_between(device, old, new), 0


def digits(device: Device, number: int) -> int:
    """The keys to press for a program number as the device shows it; two for «A-1»."""
    shown = program_words(device, number)
    return 2 if "-" in shown else len(shown)


def steps_between(device: Device, old: int | None, new: int) -> int:
    """The presses of up or down from one stored program to another, by the shorter way."""
    stored = stored_slots(device)
    if old is None or not stored:
        return 0
    places = [place for place, (_, number) in enumerate(stored) if number == new]
    starts = [place for place, (_, number) in enumerate(stored) if number == old]
    round_and_round = device.storage.step == "goes round"
    best = len(stored)
    for start in starts:
        for place in places:
            best = min(best, distance(start, place, len(stored), round_and_round))
    return best


def presses_of_walk(
    places: Mapping[int, Sequence[int]], order: Sequence[int], stored: int, goes_round: bool
) -> int:
    """The fewest presses of up and down that lead through programs in an order.

    ``places`` are those of each program among all that are ``stored``; where it stands several
    times, one goes to whichever saves presses later.
    """
    best: dict[int, int] = {}
    for number in order:
        before, best = best, {}
        for place in places[number]:
            ways = [
                spent + distance(here, place, stored, goes_round) for here, spent in before.items()
            ]
            best[place] = min(ways, default=0)
    return min(best.values(), default=0)


def distance(one: int, other: int, stored: int, goes_round: bool) -> int:
    """The presses between two places among so many stored programs."""
    steps = abs(one - other)
    return min(steps, stored - steps) if goes_round else steps


@derived(512)
def stored_slots(device: Device) -> tuple[tuple[Slot, int], ...]:
    """The slots that hold a program, in order, each with the program's own number."""
    stored = []
    for program in device.programs:
        for slot in (Slot(number=program.number), *program.also):
            stored.append((slot, program.number))
    stored.sort(key=_place)
    return tuple(stored)


def _place(stored: tuple[Slot, int]) -> tuple[int, int]:
    return stored[0].bank, stored[0].number


def evening(plan: Plan, songs: tuple[str, ...]) -> Iterator[SongChange]:
    """Every change of an evening, the first from switching on."""
    known = lookup.by_ids(plan.scenes)
    before: Scene | None = None
    for ident in songs:
        after = known[ident]
        yield song_change(plan, before, after)
        before = after
