"""What the program remembers of a person between sessions: recent plans, the theme."""

import contextlib
from pathlib import Path
from typing import Literal

import msgspec

LONGEST = 8


class Preferences(msgspec.Struct, frozen=True):
    """Everything remembered; unknown fields of other versions are ignored."""

    theme: Literal["day", "stage"] = "day"
    recent: tuple[str, ...] = ()

    def opened(self, path: Path) -> "Preferences":
        """With a plan at the head of the recent ones."""
        name = str(path.resolve())
        rest = tuple(held for held in self.recent if held != name)
        return msgspec.structs.replace(self, recent=(name, *rest)[:LONGEST])


def load(path: Path) -> Preferences:
    """The preferences in a file; the defaults where it is absent or damaged."""
    try:
        return msgspec.json.decode(path.read_bytes(), type=Preferences)
    except (OSError, msgspec.DecodeError):
        return Preferences()


def store(preferences: Preferences, path: Path) -> None:
    """Write the preferences; a folder that cannot be written is no reason to stop."""
    with contextlib.suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(msgspec.json.encode(preferences))
