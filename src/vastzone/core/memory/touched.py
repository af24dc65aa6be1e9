"""What somebody set since a device left its box: what it plays is meant, wished or not.

A fill, a mapping made by hand, what a learning run or a panel changed are meant; what still stands
as it left the factory is not, nor are numbers that were only worked out.
"""

from collections.abc import Mapping
from typing import Any, NamedTuple

from vastzone.core.cache import derived, interned
from vastzone.core.memory.keys import Thing, key_of, spot_of, things
from vastzone.core.memory.model import DeviceMemory, HeldValue, Memory
from vastzone.core.memory.past import factory, snapshots
from vastzone.core.memory.rig import memory_of
from vastzone.core.plan.fields.dials import dials_of_kinds
from vastzone.core.plan.fields.field import FieldKind
from vastzone.core.plan.model.controls import Program, Send, Zone
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import Hold, SettingRecord
from vastzone.core.plan.refs import (
    field_of_setting,
    owner_place,
    place_of_setting,
    ref_to,
    send_place,
)

HEARD = frozenset(("channel", "controller"))
"""What of a part or target decides whether it answers a message that comes in."""
HEARING: frozenset[FieldKind] = frozenset(("part-channel", "target-controller", "target-mode"))
MADE = frozenset(("message", "low"))
"""What is worked out of a send or zone that was not there before."""
ATTRIBUTES = {"outputs": ("ports",), "number": ("number", "page")}
"""Fields that are called otherwise in the plan."""
UNHEARD = ("name", "layer")
"""What is no setting of the device."""
Names = tuple[str, ...]


class TouchedDevice(NamedTuple):
    """What somebody set in one device: spots of each program, and parts and targets."""

    programs: tuple[Names, ...]
    ends: Names


class Touched(NamedTuple):
    """What somebody set in each device of a plan, in the plan's order."""

    devices: tuple[TouchedDevice, ...]

    @property
    def ends(self) -> frozenset[str]:
        """The parts and targets that somebody told what to listen to, as ``device:thing``."""
        return _ends(self.devices)


@derived(64)
def _ends(devices: tuple[TouchedDevice, ...]) -> frozenset[str]:
    ends: set[str] = set()
    for device in devices:
        ends.update(device.ends)
    return frozenset(ends)


UNTOUCHED = TouchedDevice((), ())
NO_MEMORY = Memory()


def touched_in(plan: Plan, memory: Memory) -> Touched:
    """What somebody set in the devices of a plan.

    Of a device of which nothing was ever known all of it counts as set; one that the memory does
    not name counts as it comes.
    """
    return _touched(plan, memory)


@derived(32)
def _touched(plan: Plan, memory: Memory) -> Touched:
    worked, followed = _worked_out(plan.settings), _followed(plan.settings)
    known = {held.device for held in memory.devices}
    devices = []
    for device in plan.devices:
        if device.id in known:
            held = memory_of(memory, device)
            devices.append(_touched_device(device, _boxed(held), worked, followed))
        else:
            devices.append(UNTOUCHED)
    return _interned(tuple(devices))


@derived(64)
def _interned(devices: tuple[TouchedDevice, ...]) -> Touched:
    return Touched(devices)


@derived(16, whole=True)
def _worked_out(settings: tuple[SettingRecord, ...]) -> Mapping[str, Names]:
    """The settings that were worked out, by their device, or by device and program."""
    return _recorded(settings, "worked out")


@derived(16, whole=True)
def _followed(settings: tuple[SettingRecord, ...]) -> Mapping[str, Names]:
    """The settings that somebody made and that went along with what was worked out, likewise."""
    return _recorded(settings, "followed")


def _recorded(settings: tuple[SettingRecord, ...], hold: Hold) -> Mapping[str, Names]:
    found: dict[str, list[str]] = {}
    for setting in settings:
        if setting.hold == hold:
            within = setting.ref.rsplit("/", 2)[0]
            found.setdefault(within, []).append(setting.ref)
    return {within: interned(tuple(refs)) for within, refs in found.items()}


