"""How far receivers let their targets move, so that each target has the range wished of it.

A receiver takes its limits exactly, and one control can then move several targets, each over a
range of its own.  Where it cannot be told, or where several controls are to move one target over
ranges of their own, the limits are for the senders (``sends_for_wishes.py``).
"""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.midi.wide import MOVING
from vastzone.core.plan.edits.edit import with_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import can_be_limited
from vastzone.core.plan.refs import owner_place, read_ref, ref_to, send_place
from vastzone.core.response.wished import Ends, covers, limits_for, reached, step_of, wished_ends
from vastzone.core.solve.holds import Holds

WHOLE = Send(control="any", message="controller")
"""What is sent by a control that sends everything."""


def with_ranges(plan: Plan, holds: Holds) -> Plan:
    """A plan whose receivers let each target move as far as is wished, where they can be told."""
    movers = _Movers(plan)
    for device in plan.devices:
        targets = []
        for target in device.targets:
            wishes = movers.wishes.get(ref_to(device.id, target.id), [])
            targets.append(_ranged(movers, holds, device, target, wishes) if wishes else target)
        if tuple(targets) != device.targets:
            new = changed(lookup.device(plan, device.id), targets=tuple(targets))
            plan = with_device(plan, lookup.device(plan, device.id), new)
    return plan


class _Sent(NamedTuple):
    """What a control sends today, and whether its ends must stay."""

    send: Send
    stays: bool


class _Movers:
    """The wishes for each target, and what the controls send that are to move it."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self.wishes: dict[str, list[Wish]] = {}
        self._by_source: dict[tuple[str, int], list[Wish]] = {}
        for wish in plan.wishes:
            if wish.moves:
                self.wishes.setdefault(wish.moves, []).append(wish)
                for source in wish.sources:
                    self._by_source.setdefault((source, wish.bank), []).append(wish)

    def moves_others(self, wish: Wish) -> bool:
        """Whether a control of a wish is to move other targets too, over other ranges."""
        for source in wish.sources:
            for other in self._by_source[source, wish.bank]:
                if other.moves != wish.moves and self._share(other) != self._share(wish):
                    return True
        return False

    def _share(self, wish: Wish) -> Ends:
        """Where a wish begins and ends, as shares of the whole range of its target."""
        target = lookup.target(self._plan, wish.moves or "")
        wide = (target.high - target.low) or 1.0
        begins, ends = wished_ends(wish, target)
        return (begins - target.low) / wide, (ends - target.low) / wide

    def sent(self, wish: Wish, holds: Holds) -> Iterator[_Sent]:
        """What its controls send today that moves something, in every program in use."""
        for source in wish.sources:
            device, control = read_ref(source)
            owner = lookup.device(self._plan, device)
            for number in lookup.scenes_by_program(self._plan, owner):
                program = lookup.program(owner, number)
                for send in program.sends:
                    here = (send.control, send.bank) == (control, wish.bank)
                    if here and send.message in MOVING:
                        yield _Sent(send, self._stays(owner, program, send, holds))

    @staticmethod
    def _stays(owner: Device, program: Program, send: Send, holds: Holds) -> bool:
        place = send_place(owner.id, program.id, send.thing)
        return any(holds.keeps(owner, "send", place, end) for end in ("low", "high"))


def _ranged(
    movers: _Movers, holds: Holds, device: Device, target: Target, wishes: list[Wish]
) -> Target:
    """A target with the limits that its wishes want, as it is where they are for the senders."""
    if target.together or not _may_change(holds, device, target):
        return target
    wanted = wished_ends(wishes[0], target)
    if any(wished_ends(wish, target) != wanted for wish in wishes):
        return target
    sent = [one for wish in wishes for one in movers.sent(wish, holds)]
    others = any(movers.moves_others(wish) for wish in wishes)
    if sent and not others and all(_fits(one.send, target, wanted) for one in sent):
        return target
    kept = next((one.send for one in sent if one.stays), WHOLE)
    limits = limits_for(wanted, kept, target)
    if limits is None or any(one.stays and not _same_ends(one.send, kept) for one in sent):
        return target
    whole = (target.low, target.high)
    return changed(target, least=None, most=None) if limits == whole else _limited(target, limits)


def _limited(target: Target, limits: Ends) -> Target:
    """A target with limits, in figures that a panel shows."""
    least, most = (float(f"{limit:.6g}") for limit in limits)
    return changed(target, least=least, most=most)


def _may_change(holds: Holds, device: Device, target: Target) -> bool:
    """Whether the limits of a target can be told, and nobody locked them."""
    place = owner_place(device.id, "target", target.id)
    kept = any(holds.keeps(device, "target", place, end) for end in ("least", "most"))
    return can_be_limited(device, target) and not kept


def _same_ends(one: Send, other: Send) -> bool:
    return (one.low, one.high) == (other.low, other.high)


def _fits(send: Send, target: Target, wanted: Ends) -> bool:
    """Whether a control moves a target as far as wanted, either way round."""
    travel, step = reached(send, target), step_of(send, target)
    return covers(travel, wanted, step) or covers(travel[::-1], wanted, step)
