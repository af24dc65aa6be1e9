"""What wishes demand of the numbers: what has to be equal, and where notes have to lie."""

from collections.abc import Iterable

from vastzone.core.memory.model import Memory
from vastzone.core.memory.touched import NO_MEMORY
from vastzone.core.midi import pitch
from vastzone.core.midi.wide import UNNUMBERED
from vastzone.core.plan.model.parts import Kit, Target
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import slots_free
from vastzone.core.plan.refs import device_of, owner_place, read_ref, ref_to, setting_in
from vastzone.core.say import say, say_many
from vastzone.core.solve.holds import Holds
from vastzone.core.solve.pitch import answers as can_answer
from vastzone.core.solve.problem import Apart, SoftDemand
from vastzone.core.solve.senders import Receiver, Sender
from vastzone.core.solve.shaped import Binding, Obstacle, Shaped
from vastzone.core.solve.variables import NOTES, Variables, answers


class Demands(Variables):
    """Collects what has to hold for every wish."""

    def __init__(
        self,
        old: Plan,
        shaped: Shaped,
        exempt: frozenset[str] = frozenset(),
        memory: Memory = NO_MEMORY,
    ) -> None:
        super().__init__(old, shaped, exempt, memory)
        self._exempt = exempt
        self._by_ref = {receiver.ref: receiver for receiver in self._receivers}
        self._same: dict[tuple[int, int], None] = {}
        self._soft: dict[str, SoftDemand] = {}
        self._apart: dict[Apart, None] = {}
        self._alone: dict[tuple[int, int], None] = {}
        self._played = {
            binding.wish.plays for sender in self._senders for binding in sender.bindings
        }
        self._judged: set[object] = set()
        self._numbers_wished: dict[int, str] = {}
        self._reached: dict[frozenset[tuple[str, str]], list[Receiver]] = {}
        self._roles: dict[int, frozenset[int]] = {}
        self._wandering: set[str] = set()  # parts with wished sounds whose notes are open
        self.obstacles: list[Obstacle] = []
        self.needed: dict[str, set[int]] = {}

    def _bind(self, sender: Sender) -> None:
        for binding in sender.bindings:
            wish = binding.wish
            if binding.bond == "free":
                continue
            if wish.moves:
                self._bind_target(sender, wish.moves, binding)
                continue
            receiver = self._receiver(wish.plays or "")
            if binding.is_wished:
                self._velocities_answered(sender, receiver, wish)
            self._tie_channels(sender, receiver, binding)
            if sender.zone is not None:
                self._bind_keys(sender, receiver, binding)
            else:
                self._bind_pad(sender, receiver, binding)

    def _receiver(self, ref: str) -> Receiver:
        return self._by_ref[ref]

    def _tie(self, one: int, other: int, binding: Binding) -> None:
        """Two numbers are the same: always, or as long as something goes on playing."""
        if binding.bond == "soft":
            self._soft_demand(binding).same.append((one, other))
        else:
            self._same[one, other] = None

    def _allow(self, index: int, values: frozenset[int], binding: Binding) -> None:
        """A number is one of these: always, or as long as something goes on playing."""
        if binding.bond == "soft":
            self._soft_demand(binding).within.append((index, values))
        else:
            known = self._variables[index]
            self._variables[index] = known._replace(domain=known.domain & values)

    def _soft_demand(self, binding: Binding) -> SoftDemand:
        return self._soft.setdefault(binding.wish.id, SoftDemand(binding.wish.id, [], []))

    def _velocities_answered(self, sender: Sender, receiver: Receiver, wish: Wish) -> None:
        part = receiver.part
        soft, loud = (wish.vel_low, wish.vel_high) if sender.zone is not None else sender.window
        if soft < part.vel_low or loud > part.vel_high:
            sentence = say(
                "{part} answers velocities {vel_low}–{vel_high} only, and {wish} is wished at "
                "{soft}–{loud}.",
                part=part.name,
                vel_low=part.vel_low,
                vel_high=part.vel_high,
                wish=wish.name,
                soft=soft,
                loud=loud,
            )
            self.obstacles.append(Obstacle((wish.id,), (), sentence))

    def _bind_keys(self, sender: Sender, receiver: Receiver, binding: Binding) -> None:
        """The part answers the notes of the keys, and its kit holds them."""
        wish = binding.wish
        low, high = sender.notes
        first = max(low, wish.lowest + sender.shift)
        last = min(high, wish.highest + sender.shift)
        notes = range(first, last + 1)
        off = 0 if receiver.kits else receiver.part.transpose
        if first + off < 0 or last + off > 127:
            sentence = say(
                "{wish} would sound outside 0–127: choose fewer keys or another shift.",
                wish=wish.name,
            )
            self.obstacles.append(Obstacle((wish.id,), (), sentence))
            return
        self.needed.setdefault(receiver.ref, set()).update(notes)
        self._answers_all(receiver, notes, wish)
        for kit in receiver.kits:
            missing = self._without_a_sound(receiver, kit, notes, binding)
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
        how = say("is locked to answer") if locks else "answers"
        keys = pitch.span(low, high, receiver.device.octaves)
        missed = pitch.label(outside[0], receiver.device.octaves)
        sentence = say(
            "{part} of {device} {how} {keys}, and {wish} sends it {missed}.",
            part=receiver.part.name,
            device=receiver.device.name,
            how=how,
            keys=keys,
            wish=wish.name,
            missed=missed,
        )
        self.obstacles.append(Obstacle((wish.id,), locks, sentence))

    def _without_a_sound(
        self, receiver: Receiver, kit: Kit, notes: range, binding: Binding
    ) -> set[int]:
        """The notes of some keys on which a kit has nothing; what it has there stays there."""
        on_note = {}
        for sound in kit.sounds:
            on_note[sound.note] = sound.id
        missing = set()
        for note in notes:
            if note in on_note:
                self._stays(receiver, kit, on_note[note], note, binding)
            else:
                missing.add(note)
        return missing

    def _too_few_sounds(
        self, sender: Sender, kit: Kit, notes: range, missing: set[int], wish: Wish
    ) -> None:
        """How many keys the kit answers, and where the wish could end."""
        octaves = self._owners[sender.device].octaves
        shift = sender.shift
        sentence = say(
            "{kit} holds {count} of the {notes} notes that {wish} is wished for",
            kit=kit.name,
            count=len(notes) - len(missing),
            notes=len(notes),
            wish=wish.name,
        )
        run = _longest_run(note for note in notes if note not in missing)
        keys = (run[0] - shift, run[-1] - shift) if run else None
        if keys is not None:
            sentence += say(": it could be wished for {span}", span=pitch.span(*keys, octaves))
        self.obstacles.append(Obstacle((wish.id,), (), f"{sentence}.", keys))

    def _stays(self, receiver: Receiver, kit: Kit, sound: str, note: int, binding: Binding) -> None:
        """A sound of a kit that can be rearranged stays on its note."""
        index = self._sound(receiver, kit, sound)
        if index is not None:
            self._allow(index, frozenset({note}), binding)

    def _tie_channels(self, sender: Sender, receiver: Receiver, binding: Binding) -> None:
        channel, part = self._channel(sender), self._part(receiver)
        if channel is not None and part is not None:
            self._tie(channel, part, binding)

    def _bind_pad(self, sender: Sender, receiver: Receiver, binding: Binding) -> None:
        wish = binding.wish
        note = self._variable(setting_in(sender.base, "number"), "note", NOTES)
        if wish.sounds:
            self._bind_sound(
                receiver, note, wish.sound(wish.sources.index(binding.source)), binding
            )
        elif wish.note is not None:
            self._bind_pitch(receiver, note, wish.note, binding)
        else:
            self._bind_whatever(receiver, wish)

    def _bind_sound(self, receiver: Receiver, note: int, sound: str, binding: Binding) -> None:
        """A pad sends the note of a sound, in every kit that its part is on."""
        notes = []
        for kit in receiver.kits:
            notes.append(self._sound(receiver, kit, sound))
        if not binding.is_wished:
            # What plays today need not be in the kits of other scenes.
            notes = [index for index in notes if index is not None]
        if not notes or None in notes:
            sentence = say(
                "{part} in {device} is on a kit without the sound “{sound}”: choose another kit or "
                "another sound.",
                part=receiver.part.name,
                device=receiver.device.name,
                sound=sound,
            )
            self.obstacles.append(Obstacle((binding.wish.id,), (), sentence))
        for index in notes:
            if index is not None:
                self._tie(note, index, binding)
                self._within(receiver, index)

    def _bind_pitch(self, receiver: Receiver, note: int, sounding: int, binding: Binding) -> None:
        """A pad sends the note that sounds the pitch that is wished."""
        # What the part adds is taken off: the wish says what is to be heard.
        wanted = sounding if receiver.kits else sounding - receiver.part.transpose
        self._allow(note, frozenset({wanted}) & answers(receiver.device), binding)
        self.needed.setdefault(receiver.ref, set()).add(wanted)
        self._answers_all(receiver, (wanted,), binding.wish)
        for kit in receiver.kits:
            there = next((sound.id for sound in kit.sounds if sound.note == sounding), None)
            if there is not None:
                self._stays(receiver, kit, there, sounding, binding)
                continue
            shown = pitch.label(sounding, receiver.device.octaves)
            sentence = say(
                "{kit} of {device} has nothing on {shown}: choose a sound of it for {wish}.",
                kit=kit.name,
                device=receiver.device.name,
                shown=shown,
                wish=binding.wish.name,
            )
            self.obstacles.append(Obstacle((binding.wish.id,), (), sentence))

    def _bind_whatever(self, receiver: Receiver, wish: Wish) -> None:
        """A pad without a wished pitch or sound cannot be as meant: it says neither."""
        sentence = say(
            "{wish} says neither a pitch nor a sound of {part}: choose one.",
            wish=wish.name,
            part=receiver.part.name,
        )
        self.obstacles.append(Obstacle((wish.id,), (), sentence))

    def _count_slots(self) -> None:
        """No more targets moved in a device than it has assign slots that are not taken."""
        bindings: list[Binding] = []
        for sender in self._senders:
            bindings.extend(sender.bindings)
        moves = {}
        for binding in bindings:
            if binding.wish.moves and binding.is_wished:
                moves[binding.wish.moves] = binding.wish.id
        for device in self.plan.devices:
            moved = []
            for target, ident in moves.items():
                if device_of(target) == device.id:
                    moved.append(ident)
            free = slots_free(device)
            if free is not None and len(moved) > free:
                sentence = say(
                    "{device} has {slots} free, and {are} wished.",
                    device=device.name,
                    slots=say_many("{count} assign slot", "{count} assign slots", free),
                    are=say_many("{count} target is", "{count} targets are", len(moved)),
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
        self._wandering.add(receiver.ref)

    def _bind_target(self, sender: Sender, moves: str, binding: Binding) -> None:
        device, thing = read_ref(moves)
        target = lookup.by_id(self._owners[device].targets, thing, "target")
        if target.answers not in UNNUMBERED:
            self._bind_number(sender, device, target, binding)
        if target.part is not None:
            self._bind_channel(sender, self._receiver(ref_to(device, target.part)), binding)
        elif target.channel is not None:
            self._fix_channel(sender, target.channel, binding)

    def _bind_number(self, sender: Sender, device: str, target: Target, binding: Binding) -> None:
        """A control sends the number that its target listens to."""
        allowed = self._numbers(sender, target)
        if not binding.is_wished and sender.send is not None:
            # What works today may go on as it is, whatever is liked.
            allowed |= {sender.send.wide}
        number = self._variable(setting_in(sender.base, "number"), "controller", allowed)
        listening = self._controller(device, target)
        self._allow(number, allowed, binding)
        self._tie(number, listening, binding)
        if binding.is_wished:
            self._numbers_wished[number] = binding.wish.id
        if target.role is not None:
            for index in (number, listening):
                self._roles[index] = self._roles.get(index, frozenset()) | {target.role}

    def _bind_channel(self, sender: Sender, receiver: Receiver, binding: Binding) -> None:
        """A control reaches the part of its target."""
        part = self._part(receiver)
        if part is None:
            return
        for channel in self._channels_sent(sender, receiver.part.channel, binding):
            self._tie(channel, part, binding)

    def _channels_sent(self, sender: Sender, heard: int | None, binding: Binding) -> list[int]:
        """The channel of a control; of one that follows the zones, those by which it is heard."""
        own = self._channel(sender)
        if own is not None:
            return [own]
        if binding.is_wished:
            return []  # it follows only where all zones play the part that it is for
        channels = []
        for other in self._senders:
            beside = (other.device, other.program) == (sender.device, sender.program)
            if beside and other.zone is not None and other.zone.channel == heard:
                channel = self._channel(other)
                if channel is not None:
                    channels.append(channel)
        return channels

    def _fix_channel(self, sender: Sender, channel: int, binding: Binding) -> None:
        for index in self._channels_sent(sender, channel, binding):
            self._allow(index, frozenset({channel}), binding)

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
