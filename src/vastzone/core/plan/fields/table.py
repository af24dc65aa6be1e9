"""The one table of fields: everything that is set in a device, in the order of its cards.

Cards, differences, facts, words, the solver's open numbers, the command line and the file's schema
read it, and nothing else.
"""

from collections import defaultdict
from collections.abc import Mapping
from types import MappingProxyType

from vastzone.core.plan.fields.audio_fields import AUDIO_FIELDS
from vastzone.core.plan.fields.device_fields import CONSOLE_FIELDS, DEVICE_FIELDS
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.organ_fields import ORGAN_FIELDS
from vastzone.core.plan.fields.owners import OwnerKind
from vastzone.core.plan.fields.part_fields import PART_FIELDS
from vastzone.core.plan.fields.send_fields import SEND_FIELDS
from vastzone.core.plan.fields.zone_fields import ZONE_FIELDS

FIELDS: tuple[Field, ...] = (
    *DEVICE_FIELDS,
    *CONSOLE_FIELDS,
    *ZONE_FIELDS,
    *SEND_FIELDS,
    *PART_FIELDS,
    *AUDIO_FIELDS,
    *ORGAN_FIELDS,
)


def by_owner(fields: tuple[Field, ...]) -> Mapping[OwnerKind, tuple[Field, ...]]:
    """Fields by what they belong to, in the order of the table."""
    by_kind: dict[OwnerKind, list[Field]] = defaultdict(list)
    for field in fields:
        by_kind[field.owner].append(field)
    return MappingProxyType({kind: tuple(fields) for kind, fields in by_kind.items()})


_BY_OWNER = by_owner(FIELDS)


def all_fields() -> tuple[Field, ...]:
    """Every field, in the order of the table."""
    listed: list[Field] = []
    for fields in _BY_OWNER.values():
        listed.extend(fields)
    return tuple(listed)


def fields_for(kind: OwnerKind) -> tuple[Field, ...]:
    """The fields that things of a kind may have."""
    return _BY_OWNER.get(kind, ())


def dialled_fields(kind: OwnerKind) -> tuple[Field, ...]:
    """The fields that things of a kind may have and that are set in a device."""
    return tuple(field for field in fields_for(kind) if field.is_dialled)


def place_in_table(kind: OwnerKind, ident: str) -> tuple[int, Field | None]:
    """A field of an owner by its name, with its place among them; −1 where there is none."""
    for place, field in enumerate(fields_for(kind)):
        if field.id == ident:
            return place, field
    return -1, None


def field_of(kind: OwnerKind, ident: str) -> Field:
    """The field of an owner by its name.  Raises KeyError where there is none."""
    _, field = place_in_table(kind, ident)
    if field is None:
        raise KeyError(f"{kind}/{ident}")
    return field
