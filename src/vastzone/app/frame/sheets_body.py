"""A device as a thing that is carried and plugged in, as rows of facts."""

from functools import partial
from typing import Any, get_args

from vastzone.app.frame.sheet import FactRow, Make
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.hearing import remove_buffer, set_buffer
from vastzone.core.plan.fields.values import read_optional
from vastzone.core.plan.model.bodies import Size, Supply
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import DeviceKind
from vastzone.core.say import number, say
from vastzone.core.text import quoted

SUPPLIES = (
    (say("not said"), ""),
    (say("mains"), "mains"),
    (say("an adapter"), "adapter"),
    ("USB", "usb"),
    (say("a battery"), "battery"),
    (say("none needed"), "none"),
)
STEPS = ((say("none"), "none"), (say("stop at the end"), "stops"), (say("go round"), "goes round"))
POLARITIES = (
    (say("not said"), ""),
    (say("plus inside"), "centre plus"),
    (say("minus inside"), "centre minus"),
    (say("alternating"), "ac"),
)


def body_rows(device: Device) -> list[FactRow]:
    """Kind, up and down, supply, weight, size, what is done before it plays, notes."""
    kinds = tuple((say(kind), kind) for kind in get_args(DeviceKind))
    running = _setter(device, "running_status")
    fields = ("sensing_ms", "delay_ms", "weight_kg")
    sensing, delay, weight = (partial(_decimal, device, field) for field in fields)
    up_down, first = partial(_step, device), partial(_preparation, device)
    to_do = " / ".join(device.preparation)
    return [
        FactRow(say("Kind"), "choice", device.kind, _setter(device, "kind"), choices=kinds),
        FactRow(say("Running status"), "check", device.running_status, running),
        FactRow(say("Sensing, ms"), "text", number(device.sensing_ms, "g"), sensing),
        FactRow(say("Delay, ms"), "text", number(device.delay_ms, "g"), delay),
        *_buffer_rows(device),
        FactRow(say("Up and down"), "choice", device.storage.step, up_down, choices=STEPS),
        *_supply_rows(device),
        FactRow(say("Weight, kg"), "text", number(device.weight_kg, "g"), weight),
        FactRow(say("Size, mm"), "text", _size_words(device), partial(_size, device)),
        FactRow(say("To do first"), "text", to_do, first),
        FactRow(say("Notes"), "text", device.notes, _setter(device, "notes")),
    ]


def _setter(device: Device, field: str) -> Make:
    label = say("Change {field}", field=field.replace("_", " "))
    return lambda value: set_device(device.id, label, **{field: value})


def _decimal(device: Device, field: str, words: str) -> Edit:
    value = read_optional(words) or 0.0
    return set_device(
        device.id, say("Change {field}", field=field.partition("_")[0]), **{field: value}
    )


def _step(device: Device, step: str) -> Edit:
    storage = changed(device.storage, step=step)
    return set_device(device.id, say("Change up and down"), storage=storage)


def _size_words(device: Device) -> str:
    return (
        ""
        if device.size is None
        else say("{wide:g} × {deep:g}", wide=device.size.wide, deep=device.size.deep)
    )


def _size(device: Device, words: str) -> Edit:
    if not words.strip():
        return set_device(device.id, say("Forget its size"), size=None)
    pieces = words.replace("x", "×").split("×")
    numbers = [read_optional(piece) for piece in pieces]
    if len(numbers) != 2 or None in numbers:
        raise EditError(
            say(
                "“{words}” is no size: write such as “980 × 300”, in millimetres.",
                words=quoted(words),
            )
        )
    size = changed(Size(wide=0.0, deep=0.0), wide=numbers[0], deep=numbers[1])
    return set_device(device.id, say("Change its size"), size=size)


def _preparation(device: Device, words: str) -> Edit:
    lines = tuple(line.strip() for line in words.split("/") if line.strip())
    return set_device(device.id, say("Change what is done first"), preparation=lines)


def _buffer_rows(device: Device) -> list[FactRow]:
    """The audio buffer of a computer or a digital device, and its converter."""
    buffer = device.buffer

    def frames(value: int) -> Edit:
        return set_buffer(device.id, frames=value) if value else remove_buffer(device.id)

    held = buffer.frames if buffer is not None else 0
    rows = [FactRow(say("Buffer, frames"), "choice", held, frames, choices=_sizes(held))]
    if buffer is None:
        return rows
    rate, periods = partial(_buffered, device, "rate"), partial(_buffered, device, "periods")
    converter = partial(_buffered_ms, device)
    return [
        *rows,
        FactRow(say("Rate, Hz"), "number", buffer.rate, rate, 8_000, 384_000),
        FactRow(say("Periods"), "number", buffer.periods, periods, 1, 8),
        FactRow(say("Converter, ms"), "text", number(buffer.converter_ms, "g"), converter),
    ]


def _sizes(held: int) -> tuple[tuple[str, int], ...]:
    """The sizes that a buffer usually has, and the one that it has."""
    sizes = sorted({*(16 << step for step in range(8)), *((held,) if held else ())})
    return (("none", 0), *((str(size), size) for size in sizes))


def _buffered(device: Device, field: str, value: int) -> Edit:
    return set_buffer(device.id, **{field: value})


def _buffered_ms(device: Device, words: str) -> Edit:
    return set_buffer(device.id, converter_ms=read_optional(words) or 0.0)


def _supply_rows(device: Device) -> list[FactRow]:
    supply = device.supply

    def set_(field: str, value: Any) -> Edit:
        new: Supply = changed(supply, **{field: value})
        return set_device(device.id, say("Change its supply"), supply=new)

    def number(label: str, field: str, high: int) -> FactRow:
        held = round(getattr(supply, field))
        return FactRow(label, "number", held, partial(set_, field), 0, high)

    rows = [
        FactRow(say("Powered by"), "choice", supply.kind, partial(set_, "kind"), choices=SUPPLIES)
    ]
    if supply.kind == "adapter":
        polarity = partial(set_, "polarity")
        rows += [
            number("Volts", "volts", 48),
            number("Milliamperes", "milliamps", 20_000),
            FactRow(say("Polarity"), "choice", supply.polarity, polarity, choices=POLARITIES),
            FactRow(say("Plug"), "text", supply.plug, partial(set_, "plug")),
        ]
    if supply.kind == "usb":
        rows.append(number("Milliamperes", "milliamps", 20_000))
    if supply.kind == "battery":
        rows += [number("Watt hours", "watt_hours", 2000), number("Watts", "watts", 5000)]
    return rows
