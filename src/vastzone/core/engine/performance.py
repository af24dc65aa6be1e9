"""Hands on the rig: strikes, releases, pedals, and what sounds because of them.

The law: a release reaches exactly what its strike reached, whatever changed in between.  It holds
because a held key remembers its voices and never looks anything up again.
"""

from collections.abc import Sequence

from vastzone.core.engine.compile import Compiled, compile_scene, emission_at
from vastzone.core.engine.drawn import with_drawn
from vastzone.core.engine.functions import Done, Functions, stepped
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.movers import MovedTargets
from vastzone.core.engine.registration import HALF, Registration, organ_of
from vastzone.core.engine.senders import Phase, Senders, velocity_of, within
from vastzone.core.engine.sounding import Held, Sounding
from vastzone.core.engine.tables import Emission, KeyId, Motion, Sending
from vastzone.core.engine.traffic import Traffic
from vastzone.core.engine.voice import Strike, Voice
from vastzone.core.midi.controllers import ALL_NOTES_OFF, ALL_SOUND_OFF, SUSTAIN
from vastzone.core.midi.messages import NOTE_OFF, NOTE_ON, STATUS
from vastzone.core.midi.turns import code_of
from vastzone.core.midi.wide import FINE_KINDS, FINE_SENT, fine_of
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_ref
from vastzone.core.response.sweep import exact_value, share_at

MIDDLE = 64
"""From here on a travelling control is pressed, and a pedal holds (MIDI 1.0: 64–127 is on)."""
STATUS_OF: dict[str, int] = {kind: status for kind, (status, _) in STATUS.items()}
STATUS_OF |= dict.fromkeys(FINE_KINDS, STATUS_OF["controller"])
"""The status byte of each kind of movement: wide numbers go as controllers."""


