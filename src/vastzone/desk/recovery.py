"""Autosave: a copy of the changed plan beside the program's own data, found again after a crash.

Each running program holds a lock for as long as it runs.  What belongs to a lock that nobody holds
was left by a crash: the copy is offered, what cannot be read is set aside, the rest is cleared.
"""

import contextlib
import faulthandler
import json
import os
import threading
from collections.abc import Callable
from functools import partial
from pathlib import Path
from secrets import token_hex
from typing import IO, NamedTuple

from filelock import FileLock, Timeout

from vastzone.core.errors import PlanError
from vastzone.core.memory.model import Memory
from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.files import native
from vastzone.files.reading import is_there
from vastzone.files.state import keep_report
from vastzone.files.whole import clean, write_whole

OWNER_ONLY, FOLDER_ONLY = 0o600, 0o700
ASIDE = "set-aside"
LOCK, ORIGIN, FAULT = ".lock", ".origin", ".fault"
ENDINGS = (native.SUFFIX, ORIGIN, FAULT, LOCK)


class Leftover(NamedTuple):
    """A plan that a crash left behind, the file it had been opened from, its copy, and where the
    report of the crash is; nothing where the process was only stopped.

    It is this program's to offer until it is discarded or kept.
    """

    plan: Plan
    path: Path | None
    copy: Path
    crash: str
    memory: Memory | None = None


class Leftovers(NamedTuple):
    """What was left behind: the plans to offer, newest first, and what was set aside, in words."""

    offers: tuple[Leftover, ...] = ()
    remarks: tuple[str, ...] = ()


