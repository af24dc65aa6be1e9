"""Real MIDI inputs through python-rtmidi: ALSA and JACK, listening only, polled.

Nothing calls back: the library collects in a queue of its own, and whoever reads empties it.
"""

import contextlib
import os
import re
import stat
from collections import Counter
from collections.abc import Iterator
from typing import Any, Literal

from vastzone.core.errors import PortError
from vastzone.core.midi.messages import Message, from_bytes
from vastzone.core.say import say
from vastzone.ports.base import Input, Listing, PortName

Api = Literal["LINUX_ALSA", "UNIX_JACK"]
SYSTEM_NAMES: dict[Api, str] = {"LINUX_ALSA": "ALSA", "UNIX_JACK": "JACK"}
CLIENT = "Vast Zone"
WAITING = 1 << 16
"""Messages that the library keeps for us while the window does not read: more than a second of
the fastest flood that a line brings."""
TRY_AGAIN = 4
"""A system that is not there is looked for only every so many looks: it costs milliseconds."""
NO_LIBRARY = say(
    "Real MIDI ports need python-rtmidi, which is not installed: run “pip install python-rtmidi” "
    "(where it has to be built, with Debian’s g++, libasound2-dev and libjack-jackd2-dev)."
)


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


def _sockets() -> dict[int, int]:
    """The open sockets of this process: what identifies each, by its number."""
    by_inode = {}
    for name in os.listdir("/proc/self/fd"):
        with contextlib.suppress(OSError):
            status = os.fstat(int(name))
            if stat.S_ISSOCK(status.st_mode):
                by_inode[int(name)] = status.st_ino
    return by_inode


class _Line:
    """The connection to a server, by its sockets: they are closed when the server dies.

    The library itself goes on naming the ports of a dead server, and crashes where a new client is
    made before those of the dead one are let go.
    """

    def __init__(self, before: dict[int, int]) -> None:
        now = _sockets()
        self._mine = {fd: ident for fd, ident in now.items() if before.get(fd) != ident}

    @property
    def is_up(self) -> bool:
        """Whether the server is still there; always where no socket leads to one."""
        now = _sockets() if self._mine else {}
        return all(now.get(fd) == ident for fd, ident in self._mine.items())


class RealSystem:
    """One of the machine's MIDI systems; its inputs come and go while the program runs."""

    def __init__(self, api: Api) -> None:
        self.api: Api = api
        self._watch: Any = None
        self._line: _Line | None = None
        self._open: list[RealInput] = []
        self._missing = ""
        self._looks = 0

    def inputs(self) -> Listing:
        """What is plugged in now; a sentence instead where the system is not running."""
        system = SYSTEM_NAMES[self.api]
        if self._line is not None and not self._line.is_up:
            self.close()
        self._looks += 1
        if self._missing and self._looks % TRY_AGAIN:
            return Listing((), (self._missing,))
        try:
            with _quiet():
                names = self._watcher().get_ports()
        except ImportError:
            self._missing = NO_LIBRARY
        except Exception:  # rtmidi raises its own, the backend's and system errors alike
            self.close()
            self._missing = say("{system} is not running on this machine.", system=system)
        else:
            self._missing, self._looks = "", 0
            return Listing(stable_names(system, names))
        return Listing((), (self._missing,))

    def _watcher(self) -> Any:
        if self._watch is None:
            before = _sockets()
            self._watch = self._client(say("{client} list", client=CLIENT))
            self._line = _Line(before)
        return self._watch

    def _client(self, name: str) -> Any:
        import rtmidi

        os.environ.setdefault("JACK_NO_START_SERVER", "1")
        return rtmidi.MidiIn(getattr(rtmidi, f"API_{self.api}"), name, WAITING)

    def open_input(self, name: PortName) -> Input:
        """Listen to an input.  Raises PortError when it is gone or busy."""
        client: Any = None
        try:
            with _quiet():
                client = self._client(CLIENT)
                client.ignore_types(sysex=True, timing=True, active_sense=True)
                client.open_port(client.get_ports().index(name.raw))
        except Exception as error:
            if client is not None:
                client.delete()
            raise PortError(
                say(
                    "“{shown}” cannot be opened ({error}): plug it in again or choose another.",
                    shown=name.shown,
                    error=error,
                )
            ) from None
        opened = RealInput(name, client)
        self._open = [*(port for port in self._open if port.is_open), opened]
        return opened

    def close(self) -> None:
        """Let the system go, with all that is open: before anything new is made of it."""
        for port in self._open:
            port.close()
        self._open = []
        if self._watch is not None:
            with _quiet():
                self._watch.delete()
        self._watch = self._line = None


class RealInput:
    """An open real input."""

    def __init__(self, name: PortName, client: Any) -> None:
        self.name, self.lost = name, False
        self._client = client

    @property
    def is_open(self) -> bool:
        """Whether it still listens."""
        return self._client is not None

    def read(self) -> list[Message]:
        """The channel messages that came since the last read.

        ``lost`` says afterwards that so many had come that some may be missing.
        """
        messages: list[Message] = []
        client, count = self._client, 0
        while client is not None and count < WAITING and (got := client.get_message()) is not None:
            count += 1
            message = from_bytes(got[0])
            if message is not None:
                messages.append(message)
        self.lost = count >= WAITING - 1
        return messages

    def close(self) -> None:
        """Stop listening."""
        client, self._client = self._client, None
        if client is not None:
            with _quiet():
                client.close_port()
                client.delete()
