"""What it costs to send pedals by a MIDI floorboard instead of plugging them in."""

from collections import Counter
from typing import NamedTuple

from vastzone.core.cards.dialling import MOST_STEPS, panel_path
from vastzone.core.plan.fields.dials import owner_dials
from vastzone.core.plan.fields.owners import send_owner
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.functions import SWEPT, Function
from vastzone.core.plan.model.pedals import FootWish, Pedal
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.values import Sending
from vastzone.core.plan.queries.capabilities import control_ability, messages_of
from vastzone.core.plan.refs import ref_to
from vastzone.core.timing.hops import Link, link_ms

PROGRAMMED = ("send/message", "send/channel", "send/number")
"""What a pedal on a floorboard is told: its message, on which channel, with which number."""
USUAL_NUMBERS, USUAL_PRESSES = 3, 3
PROGRAM_STEPS: frozenset[Function] = frozenset(("program up", "program down"))
SWITCHES = {"switch": 1, "latching switch": 1, "dual switch": 2, "triple": 3}


class Feet(NamedTuple):
    """How many switches and treadles there are, or are needed."""

    switches: int
    treadles: int


class FloorboardPrice(NamedTuple):
    """Some pedals sent by a floorboard: what it takes, and what it frees.

    ``board`` is the device that would do it, None where one has to be bought; ``free`` what of it
    nothing else uses.  ``cannot`` are pedals whose messages it does not send; ``jacks`` become
    free; ``numbers`` are set with about so many ``presses``; its message takes ``ms`` on its way.
    """

    board: Device | None
    needs: Feet
    free: Feet
    cannot: tuple[str, ...]
    jacks: int
    numbers: int
    presses: int
    ms: float

    @property
    def short(self) -> Feet:
        """Switches and treadles that are missing."""
        return Feet(
            max(0, self.needs.switches - self.free.switches),
            max(0, self.needs.treadles - self.free.treadles),
        )

    @property
    def suffices(self) -> bool:
        """Whether it can do all of it."""
        return self.short == (0, 0) and not self.cannot


def by_floorboard(plan: Plan, pedals: tuple[Pedal, ...]) -> tuple[FloorboardPrice, ...]:
    """What every floorboard of the plan would cost for these pedals, else what one would that is
    bought for them.
    """
    boards = [device for device in plan.devices if device.kind == "floorboard"]
    if not boards:
        return (_price(plan, pedals, None),)
    return tuple(_price(plan, pedals, board) for board in boards)


def _price(plan: Plan, pedals: tuple[Pedal, ...], board: Device | None) -> FloorboardPrice:
    needs = _needs(pedals)
    chosen = {pedal.id for pedal in pedals}
    jacks = sum(plug.pedal in chosen for plug in plan.pedal_plugs)
    messages = sum(needs)
    if board is None:
        numbers = USUAL_NUMBERS * messages
        presses = numbers * (USUAL_PRESSES + MOST_STEPS)
        return FloorboardPrice(None, needs, needs, (), jacks, numbers, presses, link_ms("din"))
    free = _free(plan, board)
    cannot = []
    for pedal in pedals:
        if not all(_sent_by(wish, free) for wish in pedal.wishes):
            cannot.append(pedal.name)
    numbers, presses = _programming(board)
    return FloorboardPrice(
        board,
        needs,
        _count(free),
        tuple(cannot),
        jacks,
        numbers * messages,
        presses * messages,
        board.delay_ms + link_ms(_link(plan, board)),
    )


def _needs(pedals: tuple[Pedal, ...]) -> Feet:
    """A treadle for everything swept, as many switches as a pedal has."""
    switches = treadles = 0
    for pedal in pedals:
        if pedal.kind in SWITCHES:
            switches += SWITCHES[pedal.kind]
        else:
            treadles += 1
    return Feet(switches, treadles)


def _free(plan: Plan, board: Device) -> tuple[Control, ...]:
    """The controls of a floorboard that no wish uses already."""
    used: set[str] = set()
    for wish in plan.wishes:
        used.update(wish.sources)
    return tuple(one for one in board.controls if ref_to(board.id, one.id) not in used)


def _count(controls: tuple[Control, ...]) -> Feet:
    kinds = Counter("treadle" if control_ability(one).swept else "switch" for one in controls)
    return Feet(kinds["switch"], kinds["treadle"])


def _sent_by(wish: FootWish, controls: tuple[Control, ...]) -> bool:
    """Whether any of the controls sends what a function needs."""
    wanted: tuple[Sending, ...] = ("controller", "rpn", "nrpn")
    if wish.function in PROGRAM_STEPS:
        wanted = ("program", "controller")
    elif wish.function not in SWEPT:
        wanted = ("controller", "note")
    return any(set(messages_of(one)) & set(wanted) for one in controls)


def _programming(board: Device) -> tuple[int, int]:
    """How many numbers one message takes on a board, and about how many presses."""
    control = next(iter(board.controls), None)
    program = next(iter(board.programs), None) or Program(id="any", name="Any", number=0)
    if control is None:
        return USUAL_NUMBERS, USUAL_NUMBERS * (USUAL_PRESSES + MOST_STEPS)
    owner = send_owner(board, program, Send(control=control.id, message="controller"), control)
    reached = []
    for dial in owner_dials(owner):
        if dial.field.full_name in PROGRAMMED:
            path = panel_path(dial)
            reached.append(path.presses if path is not None else dial.field.presses)
    return len(reached), sum(reached) + MOST_STEPS * len(reached)


def _link(plan: Plan, board: Device) -> Link:
    """The link by which a board is cabled; its first output where it is not yet."""
    outputs = [port for port in board.ports if port.flow != "in"]
    for cable in plan.cables:
        for port in outputs:
            if ref_to(board.id, port.id) in (cable.source, cable.dest):
                return port.link
    return outputs[0].link if outputs else "din"
