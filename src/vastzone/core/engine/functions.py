"""What pedals, foot switches and pads do in their own device: holding, tempo, steps, programs."""

from typing import NamedTuple

from vastzone.core.engine.sounding import Held, Sounding
from vastzone.core.engine.tables import KeyId
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.plan import Device, ProgramChoice, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.core.timing.repeat import LATEST_TAP, tapped_bpm


class Done(NamedTuple):
    """Something that a device did because of a control, and how it stands since then."""

    control: str
    function: Function
    stands: str


class DeviceState:
    """How a device stands in everything that can be told by tapping."""

    __slots__ = ("fast", "gate", "latched", "running", "soft", "steps", "taps", "tempo")

    def __init__(self) -> None:
        self.tempo: float | None = None
        self.taps: list[float] = []
        self.steps = 0
        self.fast = self.running = self.gate = self.soft = self.latched = False


class Functions:
    """The states of every device, and what a press and a release of a control make of them."""

    def __init__(self, sounding: Sounding) -> None:
        self._sounding = sounding
        self._states: dict[str, DeviceState] = {}
        self._down: dict[KeyId, list[tuple[Function, str]]] = {}

    def state(self, device: str) -> DeviceState:
        """How a device stands."""
        return self._states.setdefault(device, DeviceState())

    def clear(self) -> None:
        """Everything is as after switching on, but for tempi."""
        for state in self._states.values():
            tempo = state.tempo
            state.__init__()  # type: ignore[misc]
            state.tempo = tempo
        self._down.clear()

    def press(self, device: Device, control: Control, bank: int, does: Function, at: float) -> Done:
        """A control is pressed that does something in its device; ``at`` milliseconds."""
        key = (ref_to(device.id, control.id), bank)
        state = self.state(device.id)
        self._down.setdefault(key, []).append((does, device.id))
        if does in ("sustain", "sostenuto", "hold"):
            self._hold(_own(key, does), device, does)
            return Done(key[0], does, "down")
        if does == "latch":
            return Done(key[0], does, self._latch(device, state))
        if does == "tap tempo":
            return Done(key[0], does, _tap(state, control.taps, at))
        if does == "stop loops":
            stopped = self._stop_loops(device)
            return Done(key[0], does, say("{stopped} stopped", stopped=stopped))
        return Done(key[0], does, _flip(state, does))

    def let_go(self, key: KeyId) -> None:
        """A control comes up: what it held in its device ends, whatever the scene says now."""
        for does, device in self._down.pop(key, ()):
            if does in ("sustain", "sostenuto", "hold"):
                self._sounding.lift(_own(key, does))
            elif does == "soft":
                self.state(device).soft = False
            elif does == "gate":
                self.state(device).gate = False

    def _hold(self, own: KeyId, device: Device, does: Function) -> None:
        parts = {ref_to(device.id, part.id) for part in device.parts}
        only = frozenset(self._sounding.strikes) if does == "sostenuto" else None
        held = Held(parts, by_hand=False, every=does in ("hold", "latch"), only=only)
        self._sounding.pedals[own] = held

    def _latch(self, device: Device, state: DeviceState) -> str:
        """A tap holds what sounds and what is struck until the next tap."""
        own = (f"{device.id}#latch", 0)
        state.latched = not state.latched
        if state.latched:
            self._hold(own, device, "latch")
        else:
            self._sounding.lift(own)
        return say("on") if state.latched else say("off")

    def _stop_loops(self, device: Device) -> int:
        loops = []
        parts = {ref_to(device.id, part.id) for part in device.parts}
        for voice in self._sounding.voices:
            if voice.landing.ref in parts and voice.landing.part.trigger == "toggle":
                loops.append(voice)
        for voice in loops:
            self._sounding.cut(voice)
        return len(loops)


def _own(key: KeyId, does: Function) -> KeyId:
    """How what a control holds is told from what its messages hold."""
    return f"{key[0]}#{does}", key[1]


def _flip(state: DeviceState, does: Function) -> str:
    """What only changes a state: a step, or one of two sides."""
    if does == "step":
        state.steps += 1
        return say("step {steps}", steps=state.steps)
    if does == "speed":
        state.fast = not state.fast
        return say("fast") if state.fast else say("slow")
    if does == "start or stop":
        state.running = not state.running
        return say("runs") if state.running else say("stands still")
    if does == "soft":
        state.soft = True
        return say("down")
    if does == "gate":
        state.gate = True
        return say("open")
    return ""


def _tap(state: DeviceState, wanted: int, at: float) -> str:
    """Count a tap; from the last of those wanted on, their mean sets the tempo."""
    if state.taps and at - state.taps[-1] > LATEST_TAP:
        state.taps.clear()
    state.taps = [*state.taps, at][-wanted:]
    bpm = tapped_bpm(state.taps) if len(state.taps) == wanted else None
    if bpm is None:
        return say("tap {count} of {wanted}", count=len(state.taps), wanted=wanted)
    state.tempo = bpm
    return say("tempo {bpm:.1f}", bpm=bpm)


def stepped(scene: Scene | None, device: Device, up: bool) -> Scene | None:
    """The scene as it is once a device went to its next or previous stored program.

    None where there is no other one: at the last, unless its buttons go round.
    """
    numbers = sorted(program.number for program in device.programs)
    now = lookup.program_number(scene, device)
    if now not in numbers:
        return None
    place = numbers.index(now) + (1 if up else -1)
    if not 0 <= place < len(numbers) and device.storage.step != "goes round":
        return None
    number = numbers[place % len(numbers)]
    if number == now:
        return None
    choices = [choice for choice in scene.programs if choice.device != device.id] if scene else []
    choices.append(ProgramChoice(device=device.id, program=number))
    song = scene if scene is not None else Scene(id="played", name=say("Played"))
    return changed(song, programs=tuple(choices))
