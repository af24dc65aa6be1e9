"""The open numbers of a plan as variables: one for each number that a device has."""

from vastzone.core.midi.controllers import BOUND_NUMBERS, CONTROLLERS, FIRST_MODE, HEARD_BY_PARTS
from vastzone.core.midi.wide import FINE, SHARED
from vastzone.core.plan.limits import Answers, Reserved
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.refs import kit_place, part_place, ref_to, setting_in, target_place
from vastzone.core.plan.settings import Dial, dials, held_value, records
from vastzone.core.plan.sound import Kit, Target
from vastzone.core.solve.problem import Family, Variable
from vastzone.core.solve.senders import Ear, Sender, ears, senders
from vastzone.core.solve.shape import Shaped

CHANNELS = frozenset(range(1, 17))
NOTES = frozenset(range(128))


class Variables:
    """Makes the variables of senders and listeners, each once."""

    def __init__(self, old: Plan, shaped: Shaped, exempt: frozenset[str]) -> None:
        self.plan: Plan = shaped.plan
        self._before = dials(old)
        self._dials = dials(shaped.plan)
        self._locked = {r for r, s in records(shaped.plan).items() if s.hold == "locked"}
        self._free_channels: dict[frozenset[str], frozenset[int]] = {}
        self._index: dict[tuple[str, ...], int] = {}
        self._variables: list[Variable] = []
        self._owners = {d.id: d for d in shaped.plan.devices}
        self._senders = [s for s in senders(shaped) if not self._is_exempt(s, exempt)]
        self._ears = ears(shaped.plan)
        self._rhythm: set[int] = set()
        self.part_channel: dict[str, int] = {}

    @staticmethod
    def _is_exempt(sender: Sender, exempt: frozenset[str]) -> bool:
        """Whether a sender belongs to a wish that is left out while causes are sought."""
        if sender.bindings or sender.send is None:
            return False
        return ref_to(sender.device, sender.send.control) in exempt

    def _variable(self, ref: str, family: Family, allowed: frozenset[int]) -> int:
        dial = self._dials[ref]
        if dial.slot not in self._index:
            self._index[dial.slot] = len(self._variables)
            self._variables.append(self._new(dial, family, allowed))
        index = self._index[dial.slot]
        known = self._variables[index]
        if ref not in known.refs:
            fixed = ref in self._locked
            domain = frozenset({dial.value}) if fixed else known.domain
            self._variables[index] = known._replace(
                refs=(*known.refs, ref), locked=known.locked or fixed, domain=known.domain & domain
            )
        return index

    def _new(self, dial: Dial, family: Family, allowed: frozenset[int]) -> Variable:
        locked = dial.ref in self._locked
        fixed = locked or dial.scope == "fixed"
        domain = frozenset({dial.value}) if fixed else allowed
        held = held_value(self.plan, dial) if dial.ref in self._before else None
        known = records(self.plan).get(dial.ref)
        settled = known is not None and known.hold == "worked out"
        return Variable(family, (dial.ref,), dial.value, held, domain, locked, settled)

    def _channel(self, sender: Sender) -> int | None:
        """The channel variable of a sender; None for a control that follows the zones."""
        if sender.send is not None and sender.send.channel is None:
            return None
        return self._variable(setting_in(sender.base, "channel"), "channel", self._channels(sender))

    def _channels(self, sender: Sender) -> frozenset[int]:
        devices = frozenset(d for d, _ in sender.reach)
        if devices not in self._free_channels:
            kept = (self._kept_channels(self._owners[d]) for d in devices)
            self._free_channels[devices] = CHANNELS.difference(*kept)
        return self._free_channels[devices]

    @staticmethod
    def _kept_channels(device: Device) -> set[int]:
        return {c for lim in device.limits if isinstance(lim, Reserved) for c in lim.channels}

    def _part(self, ear: Ear) -> int | None:
        """The channel variable of a part; None for a part that stays on all channels."""
        ref = setting_in(part_place(ear.device.id, ear.part.id), "channel")
        if ear.part.channel is None and (
            self._dials[ref].scope == "fixed" or self._stays_omni(ear)
        ):
            return None
        index = self._variable(ref, "channel", CHANNELS - self._kept_channels(ear.device))
        self.part_channel[ear.ref] = index
        if ear.part.rhythm:
            self._rhythm.add(index)
        return index

    def _stays_omni(self, ear: Ear) -> bool:
        """Whether everything that reaches a part on all channels is meant for it."""
        return all(
            any(b.intent.plays == ear.ref for b in s.bindings)
            or (s.send is not None and s.send.message != "note")
            for s in self._senders
            if ear.reached_by(s.reach)
        )

    def _sound(self, ear: Ear, kit: Kit, sound: str) -> int | None:
        """The note variable of a sound; None where the kit does not hold it."""
        ref = setting_in(kit_place(ear.device.id, kit.id), sound)
        return self._variable(ref, "note", answers(ear.device)) if ref in self._dials else None

    def _controller(self, device: str, target: Target) -> int:
        ref = setting_in(target_place(device, target.id), "controller")
        return self._variable(ref, "controller", numbers_for(target))

    def _numbers(self, sender: Sender, target: Target) -> frozenset[int]:
        """The controllers that a control may send to a target: none that anyone keeps."""
        kept = {
            number
            for device in {d for d, _ in sender.reach}
            for limit in self._owners[device].limits
            if isinstance(limit, Reserved)
            for number in limit.controllers
        }
        kept |= HEARD_BY_PARTS - ({target.role} if target.role is not None else set())
        if target.answers == "pair":
            kept |= {n - FINE for n in kept}
        elif any(t.answers == "pair" for d in self._owners.values() for t in d.targets):
            kept |= {c.number for c in CONTROLLERS if c.sort == "low bits"}
        return numbers_for(target) - (kept if target.answers in SHARED else frozenset())

    def _anchor(self) -> int:
        """A channel variable that stands for «always»."""
        slot = ("always",)
        if slot not in self._index:
            self._index[slot] = len(self._variables)
            self._variables.append(Variable("channel", (), 1, None, frozenset({1}), False))
        return self._index[slot]


def numbers_for(target: Target) -> frozenset[int]:
    """The numbers that may move a target: a parameter keeps its own."""
    if target.answers not in SHARED:
        return frozenset(() if target.controller is None else (target.controller,))
    most = FINE if target.answers == "pair" else FIRST_MODE
    return frozenset(range(most)) - BOUND_NUMBERS


def answers(device: Device) -> frozenset[int]:
    """The notes that a device can be made to answer."""
    allowed = NOTES
    for limit in device.limits:
        if isinstance(limit, Answers):
            allowed &= frozenset(range(limit.low, limit.high + 1))
    return allowed
