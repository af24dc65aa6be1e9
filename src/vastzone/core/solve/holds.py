"""What must stay as it is: locked by the person, or never to be changed in a device."""

from collections.abc import Iterable

from vastzone.core.cache import derived
from vastzone.core.plan.fields.dials import scope_of
from vastzone.core.plan.fields.owners import OwnerKind
from vastzone.core.plan.fields.table import field_of
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.wishes import SettingRecord
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.plan.refs import setting_in


class Holds:
    """The locks of a plan, and what its devices cannot change."""

    def __init__(self, plan: Plan) -> None:
        self.locked = locked(plan)

    def keeps(self, device: Device, kind: OwnerKind, place: str, field: str) -> bool:
        """Whether a field of something that ``place`` names must stay as it is."""
        if setting_in(place, field) in self.locked or not has_field(device, f"{kind}/{field}"):
            return True
        return scope_of(device, field_of(kind, field).kind) == "fixed"

    def locks(self, place: str, fields: Iterable[str]) -> tuple[str, ...]:
        """Those of some fields of one thing that the person locked."""
        refs = []
        for field in fields:
            ref = setting_in(place, field)
            if ref in self.locked:
                refs.append(ref)
        return tuple(refs)


def locked(plan: Plan) -> frozenset[str]:
    """The settings that the person locked."""
    return _locked(plan.settings)


@derived(16, whole=True)
def _locked(settings: tuple[SettingRecord, ...]) -> frozenset[str]:
    return frozenset(setting.ref for setting in settings if setting.hold == "locked")
