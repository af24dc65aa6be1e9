"""Facts of trigger pads and of the inputs of drum modules."""

from collections.abc import Callable
from functools import partial

from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.sheet import FactRow, Make, Press, Sheet
from vastzone.core.cards.plugging import SENSOR_WORDS
from vastzone.core.plan.edits import plugs
from vastzone.core.plan.edits.drum_sounds import sounds_of
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.wishes import play_sound, sound_played
from vastzone.core.plan.fields.owners import input_owner
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import (
    TriggerInput,
    TriggerPad,
    hat_state,
    pedal_of,
    surviving,
)
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.core.text import capital, listed
from vastzone.desk.session import Desk

PAD = "pad "


def pad_sheet(desk: Desk, ref: str) -> Sheet:
    """A pad: its sensor, model, how much it matters, where it is plugged in."""
    plan, ident = desk.plan, ref.removeprefix(PAD)
    pad = lookup.find(plan.pads, ident)
    if pad is None:
        return Sheet("", say("Pad"), say("Pad"), (), remark=say("This pad has been removed."))

    def setter(words: str, field: str) -> Make:
        return lambda v: plugs.set_pad(ident, words, **{field: v})

    plug = next((plug for plug in plan.plugs if plug.pad == ident), None)
    remark = say("Drag it to a jack, or let the fit find one.")
    presses = [Press(say("Remove"), "trash-2", partial(plugs.remove_pad, ident))]
    if plug is not None:
        remark = _plugged(plan, pad, plug.input)
        presses.insert(0, Press(say("Pull plug"), "plug", partial(plugs.pull_out, ident)))
    sensors = tuple((words, sensor) for sensor, words in SENSOR_WORDS.items())
    matters = tuple((word, word) for word in ("must", "wanted", "spare"))
    change, weigh = (
        setter(say("Change sensor"), "sensor"),
        setter(say("Change importance"), "importance"),
    )
    rows = (
        FactRow(say("Name"), "text", pad.name, setter(say("Rename pad"), "name")),
        FactRow(say("Sensor"), "choice", pad.sensor, change, choices=sensors),
        FactRow(say("Make and model"), "text", pad.model, setter(say("Change model"), "model")),
        FactRow(say("How much it matters"), "choice", pad.importance, weigh, choices=matters),
        *_weights(pad, setter),
        *_pedals(plan, pad, setter),
        _jack(plan, pad, plug.input if plug is not None else ""),
        *_sounds(plan, pad),
    )
    return Sheet(ref, pad.name, say("Trigger pad"), rows, tuple(presses), remark)


def _pedals(plan: Plan, pad: TriggerPad, setter: Callable[[str, str], Make]) -> list[FactRow]:
    """Which hi-hat pedal a pad is played with, where there is one."""
    feet = [other for other in plan.pads if other.sensor == "hi-hat"]
    if pad.sensor == "hi-hat" or not feet:
        return []
    choices = (("none", None), *((foot.name, foot.id) for foot in feet))
    now = pedal_of(pad, plan.pads)
    make = setter(say("Change pedal"), "pedal")
    return [FactRow(say("Played with"), "choice", now, make, choices=choices)]


def _jack(plan: Plan, pad: TriggerPad, here: str) -> FactRow:
    """Where a pad is plugged in: to be chosen among the inputs that take it."""
    choices: list[tuple[str, str]] = [(say("no input"), "")]
    for device in plan.devices:
        for socket in device.inputs:
            ref = ref_to(device.id, socket.id)
            if ref == here or not plugs.refusal(plan, pad, ref):
                choices.append(
                    (say("{socket} of {device}", socket=socket.name, device=device.name), ref)
                )

    def move(ref: str) -> Edit:
        return plugs.plug_in(plan, pad.id, ref) if ref else plugs.pull_out(pad.id)

    return FactRow(say("Plugged into"), "choice", here, move, choices=tuple(choices))


def _sounds(plan: Plan, pad: TriggerPad) -> list[FactRow]:
    """What each stroke of a pad is to sound, wherever it is plugged in."""
    rows = []
    for stroke, at in sounds_of(plan, pad).items():
        named = pad.zones[0] if stroke == "head" else stroke
        named = pad.zones[1] if stroke == "rim" and len(pad.zones) > 1 else named
        rows += sound_rows(plan, at, say("{named} sounds", named=capital(named)))
    return rows


