"""The one event system: something happened, and whoever connected is told.

Made of psygnal's signals, one for each receiver, so that a receiver that fails does not keep the
others from being told.  A connection to a method does not keep its object alive.
"""

from collections.abc import Callable
from typing import Any

from psygnal import EmitLoopError, SignalInstance

Receiver = Callable[..., object]


class Signal:
    """Something that can happen."""

    def __init__(self, name: str) -> None:
        self.name = name
        self._receivers: list[SignalInstance] = []

    def connect(self, receiver: Receiver) -> None:
        """Tell ``receiver`` from now on, after those that connected before."""
        one = SignalInstance(name=self.name, check_nargs_on_connect=False)
        one.connect(receiver, check_nargs=False, on_ref_error="ignore")
        self._receivers.append(one)

    def disconnect(self, receiver: Receiver) -> None:
        """Tell this one no longer."""
        for one in self._receivers:
            one.disconnect(receiver, missing_ok=True)
        self._forget_gone()

    def disconnect_all(self) -> None:
        """Tell nobody any more."""
        self._receivers.clear()

    def emit(self, *values: Any) -> None:
        """It happened: tell everyone, then raise the first error, with a note on where it arose."""
        failed: list[BaseException] = []
        for one in tuple(self._receivers):
            try:
                one.emit(*values)
            except EmitLoopError as error:
                cause = error.__cause__ or error
                cause.add_note(str(error).strip())
                failed.append(cause)
        self._forget_gone()
        if failed:
            raise failed[0]

    def _forget_gone(self) -> None:
        """Drop receivers whose objects are no more."""
        self._receivers = [one for one in self._receivers if len(one)]
