"""Making what hands and feet touch: keys, controls, trigger inputs and jacks for pedals."""

from collections.abc import Iterable
from typing import Any, Protocol

from vastzone.core.describe.phrase import Phrase, names_of
from vastzone.core.errors import EditError
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone, Zoned
from vastzone.core.plan.model.functions import Function
from vastzone.core.plan.model.pedals import Accepts, PedalJack
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.triggers import InputType, TriggerInput
from vastzone.core.plan.model.values import ControlKind, Mode, Sending
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import CONTROLS
from vastzone.core.say import say


class Named(Protocol):
    """Something with a name."""

    @property
    def name(self) -> str: ...


ACROSS: dict[str, int] = {"fader": 12, "stop": 10, "button": 10, "knob": 8, "switch": 5}
"""How many controls of each kind lie beside each other where nobody says; of others eight."""
LOWEST_USUAL = {25: 48, 32: 41, 37: 48, 49: 36, 61: 36, 73: 28, 76: 28, 88: 21}
"""Where keyboards of usual lengths begin."""
MODES: tuple[Mode, ...] = ("toggle", "trigger", "momentary")


def with_program(device: Device) -> Device:
    """A device with a program to put things in."""
    if device.programs:
        return device
    return changed(device, programs=(Program(number=0, name=say("First")),))


def with_sends(device: Device, sends: list[Send]) -> Device:
    """A device whose controls send more, in every one of its programs."""
    if not sends:
        return device
    device = with_program(device)
    programs = []
    for program in device.programs:
        programs.append(changed(program, sends=(*program.sends, *sends)))
    return changed(device, programs=tuple(programs))


def with_controls(device: Device, phrase: Phrase) -> Device:
    """Controls of one kind as a phrase says, and what they send."""
    kind: ControlKind = phrase.noun.kind  # type: ignore[assignment]
    taken = lookup.ids_of(device.controls) | lookup.ids_of(device.keybeds)
    begun = _rows_of(device, kind)
    columns = phrase.columns or min(ACROSS.get(kind, 8), phrase.how_many)
    if phrase.rows * phrase.columns and phrase.rows * phrase.columns < phrase.how_many:
        raise EditError(
            say(
                "{how_many} do not lie on {rows} × {columns}: correct “{phrase}”.",
                how_many=phrase.how_many,
                rows=phrase.rows,
                columns=phrase.columns,
                phrase=phrase.said,
            )
        )
    controls = []
    for place, name in enumerate(names_of(phrase, _names(device.controls))):
        row, column = divmod(place, columns)
        if phrase.upwards:
            row = (phrase.how_many - 1) // columns - row
        ident = lookup.free_id(taken, name)
        taken.add(ident)
        control = Control(
            id=ident,
            name=name,
            kind=kind,
            banks=phrase.banks,
            row=begun + row,
            column=column,
            shape="round" if "round" in phrase.flags else "square",
            endless="endless" in phrase.flags,
        )
        controls.append(control)
    device = changed(device, controls=(*device.controls, *controls))
    return with_sends(device, sends_of(phrase, controls))


def _names(things: Iterable[Named]) -> list[str]:
    return [thing.name for thing in things]


def _rows_of(device: Device, kind: ControlKind) -> int:
    """The first row that no control of a kind lies in."""
    return max((c.row + 1 for c in device.controls if c.kind == kind), default=0)


def sends_of(phrase: Phrase, controls: list[Control]) -> list[Send]:
    """What controls send: numbers that run on from bank to bank."""
    message = phrase.message or phrase.noun.message
    if message is None and phrase.first is not None:
        message = _usual_message(controls[0])
    if message is None:
        return []
    first = phrase.noun.number if phrase.first is None else phrase.first
    step = 0 if message in ("bend", "pressure") else 1
    last = first + step * (len(controls) * phrase.banks - 1)
    if last > 127:
        raise EditError(
            say(
                "“{phrase}” would end on {message} {last}, above 127: begin lower, or have fewer.",
                phrase=phrase.said,
                message=message,
                last=last,
            )
        )
    sends = []
    for bank in range(1, phrase.banks + 1):
        for place, control in enumerate(controls):
            number = first + step * ((bank - 1) * len(controls) + place)
            sends.append(
                Send(
                    control=control.id,
                    bank=bank,
                    message=message,
                    number=number if step else 0,
                    channel=_channel(phrase, place),
                    mode=_mode(phrase),
                )
            )
    return sends


