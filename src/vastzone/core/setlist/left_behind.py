"""What the controls of a scene may leave behind: held, ringing, running, switched on, moved.

Worked out device by device, and kept while what a device does stays the same: the scenes of an
evening have most of their devices in common.
"""

from collections.abc import Iterator, Mapping
from types import MappingProxyType
from typing import NamedTuple

from vastzone.core.cache import derived, interned
from vastzone.core.engine.compile import Compiled, control_tables
from vastzone.core.engine.tables import Controls, Hearing, KeyId, Landing, Sending
from vastzone.core.midi.controllers import SUSTAIN
from vastzone.core.plan.refs import device_of

Tables = tuple[Controls, ...]
"""The controls of a scene, device by device."""


class Left(NamedTuple):
    """What the controls of a scene may leave behind.

    ``sustained``: the parts that each sustain pedal holds.  ``rung``: what rings on, by device:
    each part with its first control.  ``left_on``: the targets that a toggle may leave on, each
    with its first control and its name.  ``heard``: everything that some control moves.
    ``toggled``: the loops that controls start and stop: part, then note, then control.  ``moved``:
    the targets that each control sweeps, with how each is taken over.
    """

    sustained: Mapping[KeyId, frozenset[str]]
    rung: Mapping[str, tuple[tuple[str, str], ...]]
    left_on: Mapping[str, tuple[str, str]]
    heard: frozenset[str]
    toggled: Mapping[str, Mapping[int, str]]
    moved: Mapping[KeyId, Mapping[str, str]]


def left_behind(compiled: Compiled) -> Left:
    """What the controls of a scene may leave behind."""
    return _left_by(control_tables(compiled))


@derived(1024)
def _left_by(tables: Tables) -> Left:
    return Left(
        MappingProxyType(_sustained(tables)),
        MappingProxyType(_rung(tables)),
        MappingProxyType(_left_on(tables)),
        frozenset().union(*(_heard_in(table) for table in tables)),
        MappingProxyType(_toggled(tables)),
        MappingProxyType(_moved(tables)),
    )


def _sustained(tables: Tables) -> dict[KeyId, frozenset[str]]:
    found: dict[KeyId, frozenset[str]] = {}
    for table in tables:
        found.update(_sustained_in(table))
    return found


@derived(4096, whole=True)
def _sustained_in(table: Controls) -> Mapping[KeyId, frozenset[str]]:
    found = {}
    for key, sendings in table.items():
        refs = set()
        for sending in sendings:
            for motion in sending.motions:
                if motion.message == "controller" and motion.number == SUSTAIN:
                    refs |= {hearing.ref for hearing in motion.hearings if hearing.is_part}
        if refs:
            found[key] = frozenset(refs)
    return found


def _rung(tables: Tables) -> dict[str, tuple[tuple[str, str], ...]]:
    by_device: dict[str, dict[str, str]] = {}
    for table in tables:
        for ref, control in _rung_in(table).items():
            by_device.setdefault(device_of(ref), {}).setdefault(ref, control)
    return {device: interned(tuple(parts.items())) for device, parts in by_device.items()}


@derived(4096, whole=True)
def _rung_in(table: Controls) -> Mapping[str, str]:
    found: dict[str, str] = {}
    for (control, _), sendings in table.items():
        for landing in _landings(sendings):
            if landing.part.trigger != "toggle":
                found.setdefault(landing.ref, control)
    return found


def _landings(sendings: tuple[Sending, ...]) -> Iterator[Landing]:
    for sending in sendings:
        for emission in sending.notes:
            yield from emission.landings


def _left_on(tables: Tables) -> dict[str, tuple[str, str]]:
    found: dict[str, tuple[str, str]] = {}
    for table in tables:
        for ref, left in _left_on_in(table).items():
            found.setdefault(ref, left)
    return found


@derived(4096, whole=True)
def _left_on_in(table: Controls) -> Mapping[str, tuple[str, str]]:
    found: dict[str, tuple[str, str]] = {}
    for (control, _), sendings in table.items():
        for sending, hearing in _heard(sendings):
            target = hearing.target
            if target is None or target.sweeps:
                continue
            if sending.send.mode == "toggle" or target.mode == "toggle":
                found.setdefault(hearing.ref, (control, target.name))
    return found


@derived(4096, whole=True)
def _heard_in(table: Controls) -> frozenset[str]:
    heard: set[str] = set()
    for sendings in table.values():
        heard.update(hearing.ref for _, hearing in _heard(sendings))
    return frozenset(heard)


def _heard(sendings: tuple[Sending, ...]) -> Iterator[tuple[Sending, Hearing]]:
    """Everything that hears what a control moves."""
    for sending in sendings:
        for motion in sending.motions:
            for hearing in motion.hearings:
                yield sending, hearing


def _toggled(tables: Tables) -> dict[str, dict[int, str]]:
    found: dict[str, dict[int, str]] = {}
    for table in tables:
        for (loop, note), ref in _toggled_in(table).items():
            found.setdefault(loop, {}).setdefault(note, ref)
    return found


@derived(4096, whole=True)
def _toggled_in(table: Controls) -> Mapping[tuple[str, int], str]:
    found: dict[tuple[str, int], str] = {}
    for (ref, _), sendings in table.items():
        for landing in _landings(sendings):
            if landing.part.trigger == "toggle":
                found.setdefault((landing.ref, landing.note), ref)
    return found


def _moved(tables: Tables) -> dict[KeyId, Mapping[str, str]]:
    found: dict[KeyId, Mapping[str, str]] = {}
    for table in tables:
        found.update(_moved_in(table))
    return found


@derived(4096, whole=True)
def _moved_in(table: Controls) -> Mapping[KeyId, Mapping[str, str]]:
    found = {}
    for key, sendings in table.items():
        swept = {}
        for _, hearing in _heard(sendings):
            if hearing.target is not None and hearing.target.sweeps:
                swept[hearing.ref] = hearing.target.takeover
        if swept:
            found[key] = MappingProxyType(swept)
    return found
