"""Real MIDI inputs through mido and python-rtmidi: ALSA and JACK, listening only."""

import contextlib
import os
import re
from collections import Counter
from collections.abc import Iterator
from typing import Any, Literal

from vastzone.core.errors import PortError
from vastzone.core.midi.messages import Message, from_bytes
from vastzone.ports.base import Input, Listing, PortName

Api = Literal["LINUX_ALSA", "UNIX_JACK"]
SYSTEM_NAMES: dict[Api, str] = {"LINUX_ALSA": "ALSA", "UNIX_JACK": "JACK"}
CLIENT = "Vast Zone"


@contextlib.contextmanager
def _quiet() -> Iterator[None]:
    """Keep the MIDI libraries from writing their own complaints to the terminal."""
    kept, hole = os.dup(2), os.open(os.devnull, os.O_WRONLY)
    try:
        os.dup2(hole, 2)
        yield
    finally:
        os.dup2(kept, 2)
        os.close(kept)
        os.close(hole)


def stable_names(system: str, raw: list[str]) -> tuple[PortName, ...]:
    """Names without the numbers that change at every plugging in; twins are counted."""
    shown, seen = [], Counter[str]()
    for name in raw:
        plain = re.sub(r"\s+\d+:\d+$", "", name)
        client, _, port = plain.partition(":")
        words = client if port.startswith(client) or not port else f"{client}, {port}"
        seen[words] += 1
        shown.append(words if seen[words] == 1 else f"{words} ({seen[words]})")
    return tuple(PortName(system, r, f"{s} · {system}") for r, s in zip(raw, shown, strict=True))


class RealSystem:
    """One of the machine's MIDI systems; its inputs come and go while the program runs."""

    def __init__(self, api: Api) -> None:
        self.api: Api = api
        self._watch: Any = None

    def inputs(self) -> Listing:
        """What is plugged in now; a sentence instead where the system is not running."""
        system = SYSTEM_NAMES[self.api]
        try:
            with _quiet():
                return Listing(stable_names(system, self._watcher().get_ports()))
        except Exception:  # rtmidi raises its own, the backend's and system errors alike
            self._watch = None
            return Listing((), (f"{system} is not running on this machine.",))

    def _watcher(self) -> Any:
        if self._watch is None:
            import rtmidi

            os.environ.setdefault("JACK_NO_START_SERVER", "1")
            self._watch = rtmidi.MidiIn(getattr(rtmidi, f"API_{self.api}"), f"{CLIENT} list")
        return self._watch

    def open_input(self, name: PortName) -> Input:
        """Listen to an input.  Raises PortError when it is gone or busy."""
        import mido

        try:
            with _quiet():
                backend = mido.Backend(f"mido.backends.rtmidi/{self.api}")
                return RealInput(name, backend.open_input(name.raw))
        except Exception as error:
            raise PortError(
                f"“{name.shown}” cannot be opened ({error}): plug it in again or choose another."
            ) from None

    def close(self) -> None:
        """Let the system go."""
        if self._watch is not None:
            self._watch.delete()
            self._watch = None


class RealInput:
    """An open real input."""

    def __init__(self, name: PortName, port: Any) -> None:
        self.name, self._port = name, port

    def read(self) -> list[Message]:
        """The channel messages that came since the last read."""
        arrived = (from_bytes(m.bytes()) for m in self._port.iter_pending())
        return [message for message in arrived if message is not None]

    def close(self) -> None:
        """Stop listening."""
        with _quiet():
            self._port.close()
