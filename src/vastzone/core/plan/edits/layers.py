"""Edits of what lies under one pad: layers by velocity, a hi-hat without a pedal."""

from typing import Any

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_program
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say

MOST_LAYERS = 8
HALF_OPEN = 40
"""The decay of a half-open hat, of 127: about a third of an open one’s, to begin with."""


def layers_of(program: Program, control: str, bank: int) -> list[Send]:
    """Everything that a control sends in a bank, by layer."""
    mine = []
    for send in program.sends:
        if (send.control, send.bank) == (control, bank):
            mine.append(send)
    return sorted(mine, key=lambda s: s.layer)


def add_layer(device: str, program: int, control: str, bank: int) -> Edit:
    """Split the loudest layer of a pad in two; the upper half becomes a layer of its own.

    Raises EditError where the pad sends no note, has no room, or cannot be split further.
    """

    def change(program: Program, owner: Device) -> Program:
        name = lookup.by_id(owner.controls, control, "control").name
        mine = layers_of(program, control, bank)
        notes = [s for s in mine if s.message == "note"]
        if not notes:
            raise EditError(
                say(
                    "{name} sends no note in bank {bank}: let it send one first.",
                    name=name,
                    bank=bank,
                )
            )
        top = max(notes, key=lambda s: s.vel_high)
        if len(mine) >= MOST_LAYERS or top.vel_high - top.vel_low < 1:
            raise EditError(
                say("{name} has no room for another layer: remove one first.", name=name)
            )
        middle = (top.vel_low + top.vel_high) // 2
        number = next(n for n in range(MOST_LAYERS) if all(s.layer != n for s in mine))
        new = changed(top, layer=number, vel_low=middle + 1)
        sends = swapped(program.sends, top, changed(top, vel_high=middle))
        return changed(program, sends=(*sends, new))

    return edit_program(device, program, say("Add layer"), change)


def remove_layer(device: str, program: int, control: str, bank: int, layer: int) -> Edit:
    """Take a layer away; its velocities go to the one below, or above where there is none."""

    def change(program: Program, owner: Device) -> Program:
        layers = {}
        for send in layers_of(program, control, bank):
            layers[send.layer] = send
        gone = layers.pop(layer, None)
        if gone is None or not layers:
            raise EditError(say("A pad keeps its last layer: let it send nothing instead."))
        heir = _heir(list(layers.values()), gone)
        wide = changed(
            heir,
            vel_low=min(heir.vel_low, gone.vel_low),
            vel_high=max(heir.vel_high, gone.vel_high),
            layer=heir.layer if 0 in layers else 0,
        )
        sends = swapped(swapped(program.sends, heir, wide), gone)
        return changed(program, sends=sends)

    return edit_program(device, program, say("Remove layer"), change)


def _heir(others: list[Send], gone: Send) -> Send:
    """The layer that takes over the velocities of one that goes: the next below, else above."""
    below = [send for send in others if send.vel_low <= gone.vel_low]
    if not below:
        return min(others, key=lambda send: (send.vel_low, send.vel_high))
    return max(below, key=lambda send: (send.vel_high, -send.vel_low))


def hat_without_pedal(plan: Plan, device: str, program: int, jack: str) -> Edit:
    """The main zone of a pad plays the closed hi-hat and silences the open one on its rim.

    Raises EditError where the module has no such two zones on that input.
    """
    owner = lookup.device(plan, device)
    main, rim = two_zones(owner, jack)
    closed, opened = _hat_note(plan, "closed", 42), _hat_note(plan, "open", 46)

    def change(program: Program, _: Device) -> Program:
        program = _with_layers(program, main, number=closed, mutes="hi-hat")
        return _with_layers(program, rim, number=opened, muted_by="hi-hat")

    return edit_program(device, program, say("Hi-hat without a pedal"), change)