def _usual_message(control: Control) -> Sending:
    return "note" if CONTROLS[control.kind].hard else "controller"


def _channel(phrase: Phrase, place: int) -> int | None:
    if phrase.own_channels is None:
        return phrase.channel
    channel = phrase.own_channels + place
    if channel > 16:
        raise EditError(
            say(
                "“{phrase}” would need channel {channel}: there are 16.",
                phrase=phrase.said,
                channel=channel,
            )
        )
    return channel


def _mode(phrase: Phrase) -> Mode:
    for mode in MODES:
        if mode in phrase.flags:
            return mode
    return "momentary"


def with_keys(device: Device, phrase: Phrase) -> Device:
    """Rows of keys: «61 keys from C2», or «2 manuals of 54 keys from G2», each with a zone."""
    several = phrase.of > 0
    keys = phrase.of if several else phrase.how_many
    one = phrase if several else phrase._replace(how_many=1)
    beds = names_of(one, _names(device.keybeds))
    low = LOWEST_USUAL.get(keys, 36) if phrase.first is None else phrase.first
    if low + keys - 1 > 127:
        raise EditError(
            say(
                "“{phrase}” would end on note {low}, above 127: begin lower.",
                phrase=phrase.said,
                low=low + keys - 1,
            )
        )
    device = with_program(device)
    for place, name in enumerate(beds):
        taken = lookup.ids_of(device.keybeds) | lookup.ids_of(device.controls)
        ident = lookup.free_id(taken, name)
        bed = Keybed(id=ident, name=name, low=low, keys=keys)
        device = changed(device, keybeds=(*device.keybeds, bed))
        channel = _channel(phrase, place) or 1
        for low_key, high_key in _between(bed, phrase):
            device = _with_zone(device, bed, low_key, high_key, channel)
            channel = channel % 16 + 1
    return device


def _between(bed: Keybed, phrase: Phrase) -> list[tuple[int, int]]:
    """The keys of each zone: all of them, or those between the splits."""
    begins = [bed.low]
    for note in sorted(phrase.split_at):
        if not bed.low < note <= bed.high:
            raise EditError(
                say("“{phrase}”: a split lies on the keys, above the lowest.", phrase=phrase.said)
            )
        begins.append(note)
    ends = [begin - 1 for begin in begins[1:]]
    return list(zip(begins, [*ends, bed.high], strict=True))


def _with_zone(device: Device, bed: Keybed, low: int, high: int, channel: int) -> Device:
    """Every program with a zone over keys of a keybed."""
    programs = []
    for program in device.programs:
        ident = lookup.free_id(lookup.ids_of(program.zones), f"zone-{len(program.zones) + 1}")
        zone = Zone(
            id=ident,
            name=say("Zone {count}", count=len(program.zones) + 1),
            keybed=bed.id,
            low=low,
            high=high,
            channel=channel,
        )
        programs.append(changed(program, zones=(*program.zones, zone)))
    return changed(device, programs=tuple(programs))


INPUT_ZONES: dict[InputType, tuple[Zoned, ...]] = {
    "mono": ("head",),
    "kick": ("head",),
    "dual": ("head", "rim"),
    "piezo-switch": ("bow", "edge"),
    "three-way": ("bow", "edge", "bell"),
    "hi-hat": ("open", "half", "closed", "edge", "foot chick", "foot splash"),
}
"""What can be struck at an input of each type."""


def with_inputs(device: Device, phrase: Phrase) -> Device:
    """Trigger inputs of a drum module, each with what can be struck at it."""
    struck: list[Control] = []
    for name in names_of(phrase, _names(device.inputs)):
        before = len(device.controls)
        device = _with_input(device, name, _types(phrase))
        struck += device.controls[before:]
    return with_sends(device, sends_of(phrase, struck))


def _types(phrase: Phrase) -> tuple[InputType, ...]:
    named: list[InputType] = []
    for kind in INPUT_ZONES:
        if kind in phrase.flags:
            named.append(kind)
    return tuple(named) or ("dual", "piezo-switch", "mono")


