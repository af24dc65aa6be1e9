"""What the wishes of one control want to be sent: in loads that one message can carry."""

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from vastzone.core.midi.wide import FINE_SENT, SHARED
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import owner_place, read_ref, ref_to
from vastzone.core.response.wished import Ends, ends_for, is_whole, wished_ends
from vastzone.core.solve.holds import Holds
from vastzone.core.solve.zone_pieces import KeyWindow, carried_in

NEVER_TOLD = ("fixed", "takes all")
"""What a receiver is that cannot be told what to listen to."""


class ControlInProgram(NamedTuple):
    """A control of a device in one bank of one program, and what must stay as it is there.

    ``zones`` are the parts that each zone of the program is wished to play, by its name.
    """

    plan: Plan
    owner: Device
    program: Program
    control: Control
    bank: int
    holds: Holds
    zones: Mapping[str, frozenset[str]]

    @property
    def ref(self) -> str:
        """The control as ``device:control``."""
        return ref_to(self.owner.id, self.control.id)

    @property
    def sends(self) -> list[Send]:
        """What it sends there, layer by layer."""
        here = (self.control.id, self.bank)
        sends = [send for send in self.program.sends if (send.control, send.bank) == here]
        return sorted(sends, key=lambda send: send.layer)

    def party(self, wish: Wish) -> tuple[Device, str]:
        """The device that a wish ends at, and the part or target there."""
        device, thing = read_ref(wish.plays or wish.moves or "")
        return lookup.device(self.plan, device), thing

    def target(self, wish: Wish) -> Target | None:
        """The target that a wish moves."""
        if not wish.moves:
            return None
        device, ident = self.party(wish)
        return lookup.by_id(device.targets, ident, "target")


class Load(NamedTuple):
    """What one message has to carry: wishes, at some velocities."""

    wishes: tuple[Wish, ...]
    soft: int = 1
    loud: int = 127

    @property
    def first(self) -> Wish:
        """One that stands for all."""
        return self.wishes[0]


def loads_of(here: ControlInProgram, wishes: list[Wish]) -> list[Load]:
    """Wishes of one control in one bank, those together that one message can carry."""
    loads: list[Load] = []
    for new in _single_loads(here, wishes):
        for place, load in enumerate(loads):
            if all(_shares(here, load, new, wish) for wish in load.wishes):
                loads[place] = load._replace(wishes=(*load.wishes, *new.wishes))
                break
        else:
            loads.append(new)
    return loads


def _single_loads(here: ControlInProgram, wishes: list[Wish]) -> Iterator[Load]:
    """What each wish wants to be carried; of those that say the same, no velocity twice."""
    same: dict[object, list[Wish]] = {}
    for wish in wishes:
        key = wish.id if wish.moves else (wish.plays, _sound_of(wish, here.ref))
        same.setdefault(key, []).append(wish)
    for group in same.values():
        windows = [KeyWindow(0, 0, wish.vel_low, wish.vel_high) for wish in group]
        if group[0].moves:
            yield Load(tuple(group))
            continue
        for window, carried in carried_in(group, windows):
            yield Load(carried, window.soft, window.loud)


def _shares(here: ControlInProgram, load: Load, new: Load, other: Wish) -> bool:
    """Whether one message can carry two wishes: one kind, one window, no two sounds of a part."""
    wish = new.first
    if bool(wish.plays) is not bool(other.plays):
        return False
    target, beside = here.target(wish), here.target(other)
    if target is not None and beside is not None:
        return _share_a_number(here, wish, other) and _share_a_movement(wish, target, other, beside)
    if (load.soft, load.loud) != (new.soft, new.loud):
        return False
    return wish.plays != other.plays


def _share_a_number(here: ControlInProgram, wish: Wish, other: Wish) -> bool:
    """Whether two targets could listen to one number, on one channel."""
    for kept in (_kept_number, _kept_channel):
        one, two = kept(here, wish), kept(here, other)
        if one is not None and two is not None and one != two:
            return False
    return True


def _kept_number(here: ControlInProgram, wish: Wish) -> int | None:
    """The number that a target always listens to; None where it can be told another."""
    device, thing = here.party(wish)
    target = here.target(wish)
    if target is None:
        return None
    place = owner_place(device.id, "target", thing)
    kept = here.holds.keeps(device, "target", place, "controller")
    return target.wide if kept or target.receives in NEVER_TOLD else None


def _kept_channel(here: ControlInProgram, wish: Wish) -> int | None:
    """The channel that a target always listens on; None where it hears all or can be told."""
    device, _ = here.party(wish)
    target = here.target(wish)
    part = None if target is None else lookup.find(device.parts, target.part)
    if target is None or part is None:
        return None if target is None else target.channel
    place = owner_place(device.id, "part", part.id)
    kept = here.holds.keeps(device, "part", place, "channel") or part.receives in NEVER_TOLD
    return part.channel if kept else None


def _share_a_movement(wish: Wish, target: Target, other: Wish, beside: Target) -> bool:
    """Whether one movement brings two targets where they are wished."""
    if target.answers != beside.answers:
        return False
    if target.answers not in SHARED and target.wide != beside.wide:
        return False
    if not target.sweeps and not beside.sweeps:
        return True
    one, two = sent_ends(wish, target, False), sent_ends(other, beside, False)
    whole = is_whole(wish) or is_whole(other)
    return one == two or (whole and one == two[::-1])


def sent_ends(wish: Wish, target: Target, downwards: bool) -> Ends:
    """The values to send at rest and at full travel; a whole range may run ``downwards``."""
    low, high = ends_for(wished_ends(wish, target), target, target.answers in FINE_SENT)
    return (high, low) if downwards and is_whole(wish) else (low, high)


def _sound_of(wish: Wish, ref: str) -> str | int | None:
    if wish.sounds:
        return wish.sound(wish.sources.index(ref))
    return wish.note