class Performance:
    """The running state of a rig; ``load`` swaps the plan or the scene under the player's hands.

    ``strike`` and ``let_go`` are what one message costs; ``press`` and ``release`` tell the same
    part by part.  A key that is struck again under a pedal takes the place of what it sounded.
    """

    def __init__(self, compiled: Compiled) -> None:
        self._sounding = Sounding()
        self._strikes = self._sounding.strikes
        self._held: dict[KeyId, list[Strike]] = {}
        self._sustained, self._pedals = self._sounding.sustained, self._sounding.pedals
        self._down: dict[KeyId, list[KeyId]] = {}
        self._struck_by: dict[KeyId, set[KeyId]] = {}
        self._past_middle: set[KeyId] = set()
        self._senders = Senders()
        self._targets = MovedTargets()
        self._traffic = Traffic()
        self.functions = Functions(self._sounding)
        self.registration = Registration()
        self._song = ""
        self.done: list[Done] = []
        """What the last control that was moved did in its own device."""
        self.load(compiled)

    def load(self, compiled: Compiled) -> None:
        """Use other tables from the next strike on; what is held stays as it was struck.

        Another song puts targets to what it begins with.
        """
        self._bare = compiled
        self._organ = organ_of(compiled.plan)
        self.registration.keep(self._organ)
        song, self._song = self._song, compiled.scene.id if compiled.scene is not None else ""
        if song != self._song and compiled.scene is not None:
            self._begin(compiled.plan, compiled.scene)
        self._draw()

    def _begin(self, plan: Plan, song: Scene) -> None:
        for start in song.starts:
            share = share_at(lookup.target(plan, start.target), start.value)
            self._targets.put(start.target, share)
            self.registration.put(self._organ, start.target, share >= HALF)

    def _draw(self) -> None:
        """Use the tables of what is drawn now."""
        bare, drawn = self._bare, self.registration.drawn
        if not drawn:
            self.compiled = bare
        else:
            self.compiled = compile_scene(with_drawn(bare.plan, drawn), bare.scene)
        self._keys = self.compiled.keys
        self._controls = self.compiled.controls

    @property
    def sounding(self) -> set[Voice]:
        """Everything that sounds now."""
        return self._sounding.voices

    def press(self, key: KeyId, velocity: int, at: float = 0.0) -> list[Voice]:
        """Strike a key at velocity 1–127, ``at`` milliseconds; the voices that begin."""
        voices = []
        for strike in self.strike(key, velocity, at):
            voices.extend(strike.voices)
        return voices

    def release(self, key: KeyId, at: float = 0.0) -> list[Voice]:
        """Let a key go; the voices that end (those under a pedal end with the pedal)."""
        ended: list[Voice] = []
        self.let_go(key, at, ended)
        return ended

    def strike(self, key: KeyId, velocity: int, at: float) -> list[Strike]:
        """Strike a key; what each of its emissions began."""
        return self._sound(key, self._keys.get(key, ()), velocity, at)

    def press_at(self, ref: str, channel: int, note: int, velocity: int, at: float) -> list[Voice]:
        """Let a raw note on channel 0–15 leave the output ``device:port``."""
        emission = emission_at(self.compiled, ref, channel, note)
        begun = self._sound((ref, channel << 7 | note), (emission,), velocity, at)
        voices = []
        for strike in begun:
            voices.extend(strike.voices)
        return voices

    def release_at(self, ref: str, channel: int, note: int, at: float) -> list[Voice]:
        """Let the raw note end."""
        return self.release((ref, channel << 7 | note), at)

    def _sound(
        self,
        key: KeyId,
        emissions: Sequence[Emission],
        velocity: int,
        at: float,
        muted_by: str | None = None,
    ) -> list[Strike]:
        # A key that is struck while it is down is let go first; what a pedal holds of its last
        # strike ends too, so that repeated notes do not pile up under the pedal.
        if key in self._held:
            self.let_go(key, at)
        if self._sustained:
            for voice in self._sustained.pop(key, ()):
                self._sounding.end(voice)
        begun: list[Strike] = []
        simple = True
        for emission in emissions:
            if emission.low <= velocity <= emission.high:
                strike = Strike(key, emission, velocity, at, muted_by)
                status = NOTE_ON | emission.channel
                strike.times = self._traffic.send(emission.course, status, at, strike)
                simple = simple and emission.simple
                begun.append(strike)
        # Where no part is mono, mutes or toggles, new voices need no look at those that sound.
        if simple:
            self._strikes.update(begun)
        else:
            self._sounding.arrive(begun)
        self._held[key] = begun
        return begun

    def let_go(self, key: KeyId, at: float, ended: list[Voice] | None = None) -> None:
        """Let a key go; the voices that end are added to ``ended``."""
        for strike in self._held.pop(key, ()):
            emission = strike.emission
            self._traffic.send(emission.course, NOTE_OFF | emission.channel, at)
            # With no pedal down, plain voices end with their key: the strike goes as a whole.
            if emission.simple and not self._pedals:
                if ended is not None and strike in self._strikes:
                    ended.extend(strike.voices)
                self._strikes.discard(strike)
                continue
            for voice in strike.voices:
                if self._sounding.key_up(voice) and ended is not None:
                    ended.append(voice)

    def move(self, key: KeyId, value: float, at: float = 0.0) -> list[Voice | Movement]:
        """Press, release or move a control: 127 is pressed or full travel, 0 released or rest.

        Any value above 0 is a strike of a pad, button, switch or stop; what travels is pressed
        while it is above its middle.  A piston or a crescendo also moves what it draws.
        """
        if not self._organ.stops and not self._organ.pistons and not self._organ.shoes:
            return self._move(key, value, at)
        done = self._move(key, value, at)
        ref, drawn, told = key[0], self.registration.drawn, self.done
        self.registration.hear(self._organ, done)
        for stop, on in self.registration.move(self._organ, ref, value, value > 0):
            if stop != ref:
                sent = self._move((stop, 1), 127 if on else 0, at)
                self.registration.hear(self._organ, sent)
                done.extend(sent)
        self.done = told
        if self.registration.drawn != drawn:
            self._draw()
        return done

    def _move(self, key: KeyId, value: float, at: float) -> list[Voice | Movement]:
        done: list[Voice | Movement] = []
        self.done = []
        sendings = self._controls.get(key, ())
        if sendings and sendings[0].latches:
            if value <= 0:
                return done
            value = self._senders.latch(key)
        phase = self._phase(key, sendings, value)
        if phase == "press":
            self._choke(key, sendings, value)
        sent_now: set[KeyId] = set()
        for index, sending in enumerate(sendings):
            own = (f"{key[0]}#{index}", key[1])
            sent = self._senders.sent(own, sending, value, phase)
            if sent is not None:
                sent_now.add(own)
                done.extend(self._send(key, own, sending, sent, at, value))
        if phase == "release":
            self._come_up(key, sent_now, at)
            self.functions.let_go(key)
        elif phase == "press":
            self._do(key, sendings, at)
        return done

    def _do(self, key: KeyId, sendings: Sequence[Sending], at: float) -> None:
        """What a pressed control does in its own device, besides what it sends."""
        told = dict.fromkeys(sending.does for sending in sendings if sending.does is not None)
        if not told:
            return
        device, control = read_ref(key[0])
        owner = lookup.device(self.compiled.plan, device)
        pressed = lookup.by_id(owner.controls, control, "control")
        self.functions.let_go(key)
        for does in told:
            if does in ("program up", "program down"):
                self._step_program(key[0], owner, does)
            elif does is not None:
                done = self.functions.press(owner, pressed, key[1], does, at)
                self.done.append(done)

    def _step_program(self, control: str, owner: Device, does: Function) -> None:
        """The next or previous stored program of a device; what is held stays as it was struck."""
        scene = stepped(self._bare.scene, owner, does == "program up")
        if scene is None:
            self.done.append(Done(control, does, "no other program"))
            return
        self.load(compile_scene(self._bare.plan, scene))
        number = lookup.program_number(scene, owner)
        program = lookup.program(owner, number if number is not None else -1)
        self.done.append(Done(control, does, program.name))

    def _phase(self, key: KeyId, sendings: Sequence[Sending], value: float) -> Phase:
        """What a value is to a control: a press, a release, or a movement between."""
        if sendings and sendings[0].struck:
            return "press" if value > 0 else "release"
        was_pressed = key in self._past_middle
        if value >= MIDDLE:
            self._past_middle.add(key)
            return "travel" if was_pressed else "press"
        self._past_middle.discard(key)
        return "release" if was_pressed or value <= 0 else "travel"

    def _come_up(self, key: KeyId, sent_now: set[KeyId], at: float) -> None:
        """A hand lets go: what it held down ends, whatever the scene says now."""
        for own in self._down.pop(key, ()):
            self.release(own, at)
        for own in self._struck_by.pop(key, ()):
            self._sounding.shots_over(self._held.get(own, ()))
        for own in [own for own, pedal in self._pedals.items() if pedal.by_hand]:
            if own not in sent_now and (own[0].rpartition("#")[0], own[1]) == key:
                self._sounding.lift(own)

    def _choke(self, key: KeyId, sendings: Sequence[Sending], value: float) -> None:
        """A pad that mutes a group stops what other pads of that group on its device began."""
        velocity = velocity_of(value)
        groups: set[str] = set()
        for sending in sendings:
            if sending.send.mutes is not None and within(sending.send, velocity):
                groups.add(sending.send.mutes)
        if not groups:
            return
        device = device_of(key[0])
        for voice in self.sounding:
            ref = voice.key[0]
            own = (ref.rpartition("#")[0], voice.key[1]) == key
            if voice.strike.muted_by in groups and not own and device_of(ref) == device:
                self._sounding.cut(voice)

    def cut(self, control: str) -> list[Voice]:
        """Choke what a control ``device:control`` began; the voices that were cut."""
        cut = []
        for voice in self.sounding:
            if voice.key[0].rpartition("#")[0] == control:
                self._sounding.cut(voice)
                cut.append(voice)
        return cut

    def _send(
        self, key: KeyId, own: KeyId, sending: Sending, level: float, at: float, position: float
    ) -> list[Voice | Movement]:
        send = sending.send
        follows_hand = send.mode == "momentary" and send.drive is None
        if sending.notes:
            return self._send_notes(key, own, sending, int(level), at)
        if send.turning != "absolute" and send.message == "controller" and follows_hand:
            return self._turn(key, own, sending, at, position)
        exact = exact_value(send, position / 127) if follows_hand else float(level)
        fine = fine_of(exact) if send.message in FINE_SENT else None
        value = int(level) if fine is None else fine >> 7
        done: list[Voice | Movement] = []
        for motion in sending.motions:
            done.append(self._moved(key, motion, value, at, fine))
            self._hear(own, motion, value, follows_hand)
        return done

    def _turn(
        self, key: KeyId, own: KeyId, sending: Sending, at: float, position: float
    ) -> list[Voice | Movement]:
        """Tell by how many steps an endless control was turned; nothing where it was not."""
        steps = self._senders.steps_turned(own, position)
        if not steps:
            return []
        value = code_of(sending.send.turning, steps)
        return [self._moved(key, motion, value, at) for motion in sending.motions]

    def _send_notes(
        self, key: KeyId, own: KeyId, sending: Sending, velocity: int, at: float
    ) -> list[Voice | Movement]:
        """Strike what a pad's notes begin; a toggle's second press lets it go."""
        if not velocity:
            self.release(own, at)
            return []
        begun = self._sound(own, sending.notes, velocity, at, sending.send.muted_by)
        self._struck_by.setdefault(key, set()).add(own)
        if sending.send.mode == "momentary":
            down = self._down.setdefault(key, [])
            if own not in down:
                down.append(own)
        voices: list[Voice | Movement] = []
        for strike in begun:
            voices.extend(strike.voices)
        return voices

    def _moved(
        self, key: KeyId, motion: Motion, value: int, at: float, fine: int | None = None
    ) -> Movement:
        """Send a movement, and let targets take it."""
        moved = Movement(key, motion, value, at, fine)
        moved.times = self._traffic.send(
            motion.course, STATUS_OF[motion.message] | motion.channel, at, moved
        )
        self._targets.take(moved, key)
        return moved

    def move_at(
        self, ref: str, motion: Motion, value: int, at: float, fine: int | None = None
    ) -> Movement:
        """Let a raw controller leave the output ``device:port``; ``fine`` is all 14 bits."""
        kind = "" if motion.message == "controller" else f"#{motion.message}"
        key = (f"{ref}{kind}", motion.channel << 14 | motion.number)
        self._hear(key, motion, value, True)
        return self._moved(key, motion, value, at, fine)

    def _hear(self, key: KeyId, motion: Motion, value: int, by_hand: bool) -> None:
        if motion.message != "controller":
            return
        parts = set()
        for hearing in motion.hearings:
            if hearing.is_part:
                parts.add(hearing.ref)
        if motion.number == SUSTAIN:
            if value >= MIDDLE:
                self._pedals.setdefault(key, Held(set(), by_hand)).parts.update(parts)
            else:
                self._sounding.lift(key)
        elif motion.number in (ALL_NOTES_OFF, ALL_SOUND_OFF):
            self._sounding.silence(lambda landing: landing.ref in parts)

    def panic(self) -> list[Voice]:
        """Stop everything; the voices that were sounding."""
        stopped = list(self.sounding)
        for state in (
            self._sounding,
            self._held,
            self._down,
            self._struck_by,
            self._senders,
            self._targets,
            self._past_middle,
            self.functions,
        ):
            state.clear()
        self._traffic.clear()
        return stopped

    def held(self) -> list[KeyId]:
        """The keys and controls that are down."""
        return list(self._held)
