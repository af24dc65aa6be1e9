"""From senders and listeners to the problem."""

from collections.abc import Iterable

from vastzone.core.midi.wide import SHARED
from vastzone.core.plan.model import Device
from vastzone.core.plan.refs import part_place, ref_to, setting_in
from vastzone.core.plan.sound import Target
from vastzone.core.solve.demands import Demands
from vastzone.core.solve.problem import Apart, Problem, Taste, contract
from vastzone.core.solve.senders import Ear, Sender
from vastzone.core.solve.variables import NOTES


class Builder(Demands):
    """Adds what must not meet, and what the person likes."""

    def build(self) -> Problem:
        """The whole problem."""
        for sender in self._senders:
            self._bind(sender)
        for ear in self._ears:
            self._kits(ear)
        self._count_slots()
        tied = self._tied()
        for sender in self._senders:
            self._keep_apart(sender, tied)
        self._keep_controllers_apart()
        self._keep_alone()
        return Problem(
            tuple(self._variables),
            tuple(self._same),
            tuple(self._apart),
            self._tight_costs(),
            tuple(self._tastes()),
            frozenset(self._rhythm),
            self._roles,
            self.plan.schools.run_from,
            tuple(self._alone),
        )

    # what must not meet

    def _keep_apart(self, sender: Sender, tied: dict[int, int]) -> None:
        if sender.send is not None and sender.send.message != "note":
            return
        meant = frozenset(b.intent.plays for b in sender.bindings)
        channel = self._channel(sender)
        if channel is None:
            return
        like = (
            sender.reach,
            tied.get(channel, -1 - channel),
            meant,
            sender.notes,
            sender.window,
            self._wish_windows(sender),
            self._tied_note(sender, tied),
        )
        if like in self._judged:
            return
        self._judged.add(like)
        for ear in self._within_reach(sender.reach):
            if ear.ref in self._exempt and ear.ref not in self._played:
                continue
            if ear.ref in meant:
                self._apart_from_own_kit(sender, ear, channel)
            elif self._velocities_meet(sender, ear):
                self._apart_from(sender, ear, channel)

    def _tied(self) -> dict[int, int]:
        """The group of each variable so far; senders of one group are judged once."""
        groups = contract(
            Problem(tuple(self._variables), tuple(self._same), (), {}, (), frozenset(), {}, 0, ())
        )
        return dict(enumerate(groups.of))

    def _within_reach(self, reach: frozenset[tuple[str, str]]) -> list[Ear]:
        if reach not in self._reached:
            self._reached[reach] = [e for e in self._ears if e.reached_by(reach)]
        return self._reached[reach]

    @staticmethod
    def _wish_windows(sender: Sender) -> tuple[object, ...]:
        """What a merged zone is wished to do key by key; nothing for a zone with one wish."""
        if len(sender.bindings) < 2:
            return ()
        return tuple((b.intent.plays, b.intent.low, b.intent.high) for b in sender.bindings)

    def _tied_note(self, sender: Sender, tied: dict[int, int]) -> int:
        note = self._open_note(sender)
        return -1 if note is None else tied.get(note, -2 - note)

    @staticmethod
    def _velocities_meet(sender: Sender, ear: Ear) -> bool:
        soft, loud = sender.window
        return max(soft, ear.part.vel_low) <= min(loud, ear.part.vel_high)

    def _apart_from_own_kit(self, sender: Sender, ear: Ear, channel: int) -> None:
        """Keys of a zone that are not meant for the part must not reach it by way of the zone."""
        if sender.zone is None:
            return
        low, high = sender.notes
        spare = set(range(low, high + 1)) - self._wished_notes(sender, ear.ref)
        if spare & self.needed.get(ear.ref, set()):
            self._apart[Apart(channel, channel, True)] = None
        elif spare & _answered(ear, self.needed.get(ear.ref)):
            self._apart[Apart(channel, channel, False, tight=ear.ref)] = None

    def _wished_notes(self, sender: Sender, ref: str) -> set[int]:
        notes: set[int] = set()
        for binding in sender.bindings:
            if binding.intent.plays == ref and sender.zone is not None:
                i, shift = binding.intent, sender.zone.shift
                notes |= set(range(i.lowest + shift, i.highest + shift + 1))
        return notes

    def _apart_from(self, sender: Sender, ear: Ear, channel: int) -> None:
        part = self._part(ear)
        if part is None:
            part = channel
        if ear.kits:
            self._apart_from_kit(sender, ear, channel, part)
            return
        low, high = sender.notes
        sent = set(range(low, high + 1))
        open_note = self._open_note(sender)
        wide, narrow = _answered(ear, self.needed.get(ear.ref)), self._hull(ear.ref)
        narrowable = self._narrowable(ear)
        if open_note is not None:
            keep = narrow if narrowable and narrow else wide
            tight = ear.ref if keep is narrow and narrow != wide else ""
            self._apart[
                Apart(channel, part, False, tight, outside=((open_note, frozenset(keep)),))
            ] = None
            return
        if not sent & wide:
            return
        hard = bool(sent & narrow) or not narrowable or not narrow
        self._apart[Apart(channel, part, hard, "" if hard else ear.ref)] = None

    def _hull(self, ref: str) -> set[int]:
        needed = self.needed.get(ref)
        return set(range(min(needed), max(needed) + 1)) if needed else set()

    def _narrowable(self, ear: Ear) -> bool:
        return all(
            self._dials[setting_in(part_place(ear.device.id, ear.part.id), f)].scope != "fixed"
            and setting_in(part_place(ear.device.id, ear.part.id), f) not in self._locked
            for f in ("low", "high")
        )

    def _open_note(self, sender: Sender) -> int | None:
        if sender.zone is not None:
            return None
        return self._variable(setting_in(sender.base, "number"), "note", NOTES)

    def _apart_from_kit(self, sender: Sender, ear: Ear, channel: int, part: int) -> None:
        low, high = sender.notes
        open_note = self._open_note(sender)
        sounds = [
            index
            for kit in ear.kits
            for s in kit.sounds
            if ear.part.low <= s.note <= ear.part.high or not kit.fixed
            if (index := self._sound(ear, kit, s.id)) is not None
        ]
        if open_note is not None:
            pairs = tuple((open_note, index) for index in dict.fromkeys(sounds))
            if pairs:
                self._apart[Apart(channel, part, False, unlike=pairs)] = None
            return
        sent = frozenset(range(low, high + 1))
        away = tuple((i, sent) for i in dict.fromkeys(sounds) if self._variables[i].domain & sent)
        if away:
            hard = any(self._variables[i].domain <= sent for i, _ in away)
            self._apart[Apart(channel, part, hard, outside=() if hard else away)] = None

    def _keep_controllers_apart(self) -> None:
        """A control moves only the targets that it is meant for."""
        for sender in self._senders:
            if sender.send is None or sender.send.message not in SHARED:
                continue
            meant = {b.intent.moves for b in sender.bindings}
            devices = {d for d, _ in sender.reach}
            for device in (d for d in self.plan.devices if d.id in devices):
                for target in (t for t in device.targets if t.answers in SHARED):
                    if ref_to(device.id, target.id) not in meant and (
                        target.controller is not None
                        or self._is_moved(ref_to(device.id, target.id))
                    ):
                        self._apart_from_target(sender, device, target)

    def _is_moved(self, ref: str) -> bool:
        return any(b.intent.moves == ref for s in self._senders for b in s.bindings)

    def _apart_from_target(self, sender: Sender, device: Device, target: Target) -> None:
        ref = setting_in(sender.base, "number")
        allowed = frozenset(range(120))
        number = self._variable(ref, "controller", allowed)
        listening = self._controller(device.id, target)
        channel = self._channel(sender)
        part = None
        if target.part is not None:
            part = self._part(
                next(e for e in self._ears if e.ref == ref_to(device.id, target.part))
            )
        if channel is None or part is None:
            anchor = channel if channel is not None else self._anchor()
            self._apart[Apart(anchor, anchor, False, unlike=((number, listening),))] = None
        else:
            self._apart[Apart(channel, part, False, unlike=((number, listening),))] = None

    def _keep_alone(self) -> None:
        """Parts that want a channel of their own share it with no other part they could meet."""
        wanted = {b.intent.plays for s in self._senders for b in s.bindings if b.intent.alone}
        for ear in self._ears:
            if ear.ref in wanted:
                mine = self._part(ear)
                for other in self._ears:
                    meets = other.device.id == ear.device.id and other.ref != ear.ref
                    theirs = self.part_channel.get(other.ref) if meets else None
                    if mine is not None and theirs is not None:
                        self._alone[min(mine, theirs), max(mine, theirs)] = None

    # tastes

    def _tight_costs(self) -> dict[str, int]:
        costs = {}
        for ear in self._ears:
            hull, now = self._hull(ear.ref), (ear.part.low, ear.part.high)
            if hull:
                wide = wide_range(*now, hull)
                narrow = (min(hull), max(hull))
                costs[ear.ref] = _differing(narrow, now) - _differing(wide, now)
        return costs

    def _tastes(self) -> Iterable[Taste]:
        school = self.plan.schools.channels
        buses: dict[str, list[int]] = {}
        for ear in self._ears:
            if ear.ref in self.part_channel:
                buses.setdefault(ear.device.id, []).append(self.part_channel[ear.ref])
        if school in ("sound", "shared"):
            for members in buses.values():
                yield Taste(
                    "sound" if school == "sound" else "shared", tuple(dict.fromkeys(members))
                )
            return
        bundles: dict[tuple[str, int], list[int]] = {}
        for sender in self._senders:
            channel = self._channel(sender) if sender.bindings else None
            if channel is not None:
                key = (sender.device, sender.program if school == "program" else 0)
                bundles.setdefault(key, []).append(channel)
        for members in bundles.values():
            yield Taste("bundle", tuple(dict.fromkeys(members)))


def _differing(one: tuple[int, int], other: tuple[int, int]) -> int:
    return sum(a != b for a, b in zip(one, other, strict=True))


def _answered(ear: Ear, needed: set[int] | None) -> set[int]:
    """What a part answers once its range is lengthened just as far as wishes need."""
    low, high = wide_range(ear.part.low, ear.part.high, needed)
    return set(range(low, high + 1))


def wide_range(low: int, high: int, needed: set[int] | None) -> tuple[int, int]:
    """A range lengthened to cover the notes needed."""
    return (min(low, *needed), max(high, *needed)) if needed else (low, high)
