"""What was learned by striking, put into a device: its controls in their order, or new ones."""

from collections.abc import Collection, Sequence
from typing import NamedTuple

from vastzone.core.describe.fitting import fitted
from vastzone.core.describe.phrase import numbered_names
from vastzone.core.describe.simulated import zone_channel
from vastzone.core.describe.striking import Learnt, guessed_kind
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send, Zone
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.model.values import ControlKind
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.text import capital

ACROSS = 8


class Taught(NamedTuple):
    """A control that was touched: one of the device, or a new one of a kind; what it sends."""

    control: str
    name: str
    kind: ControlKind
    is_new: bool
    learnt: Learnt


def awaited(
    device: Device, kinds: Collection[ControlKind], bank: int, again: Collection[str] = ()
) -> tuple[Control, ...]:
    """The controls that are touched in a bank, in their order; of some kinds, or all of them.

    What moves by itself is not touched.  Those touched ``again`` have that bank too.
    """
    controls = []
    for control in device.controls:
        wanted = not kinds or control.kind in kinds
        reaches = control.banks >= bank or control.banks > 1 or control.id in again
        if wanted and reaches and control.kind != "source":
            controls.append(control)
    return tuple(controls)


def taught(
    device: Device,
    learnt: Sequence[Learnt],
    known: Sequence[Control],
    one_kind: ControlKind | None = None,
) -> tuple[Taught, ...]:
    """Which control each was: those that are ``known`` in their order, then new ones.

    A new one is of ``one_kind``, where only such are touched, else of what its message tells.
    """
    names = {control.name for control in device.controls}
    taken = lookup.ids_of(device.controls) | lookup.ids_of(device.keybeds)
    told = []
    for place, one in enumerate(learnt):
        if place < len(known):
            control = known[place]
            told.append(Taught(control.id, control.name, control.kind, False, one))
            continue
        kind = one_kind or guessed_kind(one)
        name = numbered_names(f"{capital(say(kind))} {{n}}", 1, names)[0]
        ident = lookup.free_id(taken, name)
        names.add(name)
        taken.add(ident)
        told.append(Taught(ident, name, kind, True, one))
    return tuple(told)


def teach(
    device: str,
    program: int | None,
    told: Sequence[Taught],
    bank: int,
    silent: Collection[str] = (),
) -> Edit:
    """Have the controls of a device send what was learned, in one of its programs.

    New controls send it in all of them; ``silent`` ones send nothing.
    """

    def change(owner: Device) -> Device:
        owner = _with_controls(owner, told, bank)
        sends = {one.control: one for one in told}
        programs = []
        for each in owner.programs or (Program(number=0, name=say("First")),):
            here = program is None or each.number == program or len(owner.programs) < 2
            each = _silenced(each, silent, bank) if here else each
            programs.append(_with_sends(each, sends, bank, here))
        return changed(owner, programs=tuple(programs))

    return edit_device(device, say("Learn {count} by striking", count=len(told)), change)


def _silenced(program: Program, silent: Collection[str], bank: int) -> Program:
    sends = []
    for send in program.sends:
        if send.control not in silent or send.bank != bank:
            sends.append(send)
    return changed(program, sends=tuple(sends))


def _with_controls(owner: Device, told: Sequence[Taught], bank: int) -> Device:
    by_id = {one.control: one for one in told}
    controls = []
    for control in owner.controls:
        one = by_id.get(control.id)
        if one is not None:
            endless = one.learnt.endless or (control.endless and one.learnt.pressed)
            banks = max(control.banks, bank)
            control = changed(control, endless=endless, banks=banks)
        controls.append(control)
    for one in told:
        if one.is_new:
            controls.append(_new_control(controls, one, bank))
    return changed(owner, controls=tuple(controls))


def _new_control(controls: Sequence[Control], one: Taught, bank: int) -> Control:
    alike = sum(control.kind == one.kind for control in controls)
    row, column = divmod(alike, ACROSS)
    return Control(
        id=one.control,
        name=one.name,
        kind=one.kind,
        banks=bank,
        row=row,
        column=column,
        endless=one.learnt.endless,
    )


def _with_sends(program: Program, told: dict[str, Taught], bank: int, here: bool) -> Program:
    zones = zone_channel(program)
    left = {ident: one for ident, one in told.items() if here or one.is_new}
    sends: list[Send] = []
    for send in program.sends:
        if send.bank == bank and not send.layer and send.control in left:
            send = _taught_send(send, left.pop(send.control).learnt, zones)
        sends.append(send)
    for ident, one in left.items():
        sends.append(one.learnt.send(ident, bank))
    return changed(program, sends=tuple(sends))


def _taught_send(before: Send, learnt: Learnt, zones: int) -> Send:
    """What a control sends as it was learned; what cannot be heard stays as it was."""
    heard = learnt.send(before.control, before.bank)
    channel = heard.channel
    if before.channel is None and channel == zones:
        channel = None
    more = {}
    if heard.message not in ("note", "program") and not learnt.endless:
        more = {"low": heard.low, "high": heard.high}
    mode = heard.mode if learnt.pressed and heard.message != "program" else before.mode
    return changed(
        before,
        message=heard.message,
        channel=channel,
        number=heard.number,
        page=heard.page,
        mode=mode if learnt.certain else before.mode,
        **more,
    )


def teach_keys(owner: Device, bed: str | None, low: int, high: int, channel: int) -> Edit:
    """A keybed with these ends: one that the device has, or a new one with a zone over it."""

    def change(device: Device) -> Device:
        keys = high - low + 1
        known = lookup.find(device.keybeds, bed)
        if known is not None:
            beds = []
            for each in device.keybeds:
                beds.append(changed(each, low=low, keys=keys) if each is known else each)
            return fitted(device, changed(device, keybeds=tuple(beds)))
        taken = lookup.ids_of(device.keybeds) | lookup.ids_of(device.controls)
        ident = lookup.free_id(taken, "keys")
        new = Keybed(id=ident, name=say("Keys"), low=low, keys=keys)
        programs = []
        for program in device.programs or (Program(number=0, name=say("First")),):
            zone = Zone(
                id=lookup.free_id(lookup.ids_of(program.zones), "zone-1"),
                name=say("Zone {count}", count=len(program.zones) + 1),
                keybed=ident,
                low=low,
                high=high,
                channel=channel,
            )
            programs.append(changed(program, zones=(*program.zones, zone)))
        return changed(device, keybeds=(*device.keybeds, new), programs=tuple(programs))

    return edit_device(owner.id, say("Learn the keys"), change)
