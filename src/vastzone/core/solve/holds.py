"""What must stay as it is: locked by the person, or never to be changed in a device."""

from collections.abc import Iterable, Mapping

from vastzone.core.cache import derived
from vastzone.core.plan.fields.dials import device_dials, scope_of, shares_settings
from vastzone.core.plan.fields.owners import OwnerKind
from vastzone.core.plan.fields.table import field_of
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import SettingRecord
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.plan.refs import setting_in


class Holds:
    """The locks of a plan, and what its devices cannot change."""

    def __init__(self, plan: Plan) -> None:
        self._held = held(plan)

    def keeps(self, device: Device, kind: OwnerKind, place: str, field: str) -> bool:
        """Whether a field of something that ``place`` names must stay as it is."""
        if setting_in(place, field) in self._held or not has_field(device, f"{kind}/{field}"):
            return True
        return scope_of(device, field_of(kind, field).kind) == "fixed"

    def locks(self, place: str, fields: Iterable[str]) -> tuple[str, ...]:
        """What the person locked that holds some fields of one thing."""
        refs: dict[str, None] = {}
        for field in fields:
            refs.update(dict.fromkeys(self._held.get(setting_in(place, field), ())))
        return tuple(refs)


def locked(plan: Plan) -> frozenset[str]:
    """The settings that the person locked."""
    return _locked(plan.settings)


@derived(16)
def held(plan: Plan) -> Mapping[str, tuple[str, ...]]:
    """The settings that have to stay, each with the locks that hold it.

    A lock holds all settings that are one with it in their device.
    """
    locks = locked(plan)
    found: dict[str, tuple[str, ...]] = {ref: (ref,) for ref in locks}
    for device in plan.devices if locks else ():
        if shares_settings(device):
            found |= _held_in(device, locks)
    return found


@derived(64)
def _held_in(device: Device, locks: frozenset[str]) -> Mapping[str, tuple[str, ...]]:
    """The settings of one device that are one with a locked one."""
    slots: dict[tuple[str, ...], list[str]] = {}
    for dial in device_dials(device):
        if dial.ref in locks:
            slots.setdefault(dial.slot, []).append(dial.ref)
    held_there = {}
    for dial in device_dials(device) if slots else ():
        if dial.slot in slots:
            held_there[dial.ref] = tuple(sorted(slots[dial.slot]))
    return held_there


@derived(16, whole=True)
def _locked(settings: tuple[SettingRecord, ...]) -> frozenset[str]:
    return frozenset(setting.ref for setting in settings if setting.hold == "locked")
