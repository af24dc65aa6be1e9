"""The one clock of the window."""

from time import monotonic


def now_ms() -> float:
    """Milliseconds of a steady clock."""
    return monotonic() * 1000.0
