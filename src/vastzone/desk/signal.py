"""The one event system: something happened, and whoever connected is told.

A connection to a method does not keep its object alive.  An error in a receiver is raised with a
note that names the signal and the receiver.
"""

import weakref
from collections.abc import Callable
from typing import Any

Receiver = Callable[..., object]


class Signal:
    """Something that can happen."""

    def __init__(self, name: str) -> None:
        self.name = name
        self._receivers: list[Callable[[], Receiver | None]] = []

    def connect(self, receiver: Receiver) -> None:
        """Tell ``receiver`` from now on, after those that connected before."""
        if hasattr(receiver, "__self__") and hasattr(receiver, "__func__"):
            self._receivers.append(weakref.WeakMethod(receiver))
        else:
            self._receivers.append(lambda: receiver)

    def disconnect(self, receiver: Receiver) -> None:
        """Tell this one no longer."""
        self._receivers = [held for held in self._receivers if held() not in (None, receiver)]

    def disconnect_all(self) -> None:
        """Tell nobody any more."""
        self._receivers.clear()

    def emit(self, *values: Any) -> None:
        """It happened."""
        for held in tuple(self._receivers):
            receiver = held()
            if receiver is None:
                if held in self._receivers:
                    self._receivers.remove(held)
                continue
            try:
                receiver(*values)
            except Exception as error:
                who = getattr(receiver, "__qualname__", repr(receiver))
                error.add_note(f"while {who} was told of “{self.name}”")
                raise
