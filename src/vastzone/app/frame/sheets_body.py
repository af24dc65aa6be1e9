"""A device as a thing that is carried and plugged in, as rows of facts."""

from functools import partial
from typing import Any, get_args

from vastzone.app.frame.sheet import FactRow, Make
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.fields.values import read_optional
from vastzone.core.plan.model.bodies import Size, Supply
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import DeviceKind
from vastzone.core.text import quoted

SUPPLIES = (
    ("not said", ""),
    ("mains", "mains"),
    ("an adapter", "adapter"),
    ("USB", "usb"),
    ("a battery", "battery"),
    ("none needed", "none"),
)
STEPS = (("none", "none"), ("stop at the end", "stops"), ("go round", "goes round"))
POLARITIES = (
    ("not said", ""),
    ("plus inside", "centre plus"),
    ("minus inside", "centre minus"),
    ("alternating", "ac"),
)


def body_rows(device: Device) -> list[FactRow]:
    """Kind, up and down, supply, weight, size, what is done before it plays, notes."""
    kinds = tuple((kind, kind) for kind in get_args(DeviceKind))
    running = _setter(device, "running_status")
    delay, weight = (partial(_decimal, device, field) for field in ("delay_ms", "weight_kg"))
    up_down, first = partial(_step, device), partial(_preparation, device)
    to_do = " / ".join(device.preparation)
    return [
        FactRow("Kind", "choice", device.kind, _setter(device, "kind"), choices=kinds),
        FactRow("Running status", "check", device.running_status, running),
        FactRow("Delay, ms", "text", f"{device.delay_ms:g}", delay),
        FactRow("Up and down", "choice", device.storage.step, up_down, choices=STEPS),
        *_supply_rows(device),
        FactRow("Weight, kg", "text", f"{device.weight_kg:g}", weight),
        FactRow("Size, mm", "text", _size_words(device), partial(_size, device)),
        FactRow("To do first", "text", to_do, first),
        FactRow("Notes", "text", device.notes, _setter(device, "notes")),
    ]


def _setter(device: Device, field: str) -> Make:
    label = f"Change {field.replace('_', ' ')}"
    return lambda value: set_device(device.id, label, **{field: value})


def _decimal(device: Device, field: str, words: str) -> Edit:
    value = read_optional(words) or 0.0
    return set_device(device.id, f"Change {field.partition('_')[0]}", **{field: value})


def _step(device: Device, step: str) -> Edit:
    storage = changed(device.storage, step=step)
    return set_device(device.id, "Change up and down", storage=storage)


def _size_words(device: Device) -> str:
    return "" if device.size is None else f"{device.size.wide:g} × {device.size.deep:g}"


def _size(device: Device, words: str) -> Edit:
    if not words.strip():
        return set_device(device.id, "Forget its size", size=None)
    pieces = words.replace("x", "×").split("×")
    numbers = [read_optional(piece) for piece in pieces]
    if len(numbers) != 2 or None in numbers:
        raise EditError(f"“{quoted(words)}” is no size: write such as “980 × 300”, in millimetres.")
    size = changed(Size(wide=0.0, deep=0.0), wide=numbers[0], deep=numbers[1])
    return set_device(device.id, "Change its size", size=size)


def _preparation(device: Device, words: str) -> Edit:
    lines = tuple(line.strip() for line in words.split("/") if line.strip())
    return set_device(device.id, "Change what is done first", preparation=lines)


def _supply_rows(device: Device) -> list[FactRow]:
    supply = device.supply

    def set_(field: str, value: Any) -> Edit:
        new: Supply = changed(supply, **{field: value})
        return set_device(device.id, "Change its supply", supply=new)

    def number(label: str, field: str, high: int) -> FactRow:
        held = round(getattr(supply, field))
        return FactRow(label, "number", held, partial(set_, field), 0, high)

    rows = [FactRow("Powered by", "choice", supply.kind, partial(set_, "kind"), choices=SUPPLIES)]
    if supply.kind == "adapter":
        polarity = partial(set_, "polarity")
        rows += [
            number("Volts", "volts", 48),
            number("Milliamperes", "milliamps", 20_000),
            FactRow("Polarity", "choice", supply.polarity, polarity, choices=POLARITIES),
            FactRow("Plug", "text", supply.plug, partial(set_, "plug")),
        ]
    if supply.kind == "usb":
        rows.append(number("Milliamperes", "milliamps", 20_000))
    if supply.kind == "battery":
        rows += [number("Watt hours", "watt_hours", 2000), number("Watts", "watts", 5000)]
    return rows
