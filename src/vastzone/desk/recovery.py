"""Autosave: a copy of the changed plan beside the program's own data, found again after a crash.

Each running program holds a lock on its copy, so a copy that nobody holds was left by a crash.
"""

import contextlib
import os
from pathlib import Path
from typing import IO, NamedTuple

from vastzone.core.errors import PlanError
from vastzone.core.plan.model import Plan
from vastzone.files import native


class Leftover(NamedTuple):
    """A plan that a crash left behind, and the file it had been opened from."""

    plan: Plan
    path: Path | None
    copy: Path


class Autosave:
    """This program's own copy."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._copy = folder / f"{os.getpid()}-{id(self):x}{native.SUFFIX}"
        self._lock: IO[str] | None = None

    def keep(self, plan: Plan, path: Path | None) -> bool:
        """Write the copy; False when the folder cannot be written (nothing is lost by that)."""
        import fcntl
        import json

        try:
            self._folder.mkdir(parents=True, exist_ok=True)
            if self._lock is None:
                self._lock = self._lock_path.open("w")
                fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            self._copy.with_suffix(".origin").write_text(json.dumps(str(path) if path else None))
            native.write(plan, self._copy)
        except (OSError, PlanError):
            return False
        return True

    @property
    def _lock_path(self) -> Path:
        return self._copy.with_suffix(".lock")

    def drop(self) -> None:
        """Remove the copy: the plan is saved or given up."""
        discard(self._copy)
        if self._lock is not None:
            self._lock.close()
            self._lock = None
        self._lock_path.unlink(missing_ok=True)


def discard(copy: Path) -> None:
    """Remove a copy and what belongs to it."""
    for path in (copy, copy.with_suffix(".origin")):
        with contextlib.suppress(OSError):
            path.unlink(missing_ok=True)


def leftovers(folder: Path) -> tuple[Leftover, ...]:
    """The copies that no running program holds, newest first."""
    found = []
    copies = sorted(folder.glob(f"*{native.SUFFIX}"), key=lambda p: -p.stat().st_mtime)
    for copy in copies:
        if _held(copy.with_suffix(".lock")):
            continue
        with contextlib.suppress(PlanError):
            found.append(Leftover(native.read(copy), _origin(copy), copy))
    return tuple(found)


def _held(lock: Path) -> bool:
    import fcntl

    try:
        with lock.open() as file:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return False
    return False


def _origin(copy: Path) -> Path | None:
    import json

    try:
        text = json.loads(copy.with_suffix(".origin").read_text())
    except (OSError, ValueError):
        return None
    return Path(text) if isinstance(text, str) else None
