"""Playing the current plan: strikes, pedals and what they sound, with a report of the last one."""

from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.hats import HatPlayer
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.report import Report, report_control, report_key
from vastzone.core.engine.tables import KeyId
from vastzone.core.engine.trace import TraceEntry
from vastzone.core.engine.voice import Voice
from vastzone.core.midi import pitch
from vastzone.core.midi.messages import Message
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.hats import Hat
from vastzone.core.plan.refs import device_of, read_ref, ref_to, thing_of
from vastzone.core.say import say
from vastzone.desk.signal import Signal

Due = tuple[Message, list[Voice | Movement]]
MOST_SENT = 20_000
"""Messages that are kept of what was struck; the oldest go first."""
STEPS = frozenset(("program up", "program down"))
"""Functions that put a device on another program."""
NO_KEYS = say("this plan has no keyboard that it belongs to. Add one in Rig, or choose another.")


class Stage:
    """Hands on the current plan.  Times are milliseconds of any steady clock."""

    def __init__(self, compiled: Compiled) -> None:
        self.struck = Signal("struck")
        self.sounding = Signal("sounding")
        self.stepped = Signal("stepped")
        """A control put its device on another program, in what is compiled now."""
        self.heard = Signal("heard")
        """A message came in, with the time in milliseconds, before it strikes anything."""
        self.performance = Performance(compiled)
        self.hats = HatPlayer(self.performance)
        self.last: Report | None = None
        self.real: Message | None = None
        """The message that is being played, where it truly came from a device."""
        self.sent: deque[tuple[float, Message]] = deque(maxlen=MOST_SENT)
        """What was struck, as it was sent, with its time in milliseconds."""
        self.unshown = 0
        """Messages of a flood that were played without being shown."""
        self._hushed, self._at = False, 0.0
        self._last_told: Callable[[], None] | None = None
        self.remark = ""
        """Why the last thing that came in struck nothing; empty when it struck something."""

    @contextmanager
    def together(self, unshown: int) -> Iterator[None]:
        """A flood of strikes: all of them sound, and only the last one is told of and shown.

        ``unshown`` is how many will not have been shown since the flood began.
        """
        self._hushed = True
        try:
            yield
        finally:
            self._hushed = False
            told, self._last_told = self._last_told, None
            if told is not None:
                told()
            self.unshown = unshown
            self.sounding.emit()

    def load(self, compiled: Compiled) -> None:
        """Go on with another plan or scene; what is held stays as it was struck."""
        self.performance.load(compiled)

    def press(self, bed: str, key: int, velocity: int, at: float) -> list[Voice]:
        """Strike a key of ``device:keybed``; a remark instead where the plan has no such keys."""
        if not self._has_keys(bed):
            self.stray(
                say(
                    "Note {pitch} struck nothing: {no_keys}",
                    pitch=pitch.label(key),
                    no_keys=NO_KEYS,
                )
            )
            return []
        self._at = at
        voices = self.performance.press((bed, key), velocity, at)
        device, keybed = read_ref(bed)
        compiled = self.performance.compiled
        self._report(partial(report_key, compiled, device, keybed, key, velocity, voices))
        return voices

    def release(self, bed: str, key: int, at: float) -> None:
        """Let a key go."""
        offs = {}
        for voice in self.performance.release((bed, key), at):
            sent = voice.emission
            offs[sent.channel, sent.note] = Message("note_off", sent.channel, sent.note)
        self.sent.extend((at, off) for off in offs.values())
        self._show()

    def move(self, control: KeyId, value: float, at: float) -> list[Voice | Movement]:
        """Move a control to 0–127; one that is gone only lets go what it began."""
        self._at = at
        done = self.performance.move(control, value, at)
        compiled = self.performance.compiled
        if not self._has_control(control[0]):
            self._show()
            return done
        self._report(self._control_told(compiled, control, value, done))
        self._step()
        return done

    def hit(self, control: KeyId, value: float, at: float) -> None:
        """Strike a control with a stick, or let it go at 0: a hat sounds as its pedal stands."""
        trodden = self.hats.hat_trodden(control[0])
        if trodden is not None:
            self.tread(trodden, value, at)
            return
        heard = self.hats.sounds_as(control)
        self._at = at
        done = self.hats.hit(control, value, at)
        if value <= 0 or not self._has_control(heard[0]):
            self._show()
            return
        compiled = self.performance.compiled
        self._report(self._control_told(compiled, heard, value, done))
        self._step()

    def _step(self) -> None:
        """Tell that a control put a device on another program."""
        if any(done.function in STEPS for done in self.performance.done):
            self.stepped.emit(self.performance.compiled)

    def tread(self, hat: Hat, position: float, at: float) -> None:
        """Move the pedal of a hat to 0 (up) – 127 (down)."""
        done = self.hats.tread(hat, position, at)
        if not hat.pedal or not any(isinstance(one, Voice) for one in done):
            self._show()
            return
        compiled = self.performance.compiled
        self._report(self._control_told(compiled, (hat.pedal, 1), position, done))

    def choke(self, hat: Hat, at: float) -> None:
        """A hand at the edge of a hat."""
        self.hats.choke(hat, at)
        self._show()

    def _control_told(
        self, compiled: Compiled, control: KeyId, value: float, done: list[Voice | Movement]
    ) -> Callable[[], Report]:
        """How the strike of a control is told of, later or now."""
        told = tuple(self.performance.done)
        return partial(report_control, compiled, control[0], round(value), done, control[1], told)

    def _report(self, report: Callable[[], Report]) -> None:
        """Tell of a strike and show what sounds; in a flood only of the last one, at its end."""
        if self._hushed:
            self._last_told = lambda: self._tell(report())
        else:
            self._tell(report())
            self.sounding.emit()

    def _show(self) -> None:
        if not self._hushed:
            self.sounding.emit()

    def stray(self, remark: str) -> None:
        """Something came in that belongs to nothing here: remark on it, once."""
        if remark != self.remark:
            self.last, self.remark, self.unshown = None, remark, 0
            self._show()

    def _device(self, ref: str) -> Device | None:
        wanted = device_of(ref)
        devices = self.performance.compiled.plan.devices
        return lookup.find(devices, wanted)

    def _has_keys(self, bed: str) -> bool:
        owner, wanted = self._device(bed), thing_of(bed)
        return owner is not None and any(keybed.id == wanted for keybed in owner.keybeds)

    def _has_control(self, control: str) -> bool:
        owner, wanted = self._device(control), thing_of(control)
        return owner is not None and any(each.id == wanted for each in owner.controls)

    def forget(self) -> None:
        """Another plan is opened: nothing sounds, and no strike is told of."""
        self.last, self.remark, self.unshown = None, "", 0
        self.performance.registration.clear()
        self.panic()

    def panic(self) -> None:
        """Stop everything."""
        self.performance.panic()
        self.hats.clear()
        self.sounding.emit()

    def tell_of(self, entry: TraceEntry, due: list[Due]) -> None:
        """Report the last note struck of those that a song had due."""
        for message, began in reversed(due):
            if message.kind != "note_on":
                continue
            if not self._has_keys(ref_to(entry.device, entry.keybed)):
                self.stray(say("The MIDI file struck nothing: {no_keys}", no_keys=NO_KEYS))
                return
            voices = []
            for one in began:
                if isinstance(one, Voice):
                    voices.append(one)
            compiled = self.performance.compiled
            struck = (entry.device, entry.keybed, message.first, message.second)
            self._tell(report_key(compiled, *struck, voices))
            return

    def _tell(self, report: Report) -> None:
        self.last, self.remark, self.unshown = report, "", 0
        self.sent.extend((self._at, message) for message in report.messages)
        self.struck.emit(report)

    def lit_keys(self) -> set[KeyId]:
        """The keys that are down."""
        return set(self.performance.held())

    def lit_notes(self) -> dict[int, list[int]]:
        """The notes that sound now, each with the colours of the parts that sound it."""
        lit: dict[int, list[int]] = {}
        for voice in list(self.performance.sounding):
            lit.setdefault(voice.landing.note, []).append(voice.landing.part.colour)
        return lit

    def sounding_parts(self) -> set[str]:
        """The parts that sound now, as ``device:part``."""
        return {voice.landing.ref for voice in list(self.performance.sounding)}
