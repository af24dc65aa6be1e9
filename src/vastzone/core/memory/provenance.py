"""Since when, how and by whom something is known: written once for an operation."""

from collections.abc import Iterable

import msgspec

from vastzone.core.memory.model import DeviceMemory, Known


def noted(memory: DeviceMemory, places: Iterable[str], known: Known) -> DeviceMemory:
    """A memory in which what stands at some places is known so.

    What is said of a slot takes the place of all that was said of what stands in it.
    """
    told = tuple(places)
    entries = memory.known if known in memory.known else (*memory.known, known)
    index = entries.index(known)
    since = {}
    for place, before in memory.since.items():
        if not any(place == wider or place.startswith(f"{wider}/") for wider in told):
            since[place] = before
    since |= dict.fromkeys(told, index)
    return _without_idle(msgspec.structs.replace(memory, known=entries, since=since))


def _without_idle(memory: DeviceMemory) -> DeviceMemory:
    """The memory without entries that nothing points to."""
    used = set(memory.since.values())
    for check in memory.checks:
        used.add(check.known)
    if len(used) == len(memory.known):
        return memory
    places: dict[int, int] = {}
    entries: list[Known] = []
    for place, entry in enumerate(memory.known):
        if place in used:
            places[place] = len(entries)
            entries.append(entry)
    since = {}
    for name, place in memory.since.items():
        since[name] = places[place]
    checks = []
    for check in memory.checks:
        checks.append(msgspec.structs.replace(check, known=places[check.known]))
    return msgspec.structs.replace(memory, known=tuple(entries), since=since, checks=tuple(checks))


def known_of(memory: DeviceMemory, place: str) -> Known | None:
    """How something is known: itself, what it stands in, or all; None where nobody said."""
    where = place
    while where:
        if where in memory.since:
            return memory.known[memory.since[where]]
        where = where.rpartition("/")[0]
    inside = place.startswith("buffer") or place[:1].isdigit()
    index = None if inside else memory.since.get("values")
    return None if index is None else memory.known[index]


def last_day(memory: DeviceMemory) -> str:
    """The day of what is known last; nothing where no day was said."""
    return max((known.on for known in memory.known), default="")
