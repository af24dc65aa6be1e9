"""A drum keeps its sound: what it plays goes with it when it is plugged into another input.

What a stroke sounds is kept at a control of the module.  When plugs move, everything at those
controls changes places: notes, layers, mutes, wishes and who decides them.  Nothing is ever lost:
what no input hears any more *waits* at the control where it went, and the pad remembers where.
"""

from collections.abc import Iterable, Iterator, Mapping

import msgspec

from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import (
    PLACES,
    SENSED,
    Plug,
    TriggerInput,
    TriggerPad,
    Waiting,
)
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import Station, in_input, stations
from vastzone.core.plan.refs import read_ref, read_setting_ref, ref_to, send_place, setting_in

Moves = Mapping[str, str]
"""Controls ``device:control``, and where what they sound goes."""
FOR_THE_PAD = ("sensitivity", "threshold", "mask_ms", "crosstalk")
"""What an input is set to for the pad that is in it, whatever its type."""


def replugged(plan: Plan, plugs: tuple[Plug, ...]) -> Plan:
    """A plan with other plugs, in which every pad sounds what it did before."""
    new = msgspec.structs.replace(plan, plugs=plugs)
    before, after = _kept(plan), tuple(stations(new, plugs))
    moves = _closed(dict(_wanted(plan, before, after)))
    if moves:
        new = _with_sounds_moved(new, moves)
    new = _with_pads_waiting(new, before, after, moves)
    return _with_inputs_set(plan, new)


def _kept(plan: Plan) -> dict[tuple[str, str], str]:
    """Where the sound of each stroke of each pad is: where it is plugged in, or where it waits."""
    kept: dict[tuple[str, str], str] = {}
    controls = set()
    for device in plan.devices:
        controls |= {ref_to(device.id, control.id) for control in device.controls}
    for pad in plan.pads:
        for waiting in pad.waits:
            if waiting.at in controls:
                kept[pad.id, waiting.stroke] = waiting.at
    for station in stations(plan, plan.plugs):
        kept[station.pad, station.stroke] = station.at
    return kept


def _wanted(
    plan: Plan, before: Mapping[tuple[str, str], str], after: Iterable[Station]
) -> Iterator[tuple[str, str]]:
    """From where to where sounds go.

    A pad that was never plugged in has none of its own.  It takes what is there, but for what
    waits for another pad: then it takes that of an input which nothing is in, if there is one.
    """
    taken = set(before.values())
    gone: set[str] = set()
    arrived: set[str] = set()
    waiting = {waits.at for pad in plan.pads for waits in pad.waits} & taken
    for station in after:
        source = before.get((station.pad, station.stroke))
        if source is None and station.at in waiting:
            source = _spare(plan, station.at, taken)
        if source is None or source in gone or station.at in arrived:
            continue
        taken.add(source)
        gone.add(source)
        arrived.add(station.at)
        if source != station.at:
            yield source, station.at


def _spare(plan: Plan, like: str, taken: set[str]) -> str | None:
    """A control for the same kind of stroke at an input of that module which nothing is in."""
    device, ident = read_ref(like)
    owner = lookup.device(plan, device)
    wanted = _place(lookup.by_id(owner.controls, ident, "control"))
    for control in owner.controls:
        if control.input is None or control.zone is None or _place(control) != wanted:
            continue
        ref = ref_to(device, control.id)
        if ref not in taken and not any(in_input(plan, ref_to(device, control.input))):
            return ref
    return None


def _place(control: Control) -> int:
    return PLACES[SENSED[control.zone or "head"]]


def _closed(wanted: dict[str, str]) -> Moves:
    """Moves that change places: what stood where something comes goes to what was left."""
    moves = dict(wanted)
    arrived = set(wanted.values())
    for start in [source for source in wanted if source not in arrived]:
        end = start
        while end in wanted:
            end = wanted[end]
        moves[end] = start
    return moves


def _with_sounds_moved(plan: Plan, moves: Moves) -> Plan:
    """A plan in which what controls send and are wished to do has changed places."""
    return msgspec.structs.replace(
        plan,
        devices=_with_sends_moved(plan, moves),
        wishes=tuple(_with_wish_moved(wish, moves) for wish in plan.wishes),
        settings=tuple(
            changed(record, ref=_setting_moved(plan, record.ref, moves)) for record in plan.settings
        ),
        schools=changed(
            plan.schools,
            own=tuple(
                changed(own, of=tuple(moves.get(ref, ref) for ref in own.of))
                for own in plan.schools.own
            ),
        ),
    )


def _with_wish_moved(wish: Wish, moves: Moves) -> Wish:
    if not any(source in moves for source in wish.sources):
        return wish
    return changed(wish, sources=tuple(moves.get(source, source) for source in wish.sources))