def half_open_hat(plan: Plan, device: str, program: int, control: str, bank: int = 1) -> Edit:
    """A pad plays the half-open hat, which closing mutes: of the kit, or the open one cut short.

    Where no kit has one, the open hat’s decay is set by the same stroke, and set back by that on
    the open one’s rim.  Raises EditError where neither is there, or the pad sends no note.
    """
    half = _named_hat(plan, "half")
    decay = None if half is not None else _decay_of_hats(plan)
    if half is None and decay is None:
        raise EditError(
            say(
                "No kit here has a half-open hat, and nothing shortens its decay: add a target "
                "called "
                "“Hat decay” to the device that sounds it."
            )
        )

    def change(old: Program, owner: Device) -> Program:
        pad = lookup.by_id(owner.controls, control, "control")
        note = _hat_note(plan, "open", 46) if half is None else half
        new = _with_layers(old, pad, bank, number=note, muted_by="hi-hat")
        if decay is None:
            return new
        for send in new.sends:
            if send.muted_by == "hi-hat" and not _sets(new, send, decay):
                short = (send.control, send.bank) == (control, bank)
                new = _with_decay(new, send, decay, HALF_OPEN if short else 127)
        return new

    return edit_program(device, program, say("Half-open hi-hat"), change)


def _decay_of_hats(plan: Plan) -> Target | None:
    """What shortens the decay of a hat: a target with a controller, called so."""
    for device in plan.devices:
        for target in device.targets:
            name = target.name.lower()
            if "decay" in name and target.answers == "controller" and target.controller is not None:
                return target
    return None


def _sets(program: Program, send: Send, target: Target) -> bool:
    """Whether a stroke sets a target already."""
    for other in layers_of(program, send.control, send.bank):
        if other.message == "controller" and other.number == target.controller:
            return True
    return False


def _with_decay(program: Program, send: Send, target: Target, value: int) -> Program:
    """A stroke that also sets a target to a value; it leaves first, so that the sound has it."""
    mine = layers_of(program, send.control, send.bank)
    number = next((n for n in range(MOST_LAYERS) if all(s.layer != n for s in mine)), None)
    if number is None:
        raise EditError(say("That pad has no room for another message: remove a layer first."))
    sets = Send(
        control=send.control,
        bank=send.bank,
        layer=number,
        message="controller",
        number=target.controller or 0,
        channel=send.channel if target.channel is None else target.channel,
        high=value,
        mode="trigger",
    )
    place = program.sends.index(send)
    return changed(program, sends=(*program.sends[:place], sets, *program.sends[place:]))


def _hat_note(plan: Plan, word: str, usual: int) -> int:
    """The note of a kit’s closed or open hat; the General MIDI one where no kit names it."""
    named = _named_hat(plan, word)
    return usual if named is None else named


def _named_hat(plan: Plan, word: str) -> int | None:
    """The note of a hat with this word in its name; a half-open one is no open one."""
    for device in plan.devices:
        for kit in device.kits:
            for sound in kit.sounds:
                name = sound.name.lower()
                if word in name and "hat" in name and ("half" in name) == (word == "half"):
                    return sound.note
    return None


def two_zones(owner: Device, jack: str) -> tuple[Control, Control]:
    """The main zone of an input and its rim or edge.  Raises EditError without the two."""
    mine = []
    for control in owner.controls:
        if control.input == jack:
            mine.append(control)
    main = next((c for c in mine if c.zone in ("head", "bow", "closed")), None)
    rim = next((c for c in mine if c.zone in ("rim", "edge", "open")), None)
    if main is None or rim is None:
        raise EditError(
            say(
                "That input of {owner} has no head and rim with notes of their own.",
                owner=owner.name,
            )
        )
    return main, rim


def _with_layers(
    program: Program, control: Control, bank: int | None = None, **changes: Any
) -> Program:
    mine = []
    for send in program.sends:
        here = send.control == control.id and send.message == "note"
        if here and bank in (None, send.bank):
            mine.append(send)
    if not mine:
        raise EditError(
            say("{control} sends nothing yet: give it a note first.", control=control.name)
        )
    sends = tuple(changed(send, **changes) if send in mine else send for send in program.sends)
    return changed(program, sends=sends)
