"""The columns that a table of a device's things can have: how each is called, read and written."""

from collections.abc import Callable
from typing import Any, Literal, NamedTuple

from vastzone.core.describe.traits import NO, Trait, traits_of
from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number

What = Literal["controls", "stops", "parts", "targets", "sounds", "inputs"]
WHATS: tuple[What, ...] = ("controls", "stops", "parts", "targets", "sounds", "inputs")
Read = Callable[[Device, str], Any]


class Column(NamedTuple):
    """A column: what it is called, how it is read and written; ``sent`` ones are what is sent."""

    id: str
    also: tuple[str, ...]
    read: Read
    write: Callable[[Device, Any], str]
    trait: Trait | None = None


def _number(low: int, high: int, name: str) -> Read:
    def read(_device: Device, text: str) -> int:
        number = whole_number(text)
        if number is None or not low <= number <= high:
            raise EditError(
                say(
                    "“{text}” is no {name}: write one from {low} to {high}.",
                    text=quoted(text),
                    name=name,
                    low=low,
                    high=high,
                )
            )
        return number

    return read


def _channel(_device: Device, text: str) -> int | None:
    if text.lower() in ("all", "omni", "zones"):
        return None
    number = whole_number(text)
    if number is None or not 1 <= number <= 16:
        raise EditError(
            say("“{text}” is no channel: write one from 1 to 16, or all.", text=quoted(text))
        )
    return number


def _note(device: Device, text: str) -> int:
    number = whole_number(text)
    if number is not None and not 0 <= number <= 127:
        raise EditError(
            say(
                "{number} is outside 0–127: write a number inside, or a note’s name.", number=number
            )
        )
    return pitch.parse(text, device.octaves)


def _program(device: Device, text: str) -> int | None:
    """The number of a program as it is shown, by that or by its name; None where there is none."""
    if not device.programs:
        return None
    by_name: dict[str, int] = {}
    for program in device.programs:
        shown = program.number + device.first_program
        by_name.setdefault(program.name.lower(), shown)
        if text == str(shown):
            return shown
    if text.lower() not in by_name:
        sentence = say(
            "“{text}” is no program of {device}: write its number or its name.",
            text=quoted(text),
            device=device.name,
        )
        raise EditError(sentence)
    return by_name[text.lower()]


def _text(_device: Device, text: str) -> str:
    return text


MESSAGES = {"note": "note", "cc": "controller", "controller": "controller", "program": "program"}
MESSAGES |= {"bend": "bend", "pressure": "pressure", "nothing": "none", "none": "none", "": "none"}


def _message(_device: Device, text: str) -> str:
    found = MESSAGES.get(text.lower().removesuffix(" change").removesuffix("control "))
    if found is None:
        raise EditError(
            say(
                "“{text}” is no message: write note, controller, program or bend.",
                text=quoted(text),
            )
        )
    return found


def _mode(_device: Device, text: str) -> str:
    if text.lower() not in ("momentary", "toggle", "trigger"):
        raise EditError(
            say("“{text}” is no mode: write momentary, toggle or trigger.", text=quoted(text))
        )
    return text.lower()


def _of(trait: Trait) -> Column:
    return Column(
        trait.id,
        (trait.label.lower(), *trait.also),
        trait.read,
        lambda device, item: trait.words(device, trait.held(item)),
        trait,
    )


def _plain(ident: str, also: tuple[str, ...], read: Read, attribute: str = "") -> Column:
    def write(_device: Device, item: Any) -> str:
        value = getattr(item, attribute or ident, None)
        return "" if value is None else str(value)

    return Column(ident, also, read, write)


def _note_column(ident: str, also: tuple[str, ...]) -> Column:
    def write(device: Device, item: Any) -> str:
        value = getattr(item, ident, None)
        return "" if value is None else pitch.name(value, device.octaves)

    return Column(ident, also, _note, write)


SENT: tuple[Column, ...] = (
    _plain("program", ("preset",), _program),
    _plain("bank", (), _number(1, 64, "bank")),
    _plain("message", ("sends",), _message),
    _plain("number", ("cc", "controller", "note", "no", "#"), _note),
    _plain("channel", ("ch", "midi channel"), _channel),
    _plain("low", ("least", "min", "from"), _number(0, 127, "value")),
    _plain("high", ("most", "max", "to"), _number(0, 127, "value")),
    _plain("mode", (), _mode),
)
"""What controls send: columns that belong to a send, not to the control."""
_CONTROLS = tuple(_of(trait) for trait in traits_of("controls"))
COLUMNS: dict[What, tuple[Column, ...]] = {
    "controls": (*_CONTROLS, *SENT),
    "stops": (*_CONTROLS, *SENT),
    "parts": (
        *(_of(trait) for trait in traits_of("parts")),
        _plain("channel", ("ch", "midi channel"), _channel),
        _note_column("low", ("lowest", "lowest note", "from")),
        _note_column("high", ("highest", "highest note", "to")),
    ),
    "targets": (
        *(_of(trait) for trait in traits_of("targets")),
        _plain("controller", ("cc", "number", "no", "#"), _number(0, 127, "controller")),
        _plain("channel", ("ch", "midi channel"), _channel),
    ),
    "sounds": (
        _plain("name", ("sound",), _text),
        _plain("kit", (), _text),
        _note_column("note", ("number", "no", "#", "key")),
        Column(
            "loud",
            (),
            lambda _, text: text.lower() not in NO,
            lambda _, item: "yes" if item.loud else "",
        ),
    ),
    "inputs": tuple(_of(trait) for trait in traits_of("inputs")),
}
"""The columns that a table of each kind can have."""
