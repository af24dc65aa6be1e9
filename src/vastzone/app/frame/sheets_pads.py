"""Facts of trigger pads and of the inputs of drum modules."""

from collections.abc import Callable
from functools import partial

from vastzone.app.frame.sheet import Make, Press, Row, Sheet
from vastzone.core.plan import drums, lookup
from vastzone.core.plan.model import Device
from vastzone.core.plan.refs import ref_to
from vastzone.core.plan.trigger import Sensor, TriggerInput, TriggerPad, hat_sound, surviving
from vastzone.core.proof.words import listed
from vastzone.desk.session import Desk

PAD = "pad "
SENSORS: dict[Sensor, str] = {
    "single": "single piezo",
    "dual": "dual piezo",
    "switch": "piezo and switch",
    "two switches": "piezo and two switches",
    "hi-hat": "hi-hat pedal",
    "kick": "kick",
}


def pad_sheet(desk: Desk, ref: str) -> Sheet:
    """A pad: its sensor, model, how much it matters, where it is plugged in."""
    plan, ident = desk.plan, ref.removeprefix(PAD)
    pad = lookup.find(plan.pads, ident)
    if pad is None:
        return Sheet("", "Pad", "Pad", (), remark="This pad has been removed.")

    def setter(words: str, field: str) -> Make:
        return lambda v: drums.set_pad(ident, words, **{field: v})

    plug = next((g for g in plan.plugs if g.pad == ident), None)
    where, remark = "no input", "Drag it to a jack, or let the fit find one."
    if plug is not None:
        owner, held = drums.trigger_input(plan, plug.input)
        where = f"{held.name} of {owner.name}"
        kept = surviving(pad, held.type)
        lost = [z for z in pad.zones if z not in kept]
        remark = f"{listed(kept)} heard" + (f", {listed(lost)} lost." if lost else ".")
        if held.linked and len(pad.zones) > 1:
            remark += (
                f" Linked: {listed(pad.zones[1:])} sound as {pad.zones[0]}; what they had "
                "of their own is kept."
            )
    rows = (
        Row("Name", "text", pad.name, setter("Rename pad", "name")),
        Row(
            "Sensor",
            "choice",
            pad.sensor,
            setter("Change sensor", "sensor"),
            choices=tuple((words, s) for s, words in SENSORS.items()),
        ),
        Row("Make and model", "text", pad.model, setter("Change model", "model")),
        Row(
            "How much it matters",
            "choice",
            pad.importance,
            setter("Change importance", "importance"),
            choices=tuple((i, i) for i in ("must", "wanted", "spare")),
        ),
        *_weights(pad, setter),
        Row("Plugged into", "fixed", where),
    )
    presses = [Press("Remove", "trash-2", partial(drums.remove_pad, ident))]
    if plug is not None:
        presses.insert(0, Press("Pull plug", "plug", partial(drums.pull_out, ident)))
    return Sheet(ref, pad.name, "Trigger pad", rows, tuple(presses), remark)


def _weights(pad: TriggerPad, setter: Callable[[str, str], Make]) -> list[Row]:
    """How much each zone matters, 0–9."""
    held = [pad.weight(n) for n in range(len(pad.zones))]

    def make(n: int) -> Make:
        return lambda v: setter("Weigh zone", "weights")((*held[:n], v, *held[n + 1 :]))

    if len(held) < 2:
        return []
    return [
        Row(f"Weight of {zone}", "number", held[n], make(n), 0, 9)
        for n, zone in enumerate(pad.zones)
    ]


def _more(ref: str, held: TriggerInput) -> list[Row]:
    """A hi-hat pedal’s thresholds; whether the zones of another are linked."""

    def make(words: str, field: str) -> Make:
        return lambda v: drums.change_input(ref, words, **{field: v})

    if held.type == "hi-hat":
        half, closed = held.half, held.closed
        return [
            Row("Half open from", "number", half, make("Move threshold", "half"), 0, 127),
            Row("Closed from", "number", closed, make("Move threshold", "closed"), 0, 127),
            *(
                Row(f"Sounds {word}", "fixed", _positions(held, word))
                for word in ("open", "half", "closed")
            ),
        ]
    if held.type in ("mono", "kick"):
        return []
    return [Row("All zones as one", "check", held.linked, make("Link zones", "linked"))]


def _positions(jack: TriggerInput, word: str) -> str:
    """The pedal positions at which a hi-hat sounds open, half open or closed."""
    held = [p for p in range(128) if hat_sound(jack, p) == word]
    return f"{held[0]}–{held[-1]}" if held else "never"


def input_sheet(desk: Desk, owner: Device, held: TriggerInput) -> Sheet:
    """An input: the type it is set to, and what is in it."""
    ref = ref_to(owner.id, held.id)
    names = [
        p.name for p in desk.plan.pads for g in desk.plan.plugs if g.pad == p.id and g.input == ref
    ]
    rows = (
        Row(
            "Type",
            "choice",
            held.type,
            partial(drums.set_input, ref),
            choices=tuple((t, t) for t in held.types),
        ),
        Row("In it", "fixed", listed(names) or "nothing"),
        *_more(ref, held),
    )
    return Sheet(ref, held.name, f"Input of {owner.name}", rows)
