"""A simulated keyboard that ships with the program: it can be played, and can play by itself."""

from collections import deque

from vastzone.core.errors import PortError
from vastzone.core.midi.messages import Message
from vastzone.core.say import say
from vastzone.ports.base import Input, Listing, PortName

NAME = PortName("stand-in", "simulated keyboard", "Simulated keyboard")

WAITING = 1 << 16
"""Messages that a cable keeps for whoever reads; of more the oldest are lost."""
_STEP_MS = 240.0
_FIGURE = (40, 52, 59, 64, 67, 71, 76, 67, 88, 84, 79, 71)


class SimulatedKeyboard:
    """A keyboard without hardware.

    ``play`` puts a message on its cable.  While ``playing`` is set it adds a figure of its own;
    ``advance`` is told what time it is, in milliseconds, and catches up.
    """

    def __init__(self) -> None:
        self.playing = False
        self._cables: list[deque[Message]] = []
        self._next_ms = 0.0
        self._step = 0
        self._down: int | None = None

    def attach(self) -> deque[Message]:
        """A new cable: the queue that its messages arrive in."""
        cable: deque[Message] = deque(maxlen=WAITING)
        self._cables.append(cable)
        return cable

    def detach(self, cable: deque[Message]) -> None:
        """Pull a cable out."""
        self._cables = [kept for kept in self._cables if kept is not cable]

    def play(self, message: Message) -> None:
        """Send a message to every cable."""
        for cable in self._cables:
            cable.append(message)

    def start(self, now_ms: float) -> None:
        """Begin to play by itself."""
        self.playing, self._next_ms, self._step = True, now_ms, 0

    def stop(self) -> None:
        """Stop playing by itself and let the last key go."""
        self.playing = False
        self._let_go()

    def advance(self, now_ms: float) -> None:
        """Play what is due by now."""
        while self.playing and self._next_ms <= now_ms:
            self._let_go()
            note = _FIGURE[self._step % len(_FIGURE)]
            self.play(Message("note_on", 0, note, 60 + (self._step * 37) % 60))
            self._down = note
            self._step += 1
            self._next_ms += _STEP_MS

    def _let_go(self) -> None:
        if self._down is not None:
            self.play(Message("note_off", 0, self._down))
            self._down = None


class StandInInput:
    """An input at the end of a cable from the simulated keyboard."""

    def __init__(self, keyboard: SimulatedKeyboard) -> None:
        self.name, self.lost = NAME, False
        self._keyboard = keyboard
        self._cable = keyboard.attach()

    def read(self) -> list[Message]:
        """The messages that came since the last read."""
        cable = self._cable
        self.lost = len(cable) == cable.maxlen
        return [cable.popleft() for _ in range(len(cable))]

    def close(self) -> None:
        """Pull the cable out."""
        self._keyboard.detach(self._cable)


class StandIn:
    """The system of simulated ports."""

    def __init__(self) -> None:
        self.keyboard = SimulatedKeyboard()

    def inputs(self) -> Listing:
        """Always the one keyboard."""
        return Listing((NAME,))

    def open_input(self, name: PortName) -> Input:
        """Listen to the simulated keyboard.  Raises PortError for any other name."""
        if name != NAME:
            raise PortError(
                say("There is no input “{shown}”: choose one from the list.", shown=name.shown)
            )
        return StandInInput(self.keyboard)
