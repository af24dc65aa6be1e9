"""Edits of what lies under one pad: layers by velocity, a hi-hat without a pedal."""

from typing import Any

from vastzone.core.errors import EditError
from vastzone.core.plan import edits, lookup
from vastzone.core.plan.edits import Edit
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.touch import Control, Program, Send

MOST_LAYERS = 8


def layers_of(program: Program, control: str, bank: int) -> list[Send]:
    """Everything that a control sends in a bank, by layer."""
    mine = [s for s in program.sends if (s.control, s.bank) == (control, bank)]
    return sorted(mine, key=lambda s: s.layer)


def add_layer(device: str, program: int, control: str, bank: int) -> Edit:
    """Split the loudest layer of a pad in two; the upper half becomes a layer of its own.

    Raises EditError where the pad sends no note, has no room, or cannot be split further.
    """

    def change(held: Program, owner: Device) -> Program:
        name = lookup.by_id(owner.controls, control, "control").name
        mine = layers_of(held, control, bank)
        notes = [s for s in mine if s.message == "note"]
        if not notes:
            raise EditError(f"{name} sends no note in bank {bank}: let it send one first.")
        top = max(notes, key=lambda s: s.vel_high)
        if len(mine) >= MOST_LAYERS or top.vel_high - top.vel_low < 1:
            raise EditError(f"{name} has no room for another layer: remove one first.")
        middle = (top.vel_low + top.vel_high) // 2
        number = next(n for n in range(MOST_LAYERS) if all(s.layer != n for s in mine))
        new = edits.changed(top, layer=number, vel_low=middle + 1)
        sends = edits.swapped(held.sends, top, edits.changed(top, vel_high=middle))
        return edits.changed(held, sends=(*sends, new))

    return edits.edit_program(device, program, "Add layer", change)


def remove_layer(device: str, program: int, control: str, bank: int, layer: int) -> Edit:
    """Take a layer away; its velocities go to the one below, or above where there is none."""

    def change(held: Program, owner: Device) -> Program:
        mine = layers_of(held, control, bank)
        gone = next((s for s in mine if s.layer == layer), None)
        others = [s for s in mine if s is not gone]
        if gone is None or not others:
            raise EditError("A pad keeps its last layer: let it send nothing instead.")
        below = [s for s in others if s.vel_low <= gone.vel_low]
        heir = max(below or others, key=lambda s: (s.vel_high, -s.vel_low))
        wide = edits.changed(
            heir,
            vel_low=min(heir.vel_low, gone.vel_low),
            vel_high=max(heir.vel_high, gone.vel_high),
        )
        if all(s.layer for s in others):
            wide = edits.changed(wide, layer=0)
        kept = tuple(wide if s is heir else s for s in held.sends if s is not gone)
        return edits.changed(held, sends=kept)

    return edits.edit_program(device, program, "Remove layer", change)


def hat_without_pedal(plan: Plan, device: str, program: int, jack: str) -> Edit:
    """The main zone of a pad plays the closed hi-hat and silences the open one on its rim.

    Raises EditError where the module has no such two zones on that input.
    """
    owner = lookup.device(plan, device)
    main, rim = two_zones(owner, jack)
    closed, opened = _hat_note(plan, "closed", 42), _hat_note(plan, "open", 46)

    def change(held: Program, _: Device) -> Program:
        held = _with(held, main, number=closed, mutes="hi-hat")
        return _with(held, rim, number=opened, muted_by="hi-hat")

    return edits.edit_program(device, program, "Hi-hat without a pedal", change)


def _hat_note(plan: Plan, word: str, usual: int) -> int:
    """The note of a kit’s closed or open hat; the General MIDI one where no kit names it."""
    sounds = (s for d in plan.devices for k in d.kits for s in k.sounds)
    return next(
        (s.note for s in sounds if word in s.name.lower() and "hat" in s.name.lower()), usual
    )


def two_zones(owner: Device, jack: str) -> tuple[Control, Control]:
    """The main zone of an input and its rim or edge.  Raises EditError without the two."""
    mine = [c for c in owner.controls if c.input == jack]
    main = next((c for c in mine if c.zone in ("head", "bow", "closed")), None)
    rim = next((c for c in mine if c.zone in ("rim", "edge", "open")), None)
    if main is None or rim is None:
        raise EditError(f"That input of {owner.name} has no head and rim with notes of their own.")
    return main, rim


def _with(held: Program, control: Control, **changes: Any) -> Program:
    mine = [s for s in held.sends if s.control == control.id]
    if not mine:
        raise EditError(f"{control.name} sends nothing yet: give it a note first.")
    sends = tuple(edits.changed(s, **changes) if s in mine else s for s in held.sends)
    return edits.changed(held, sends=sends)
