"""Learning a device by touching everything once in order, with the mistakes made in doing so.

Of each control it is learned what it sends: message, channel, number, range, momentary, toggle or
trigger, absolute or endless, 7 or 14 bits.  What is struck twice, left out, sends what another
sends, comes as two messages from one hit, or is a neighbour moved by mistake, is told apart.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Literal, NamedTuple

from vastzone.core.describe.atoms import Atom, Mover, TimedMessage, atoms_of
from vastzone.core.plan.model.controls import Send
from vastzone.core.plan.model.values import ControlKind, Mode

Mistaken = Literal["two messages", "twice", "same message", "skipped", "neighbour"]
ONE_HIT_MS = 20.0
"""Messages closer together than this come from one hit: crosstalk or a double trigger."""
PRESS_MS = 350.0
"""A press is let go within this; what comes later is a second press."""
TAKEN_BACK_MS = 1200.0
"""What is pressed again after so long was not meant: it is taken back."""
FEW = 3
"""Values up to which a control that strays into a sweep was moved by mistake."""
ON_OFF = 2
STEPS_UP, STEPS_DOWN = range(1, 8), range(121, 128)
STEPS_BESIDE = frozenset((*range(57, 64), *range(65, 72)))
"""What endless knobs send for a turn: in two’s complement, or beside 64."""


class Learnt(NamedTuple):
    """What a control was found to send.

    ``low`` and ``high`` are the values at rest and pressed, or at both ends.  Where a control was
    not let go and pressed only once, its mode is not ``certain``.  What is ``pressed`` has no
    travel.  ``begun`` is the place of its first message among those heard.
    """

    mover: Mover
    low: float = 0.0
    high: float = 127.0
    mode: Mode = "momentary"
    endless: bool = False
    certain: bool = True
    pressed: bool = False
    begun: int = 0

    def send(self, control: str, bank: int) -> Send:
        """What a control sends then."""
        number, page = self.mover.number, 0
        if self.mover.message in ("rpn", "nrpn"):
            page, number = number >> 7, number & 0x7F
        return Send(
            control=control,
            bank=bank,
            message=self.mover.message,
            channel=self.mover.channel,
            number=number,
            page=page,
            low=_plain(self.low),
            high=_plain(self.high),
            mode=self.mode,
        )


class Remark(NamedTuple):
    """What looks like a mistake, at a place; ``other`` is the place it is confused with.

    Of what was skipped, ``left_out`` is how many.
    """

    kind: Mistaken
    place: int
    other: int = -1
    left_out: int = 1


class Run(NamedTuple):
    """What was learned, control by control, and what looks like a mistake.

    ``taken_back`` is what the last strike took back, by being the same again.
    """

    learnt: tuple[Learnt, ...] = ()
    remarks: tuple[Remark, ...] = ()
    taken_back: Mover | None = None


class _Group(NamedTuple):
    """Values of one mover that came after one another."""

    mover: Mover
    atoms: tuple[Atom, ...]


def learn_run(heard: Sequence[TimedMessage]) -> Run:
    """What was touched, in order, and the mistakes."""
    atoms, taken_back = _without_taken_back(atoms_of(heard))
    groups, remarks = _grouped(atoms)
    learnt = tuple(_learnt(group) for group in groups)
    first: dict[Mover, int] = {}
    for place, one in enumerate(learnt):
        if one.mover in first:
            remarks.append(Remark("same message", place, first[one.mover]))
        first.setdefault(one.mover, place)
        if one.certain and _again(groups[place].atoms, one):
            remarks.append(Remark("twice", place))
    remarks += _skipped(learnt)
    return Run(learnt, tuple(remarks), taken_back)


def _without_taken_back(atoms: list[Atom]) -> tuple[list[Atom], Mover | None]:
    """What is left where a press was taken back by another; and what the last one took back."""
    left: list[Atom] = []
    taken: Mover | None = None
    for atom in atoms:
        if taken is not None and atom.mover == taken and atom.value == 0:
            continue  # It is let go after it was taken back.
        taken = None
        start = _press_before(left, atom)
        if start is None:
            left.append(atom)
        else:
            taken = atom.mover
            del left[start:]
    return left, taken


def _press_before(atoms: list[Atom], atom: Atom) -> int | None:
    """Where a whole press of the same control begins that came last, long enough ago."""
    start = len(atoms)
    while start and atoms[start - 1].mover == atom.mover:
        start -= 1
    press = atoms[start:]
    if not press or atom.value == 0 or atom.at_ms - press[-1].at_ms < TAKEN_BACK_MS:
        return None
    if atom.mover.message == "program":
        return start
    is_press = len({each.value for each in press}) <= ON_OFF
    return start if is_press and press[-1].value == 0 < press[0].value else None


def _plain(value: float) -> int | float:
    return int(value) if value == int(value) else value


def _grouped(atoms: list[Atom]) -> tuple[list[_Group], list[Remark]]:
    """One group for each control; false hits and neighbours are remarked and left out."""
    groups: list[list[Atom]] = []
    remarks: list[Remark] = []
    held: dict[Mover, int] = {}
    for atom in atoms:
        if groups and groups[-1][-1].mover == atom.mover:
            groups[-1].append(atom)
        elif atom.value == 0 and atom.mover in held:
            # A key or button that is let go after the next one was pressed.
            groups[held.pop(atom.mover)].append(atom)
        elif _returns(groups, atom):
            remarks.append(Remark("neighbour", len(groups) - 2))
            groups.pop()
            groups[-1].append(atom)
        elif groups and atom.at_ms - groups[-1][0].at_ms < ONE_HIT_MS:
            remarks.append(Remark("two messages", len(groups) - 1))
        else:
            groups.append([atom])
        if groups and groups[-1][-1] is atom and atom.value > 0:
            held[atom.mover] = len(groups) - 1
    return [_Group(group[0].mover, tuple(group)) for group in groups], remarks


def _returns(groups: list[list[Atom]], atom: Atom) -> bool:
    """Whether a sweep goes on after a few values of another control."""
    if len(groups) < 2 or len(groups[-1]) > FEW:
        return False
    before = groups[-2]
    sweeping = len({each.value for each in before}) > ON_OFF
    return sweeping and before[-1].mover == atom.mover and atom.mover.message != "note"


def _learnt(group: _Group) -> Learnt:
    values = [atom.value for atom in group.atoms]
    begun = group.atoms[0].first
    message = group.mover.message
    if message == "program":
        return Learnt(group.mover, mode="trigger", pressed=True, begun=begun)
    if message == "note":
        mode, certain = _mode(group.atoms)
        return Learnt(group.mover, mode=mode, certain=certain, pressed=True, begun=begun)
    if message == "controller" and _is_endless(values):
        return Learnt(group.mover, endless=True, begun=begun)
    if len(set(values)) <= ON_OFF and message == "controller":
        mode, certain = _mode(group.atoms)
        low = min(values) if len(set(values)) == ON_OFF else 0.0
        high = max(values)
        return Learnt(group.mover, low, high, mode, certain=certain, pressed=True, begun=begun)
    low, high = min(values), max(values)
    falling = values.index(high) < values.index(low) and message != "bend"
    low, high = (high, low) if falling else (low, high)
    return Learnt(group.mover, low, high, begun=begun)


def _mode(atoms: tuple[Atom, ...]) -> tuple[Mode, bool]:
    """Momentary, toggle or trigger, and whether that is certain."""
    top = max(atom.value for atom in atoms)
    for before, after in pairwise(atoms):
        if before.value == top and after.value < top:
            soon = after.at_ms - before.at_ms <= PRESS_MS
            return ("momentary" if soon else "toggle"), True
    return "trigger", len(atoms) > 1


def _is_endless(values: list[float]) -> bool:
    """Whether these are steps of a turn, and no places on a way."""
    if len(values) < 4:
        return False
    steps = {int(value) for value in values}
    around = all(step in STEPS_UP or step in STEPS_DOWN for step in steps)
    return around or steps <= STEPS_BESIDE


def _again(atoms: tuple[Atom, ...], one: Learnt) -> bool:
    """Whether a control was struck once more than it takes to learn it."""
    on_off = one.mover.message == "note" or one.low != one.high
    if not on_off or one.endless or len({atom.value for atom in atoms}) > ON_OFF + 1:
        return False
    presses = sum(atom.value > 0 for atom in atoms)
    return presses > (2 if one.mode == "trigger" else 1)


def _skipped(learnt: Sequence[Learnt]) -> list[Remark]:
    """Gaps in numbers that otherwise run on by one: one or more were probably left out there."""
    steps = []
    for before, after in pairwise(learnt):
        alike = before.mover[:2] == after.mover[:2]
        steps.append(after.mover.number - before.mover.number if alike else 0)
    ones = steps.count(1)
    counted = [step for step in steps if step]
    if len(counted) < 3 or ones < 0.6 * len(counted):
        return []
    remarks = []
    for place, step in enumerate(steps):
        if 2 <= step <= 4:
            remarks.append(Remark("skipped", place + 1, left_out=step - 1))
    return remarks


def learn_keys(heard: Sequence[TimedMessage]) -> tuple[int, int, int] | None:
    """The lowest and the highest note that were struck, and their channel 1–16.

    None until two different keys were struck.
    """
    struck = [atom for atom in atoms_of(heard) if atom.mover.message == "note" and atom.value]
    notes = [atom.mover.number for atom in struck]
    if len(set(notes)) < 2:
        return None
    return min(notes), max(notes), struck[0].mover.channel


def guessed_kind(learnt: Learnt) -> ControlKind:
    """What a control probably is, by what it sends."""
    message, number = learnt.mover.message, learnt.mover.number
    if message == "note":
        return "pad"
    if message == "bend":
        return "wheel"
    if message == "pressure":
        return "aftertouch"
    if message == "program":
        return "button"
    if message == "controller" and number in STANDARD:
        return STANDARD[number]
    return "button" if learnt.pressed else "knob"


STANDARD: dict[int, ControlKind] = {
    1: "wheel",
    2: "breath",
    4: "pedal",
    11: "pedal",
    64: "switch",
    65: "switch",
    66: "switch",
    67: "switch",
}
"""What usually sends a controller of standard meaning (MIDI 1.0, table of numbers)."""
