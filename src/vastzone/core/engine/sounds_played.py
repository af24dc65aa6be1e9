"""Which sounds of all devices can be heard in a scene, whoever plays them."""

from collections.abc import Iterable, Iterator, Mapping

from vastzone.core.cache import derived
from vastzone.core.engine.compile import Compiled, Runs, runs_of
from vastzone.core.engine.receivers import outsides, programs_at
from vastzone.core.engine.tables import Landing
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import sound_ref
from vastzone.core.plan.refs import device_of, thing_of

Heard = tuple[str, str, int]
"""A part, the kit that it is on («» for none), and the note of that kit (−1 for none)."""


@derived(160)
def sounds_played(compiled: Compiled) -> frozenset[str]:
    """The sounds ``device:part/sound``, or parts, that keys, controls and pads sound in a scene."""
    heard: set[Heard] = set()
    plan = compiled.plan
    for shell, program in zip(
        outsides(plan).shells, programs_at(plan, compiled.scene), strict=True
    ):
        if program is not None:
            for runs in runs_of(shell, program, compiled.world):
                heard |= _by_keys(runs)
    for sendings in compiled.controls.values():
        for sending in sendings:
            for emission in sending.notes:
                heard.update(_heard(emission.landings, 0, 0))
    return frozenset(_named(plan, heard))


@derived(4096, whole=True)
def _by_keys(runs: Runs) -> frozenset[Heard]:
    heard: set[Heard] = set()
    for run in runs:
        heard.update(_heard(run.emission.landings, run.low, run.high))
    return frozenset(heard)


def _heard(landings: Iterable[Landing], low: int, high: int) -> Iterator[Heard]:
    """What landings sound that are told for key 0, under keys from ``low`` to ``high``."""
    for landing in landings:
        if landing.part.receives == "takes all":
            continue
        if landing.part.kit is None:
            yield landing.ref, "", -1
            continue
        for key in range(low, high + 1):
            yield landing.ref, landing.part.kit, landing.note + key


def _named(plan: Plan, heard: Iterable[Heard]) -> Iterator[str]:
    devices = lookup.by_ids(plan.devices)
    for ref, kit, note in heard:
        if not kit:
            yield ref
            continue
        sound = _notes(devices[device_of(ref)]).get((kit, note))
        if sound is not None:
            yield sound_ref(device_of(ref), thing_of(ref), sound)


@derived(512)
def _notes(device: Device) -> Mapping[tuple[str, int], str]:
    notes = {}
    for kit in device.kits:
        for sound in kit.sounds:
            notes[kit.id, sound.note] = sound.id
    return notes


def sound_of(plan: Plan, landing: Landing) -> str:
    """The sound that a landing is: ``device:part/sound``, or its part where it is on no kit."""
    owner = device_of(landing.ref)
    kit = landing.part.kit
    if kit is None:
        return landing.ref
    sound = _notes(lookup.device(plan, owner)).get((kit, landing.note), "")
    return sound_ref(owner, thing_of(landing.ref), sound)
