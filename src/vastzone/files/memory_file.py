"""The memory of one device in a file of its own: a backup, or for another plan."""

from pathlib import Path
from typing import Annotated, Literal

import msgspec

from vastzone.core.errors import DamagedFile
from vastzone.core.memory.consistency import memory_problems
from vastzone.core.memory.model import DeviceMemory
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.migrate import VERSION
from vastzone.files.native import as_text, converted, parsed, up_to_date
from vastzone.files.reading import DEVICE_LIMIT, read_whole
from vastzone.files.whole import write_whole

SUFFIX = ".vzmemory"


class MemoryFile(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What stands in a file of memory."""

    format: Literal["vastzone-memory"]
    version: Annotated[int, msgspec.Meta(ge=1)]
    memory: DeviceMemory


def read_memory(path: Path) -> DeviceMemory:
    """Read what a device held.  Raises ReadError: DamagedFile when it is no whole memory,
    NewerFile."""
    name = quoted(path.name)
    raw = parsed(read_whole(path, DEVICE_LIMIT), name)
    if not isinstance(raw, dict) or raw.get("format") != "vastzone-memory":
        raise DamagedFile(
            say(
                "{name} is no memory of a device: choose a file that ends in {suffix}.",
                name=name,
                suffix=SUFFIX,
            )
        )
    memory = converted(up_to_date(raw, name), MemoryFile, name).memory
    for problem in memory_problems(memory):
        raise DamagedFile(say("{name} contradicts itself: {problem}", name=name, problem=problem))
    return memory


def write_memory(memory: DeviceMemory, path: Path, *, replace: bool = True) -> None:
    """Save what a device holds.  Raises WriteError."""
    data = as_text(MemoryFile("vastzone-memory", VERSION, memory))
    write_whole(data, path, say("The memory"), replace=replace)
