"""What the program remembers of a person between sessions: recent plans, theme, what is folded."""

import contextlib
from pathlib import Path
from typing import Annotated, Literal

import msgspec

from vastzone.core.errors import PlanError
from vastzone.core.say import say
from vastzone.files.reading import MEGA, is_there, read_whole
from vastzone.files.whole import clean, write_whole

LONGEST = 8
SIZES = (100, 110, 125, 150, 175)
"""The sizes of text, in per cent."""
DAMAGED = ".damaged"


class Preferences(msgspec.Struct, frozen=True):
    """Everything remembered; unknown fields of other versions are ignored.

    ``text`` is the size of text in per cent, 0 until one is chosen.  ``place`` is where the window
    was: left, top, width and height.
    """

    theme: Literal["day", "stage"] = "day"
    initials: Annotated[str, msgspec.Meta(max_length=12)] = ""
    facts_folded: bool = False
    strip_folded: bool = False
    text: Annotated[int, msgspec.Meta(ge=0, le=SIZES[-1])] = 0
    place: tuple[int, int, int, int] | None = None
    maximized: bool = False
    recent: Annotated[tuple[str, ...], msgspec.Meta(max_length=100)] = ()

    def opened(self, path: Path) -> "Preferences":
        """With a plan at the head of the recent ones."""
        name = str(path.absolute())
        rest = tuple(earlier for earlier in self.recent if earlier != name)
        return msgspec.structs.replace(self, recent=(name, *rest)[:LONGEST])


def place(folder: Path) -> Path:
    """Where the preferences are kept in the program's folder."""
    return folder / "preferences.json"


def load(path: Path) -> tuple[Preferences, str]:
    """The preferences in a file, and a remark where it was damaged and set aside.

    The defaults where it is absent, damaged or cannot be read.
    """
    clean(path.parent)
    if not is_there(path):
        return Preferences(), ""
    try:
        stored = msgspec.json.decode(read_whole(path, MEGA), type=Preferences)
        names = tuple(name for name in stored.recent if name and "\0" not in name)
        return msgspec.structs.replace(stored, recent=names[:LONGEST]), ""
    except (PlanError, msgspec.DecodeError, RecursionError, ValueError):
        aside = path.with_name(path.name + DAMAGED)
        with contextlib.suppress(OSError):
            path.replace(aside)
        return Preferences(), (
            say(
                "What the program remembered of recent plans and the theme was damaged: it was set "
                "aside as {aside}.",
                aside=aside,
            )
        )


def store(preferences: Preferences, path: Path) -> None:
    """Write the preferences; a folder that cannot be written is no reason to stop."""
    with contextlib.suppress(OSError, PlanError):
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(msgspec.json.encode(preferences), path, say("The preferences"))