def _with_sends_moved(plan: Plan, moves: Moves) -> tuple[Device, ...]:
    """The devices with what their controls send in each program at its new place.

    What goes to another module goes into the program of the same number; where there is none, it
    stays.
    """
    arriving: dict[tuple[str, int], list[Send]] = {}
    staying: dict[tuple[str, int], list[Send]] = {}
    for device in plan.devices:
        for program in device.programs:
            here = (device.id, program.number)
            for send in program.sends:
                to = _place_of_send(plan, device, program, send, moves)
                if to is None:
                    staying.setdefault(here, []).append(send)
                else:
                    there = (to[0], program.number)
                    arriving.setdefault(there, []).append(changed(send, control=to[1]))
    devices = []
    for device in plan.devices:
        programs = []
        for program in device.programs:
            key = (device.id, program.number)
            sends = (*staying.get(key, ()), *arriving.get(key, ()))
            programs.append(_with_sends(device, program, sends))
        unchanged = all(a is b for a, b in zip(programs, device.programs, strict=True))
        devices.append(device if unchanged else changed(device, programs=tuple(programs)))
    return tuple(devices)


def _place_of_send(
    plan: Plan, device: Device, program: Program, send: Send, moves: Moves
) -> tuple[str, str] | None:
    """The device and control that what a control sends goes to; None where it stays."""
    to = moves.get(ref_to(device.id, send.control))
    if to is None:
        return None
    there, control = read_ref(to)
    owner = lookup.device(plan, there)
    return (there, control) if lookup.has_program(owner, program.number) else None


def _with_sends(device: Device, program: Program, sends: tuple[Send, ...]) -> Program:
    """A program with other sends, in the order of the device’s controls."""
    before = set(map(id, program.sends))
    if len(sends) == len(program.sends) and all(id(send) in before for send in sends):
        return program
    places = {control.id: number for number, control in enumerate(device.controls)}
    last = len(places)
    ordered = sorted(sends, key=lambda s: (places.get(s.control, last), s.bank, s.layer))
    return changed(program, sends=tuple(ordered))


def _setting_moved(plan: Plan, ref: str, moves: Moves) -> str:
    """The name of a setting where it is now."""
    read = read_setting_ref(ref)
    if read.owner != "control" or read.program is None:
        return ref
    to = moves.get(ref_to(read.device, read.control))
    if to is None:
        return ref
    there, control = read_ref(to)
    old = lookup.find(lookup.device(plan, read.device).programs, read.program)
    for program in lookup.device(plan, there).programs:
        if old is not None and program.number == old.number:
            _, _, rest = read.ident.partition(".")
            return setting_in(send_place(there, program.id, f"{control}.{rest}"), read.field)
    return ref


def _with_pads_waiting(
    plan: Plan,
    before: Mapping[tuple[str, str], str],
    after: Iterable[Station],
    moves: Moves,
) -> Plan:
    """A plan whose pads remember where the sounds are that no input hears."""
    heard = {(station.pad, station.stroke) for station in after}
    pads = []
    for pad in plan.pads:
        waits = []
        for (ident, stroke), at in before.items():
            if ident == pad.id and (ident, stroke) not in heard:
                waits.append(Waiting(stroke=stroke, at=moves.get(at, at)))  # type: ignore[arg-type]
        pads.append(pad if tuple(waits) == pad.waits else changed(pad, waits=tuple(waits)))
    return msgspec.structs.replace(plan, pads=tuple(pads))


def _with_inputs_set(before: Plan, after: Plan) -> Plan:
    """A plan in which what an input is set to for its pad has gone with that pad."""
    was: dict[str, TriggerInput] = {}
    alone = _alone(before)
    for device in before.devices:
        for jack in device.inputs:
            pad = alone.get(ref_to(device.id, jack.id))
            if pad is not None:
                was[pad] = jack
    now = _alone(after)
    devices = []
    for device in after.devices:
        inputs = []
        for jack in device.inputs:
            known = was.get(now.get(ref_to(device.id, jack.id), ""))
            inputs.append(jack if known is None else _set_like(jack, known))
        same = all(a is b for a, b in zip(inputs, device.inputs, strict=True))
        devices.append(device if same else changed(device, inputs=tuple(inputs)))
    return msgspec.structs.replace(after, devices=tuple(devices))


def _alone(plan: Plan) -> dict[str, str]:
    """The pad that each input has for itself, pedals aside."""
    feet = {pad.id for pad in plan.pads if pad.sensor == "hi-hat"}
    pads: dict[str, list[str]] = {}
    for plug in plan.plugs:
        if plug.pad not in feet:
            pads.setdefault(plug.input, []).append(plug.pad)
    return {ref: held[0] for ref, held in pads.items() if len(held) == 1}


def _set_like(jack: TriggerInput, known: TriggerInput) -> TriggerInput:
    values = {name: getattr(known, name) for name in FOR_THE_PAD}
    if all(value is None for value in values.values()):
        return jack
    if all(getattr(jack, name) == value for name, value in values.items()):
        return jack
    return changed(jack, **values)


def sounds_of(plan: Plan, pad: TriggerPad) -> dict[str, str]:
    """Where what each stroke of a pad sounds is kept, as ``device:control``."""
    found = {}
    for (ident, stroke), at in _kept(plan).items():
        if ident == pad.id:
            found[stroke] = at
    return found
