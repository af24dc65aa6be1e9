"""Numbers in a device's own terms: its octave naming, its program numbering, its port names."""

from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import label
from vastzone.core.midi.wide import WIDE, name
from vastzone.core.plan import lookup
from vastzone.core.plan.console import Encoder
from vastzone.core.plan.model import Device
from vastzone.core.plan.refs import SettingRef, read_setting_ref
from vastzone.core.plan.settings import (
    CURVES,
    DIVISIONS,
    MISSING,
    MODES,
    SENSES,
    WIPERS,
    mute_groups,
)

FIELDS = {
    "channel": "Channel",
    "low": "Lowest",
    "high": "Highest",
    "vel_low": "Softest velocity",
    "vel_high": "Loudest velocity",
    "transpose": "Transpose",
    "octave": "Octave shift",
    "on": "Zone",
    "number": "Number",
    "mode": "Mode",
    "outputs": "Outputs",
    "velocity": "Fixed velocity",
    "curve": "Velocity curve",
    "fade": "Crossfade",
    "mutes": "Mutes the group",
    "muted_by": "Muted by the group",
    "repeat": "Note repeat",
    "swing": "Swing",
    "type": "Input type",
    "linked": "Zones linked",
    "half": "Half open from",
    "closed": "Closed from",
    "sense": "Pedal at rest",
    "wiper": "Wiper on",
    "heel": "Value at the heel",
    "toe": "Value at the toe",
    "hysteresis": "Moves ignored up to",
    "starts": "Travel begins at",
    "ends": "Travel ends at",
    "threshold": "At rest below",
    "page": "Number, high part",
    "local": "Local control",
    "controller": "Controller",
}


THRU = ("device", "thru")
"""The owner of what says which inputs are passed on to which outputs."""


def value_words(device: Device, ref: str, value: int | None) -> str:
    """A value as the device shows it."""
    place = read_setting_ref(ref)
    field, kind, ident = place.field, place.owner, place.ident
    if value is None:
        return "not set"
    if field == "type":
        jack = lookup.by_id(device.inputs, ident, "input")
        return jack.types[value]
    if field in ("on", "local", "fade", "linked") or (kind, ident) == THRU:
        return "on" if value else "off"
    if field == "mode":
        return MODES[value]
    if field == "curve":
        return CURVES[value]
    if field == "sense":
        return SENSES[value]
    if field == "wiper":
        return WIPERS[value]
    if field == "repeat":
        return DIVISIONS[value]
    if field == "swing":
        return f"{value} %"
    if field in ("mutes", "muted_by"):
        held = mute_groups(device)
        return held[value] if value < len(held) else str(value + 1)
    if field == "outputs":
        names = [p.name for n, p in enumerate(device.ports) if value >> n & 1]
        return " and ".join(names) or "all"
    if value == MISSING:
        return {"channel": "all" if kind == "part" else "as the zones"}.get(field, "none")
    if kind == "kit" or (field in ("low", "high") and kind in ("zone", "part")):
        return pitch.label(value, device.octaves)
    if field == "transpose" and kind == "zone" and device.console is not None:
        return _lowest(device, ident, value)
    if field in ("transpose", "octave"):
        return f"{value:+}".replace("-", "−") if value else "0"
    if field == "controller":
        target = lookup.by_id(device.targets, ident, "target")
        wide = target.answers != "controller"
        return name(target.answers, target.page << 7 | value) if wide else label(value)
    return _sent(device, place, value) if field == "number" else str(value)


def _lowest(device: Device, zone: str, shift: int) -> str:
    """The lowest note of a console’s keyboard as its encoder asks for it."""
    held = next((z for p in device.programs for z in p.zones if z.id == zone), None)
    bed = lookup.keybed(device, held.keybed) if held else None
    note = (bed.low if bed else 0) + shift
    if not 0 <= note <= 127:
        return f"{shift:+}".replace("-", "−")
    encoder = device.console.encoder if device.console else Encoder()
    if encoder.asks == "note number":
        return pitch.label(note, device.octaves)
    octave, index = pitch.octave_and_index(note, device.octaves, encoder.first_index)
    return f"{pitch.name(note, device.octaves)}: octave {octave}, index {index}"


def _sent(device: Device, place: SettingRef, value: int) -> str:
    """A number that a control sends: a note by name, a controller by meaning, a program."""
    program = lookup.program(device, place.program or 0)
    for send in program.sends:
        if send.thing == place.ident:
            if send.message == "controller":
                return label(value)
            if send.message in WIDE:
                return name(send.message, send.page << 7 | value)
            if send.message == "program":
                return str(value + device.first_program)
    return pitch.label(value, device.octaves)


def thing_words(device: Device, ref: str) -> str:
    """What a setting belongs to inside its device: ``Zone Viol``, ``Pad 3, bank 2``."""
    place = read_setting_ref(ref)
    kind, ident = place.owner, place.ident
    if (kind, ident) == THRU:
        names = {p.id: p.name for p in device.ports}
        source, _, dest = place.field.partition(".")
        return f"{names[source]} to {names[dest]}"
    if kind == "device":
        return "Whole device"
    if kind == "part":
        return f"Part {lookup.part(device, ident).name}"
    if kind == "jack":
        return f"Jack {lookup.by_id(device.jacks, ident, 'jack').name}"
    if kind == "input":
        return f"Input {lookup.by_id(device.inputs, ident, 'input').name}"
    if kind == "target":
        return f"Target {lookup.by_id(device.targets, ident, 'target').name}"
    if kind == "kit":
        kit = lookup.kit(device, ident)
        return f"{kit.name}, {lookup.by_id(kit.sounds, place.field, 'sound').name}"
    if kind == "zone":
        return f"Zone {lookup.zone(device, place.program or 0, ident).name}"
    return control_words(device, place.control, place.bank)


def control_words(device: Device, control: str, ident: str) -> str:
    """A control with its bank, where it has several, and the layer above the first."""
    held = lookup.by_id(device.controls, control, "control")
    bank, _, layer = ident.partition(".")
    below = f", layer {int(layer) + 1}" if layer else ""
    return (f"{held.name}, bank {bank}" if held.banks > 1 else held.name) + below


def field_words(ref: str, device: Device | None = None) -> str:
    """What a setting is called on the card."""
    place = read_setting_ref(ref)
    if (place.owner, place.ident) == THRU:
        return "Pass on"
    if place.field == "transpose" and device is not None and device.console is not None:
        return "Lowest note"
    return "Note" if place.owner == "kit" else FIELDS.get(place.field, "Value")


def number_words(
    device: Device, ref: str, before: int | None, after: int
) -> tuple[str, str, str, str, str]:
    """A changed number in words: program as the device shows it («» for none), where, what,
    from, to."""
    number = read_setting_ref(ref).program
    program = "" if number is None else str(number + device.first_program)
    return (
        program,
        thing_words(device, ref),
        field_words(ref, device),
        value_words(device, ref, before),
        value_words(device, ref, after),
    )
