"""The native file: JSON with a version and a published schema (``docs/vastzone.schema.json``).

A file that is damaged or newer than the program is never overwritten.
"""

import json
import re
from pathlib import Path
from typing import Annotated, Any, Literal, NamedTuple, TypeVar

import msgspec

from vastzone.core.errors import DamagedFile, NewerFile, ReadError, WriteError
from vastzone.core.memory.consistency import contradictions
from vastzone.core.memory.model import Memory
from vastzone.core.memory.sharing import in_common
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.consistency import problems
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.migrate import RECORDS, VERSION, brought_up
from vastzone.files.old_records import OldRecord, memory_from
from vastzone.files.reading import PLAN_LIMIT, read_whole, text_of
from vastzone.files.whole import write_whole

SHORT, LONG = 60, 400
"""Letters of a value, and of a sentence with names in it, that a message quotes."""
SUFFIX = ".vastzone"
T = TypeVar("T")


class Document(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """What stands in a file: its format, the format's version, the plan, what devices hold.

    Without a memory the devices are taken to hold what stands in the plan.
    """

    format: Literal["vastzone"]
    version: Annotated[int, msgspec.Meta(ge=1)]
    plan: Plan
    memory: Memory | None = None


class Rig(NamedTuple):
    """A plan, and what its devices are known to hold."""

    plan: Plan
    memory: Memory


def to_json(plan: Plan, memory: Memory | None = None) -> bytes:
    """A plan, and what its devices hold, as it is written: keys in the order of the model, two
    spaces deep."""
    return as_text(Document("vastzone", VERSION, plan, memory))


def as_text(document: msgspec.Struct) -> bytes:
    """What stands in a file, for a person to read: two spaces deep, with a line end."""
    return msgspec.json.format(msgspec.json.encode(document), indent=2) + b"\n"


def from_json(data: bytes, name: str) -> Plan:
    """The plan in ``data``; ``name`` is what the file is called in messages.

    Raises DamagedFile or NewerFile with one sentence.
    """
    return rig_from_json(data, name).plan


def rig_from_json(data: bytes, name: str) -> Rig:
    """The plan in ``data`` with what its devices hold; raises as ``from_json``."""
    name = quoted(name)
    raw = parsed(data, name)
    if not isinstance(raw, dict) or raw.get("format") != "vastzone":
        raise DamagedFile(
            say(
                "{name} is not a Vast Zone plan: open a file that ends in {suffix}.",
                name=name,
                suffix=SUFFIX,
            )
        )
    current = up_to_date(raw, name)
    records = converted(current.pop(RECORDS, []), list[OldRecord], name)
    document = converted(current, Document, name)
    for problem in problems(document.plan):
        raise DamagedFile(
            say("{name} contradicts itself: {problem}", name=name, problem=quoted(problem, LONG))
        )
    if document.memory is None:
        return Rig(document.plan, memory_from(document.plan, records))
    for fault in contradictions(document.memory):
        raise DamagedFile(
            say("{name} contradicts itself: {fault}", name=name, fault=quoted(fault, LONG))
        )
    return Rig(document.plan, in_common(document.memory, document.plan))


def up_to_date(raw: dict[str, Any], name: str) -> dict[str, Any]:
    """Parsed JSON as this version has it.  Raises NewerFile for what a later version wrote.

    A version that is no number is left for ``converted`` to complain of.
    """
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        return raw
    if version > VERSION:
        raise NewerFile(
            say(
                "{name} was written by a later version of Vast Zone (file version {version}, this "
                "program reads up to {newest}): open it with that version.",
                name=name,
                version=quoted(version),
                newest=VERSION,
            )
        )
    return brought_up(raw, version)


def converted(raw: Any, kind: type[T], name: str) -> T:
    """Parsed JSON as a value of a kind.  Raises DamagedFile with the place of what is wrong."""
    try:
        return msgspec.convert(raw, kind)
    except (msgspec.ValidationError, RecursionError, OverflowError) as error:
        raise DamagedFile(
            say(
                "{name} has a wrong value: {where}. Correct it in a text editor or open a backup.",
                name=name,
                where=_where(str(error), raw),
            )
        ) from None


def parsed(data: bytes, name: str) -> Any:
    """JSON in any of its encodings as plain values.

    Raises DamagedFile with the line where it is not whole, and where a key stands twice in one
    object, of which only one could be kept.
    """
    text = text_of(data, name)
    try:
        raw = msgspec.json.decode(text)
        json.loads(text, object_pairs_hook=_once)
    except msgspec.DecodeError as error:
        place = re.search(r"byte (\d+)", str(error))
        whole = text.encode()
        line = whole[: int(place[1]) if place else len(whole)].count(b"\n") + 1
        if "out of range" in str(error):
            raise DamagedFile(
                say(
                    "{name} has a number at line {line} that is too large to read: correct it.",
                    name=name,
                    line=line,
                )
            ) from None
        raise DamagedFile(
            say(
                "{name} is damaged at line {line}: it is not whole JSON. Open a backup of it.",
                name=name,
                line=line,
            )
        ) from None
    except RecursionError:
        raise DamagedFile(
            say("{name} is nested too deep to be a plan: open a backup of it.", name=name)
        ) from None
    except _TwiceError as error:
        raise DamagedFile(
            say(
                "{name} has “{error}” twice in one place: take one of them out in a text "
                "editor, or "
                "open a backup.",
                name=name,
                error=quoted(error),
            )
        ) from None
    except ValueError:
        raise DamagedFile(
            say("{name} has a number that is too long to read: correct it.", name=name)
        ) from None
    return raw


class _TwiceError(Exception):
    """A key that stands twice in one object."""


def _once(pairs: list[tuple[str, Any]]) -> None:
    names = [name for name, _ in pairs]
    if len(set(names)) < len(names):
        raise _TwiceError(next(name for name in names if names.count(name) > 1))


def _where(message: str, raw: Any) -> str:
    """The sentence of a validation error with its path told in names."""
    said, _, path = message.partition(" - at `")
    names, place = _followed(path, raw)
    where = quoted(" › ".join(names), LONG)
    value_words = (
        say(" (found {value})", value=_value(place)) if isinstance(place, int | float | str) else ""
    )
    said = quoted(said)
    return f"{where}: {said}{value_words}" if where else said


def _followed(path: str, raw: Any) -> tuple[list[str], Any]:
    """The names of what is met along a path, and what is at its end."""
    place, names = raw, []
    for field, index in re.findall(r"\.(\w+)|\[(\d+|\.\.\.)\]", path):
        key: Any = field or (int(index) if index.isdigit() else None)
        try:
            place = place[key]
        except (KeyError, IndexError, TypeError):
            place = None
        name = place.get("name") if isinstance(place, dict) else None
        if isinstance(name, str):
            names.append(name)
        elif field and field != "plan" and not isinstance(place, list):
            names.append(field)
    return names, place


def _value(value: float | str) -> str:
    """A wrong value, cut where it is long; numbers too long to write out are only called so."""
    try:
        return quoted(repr(value), SHORT)
    except ValueError:
        return "a number of thousands of digits"


def read(path: Path) -> Plan:
    """Read a plan.  Raises ReadError, DamagedFile or NewerFile."""
    return read_rig(path).plan


def read_rig(path: Path) -> Rig:
    """Read a plan with what its devices hold.  Raises ReadError, DamagedFile or NewerFile."""
    return rig_from_json(read_whole(path, PLAN_LIMIT), path.name)


def write(plan: Plan, path: Path, memory: Memory | None = None, *, replace: bool = True) -> None:
    """Save a plan, and what its devices hold, whole or not at all.

    Raises WriteError, also where the file in the way is not a plan that this program can read; an
    empty one may be replaced.
    """
    _spare(path)
    write_whole(to_json(plan, memory), path, "The plan", replace=replace)


def _spare(path: Path) -> None:
    """Refuse to write over a file that is newer than the program, damaged, or no plan at all."""
    try:
        if not path.is_file() or path.stat().st_size == 0:
            return
        read(path)
    except ReadError:
        raise WriteError(
            say(
                "{path} is there already and is not a plan this program can read: save under "
                "another "
                "name.",
                path=quoted(path.name),
            )
        ) from None
    except (OSError, ValueError):
        return  # writing says why