class Boxed(NamedTuple):
    """How a device left its box: what stood in its programs by spot, and its other settings."""

    things: Mapping[str, tuple[Thing, ...]]
    values: Mapping[str, HeldValue]


@derived(256)
def _boxed(memory: DeviceMemory) -> Boxed:
    """How a device left its box, or where nobody knows, the first that is known of it."""
    held = factory(memory)
    if held is None:
        states = snapshots(memory)
        held = states[-1].memory if states else memory
    return _boxed_as(held.slots, held.values)


@derived(256, whole=True)
def _boxed_as(slots: tuple[Any, ...], values: Mapping[str, HeldValue]) -> Boxed:
    by_spot: dict[str, list[Thing]] = {}
    for slot in slots:
        for spot, thing in things(slot.content.program).items():
            same = by_spot.setdefault(spot, [])
            if thing not in same:
                same.append(thing)
    return Boxed({spot: tuple(same) for spot, same in by_spot.items()}, values)


@derived(256)
def _touched_device(
    device: Device, boxed: Boxed, worked: Mapping[str, Names], followed: Mapping[str, Names]
) -> TouchedDevice:
    programs = []
    for program in device.programs:
        within = f"{device.id}/{program.id}"
        computed, along = worked.get(within, ()), followed.get(within, ())
        programs.append(_spots(device.id, program, boxed, computed, along))
    ends = _heard(device, boxed, worked.get(device.id, ()), followed.get(device.id, ()))
    return _device(interned(tuple(programs)), ends)


@derived(4096, whole=True)
def _device(programs: tuple[Names, ...], ends: Names) -> TouchedDevice:
    return TouchedDevice(programs, ends)


@derived(8192)
def _spots(device: str, program: Program, boxed: Boxed, worked: Names, followed: Names) -> Names:
    """The zones and sends of a program that somebody set."""
    his = {place_of_setting(ref) for ref in followed}
    fields: dict[str, set[str]] = {}
    for ref in worked:
        fields.setdefault(place_of_setting(ref), set()).add(field_of_setting(ref))
    places: list[tuple[str, Zone | Send]] = []
    for zone in program.zones:
        places.append((owner_place(device, "zone", zone.id, program.id), zone))
    for send in program.sends:
        places.append((send_place(device, program.id, send.thing), send))
    spots = []
    for place, thing in places:
        if place in his or _is_set(thing, boxed, fields.get(place, set())):
            spots.append(spot_of(thing))
    return interned(tuple(spots))


def _is_set(thing: Zone | Send, boxed: Boxed, worked: set[str]) -> bool:
    """Whether something differs, but for what was worked out, from all that the box knew of it."""
    there = boxed.things.get(spot_of(thing), ())
    if not there:
        return not MADE.intersection(worked)
    masked = set(UNHEARD)
    for field in worked:
        masked.update(ATTRIBUTES.get(field, (field,)))
    same = (before is thing or _same_but_for(masked, thing, before) for before in there)
    return not any(same)


def _same_but_for(masked: set[str], thing: Zone | Send, before: Thing) -> bool:
    """Whether two things say the same but for some of their fields."""
    names = thing.__struct_fields__
    return all(
        name in masked or getattr(thing, name) == getattr(before, name, None) for name in names
    )


@derived(512)
def _heard(device: Device, boxed: Boxed, worked: Names, followed: Names) -> Names:
    """The parts and targets whose channel or number somebody set."""
    computed, along = frozenset(worked), frozenset(followed)
    ends = []
    for dial in dials_of_kinds(device, HEARING):
        owner = dial.owner
        if owner.kind not in ("part", "target") or field_of_setting(dial.ref) not in HEARD:
            continue
        changed = dial.scope != "fixed" and dial.ref not in computed
        other = boxed.values.get(key_of(dial)) != dial.value
        if changed and (other or dial.ref in along):
            ends.append(ref_to(device.id, owner.thing.id))
    return interned(tuple(dict.fromkeys(ends)))
