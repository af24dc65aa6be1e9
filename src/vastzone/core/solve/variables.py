"""The open numbers of a plan as variables: one for each number that a device has."""

from vastzone.core.memory.holding import held_value
from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY
from vastzone.core.midi.controllers import FIRST_MODE, HEARD_BY_PARTS
from vastzone.core.midi.wide import FINE, SHARED
from vastzone.core.plan.fields.dials import Dial, open_dials
from vastzone.core.plan.model.parts import Kit, Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import answered_notes, kept_channels, kept_controllers
from vastzone.core.plan.refs import device_of, owner_place, place_of_setting, ref_to, setting_in
from vastzone.core.solve.holds import locked
from vastzone.core.solve.problem import Family, Variable
from vastzone.core.solve.runs import NEVER
from vastzone.core.solve.senders import Receiver, Sender, receivers, senders
from vastzone.core.solve.shaped import Shaped
from vastzone.core.solve.standing import place_of_end, place_of_sender

CHANNELS = frozenset(range(1, 17))
NOTES = frozenset(range(128))


class Variables:
    """Makes the variables of senders and listeners, each once."""

    def __init__(
        self, old: Plan, shaped: Shaped, exempt: frozenset[str], memory: Memory = NO_MEMORY
    ) -> None:
        self.plan: Plan = shaped.plan
        self._memories = {held.device: held for held in memory.devices}
        self._before = open_dials(old)
        self._dials = open_dials(shaped.plan)
        self._locked = self._locked_slots()
        self._wished = _wished_places(shaped)
        self._free_channels: dict[frozenset[str], frozenset[int]] = {}
        self._index: dict[tuple[str, ...], int] = {}
        self._variables: list[Variable] = []
        self._owners = lookup.by_ids(shaped.plan.devices)
        self._senders = [s for s in senders(shaped) if not self._is_exempt(s, exempt)]
        self._receivers = receivers(shaped.plan)
        self._rhythm: set[int] = set()
        self.part_channel: dict[str, int] = {}

    @staticmethod
    def _is_exempt(sender: Sender, exempt: frozenset[str]) -> bool:
        """Whether a sender belongs to a wish that is left out while causes are sought."""
        if any(binding.bond != "free" for binding in sender.bindings):
            return False
        if sender.send is not None:
            return ref_to(sender.device, sender.send.control) in exempt
        # A zone without a wish is switched off as soon as its device has one.
        return any(device_of(ref) == sender.device for ref in exempt)

    def _variable(self, ref: str, family: Family, allowed: frozenset[int]) -> int:
        dial = self._dials[ref]
        if dial.slot not in self._index:
            self._index[dial.slot] = len(self._variables)
            self._variables.append(self._new(dial, family, allowed))
        index = self._index[dial.slot]
        known = self._variables[index]
        if ref not in known.refs:
            needed = known.needed or place_of_setting(ref) in self._wished
            self._variables[index] = known._replace(refs=(*known.refs, ref), needed=needed)
        return index

    def _locked_slots(self) -> dict[tuple[str, ...], frozenset[int]]:
        """The values at which numbers are locked; a number that is in several places is one."""
        slots: dict[tuple[str, ...], set[int]] = {}
        for ref in locked(self.plan):
            dial = self._dials.get(ref)
            if dial is not None and isinstance(dial.value, int):
                slots.setdefault(dial.slot, set()).add(dial.value)
        return {slot: frozenset(values) for slot, values in slots.items()}

    def _new(self, dial: Dial, family: Family, allowed: frozenset[int]) -> Variable:
        lock = self._locked.get(dial.slot)
        domain = allowed
        if lock is not None:
            # One that is locked at two values in two places has none that keeps both.
            domain = lock if len(lock) == 1 else frozenset()
        elif dial.scope == "fixed":
            domain = frozenset({dial.number})
        before = dial.number if dial.ref in self._before else None
        held = self._held(dial, before)
        needed = place_of_setting(dial.ref) in self._wished
        is_end = dial.owner.kind in ("part", "target")
        if needed and is_end and dial.owner.thing.receives == "learns":
            before = held = None
        is_locked = lock is not None
        return Variable(family, (dial.ref,), dial.number, held, before, domain, is_locked, needed)

    def _held(self, dial: Dial, before: int | None) -> int | None:
        """What the device holds; what the plan says of one of which nothing is known.

        What no wish needs is as the person has it in the plan, dialled or not.
        """
        known = self._memories.get(dial.owner.device.id)
        if known is None or place_of_setting(dial.ref) not in self._wished:
            return before
        value = held_value(dial, known)
        return value if isinstance(value, int) else None

    def _channel(self, sender: Sender) -> int | None:
        """The channel variable of a sender; None for a control that follows the zones."""
        if sender.send is not None and sender.send.channel is None:
            return None
        return self._variable(setting_in(sender.base, "channel"), "channel", self._channels(sender))

    def _channels(self, sender: Sender) -> frozenset[int]:
        devices = frozenset(d for d, _ in sender.reach)
        if devices not in self._free_channels:
            kept = (kept_channels(self._owners[device]) for device in devices)
            self._free_channels[devices] = CHANNELS.difference(*kept)
        return self._free_channels[devices]

    def _part(self, receiver: Receiver) -> int | None:
        """The channel variable of a part; None for a part that stays on all channels."""
        ref = setting_in(owner_place(receiver.device.id, "part", receiver.part.id), "channel")
        dial = self._dials[ref]
        stays = dial.scope == "fixed" or dial.slot in self._locked
        if receiver.part.channel is None and (stays or self._stays_omni(receiver)):
            return None
        index = self._variable(ref, "channel", CHANNELS - kept_channels(receiver.device))
        self.part_channel[receiver.ref] = index
        if receiver.part.rhythm:
            self._rhythm.add(index)
        return index

    def _stays_omni(self, receiver: Receiver) -> bool:
        """Whether everything that reaches a part on all channels is meant for it."""
        return all(
            any(binding.wish.plays == receiver.ref for binding in sender.bindings)
            or (sender.send is not None and sender.send.message != "note")
            for sender in self._senders
            if receiver.reached_by(sender.reach)
        )

    def _sound(self, receiver: Receiver, kit: Kit, sound: str) -> int | None:
        """The note variable of a sound; None where the kit does not hold it."""
        ref = setting_in(owner_place(receiver.device.id, "kit", kit.id), sound)
        return self._variable(ref, "note", answers(receiver.device)) if ref in self._dials else None

    def _controller(self, device: str, target: Target) -> int:
        ref = setting_in(owner_place(device, "target", target.id), "controller")
        now = frozenset(() if target.controller is None else (target.controller,))
        return self._variable(ref, "controller", numbers_for(target) | now)

    def _numbers(self, sender: Sender, target: Target) -> frozenset[int]:
        """The controllers that a control may send to a target: none that anyone keeps.

        What a target listens to now may stay, were it never chosen otherwise.
        """
        if target.answers not in SHARED:
            return numbers_for(target)
        kept: set[int] = set()
        for device, _ in sender.reach:
            kept |= kept_controllers(self._owners[device])
            if self._owners[device].parts:
                kept |= HEARD_BY_PARTS
        if target.role is not None:
            kept.discard(target.role)
        if target.answers == "pair":
            kept |= {number - FINE for number in kept}
        if target.controller is not None and target.controller not in kept:
            return (numbers_for(target) - kept) | {target.controller}
        return numbers_for(target) - kept

    def _constant(self, channel: int) -> int:
        """A variable that stands for a channel which nothing changes."""
        slot = ("channel", str(channel))
        if slot not in self._index:
            self._index[slot] = len(self._variables)
            only = frozenset({channel})
            self._variables.append(Variable("channel", (), channel, None, None, only, False))
        return self._index[slot]


def numbers_for(target: Target) -> frozenset[int]:
    """The numbers that may be chosen to move a target: a parameter keeps its own."""
    if target.answers not in SHARED:
        return frozenset(() if target.wide is None else (target.wide,))
    most = FINE if target.answers == "pair" else FIRST_MODE
    return frozenset(range(most)) - NEVER


def answers(device: Device) -> frozenset[int]:
    """The notes that a device can be made to answer."""
    low, high = answered_notes(device)
    return frozenset(range(low, high + 1))


def _wished_places(shaped: Shaped) -> frozenset[str]:
    """What the settings are named after that wishes go by: zones, sends, parts and targets."""
    places: set[str] = set()
    for binding in shaped.bindings:
        if binding.is_wished:
            places |= {place_of_sender(shaped.plan, binding), place_of_end(binding.wish)}
    return frozenset(places)
