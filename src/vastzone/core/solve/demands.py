"""What wishes demand of the numbers: what has to be equal, and where notes have to lie."""

from collections.abc import Iterable

from vastzone.core.midi import pitch
from vastzone.core.plan.model.controls import Zone
from vastzone.core.plan.model.parts import Kit
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import slots_free
from vastzone.core.plan.refs import device_of, owner_place, read_ref, ref_to, setting_in
from vastzone.core.solve.holds import Holds
from vastzone.core.solve.pitch import answers as can_answer
from vastzone.core.solve.problem import Apart
from vastzone.core.solve.senders import Receiver, Sender
from vastzone.core.solve.shaped import Binding, Obstacle, Shaped
from vastzone.core.solve.variables import NOTES, Variables, answers


class Demands(Variables):
    """Collects what has to hold for every wish."""

    def __init__(self, old: Plan, shaped: Shaped, exempt: frozenset[str] = frozenset()) -> None:
        super().__init__(old, shaped, exempt)
        self._exempt = exempt
        self._same: dict[tuple[int, int], None] = {}
        self._apart: dict[Apart, None] = {}
        self._alone: dict[tuple[int, int], None] = {}
        self._played = {
            binding.wish.plays for sender in self._senders for binding in sender.bindings
        }
        self._judged: set[object] = set()
        self._reached: dict[frozenset[tuple[str, str]], list[Receiver]] = {}
        self._roles: dict[int, frozenset[int]] = {}
        self.obstacles: list[Obstacle] = []
        self.needed: dict[str, set[int]] = {}

    def _bind(self, sender: Sender) -> None:
        for binding in sender.bindings:
            wish = binding.wish
            if wish.moves:
                self._bind_target(sender, wish.moves)
                continue
            receiver = next(e for e in self._receivers if e.ref == wish.plays)
            self._velocities_answered(sender, receiver, wish)
            self._tie_channels(sender, receiver)
            if sender.zone is not None:
                self._bind_keys(sender, sender.zone, receiver, wish)
            else:
                self._bind_pad(sender, receiver, binding.source, binding.wish.id)

    def _velocities_answered(self, sender: Sender, receiver: Receiver, wish: Wish) -> None:
        part = receiver.part
        soft, loud = (wish.vel_low, wish.vel_high) if sender.zone is not None else sender.window
        if soft < part.vel_low or loud > part.vel_high:
            sentence = (
                f"{part.name} answers velocities {part.vel_low}–{part.vel_high} only, and "
                f"{wish.name} is wished at {soft}–{loud}."
            )
            self.obstacles.append(Obstacle((wish.id,), (), sentence))

    def _bind_keys(self, sender: Sender, zone: Zone, receiver: Receiver, wish: Wish) -> None:
        """The part answers the notes of the keys, and its kit holds them."""
        low, high = sender.notes
        first = max(low, wish.lowest + zone.shift)
        last = min(high, wish.highest + zone.shift)
        notes = range(first, last + 1)
        off = 0 if receiver.kits else receiver.part.transpose
        if first + off < 0 or last + off > 127:
            sentence = f"{wish.name} would sound outside 0–127: choose fewer keys or another shift."
            self.obstacles.append(Obstacle((wish.id,), (), sentence))
            return
        self.needed.setdefault(receiver.ref, set()).update(notes)
        self._answers_all(receiver, notes, wish)
        for kit in receiver.kits:
            missing = self._without_a_sound(receiver, kit, notes)
            if missing:
                self._too_few_sounds(sender, kit, notes, missing, wish)

    def _answers_all(self, receiver: Receiver, notes: Iterable[int], wish: Wish) -> None:
        """No note lies where the part cannot be made to answer."""
        low, high = can_answer(self.plan, receiver.ref)
        outside = [note for note in notes if not low <= note <= high]
        if not outside:
            return
        place = owner_place(receiver.device.id, "part", receiver.part.id)
        locks = Holds(self.plan).locks(place, ("low", "high"))
        how = "is locked to answer" if locks else "answers"
        keys = pitch.span(low, high, receiver.device.octaves)
        missed = pitch.label(outside[0], receiver.device.octaves)
        sentence = (
            f"{receiver.part.name} of {receiver.device.name} {how} {keys}, and {wish.name} sends "
            f"it {missed}."
        )
        self.obstacles.append(Obstacle((wish.id,), locks, sentence))

    def _without_a_sound(self, receiver: Receiver, kit: Kit, notes: range) -> set[int]:
        """The notes of some keys on which a kit has nothing; what it has there stays there."""
        on_note = {}
        for sound in kit.sounds:
            on_note[sound.note] = sound.id
        missing = set()
        for note in notes:
            if note in on_note:
                self._stays(receiver, kit, on_note[note], note)
            else:
                missing.add(note)
        return missing

    def _too_few_sounds(
        self, sender: Sender, kit: Kit, notes: range, missing: set[int], wish: Wish
    ) -> None:
        """How many keys the kit answers, and where the wish could end."""
        octaves = self._owners[sender.device].octaves
        shift = sender.zone.shift if sender.zone else 0
        sentence = (
            f"{kit.name} holds {len(notes) - len(missing)} of the {len(notes)} notes that "
            f"{wish.name} is wished for"
        )
        run = _longest_run(note for note in notes if note not in missing)
        if run:
            keys = pitch.span(run[0] - shift, run[-1] - shift, octaves)
            sentence += f": it could be wished for {keys}"
        self.obstacles.append(Obstacle((wish.id,), (), f"{sentence}."))

    def _stays(self, receiver: Receiver, kit: Kit, sound: str, note: int) -> None:
        """A sound of a kit that can be rearranged stays on its note."""
        index = self._sound(receiver, kit, sound)
        if index is not None:
            known = self._variables[index]
            self._variables[index] = known._replace(domain=known.domain & {note})

    def _tie_channels(self, sender: Sender, receiver: Receiver) -> None:
        channel, part = self._channel(sender), self._part(receiver)
        if channel is not None and part is not None:
            self._same[channel, part] = None

    def _bind_pad(self, sender: Sender, receiver: Receiver, source: str, ident: str) -> None:
        wish = next(binding.wish for binding in sender.bindings if binding.wish.id == ident)
        note = self._variable(setting_in(sender.base, "number"), "note", NOTES)
        if wish.sounds:
            sound = wish.sound(wish.sources.index(source))
            notes = []
            for kit in receiver.kits:
                notes.append(self._sound(receiver, kit, sound))
            if not notes or None in notes:
                self.obstacles.append(
                    Obstacle(
                        (ident,),
                        (),
                        f"{receiver.part.name} in {receiver.device.name} is on a kit without the "
                        f"sound “{sound}”: choose another kit or another sound.",
                    )
                )
            for index in notes:
                if index is not None:
                    self._same[note, index] = None
                    self._within(receiver, index)
        elif wish.note is not None:
            self._bind_pitch(receiver, note, wish, wish.note)
        else:
            self._bind_whatever(receiver, wish)

    def _bind_pitch(self, receiver: Receiver, note: int, wish: Wish, sounding: int) -> None:
        """A pad sends the note that sounds the pitch that is wished."""
        # What the part adds is taken off: the wish says what is to be heard.
        wanted = sounding if receiver.kits else sounding - receiver.part.transpose
        known = self._variables[note]
        allowed = frozenset({wanted}) & answers(receiver.device)
        self._variables[note] = known._replace(domain=known.domain & allowed)
        self.needed.setdefault(receiver.ref, set()).add(wanted)
        self._answers_all(receiver, (wanted,), wish)
        for kit in receiver.kits:
            there = next((sound.id for sound in kit.sounds if sound.note == sounding), None)
            if there is not None:
                self._stays(receiver, kit, there, sounding)
                continue
            shown = pitch.label(sounding, receiver.device.octaves)
            sentence = (
                f"{kit.name} of {receiver.device.name} has nothing on {shown}: choose a sound of "
                f"it for {wish.name}."
            )
            self.obstacles.append(Obstacle((wish.id,), (), sentence))

    def _bind_whatever(self, receiver: Receiver, wish: Wish) -> None:
        """A pad without a wished pitch or sound cannot be as meant: it says neither."""
        sentence = (
            f"{wish.name} says neither a pitch nor a sound of {receiver.part.name}: choose one."
        )
        self.obstacles.append(Obstacle((wish.id,), (), sentence))

    def _count_slots(self) -> None:
        """No more targets moved in a device than it has assign slots that are not taken."""
        bindings: list[Binding] = []
        for sender in self._senders:
            bindings.extend(sender.bindings)
        moves = {}
        for binding in bindings:
            if binding.wish.moves:
                moves[binding.wish.moves] = binding.wish.id
        for device in self.plan.devices:
            moved = []
            for target, ident in moves.items():
                if device_of(target) == device.id:
                    moved.append(ident)
            free = slots_free(device)
            if free is not None and len(moved) > free:
                sentence = (
                    f"{device.name} has {free} assign slots free and {len(moved)} targets are "
                    "wished."
                )
                self.obstacles.append(Obstacle(tuple(moved), (), sentence))

    def _within(self, receiver: Receiver, sound: int) -> None:
        """A sound lies where its part answers; a fixed one makes the part answer there."""
        known = self._variables[sound]
        if len(known.domain) == 1:
            (note,) = known.domain
            low, high = can_answer(self.plan, receiver.ref)
            if low <= note <= high:
                self.needed.setdefault(receiver.ref, set()).add(note)
                return
        domain = known.domain & frozenset(range(receiver.part.low, receiver.part.high + 1))
        self._variables[sound] = known._replace(domain=domain)

    def _bind_target(self, sender: Sender, moves: str) -> None:
        device, thing = read_ref(moves)
        target = lookup.by_id(self._owners[device].targets, thing, "target")
        allowed = self._numbers(sender, target)
        number = self._variable(setting_in(sender.base, "number"), "controller", allowed)
        listening = self._controller(device, target)
        known = self._variables[number]
        self._variables[number] = known._replace(domain=known.domain & allowed)
        self._same[number, listening] = None
        if target.role is not None:
            for index in (number, listening):
                self._roles[index] = self._roles.get(index, frozenset()) | {target.role}
        if target.part is not None:
            self._bind_channel(sender, ref_to(device, target.part))
        elif target.channel is not None:
            self._fix_channel(sender, target.channel)

    def _bind_channel(self, sender: Sender, part_ref: str) -> None:
        """A control reaches the part of its target."""
        receiver = next(receiver for receiver in self._receivers if receiver.ref == part_ref)
        if self._channel(sender) is not None:
            self._tie_channels(sender, receiver)
        elif not self._zone_plays(sender, receiver.ref):
            ref = setting_in(sender.base, "channel")
            index = self._variable(ref, "channel", self._channels(sender))
            part = self._part(receiver)
            if part is not None:
                self._same[index, part] = None

    def _fix_channel(self, sender: Sender, channel: int) -> None:
        index = self._variable(
            setting_in(sender.base, "channel"), "channel", self._channels(sender)
        )
        known = self._variables[index]
        self._variables[index] = known._replace(domain=known.domain & {channel})

    def _zone_plays(self, sender: Sender, ref: str) -> bool:
        """Whether a zone of the same program plays a part, so that its channel is followed."""
        return any(
            s.zone is not None
            and (s.device, s.program) == (sender.device, sender.program)
            and any(binding.wish.plays == ref for binding in s.bindings)
            for s in self._senders
        )

    def _kits(self, receiver: Receiver) -> None:
        """Every sound of a kit on a note of its own."""
        for kit in receiver.kits:
            indices = (
                [self._sound(receiver, kit, sound.id) for sound in kit.sounds]
                if not kit.fixed
                else []
            )
            channel = self._part(receiver)
            for n, one in enumerate(indices):
                for other in indices[:n]:
                    if one is not None and other is not None and channel is not None:
                        self._apart[Apart(channel, channel, False, unlike=((other, one),))] = None


def _longest_run(notes: Iterable[int]) -> list[int]:
    """The longest run of neighbours among ascending notes."""
    best: list[int] = []
    run: list[int] = []
    for note in notes:
        run = [*run, note] if run and note == run[-1] + 1 else [note]
        best = max(best, run, key=len)
    return best