def sound_rows(plan: Plan, control: str, label: str) -> list[FactRow]:
    """A row with the sound of a kit that a control is wished to play; none without any kit."""
    choices: list[tuple[str, tuple[str, str]]] = []
    for device in plan.devices:
        for part in device.parts:
            kit = lookup.find(device.kits, part.kit)
            for sound in kit.sounds if kit is not None else ():
                choices.append(
                    (f"{sound.name}, {device.name}", (ref_to(device.id, part.id), sound.id))
                )
    if not choices:
        return []
    now = sound_played(plan, control, 1) or ("", "")
    every = ((say("nothing wished"), ("", "")), *choices)

    def wish(chosen: tuple[str, str]) -> Edit:
        return play_sound(control, 1, *chosen)

    return [FactRow(label, "choice", now, wish, choices=tuple(every))]


def _plugged(plan: Plan, pad: TriggerPad, ref: str) -> str:
    """Which zones of a pad are heard where it is plugged in."""
    _, trigger_input = plugs.trigger_input(plan, ref)
    kept = surviving(pad, trigger_input.type)
    lost = []
    for zone in pad.zones:
        if zone not in kept:
            lost.append(zone)
    remark = say("{kept} heard", kept=listed(kept)) + (
        say(", {lost} lost.", lost=listed(lost)) if lost else "."
    )
    if trigger_input.linked and len(pad.zones) > 1:
        remark += say(
            " Linked: {zones} sound as {pad_zones}; what they had of their own is kept.",
            zones=listed(pad.zones[1:]),
            pad_zones=pad.zones[0],
        )
    return remark


def _weights(pad: TriggerPad, setter: Callable[[str, str], Make]) -> list[FactRow]:
    """How much each zone matters, 0–9."""
    weights = [pad.weight(n) for n in range(len(pad.zones))]

    def make(n: int) -> Make:
        return lambda v: setter(say("Weigh zone"), "weights")((*weights[:n], v, *weights[n + 1 :]))

    if len(weights) < 2:
        return []
    return [
        FactRow(say("Weight of {zone}", zone=zone), "number", weights[n], make(n), 0, 9)
        for n, zone in enumerate(pad.zones)
    ]


def _sounding(socket: TriggerInput) -> list[FactRow]:
    """Where a hi-hat’s pedal makes it sound open, half open and closed."""
    if socket.type != "hi-hat":
        return []
    rows = []
    for word in ("open", "half", "closed"):
        rows.append(FactRow(say("Sounds {word}", word=word), "fixed", _positions(socket, word)))
    return rows


def _positions(jack: TriggerInput, word: str) -> str:
    """The pedal positions at which a hi-hat sounds open, half open or closed."""
    positions = []
    for p in range(128):
        if hat_state(jack, p) == word:
            positions.append(p)
    return f"{positions[0]}–{positions[-1]}" if positions else say("never")


def input_sheet(desk: Desk, owner: Device, socket: TriggerInput) -> Sheet:
    """An input: the type it is set to, and what is in it."""
    ref = ref_to(owner.id, socket.id)
    names = []
    for pad in desk.plan.pads:
        for plug in desk.plan.plugs:
            if plug.pad == pad.id and plug.input == ref:
                names.append(pad.name)
    inside = FactRow(say("In it"), "fixed", listed(names) or say("nothing"))
    only = [] if len(socket.types) > 1 else [FactRow(say("Type"), "fixed", say(socket.type))]
    rows = [*only, inside, *field_rows(input_owner(owner, socket)), *_sounding(socket)]
    for control in owner.controls:
        if control.input == socket.id and socket.type == "hi-hat" and control.zone != "pedal":
            named = control.zone or control.name
            sounds = sound_rows(
                desk.plan, ref_to(owner.id, control.id), say("For {named}", named=named)
            )
            rows += sounds
    return Sheet(ref, socket.name, say("Input of {owner}", owner=owner.name), tuple(rows))