def _with_input(device: Device, name: str, types: tuple[InputType, ...]) -> Device:
    taken = lookup.ids_of(device.inputs) | lookup.ids_of(device.controls)
    number = len(device.inputs) + 1
    ident = lookup.free_id(taken, f"in-{number}")
    jack = TriggerInput(id=ident, name=name, types=types, type=types[0])
    taken.add(ident)
    controls = []
    for zone in INPUT_ZONES[types[0]]:
        control = Control(
            id=lookup.free_id(taken, f"{name} {zone}"),
            name=f"{name} {zone}",
            kind="pad",
            input=ident,
            zone=zone,
            row=(number - 1) // 5,
            column=(number - 1) % 5,
        )
        taken.add(control.id)
        controls.append(control)
    device = changed(
        device,
        inputs=(*device.inputs, jack),
        controls=(*device.controls, *controls),
    )
    return _with_hat_pedal(device, jack) if "hi-hat" in types else device


def _with_hat_pedal(device: Device, jack: TriggerInput) -> Device:
    """The pedal in the second socket of a hi-hat input, which tells where it is."""
    pedal = _free_control(device, say("{jack} pedal", jack=jack.name), "pedal")
    pedal = changed(pedal, input=jack.id, zone="pedal")
    device = changed(device, controls=(*device.controls, pedal))
    return with_sends(device, [Send(control=pedal.id, message="controller", number=4)])


def _free_control(device: Device, name: str, kind: ControlKind) -> Control:
    taken = lookup.ids_of(device.controls) | lookup.ids_of(device.keybeds)
    return Control(id=lookup.free_id(taken, name), name=name, kind=kind)


JACKS: dict[str, tuple[str, ControlKind, Accepts, tuple[Function, ...], int, dict[str, Any]]] = {
    "sustain": (
        say("Sustain"),
        "switch",
        "switch",
        ("sustain", "sostenuto", "soft", "hold"),
        64,
        {"sense": "at power-up"},
    ),
    "expression": (
        say("Expression"),
        "pedal",
        "continuous",
        ("swell", "morph", "any"),
        11,
        {"wipers": ("tip", "ring"), "calibrated": True},
    ),
    "swell": (say("Swell"), "pedal", "continuous", ("swell",), 11, {"calibrated": True}),
    "rotor": (say("Rotor"), "switch", "switch", ("speed",), 1, {}),
    "control": (say("Control"), "switch", "switch", ("any",), 80, {"senses": ("open", "closed")}),
    "dual-switch": (
        say("Dual switch"),
        "switch",
        "dual switch",
        ("program up", "program down"),
        80,
        {},
    ),
    "triple": (say("Triple pedal"), "switch", "triple", ("any",), 64, {}),
    "breath": (say("Breath"), "breath", "breath", ("swell", "morph", "any"), 2, {}),
    "voltage": (say("Voltage"), "pedal", "voltage", ("swell", "morph", "any"), 22, {}),
    "hi-hat": (say("Hat pedal"), "pedal", "hi-hat", ("hi-hat",), 4, {}),
}
"""Jacks by what they are for: name, control, what goes in, functions, usual controller, more."""


def with_jacks(device: Device, phrase: Phrase) -> Device:
    """Jacks for pedals: «sustain jack», «2 expression jacks», each with what it moves."""
    kinds = [kind for kind in JACKS if kind in phrase.flags] or ["control"]
    name, control_kind, accepts, functions, number, more = JACKS[kinds[0]]
    if "switch" in phrase.flags and accepts == "continuous":
        accepts = "switch"
    sends = []
    jacks = phrase if phrase.names else phrase._replace(names=name)
    for own in names_of(jacks, _names(device.controls)):
        control = _free_control(device, own, control_kind)
        jack = PedalJack(
            id=lookup.free_id(lookup.ids_of(device.jacks), say("{own} jack", own=own)),
            name=own,
            accepts=(accepts,),
            functions=functions,
            control=control.id,
            **more,
        )
        device = changed(device, controls=(*device.controls, control), jacks=(*device.jacks, jack))
        sends.append(Send(control=control.id, message="controller", number=number))
    return with_sends(device, sends)
