"""Reading files of any origin in bounded time and memory."""

import codecs
import errno
import os
import stat
from pathlib import Path

from vastzone.core.errors import DamagedFile, ReadError
from vastzone.core.say import say
from vastzone.core.text import quoted

MEGA = 1 << 20
PLAN_LIMIT, DEVICE_LIMIT, MIDI_LIMIT, TABLE_LIMIT = 48 * MEGA, 8 * MEGA, 32 * MEGA, 16 * MEGA
"""The largest files of each kind that are read, in bytes."""
WHY = {
    errno.ENOENT: say("it is not there"),
    errno.EACCES: say("you may not read it"),
    errno.EISDIR: say("it is a folder"),
    errno.ENAMETOOLONG: say("its name is too long"),
    errno.ELOOP: say("its link leads round in a circle"),
    errno.ENOTDIR: say("its folder is not there"),
}
BOMS = (
    (codecs.BOM_UTF8, "utf-8"),
    (codecs.BOM_UTF32_LE, "utf-32-le"),
    (codecs.BOM_UTF32_BE, "utf-32-be"),
    (codecs.BOM_UTF16_LE, "utf-16-le"),
    (codecs.BOM_UTF16_BE, "utf-16-be"),
)
BARE = ((b"\0\0\0", "utf-32-be"), (b"\0", "utf-16-be"))
"""How text of ASCII characters begins that is wider than UTF-8 and has no mark before it."""


def is_there(path: Path) -> bool:
    """Whether something of that name is there; no for names that no file can have."""
    return os.path.exists(path)


def read_whole(path: Path, limit: int) -> bytes:
    """The bytes of an ordinary file of at most ``limit`` bytes.  Raises ReadError."""
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError as error:
        raise unread(path, error) from None
    except ValueError:
        raise ReadError(
            say("“{path}” is no file name: choose another.", path=quoted(path))
        ) from None
    try:
        _refuse_odd(handle, path)
        data = _at_most(handle, limit + 1)
    except OSError as error:
        raise unread(path, error) from None
    finally:
        os.close(handle)
    if len(data) > limit:
        raise ReadError(
            say(
                "{path} is larger than {limit} MB, the most that is read of such a file: choose "
                "another.",
                path=quoted(path.name),
                limit=limit // MEGA,
            )
        )
    return data


def _refuse_odd(handle: int, path: Path) -> None:
    """Refuse folders, pipes and devices, of which some have no end."""
    status = os.fstat(handle)
    if stat.S_ISDIR(status.st_mode):
        raise ReadError(
            say(
                "{path} cannot be read: it is a folder. Choose a file in it.",
                path=quoted(path.name),
            )
        )
    if not stat.S_ISREG(status.st_mode):
        raise ReadError(
            say(
                "{path} cannot be read: it is no ordinary file. Choose another.",
                path=quoted(path.name),
            )
        )


def _at_most(handle: int, limit: int) -> bytes:
    """The beginning of a file, all of it where it is not longer than ``limit`` bytes."""
    pieces: list[bytes] = []
    left = limit
    while left and (piece := os.read(handle, min(left, MEGA))):
        pieces.append(piece)
        left -= len(piece)
    return b"".join(pieces)


def unread(path: Path, error: OSError) -> ReadError:
    """Why a file cannot be read, as a sentence."""
    why = WHY.get(error.errno or 0, error.strerror or str(error))
    return ReadError(
        say("{path} cannot be read ({why}): choose another file.", path=quoted(path.name), why=why)
    )


def text_of(data: bytes, name: str) -> str:
    """Text in UTF-8, UTF-16 or UTF-32, with or without a mark at its beginning.

    Raises DamagedFile with the line where it is no text.
    """
    coding, skip = _coding(data)
    try:
        return data[skip:].decode(coding)
    except UnicodeDecodeError as error:
        line = data[: skip + error.start].count(b"\n") + 1
        raise DamagedFile(
            say(
                "{name} is damaged at line {line}: what stands there is no text. Open a "
                "backup of it.",
                name=quoted(name),
                line=line,
            )
        ) from None


def _coding(data: bytes) -> tuple[str, int]:
    for mark, coding in BOMS:
        if data.startswith(mark):
            return coding, len(mark)
    for head, coding in BARE:
        if data.startswith(head):
            return coding, 0
    if data[1:4] == b"\0\0\0":
        return "utf-32-le", 0
    if data[1:2] == b"\0":
        return "utf-16-le", 0
    return "utf-8", 0