class Autosave:
    """This program's own copy."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._copy = folder / f"{os.getpid()}-{token_hex(4)}{native.SUFFIX}"
        self._lock: FileLock | None = None
        self._fault: IO[str] | None = None
        self._writing = threading.Lock()
        self._asked = self._settled = 0

    @property
    def copy(self) -> Path:
        """Where the copy is, once there is one."""
        return self._copy

    def keep(self, plan: Plan, path: Path | None, memory: Memory | None = None) -> bool:
        """Write the copy; False when the folder cannot be written (nothing is lost by that)."""
        return self.keeping(plan, path, memory)()

    def keeping(
        self, plan: Plan, path: Path | None, memory: Memory | None = None
    ) -> Callable[[], bool]:
        """What writes the copy, in any thread: a slow disk then holds nobody up.

        A newer copy is not written over, and one that was dropped in the meantime does not stay.
        """
        self._asked += 1
        return partial(self._keep, plan, path, memory, self._asked)

    def _keep(self, plan: Plan, path: Path | None, memory: Memory | None, number: int) -> bool:
        with self._writing:
            if number < self._settled:
                return False
            try:
                self._begin()
                origin = json.dumps(str(path) if path else None).encode()
                write_whole(
                    origin, self._copy.with_suffix(ORIGIN), say("The copy"), mode=OWNER_ONLY
                )
                write_whole(
                    native.to_json(plan, memory), self._copy, say("The copy"), mode=OWNER_ONLY
                )
            except (OSError, PlanError, NotImplementedError):
                return False
            if number < self._settled:
                self._remove()
                return False
            self._settled = number
            return True

    def _begin(self) -> None:
        """Take the lock: from now on what is here belongs to this program."""
        self._folder.mkdir(parents=True, exist_ok=True, mode=FOLDER_ONLY)
        if self._lock is None:
            lock = FileLock(self._copy.with_suffix(LOCK), mode=OWNER_ONLY, thread_local=False)
            lock.acquire(timeout=0)
            self._lock = lock

    def watch(self) -> None:
        """Write down where the process crashes, if it does."""
        with contextlib.suppress(OSError, Timeout, NotImplementedError):
            self._begin()
            place = self._copy.with_suffix(FAULT)
            self._fault = place.open("w", encoding="utf-8")
            place.chmod(OWNER_ONLY)
            faulthandler.enable(self._fault)

    def drop(self) -> None:
        """Remove the copy: the plan is saved or given up.

        A copy that is being written is not waited for; its writer removes it.
        """
        self._settle_all()
        self._remove()

    def _settle_all(self) -> None:
        """What was asked for until now is not wanted any more."""
        self._settled = self._asked = self._asked + 1

    def _remove(self) -> None:
        for ending in (native.SUFFIX, ORIGIN):
            _unlink(self._copy.with_suffix(ending))

    def close(self) -> None:
        """The program ends as it should: nothing of it is left."""
        self._settle_all()
        with self._writing:
            self._close()

    def _close(self) -> None:
        if self._fault is not None:
            faulthandler.disable()
            self._fault.close()
            self._fault = None
        discard(self._copy)
        if self._lock is not None:
            self._lock.release()
            self._lock = None


_offered: dict[Path, FileLock] = {}
"""The locks of copies that this program offers, so that no other one offers them too."""


def discard(copy: Path) -> None:
    """Remove a copy and what belongs to it."""
    for ending in ENDINGS:
        _unlink(copy.with_suffix(ending))
    lock = _offered.pop(copy, None)
    if lock is not None:
        lock.release()


def _unlink(path: Path) -> None:
    with contextlib.suppress(OSError):
        path.unlink(missing_ok=True)


def leftovers(folder: Path) -> Leftovers:
    """What programs that run no more left behind; nothing of those that still run."""
    clean(folder)
    offers: list[Leftover] = []
    remarks: list[str] = []
    for copy in _unheld(folder):
        crash = _kept(copy.with_suffix(FAULT))
        if not is_there(copy):
            if crash:
                remarks.append(
                    say(
                        "The program crashed when it last ran; no work was left unsaved. {crash}",
                        crash=crash,
                    )
                )
            discard(copy)
            continue
        try:
            rig = native.read_rig(copy)
            offers.append(Leftover(rig.plan, _origin(copy), copy, crash, rig.memory))
        except PlanError:
            remarks.append(_set_aside(copy, say("A copy of unsaved work is damaged")))
    offers.sort(key=lambda left: -_written(left.copy))
    newest, older = _one_a_plan(offers)
    remarks += [_set_aside(left.copy, say("An older copy was found too")) for left in older]
    return Leftovers(tuple(newest), tuple(remarks))


def _unheld(folder: Path) -> list[Path]:
    """The copies, there or not, whose program runs no more; their locks are held from now on."""
    with contextlib.suppress(OSError):
        stems = set()
        for path in folder.iterdir():
            if path.suffix in ENDINGS:
                stems.add(path.stem)
        copies = [folder / f"{stem}{native.SUFFIX}" for stem in sorted(stems)]
        taken = []
        for copy in copies:
            if _take(copy):
                taken.append(copy)
        return taken
    return []


def _take(copy: Path) -> bool:
    if copy in _offered:
        return False
    lock = FileLock(copy.with_suffix(LOCK), mode=OWNER_ONLY, thread_local=False)
    try:
        lock.acquire(timeout=0)
    except (Timeout, OSError, NotImplementedError):
        return False
    _offered[copy] = lock
    return True


def _one_a_plan(offers: list[Leftover]) -> tuple[list[Leftover], list[Leftover]]:
    """The newest copy of each plan, and the others: plans never saved are told by what they say."""
    newest: dict[object, Leftover] = {}
    older = []
    for left in offers:
        key = left.path if left.path is not None else native.to_json(left.plan)
        if key in newest:
            older.append(left)
        else:
            newest[key] = left
    return list(newest.values()), older


def _set_aside(copy: Path, what: str) -> str:
    """Move a copy to where nobody trips over it, and say so."""
    place = copy.parent / ASIDE
    with contextlib.suppress(OSError):
        place.mkdir(exist_ok=True, mode=FOLDER_ONLY)
        copy.replace(place / copy.name)
    discard(copy)
    return say("{what}: it was set aside in {place}.", what=what, place=place)


def _written(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0


def _text(path: Path) -> str:
    try:
        return path.read_text(encoding="utf-8", errors="replace").strip()
    except OSError:
        return ""


def _kept(fault: Path) -> str:
    """Where what is known of a crash is kept, as a sentence; nothing where there was none."""
    text = _text(fault)
    place = keep_report(text) if text else None
    return say("Where it crashed is written in {place}.", place=place) if place is not None else ""


def _origin(copy: Path) -> Path | None:
    try:
        text = json.loads(_text(copy.with_suffix(ORIGIN)) or "null")
    except ValueError:
        return None
    return Path(text) if isinstance(text, str) and text and "\0" not in text else None
