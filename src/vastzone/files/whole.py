"""Writing a file whole or not at all: the old one stands until the new one is on the disk.

A link is followed to its file, which keeps its owner, mode and extended attributes where it may.
"""

import contextlib
import errno
import fcntl
import os
import stat
from pathlib import Path
from secrets import token_hex

from vastzone.core.errors import WriteError
from vastzone.core.say import say
from vastzone.core.text import quoted

UNFINISHED = ".saving"
"""The ending of what is not whole yet; its writer holds a lock on it."""
WHY = {
    errno.ENAMETOOLONG: say("its name is too long: choose a shorter one"),
    errno.ENOSPC: say("the disk is full: make room or choose another place"),
    errno.EROFS: say("the place can only be read: choose another"),
    errno.EACCES: say("you may not write there: choose another place"),
    errno.EPERM: say("you may not write there: choose another place"),
    errno.ENOENT: say("that folder is not there: choose another"),
    errno.ENOTDIR: say("a file stands where a folder should be: choose another place"),
    errno.EISDIR: say("a folder of that name is there: choose another name"),
    errno.ELOOP: say("its link leads round in a circle: choose another place"),
    errno.EEXIST: say("a file of that name is there already: choose another name"),
}


def write_whole(
    data: bytes, path: Path, what: str, *, replace: bool = True, mode: int | None = None
) -> None:
    """Write a file.  Raises WriteError, which says ``what`` could not be written and why.

    Without ``replace`` a file that is there stays.  ``mode`` are the permissions of a new file;
    those that the person's umask leaves when None.
    """
    try:
        target = _target(path)
        _refuse_odd(target, path)
        clean(target.parent)
        _write(data, target, replace, mode)
    except OSError as error:
        raise _unwritten(what, path, error) from None
    except ValueError:
        raise WriteError(
            say("{what} cannot be written: “{path}” is no file name.", what=what, path=quoted(path))
        ) from None


def make_folder(folder: Path) -> None:
    """A folder to write into, where it is not there yet.  Raises WriteError."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or say("no such name can be given")
        raise WriteError(
            say(
                "The folder {folder} cannot be made ({why}): choose another folder.",
                folder=quoted(folder),
                why=why,
            )
        ) from None


def _unwritten(what: str, path: Path, error: OSError) -> WriteError:
    why = WHY.get(
        error.errno or 0, say("{strerror}: choose another place", strerror=error.strerror or error)
    )
    return WriteError(
        say("{what} cannot be written to {path}: {why}.", what=what, path=quoted(path), why=why)
    )


def _target(path: Path) -> Path:
    """The file that a chain of links leads to, there or not."""
    try:
        return path.resolve(strict=False) if path.is_symlink() else path.absolute()
    except RuntimeError:  # links that lead round in a circle, before Python 3.13
        raise OSError(errno.ELOOP, "a circle of links") from None


def _refuse_odd(target: Path, path: Path) -> None:
    """Refuse what is no file, and a file that may only be read."""
    try:
        status = target.stat()
    except FileNotFoundError:
        return
    if stat.S_ISDIR(status.st_mode):
        raise IsADirectoryError(errno.EISDIR, "a folder")
    if not stat.S_ISREG(status.st_mode):
        raise WriteError(
            say("{path} is no ordinary file: choose another name.", path=quoted(path.name))
        )
    if not status.st_mode & 0o222 or not os.access(target, os.W_OK):
        raise WriteError(
            say(
                "{path} may only be read: save under another name, or allow writing it.",
                path=quoted(path.name),
            )
        )


def _write(data: bytes, target: Path, replace: bool, mode: int | None) -> None:
    temporary = target.parent / f".{os.getpid()}-{token_hex(4)}{UNFINISHED}"
    flags = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC
    handle = os.open(temporary, flags, 0o600)
    try:
        with os.fdopen(handle, "wb") as file:
            with contextlib.suppress(OSError):  # some network folders know no locks
                fcntl.flock(file, fcntl.LOCK_EX)
            file.write(data)
            file.flush()
            _like(file.fileno(), target, mode)
            os.fsync(file.fileno())
            _put(temporary, target, replace)
    except BaseException:
        with contextlib.suppress(OSError):
            temporary.unlink()
        raise
    _sync(target.parent)


def _put(temporary: Path, target: Path, replace: bool) -> None:
    """Give the finished file its name, at once; a name that is taken stays where it must."""
    if replace:
        temporary.replace(target)
        return
    try:
        os.link(temporary, target)
        temporary.unlink()
    except PermissionError:  # a file system without hard links
        if target.exists():
            raise FileExistsError(errno.EEXIST, "exists") from None
        temporary.replace(target)


def _like(handle: int, target: Path, mode: int | None) -> None:
    """Give a new file the owner, permissions and attributes of the one that it replaces."""
    try:
        status = target.stat()
    except FileNotFoundError:
        os.fchmod(handle, 0o666 & ~_umask() if mode is None else mode)
        return
    with contextlib.suppress(OSError):
        os.fchown(handle, status.st_uid, status.st_gid)
    os.fchmod(handle, stat.S_IMODE(status.st_mode))
    with contextlib.suppress(OSError):
        for name in os.listxattr(target):
            with contextlib.suppress(OSError):
                os.setxattr(handle, name, os.getxattr(target, name))


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def _sync(folder: Path) -> None:
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def clean(folder: Path) -> None:
    """Remove what writers that were killed left unfinished in a folder."""
    with contextlib.suppress(OSError):
        for left in folder.glob(f".*{UNFINISHED}"):
            _remove_unheld(left)


def _remove_unheld(left: Path) -> None:
    """Remove an unfinished file whose writer is gone: it neither runs nor holds the lock."""
    if _runs(left.name.lstrip(".").partition("-")[0]):
        return
    with contextlib.suppress(OSError), left.open("rb") as file:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        left.unlink()


def _runs(number: str) -> bool:
    """Whether a process of that number runs."""
    try:
        os.kill(int(number), 0)
    except (ValueError, ProcessLookupError, OverflowError):
        return False
    except PermissionError:
        return True
    return True
