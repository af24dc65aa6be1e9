"""From senders and listeners to the problem."""

from collections.abc import Iterable, Mapping

from vastzone.core.midi.wide import SHARED
from vastzone.core.plan.fields.dials import scope_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.wishes import OwnSchool
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import owner_place, ref_to, setting_in
from vastzone.core.progress import Progress, go_on
from vastzone.core.say import say
from vastzone.core.solve.controllers_apart import ControllersApart
from vastzone.core.solve.problem import Apart, Problem, Taste, contract
from vastzone.core.solve.runs import Lie, lie_of
from vastzone.core.solve.senders import Receiver, Sender
from vastzone.core.solve.variables import NOTES


class Builder(ControllersApart):
    """Adds what must not meet, and what the person likes."""

    def build(self, progress: Progress | None = None) -> Problem:
        """The whole problem.  Raises Cancelled."""
        for sender in self._senders:
            go_on(progress, say("What must be the same"), 0.08)
            self._bind(sender)
        for receiver in self._receivers:
            self._kits(receiver)
        self._count_slots()
        tied = self._tied()
        for sender in self._senders:
            go_on(progress, say("What must be kept apart"), 0.1)
            self._keep_apart(sender, tied)
        self._keep_controllers_apart()
        self._keep_alone()
        tastes = tuple(self._tastes())
        return Problem(
            tuple(self._variables),
            tuple(self._same),
            tuple(self._apart),
            self._tight_costs(),
            tastes,
            frozenset(self._rhythm),
            self._roles,
            tuple(self._alone),
            tuple(self._soft.values()),
            self._lies(),
            self._numbers_wished,
            self._own_schools(),
        )

    # what must not meet

    def _keep_apart(self, sender: Sender, tied: dict[int, int]) -> None:
        if sender.send is not None and sender.send.message != "note":
            return
        channel = self._channel(sender)
        if channel is None:
            return
        meant = frozenset(binding.wish.plays for binding in sender.bindings)
        bound = frozenset(b.wish.plays for b in sender.bindings if b.bond != "free")
        like = self._like(sender, tied, channel, meant)
        if like in self._judged:
            return
        self._judged.add(like)
        for receiver in self._within_reach(sender.reach):
            # What is left out while causes are sought may sound as it likes, unless a wish plays
            # it.
            left_out = receiver.ref in self._exempt and receiver.ref not in self._played
            left_out = left_out or receiver.part.receives == "takes all"
            if receiver.ref in meant:
                if receiver.ref in bound and not left_out:
                    self._apart_from_own_part(sender, receiver, channel)
            elif not left_out and self._velocities_meet(sender, receiver):
                self._apart_from(sender, receiver, channel)

    def _like(
        self, sender: Sender, tied: dict[int, int], channel: int, meant: frozenset[str | None]
    ) -> object:
        """What senders have in common that must be kept apart from the same parts."""
        group = tied.get(channel, -1 - channel)
        windows = (sender.notes, sender.window, self._wish_windows(sender))
        return sender.reach, group, meant, windows, self._tied_note(sender, tied)

    def _tied(self) -> dict[int, int]:
        """The group of each variable so far; senders of one group are judged once."""
        groups = contract(
            Problem(tuple(self._variables), tuple(self._same), (), {}, (), frozenset(), {}, ())
        )
        return dict(enumerate(groups.of))

    def _within_reach(self, reach: frozenset[tuple[str, str]]) -> list[Receiver]:
        if reach not in self._reached:
            self._reached[reach] = [
                receiver for receiver in self._receivers if receiver.reached_by(reach)
            ]
        return self._reached[reach]

    @staticmethod
    def _wish_windows(sender: Sender) -> tuple[object, ...]:
        """What a merged zone is wished to do key by key; nothing for a zone with one wish."""
        if len(sender.bindings) < 2:
            return ()
        windows = []
        for binding in sender.bindings:
            windows.append((binding.wish.plays, binding.wish.low, binding.wish.high))
        return tuple(windows)

    def _tied_note(self, sender: Sender, tied: dict[int, int]) -> int:
        note = self._open_note(sender)
        return -1 if note is None else tied.get(note, -2 - note)

    @staticmethod
    def _velocities_meet(sender: Sender, receiver: Receiver) -> bool:
        soft, loud = sender.window
        return max(soft, receiver.part.vel_low) <= min(loud, receiver.part.vel_high)

    def _apart_from_own_part(self, sender: Sender, receiver: Receiver, channel: int) -> None:
        """Keys of a zone that are not meant for the part must not reach it by way of the zone."""
        if sender.zone is None:
            return
        low, high = sender.notes
        spare = frozenset(range(low, high + 1)) - self._wished_notes(sender, receiver.ref)
        answered = self._answered(receiver)
        if receiver.kits:
            self._off_the_spare_keys(receiver, channel, spare)
            fixed = (kit for kit in receiver.kits if kit.fixed)
            answered &= {sound.note for kit in fixed for sound in kit.sounds}
        # These keys sound what the part must answer for others: no range can keep them out.
        if spare & answered & self.needed.get(receiver.ref, set()):
            self._apart[Apart(channel, channel, True)] = None
        elif spare & answered:
            hard = not self._narrowable(receiver)
            self._apart[Apart(channel, channel, hard, "" if hard else receiver.ref)] = None

    def _off_the_spare_keys(self, receiver: Receiver, channel: int, spare: frozenset[int]) -> None:
        """Sounds that can be moved lie on no key that is not meant for their part."""
        indices: set[int] = set()
        for kit in receiver.kits:
            for sound in kit.sounds if not kit.fixed else ():
                index = self._sound(receiver, kit, sound.id)
                if index is not None:
                    indices.add(index)
        away = tuple((i, spare) for i in sorted(indices) if self._variables[i].domain & spare)
        if away:
            self._apart[Apart(channel, channel, False, outside=away)] = None

    def _wished_notes(self, sender: Sender, ref: str) -> set[int]:
        notes: set[int] = set()
        for binding in sender.bindings:
            if binding.wish.plays == ref and sender.zone is not None:
                i, shift = binding.wish, sender.shift
                notes |= set(range(i.lowest + shift, i.highest + shift + 1))
        return notes

    def _apart_from(self, sender: Sender, receiver: Receiver, channel: int) -> None:
        part = self._part(receiver)
        # A part that hears every channel shares even the channel of the sender.
        if part is None:
            part = channel
        if receiver.kits:
            self._apart_from_kit(sender, receiver, channel, part)
            return
        open_note = self._open_note(sender)
        wide, narrow = self._answered(receiver), self._hull(receiver.ref)
        can_narrow = bool(narrow) and self._narrowable(receiver)
        if open_note is not None:
            # The note is still open: it may lie anywhere the part does not answer in the end.
            keep = narrow if can_narrow else wide
            tight = receiver.ref if can_narrow and narrow != wide else ""
            outside = ((open_note, frozenset(keep)),)
            self._apart[Apart(channel, part, False, tight, outside=outside)] = None
            return
        low, high = sender.notes
        sent = set(range(low, high + 1))
        if sent & wide:
            # Notes that the part needs for its own wishes cannot be cut off by its range.
            hard = bool(sent & narrow) or not can_narrow
            self._apart[Apart(channel, part, hard, "" if hard else receiver.ref)] = None

    def _answered(self, receiver: Receiver) -> set[int]:
        """What a part answers once its range is lengthened just as far as wishes need."""
        needed = range_needed(receiver.device, receiver.ref, self.needed)
        low, high = wide_range(receiver.part.low, receiver.part.high, needed)
        return set(range(low, high + 1))

    def _hull(self, ref: str) -> set[int]:
        needed = self.needed.get(ref)
        return set(range(min(needed), max(needed) + 1)) if needed else set()

    def _narrowable(self, receiver: Receiver) -> bool:
        if receiver.ref in self._wandering:
            return False
        place = owner_place(receiver.device.id, "part", receiver.part.id)
        ends = []
        for end in ("low", "high"):
            ends.append(setting_in(place, end))
        for ref in ends:
            dial = self._dials[ref]
            # A range that all parts of the device share is not narrowed for one of them.
            if dial.scope in ("fixed", "global") or dial.slot in self._locked:
                return False
        return True

    def _open_note(self, sender: Sender) -> int | None:
        if sender.zone is not None:
            return None
        return self._variable(setting_in(sender.base, "number"), "note", NOTES)

    def _apart_from_kit(self, sender: Sender, receiver: Receiver, channel: int, part: int) -> None:
        open_note = self._open_note(sender)
        sounds = self._answering_sounds(receiver)
        if open_note is not None:
            pairs = tuple((open_note, index) for index in sounds)
            if pairs:
                self._apart[Apart(channel, part, False, unlike=pairs)] = None
            return
        low, high = sender.notes
        sent = frozenset(range(low, high + 1))
        domains = {}
        for index in sounds:
            domains[index] = self._variables[index].domain
        away = tuple((index, sent) for index in sounds if domains[index] & sent)
        if away:
            # A sound that can lie nowhere but among these notes leaves only the channels to differ.
            hard = any(domains[index] <= sent for index, _ in away)
            self._apart[Apart(channel, part, hard, outside=() if hard else away)] = None

    def _answering_sounds(self, receiver: Receiver) -> list[int]:
        """The notes of all sounds that a part can answer."""
        notes: dict[int, None] = {}
        answered = self._answered(receiver)
        for kit in receiver.kits:
            for sound in kit.sounds:
                if kit.fixed and sound.note not in answered:
                    continue
                index = self._sound(receiver, kit, sound.id)
                if index is not None:
                    notes[index] = None
        return list(notes)

    def _keep_alone(self) -> None:
        """Parts that want a channel of their own share it with no other part they could meet."""
        wanted: set[str | None] = set()
        for sender in self._senders:
            wanted |= {binding.wish.plays for binding in sender.bindings if binding.wish.alone}
        for receiver in self._receivers:
            mine = self._part(receiver) if receiver.ref in wanted else None
            if mine is not None:
                for other in self._receivers:
                    if other.device.id == receiver.device.id and other.ref != receiver.ref:
                        self._share_nothing(mine, self.part_channel.get(other.ref))

    def _share_nothing(self, mine: int, theirs: int | None) -> None:
        if theirs is not None:
            self._alone[min(mine, theirs), max(mine, theirs)] = None

    # tastes

    def _lies(self) -> dict[int, Lie]:
        """Where the control lies that sends each note or controller."""
        lies: dict[int, Lie] = {}
        for sender in self._senders:
            dial = self._dials.get(setting_in(sender.base, "number"))
            index = None if dial is None else self._index.get(dial.slot)
            if index is None or sender.send is None:
                continue
            device = self._owners[sender.device]
            control = lookup.by_id(device.controls, sender.send.control, "control")
            lie = lie_of(self.plan, device, control, sender.send.bank)
            lies[index] = min(lie, lies.get(index, lie))
        return lies

    def _own_schools(self) -> dict[int, OwnSchool]:
        """How the controllers are to be chosen of which the person said so."""
        by_control: dict[str, OwnSchool] = {}
        for school in self.plan.schools.own:
            by_control.update(dict.fromkeys(school.of, school))
        chosen: dict[int, OwnSchool] = {}
        for sender in self._senders if by_control else ():
            school_of = None
            if sender.send is not None and sender.send.message in SHARED:
                school_of = by_control.get(ref_to(sender.device, sender.send.control))
            dial = self._dials.get(setting_in(sender.base, "number"))
            index = None if dial is None else self._index.get(dial.slot)
            if school_of is not None and index is not None and sender.bindings:
                chosen[index] = school_of
        return chosen

    def _tight_costs(self) -> dict[str, int]:
        costs = {}
        for receiver in self._receivers:
            hull, now = self._hull(receiver.ref), (receiver.part.low, receiver.part.high)
            if hull and self._narrowable(receiver):
                wide = wide_range(*now, hull)
                narrow = (min(hull), max(hull))
                costs[receiver.ref] = _differing(narrow, now) - _differing(wide, now)
        return costs

    def _tastes(self) -> Iterable[Taste]:
        school = self.plan.schools.channels
        if school in ("sound", "shared"):
            for channels in self._channels_by_device().values():
                yield Taste("sound" if school == "sound" else "shared", tuple(channels))
            return
        bundles: dict[tuple[str, int], list[int]] = {}
        for sender in self._senders:
            wished = any(binding.is_wished for binding in sender.bindings)
            channel = self._channel(sender) if wished else None
            if channel is not None:
                key = (sender.device, sender.program if school == "program" else 0)
                bundles.setdefault(key, []).append(channel)
        for members in bundles.values():
            yield Taste("bundle", tuple(dict.fromkeys(members)))

    def _channels_by_device(self) -> dict[str, dict[int, None]]:
        """The channels of the parts of each device, each once."""
        by_device: dict[str, dict[int, None]] = {}
        for receiver in self._receivers:
            if receiver.ref in self.part_channel:
                by_device.setdefault(receiver.device.id, {})[self.part_channel[receiver.ref]] = None
        return by_device


def _differing(one: tuple[int, int], other: tuple[int, int]) -> int:
    return sum(a != b for a, b in zip(one, other, strict=True))


def range_needed(device: Device, ref: str, needed: Mapping[str, set[int]]) -> set[int]:
    """The notes that a part has to answer, or all parts where they share one range."""
    if scope_of(device, "part-range") != "global":
        return needed.get(ref, set())
    together: set[int] = set()
    for part in device.parts:
        together |= needed.get(ref_to(device.id, part.id), set())
    return together


def wide_range(low: int, high: int, needed: set[int]) -> tuple[int, int]:
    """A range lengthened to cover the notes needed."""
    return (min(low, *needed), max(high, *needed)) if needed else (low, high)
