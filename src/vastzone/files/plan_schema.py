"""The JSON Schema of the native file, with what the table of fields says of its values."""

import inspect
from typing import Any

import msgspec

from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import OwnerKind
from vastzone.core.plan.fields.table import all_fields
from vastzone.files.native import Document

OWNED_BY: dict[OwnerKind, str] = {
    "device": "Device",
    "switch": "Switch",
    "encoder": "Encoder",
    "block": "Block",
    "shoe": "Shoe",
    "input": "TriggerInput",
    "jack": "PedalJack",
    "program": "Program",
    "zone": "Zone",
    "send": "Send",
    "kit choice": "KitChoice",
    "part": "Part",
    "sound": "Sound",
    "target": "Target",
}
"""What each kind of owner is called in the schema; what is passed on has no value of its own."""


def schema() -> dict[str, Any]:
    """The JSON Schema of the native file; ``x-fields`` lists what is set in devices."""
    whole: dict[str, Any] = _dedented(msgspec.json.schema(Document))
    for field in all_fields():
        value = _value(whole, field)
        if value is not None:
            value["title"] = field.name
    whole["x-fields"] = [_told(field) for field in all_fields()]
    return whole


def _value(made: dict[str, Any], field: Field) -> dict[str, Any] | None:
    """Where the schema describes a field; None where it is put together of several values."""
    owner = OWNED_BY.get(field.owner, "")
    properties = made["$defs"].get(owner, {}).get("properties", {})
    value: dict[str, Any] | None = properties.get(field.id)
    return value


def _told(field: Field) -> dict[str, Any]:
    told: dict[str, Any] = {"field": field.full_name, "name": field.name, "limit": field.kind}
    if field.kept is not None:
        told["kept"] = field.kept
    if field.solved:
        told["solved"] = True
    return told


def _dedented(value: Any) -> Any:
    """Descriptions come from docstrings, of which Python 3.13 takes the indentation off itself."""
    if isinstance(value, dict):
        shorter = {}
        for name, entry in value.items():
            shorter[name] = inspect.cleandoc(entry) if _is_words(name, entry) else _dedented(entry)
        return shorter
    return [_dedented(item) for item in value] if isinstance(value, list) else value


def _is_words(name: str, value: Any) -> bool:
    return name == "description" and isinstance(value, str)
