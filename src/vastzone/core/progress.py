"""How far long work is, and giving it up."""

from collections.abc import Callable

from vastzone.core.courtesy import give_way

Progress = Callable[[str, float], bool]
"""Hears what is done now and how much of the whole work is done (0–1); False asks to stop."""


class Cancelled(Exception):
    """The person gave up waiting."""


def go_on(progress: Progress | None, what: str, share: float) -> None:
    """Tell how far the work is.  Raises Cancelled when it is not wanted any more."""
    give_way()
    if progress is not None and not progress(what, share):
        raise Cancelled
