"""The native file: JSON with a version and a published schema (``docs/vastzone.schema.json``).

A file that is damaged or newer than the program is never overwritten.
"""

import contextlib
import os
import re
from pathlib import Path
from typing import Annotated, Any, Literal

import msgspec

from vastzone.core.errors import DamagedFile, NewerFile, ReadError, WriteError
from vastzone.core.plan.consistency import problems
from vastzone.core.plan.model import Plan

VERSION = 1
SUFFIX = ".vastzone"


class Document(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What stands in a file: its format, the format's version, and the plan."""

    format: Literal["vastzone"]
    version: Annotated[int, msgspec.Meta(ge=1)]
    plan: Plan


def to_json(plan: Plan) -> bytes:
    """The plan as it is written: keys in the order of the model, two spaces deep."""
    packed = msgspec.json.encode(Document("vastzone", VERSION, plan))
    return msgspec.json.format(packed, indent=2) + b"\n"


def schema() -> dict[str, Any]:
    """The JSON Schema of the native file."""
    return msgspec.json.schema(Document)


def from_json(data: bytes, name: str) -> Plan:
    """The plan in ``data``; ``name`` is what the file is called in messages.

    Raises DamagedFile or NewerFile with one sentence.
    """
    raw = _parsed(data, name)
    if not isinstance(raw, dict) or raw.get("format") != "vastzone":
        raise DamagedFile(f"{name} is not a Vast Zone plan: open a file that ends in {SUFFIX}.")
    version = raw.get("version")
    if isinstance(version, int) and version > VERSION:
        raise NewerFile(
            f"{name} was written by a later version of Vast Zone (file version {version}, this "
            f"program reads up to {VERSION}): open it with that version."
        )
    try:
        plan = msgspec.convert(raw, Document).plan
    except msgspec.ValidationError as error:
        raise DamagedFile(
            f"{name} has a wrong value: {_where(str(error), raw)}. Correct it in a text editor "
            "or open a backup."
        ) from None
    for problem in problems(plan):
        raise DamagedFile(f"{name} contradicts itself: {problem}")
    return plan


def _parsed(data: bytes, name: str) -> Any:
    try:
        return msgspec.json.decode(data)
    except msgspec.DecodeError as error:
        place = re.search(r"byte (\d+)", str(error))
        line = data[: int(place[1])].count(b"\n") + 1 if place else data.count(b"\n") + 1
        raise DamagedFile(
            f"{name} is damaged at line {line}: it is not whole JSON. Open a backup of it."
        ) from None


def _where(message: str, raw: Any) -> str:
    """The sentence of a validation error with its path told in names."""
    said, _, path = message.partition(" - at `")
    steps = re.findall(r"\.(\w+)|\[(\d+|\.\.\.)\]", path)
    place, names = raw, []
    for field, index in steps:
        key: Any = field or (int(index) if index.isdigit() else None)
        try:
            place = place[key]
        except (KeyError, IndexError, TypeError):
            place = None
        if isinstance(place, dict) and isinstance(place.get("name"), str):
            names.append(place["name"])
        elif field and field not in ("plan",) and not isinstance(place, list):
            names.append(field)
    where = " › ".join(names)
    found = f" (found {place!r})" if isinstance(place, int | float | str) else ""
    said = said[0].lower() + said[1:] if said else said
    return f"{where}: {said}{found}" if where else said


def read(path: Path) -> Plan:
    """Read a plan.  Raises ReadError, DamagedFile or NewerFile."""
    try:
        data = path.read_bytes()
    except OSError as error:
        raise ReadError(
            f"{path.name} cannot be read ({error.strerror}): choose another file."
        ) from None
    return from_json(data, path.name)


def write(plan: Plan, path: Path) -> None:
    """Save a plan atomically: the old file stands until the new one is whole.

    Raises WriteError, also where the file in the way is not a plan this program can read.
    """
    import tempfile

    _spare(path)
    temporary: str | None = None
    try:
        handle, temporary = tempfile.mkstemp(prefix=".", suffix=SUFFIX, dir=path.parent)
        with os.fdopen(handle, "wb") as file:
            file.write(to_json(plan))
            file.flush()
            os.fsync(file.fileno())
        mode = path.stat().st_mode & 0o777 if path.exists() else 0o666 & ~_umask()
        os.chmod(temporary, mode)
        os.replace(temporary, path)
    except OSError as error:
        if temporary:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        raise WriteError(
            f"{path.name} cannot be saved in {path.parent} ({error.strerror}): "
            "choose a folder that you may write to."
        ) from None


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def _spare(path: Path) -> None:
    """Refuse to write over a file that is newer than the program, damaged, or no plan at all."""
    if not path.exists() or path.is_dir():
        return
    try:
        read(path)
    except ReadError:
        raise WriteError(
            f"{path.name} is there already and is not a plan this program can read: "
            "save under another name."
        ) from None
