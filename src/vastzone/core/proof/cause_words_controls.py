"""Causes behind controls, told in a sentence with what would mend them: one function a kind."""

from collections.abc import Callable, Iterator
from functools import partial

from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.tables import Sending
from vastzone.core.midi import pitch, wide
from vastzone.core.plan.edits.devices import let_answer
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.edits.plugs import change_input, set_input
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields.send_fields import MODES
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.parts import Part, Target
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.triggers import SENSED, surviving
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.limits import kept_controllers
from vastzone.core.plan.queries.plugged import pad_of
from vastzone.core.plan.refs import (
    owner_place,
    read_ref,
    ref_to,
    send_place,
    setting_in,
    thing_of,
)
from vastzone.core.proof.diagnose import sent_note
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.group import Group, numbers_edit, part_of
from vastzone.core.proof.modes import pair_remark
from vastzone.core.proof.pad_response import nearest_layer, widened
from vastzone.core.proof.verdict import Mark
from vastzone.core.proof.words import end_name
from vastzone.core.say import say, say_many
from vastzone.core.text import listed, uncapital


def _controls(plan: Plan, group: Group) -> list[str]:
    owner = lookup.device(plan, group.about[0])
    names = lookup.names_of(owner.controls)
    return list(dict.fromkeys(names[thing_of(m.source)] for _, m in group.marks))


def _sends(plan: Plan, group: Group) -> Iterator[tuple[str, Send, Mark]]:
    """What the group's controls send, each with its base reference."""
    owner = lookup.device(plan, group.about[0])
    struck: dict[tuple[str, int], list[Mark]] = {}
    for _, mark in group.marks:
        struck.setdefault((thing_of(mark.source), mark.bank), []).append(mark)
    for number in group.programs:
        program = lookup.program(owner, number)
        for send in program.sends:
            wishes = struck.get((send.control, send.bank), []) if send.message != "none" else []
            here = []
            for item in wishes:
                if send.vel_low <= item.vel_low <= send.vel_high:
                    here.append(item)
            if here:
                yield send_place(owner.id, program.id, send.thing), send, here[0]


def _wanted(plan: Plan, group: Group) -> Iterator[tuple[str, Send, Part, int]]:
    """What the group's controls send, the part each is meant to play, and the note for it."""
    owner = lookup.device(plan, group.about[1])
    parts = {}
    for part in owner.parts:
        parts[ref_to(owner.id, part.id)] = part
    for base, send, mark in _sends(plan, group):
        hit = next(h for h in mark.missing if h.ref in parts)
        yield base, send, parts[hit.ref], sent_note(parts[hit.ref], hit.shift)


def _send_channel(plan: Plan, group: Group) -> Remark:
    owner, there = (lookup.device(plan, ident) for ident in group.about)
    values: dict[str, int] = {}
    sent: set[int] = set()
    parts: dict[str, Part] = {}
    for base, send, part, _ in _wanted(plan, group):
        if part.channel not in (None, send.channel):
            values[setting_in(base, "channel")] = part.channel or 1
            sent.add(send.channel or 0)
            parts[part.id] = part
    names = _controls(plan, group)
    wanted = set(values.values())
    ends = (
        say("on channel {pop}", pop=wanted.pop())
        if len(wanted) == 1
        else say("on their parts’ channels")
    )
    return Remark(
        "wrong channel",
        (ref_to(owner.id, _first(group)), owner.id, there.id),
        say_many(
            "{names} of {owner} sends on channel {sent}; in {there} {listening}.",
            "{names} of {owner} send on channel {sent}; in {there} {listening}.",
            len(names),
            names=listed(names),
            owner=owner.name,
            sent=listed(map(str, sorted(sent))),
            there=there.name,
            listening=_listening(parts, len(names)),
        ),
        (numbers_edit(plan, values, say("Send {these} {ends}", these=_these(names), ends=ends)),),
    )


def _listening(parts: dict[str, Part], controls: int) -> str:
    """Parts with the channels that they listen on."""
    heard = listed(
        say("{part} on {channel}", part=part.name, channel=part.channel) for part in parts.values()
    )
    several = min(controls, len(parts))
    return say_many("{heard} listens", "{heard} listen", several, heard=heard)


def _these(names: list[str]) -> str:
    return names[0] if len(names) == 1 else say("these {count}", count=len(names))


def _send_note(plan: Plan, group: Group) -> Remark:
    owner, there = (lookup.device(plan, ident) for ident in group.about)
    wished = []
    for w in _wanted(plan, group):
        if w[1].number != w[3]:
            wished.append(w)
    names = _controls(plan, group)
    parts = listed(part.name for _, _, part, _ in wished)
    _, send, _, wanted = wished[0]
    first = say(
        "{pitch} instead of {pitch_label}",
        pitch=pitch.label(send.number, owner.octaves),
        pitch_label=pitch.label(wanted, owner.octaves),
    )
    values = {setting_in(base, "number"): note for base, _, _, note in wished}
    return Remark(
        "wrong note",
        (ref_to(owner.id, _first(group)), owner.id, there.id),
        (
            say(
                "{names} of {owner} send other notes than {parts} in {there} answer: {first}, "
                "and so on.",
                names=listed(names),
                owner=owner.name,
                parts=parts,
                there=there.name,
                first=first,
            )
            if len(names) > 1
            else say(
                "{names} of {owner} sends another note than {parts} in {there} answer: {first}.",
                names=listed(names),
                owner=owner.name,
                parts=parts,
                there=there.name,
                first=first,
            )
        ),
        (numbers_edit(plan, values, say("Send the notes that {parts} answer", parts=parts)),),
    )


def _first(group: Group) -> str:
    return thing_of(group.marks[0][1].source)


def _control_strays(plan: Plan, group: Group) -> Remark:
    owner, ref = lookup.device(plan, group.about[0]), group.about[1]
    names = _controls(plan, group)
    silent = Edit(
        say("Let {these} send nothing", these=_these(names)),
        _muted(owner.id, _strays(plan, group, ref)),
    )
    return Remark(
        "plays unwished",
        (ref_to(owner.id, _first(group)), owner.id, ref),
        say_many(
            "{names} of {owner} plays {end}, which no wish asks for.",
            "{names} of {owner} play {end}, which no wish asks for.",
            len(names),
            names=listed(names),
            owner=owner.name,
            end=end_name(plan, ref),
        ),
        (silent,),
    )


Strays = frozenset[tuple[int, str]]
"""Programs by number, and in each what sends astray by its name there."""


def _strays(plan: Plan, group: Group, ref: str) -> Strays:
    """What the group's controls send that reaches a part or target."""
    owner = lookup.device(plan, group.about[0])
    scenes = lookup.by_ids(plan.scenes)
    strays = set()
    for name, mark in group.marks:
        scene = scenes.get(name)
        number = lookup.program_number(scene, owner)
        for sending in compile_scene(plan, scene).controls.get((mark.source, mark.bank), ()):
            if number is not None and _reaches(sending, ref):
                strays.add((number, sending.send.thing))
    return frozenset(strays)


def _reaches(sending: Sending, ref: str) -> bool:
    sounds = any(landing.ref == ref for note in sending.notes for landing in note.landings)
    moves = any(hearing.ref == ref for motion in sending.motions for hearing in motion.hearings)
    return sounds or moves


def _muted(device: str, strays: Strays) -> Callable[[Plan], Plan]:
    def silent(program: Program) -> Program:
        sends = []
        for send in program.sends:
            stray = (program.number, send.thing) in strays
            sends.append(changed(send, message="none") if stray else send)
        return changed(program, sends=tuple(sends))

    def change(owner: Device) -> Device:
        return changed(owner, programs=tuple(map(silent, owner.programs)))

    return edit_device(device, "", change).change


def _sends_nothing(plan: Plan, group: Group) -> Remark:
    device, control, _, ref = group.about
    owner = lookup.device(plan, device)
    named = lookup.by_id(owner.controls, control, "control").name
    return Remark(
        "sends nothing",
        (ref_to(device, control), device, ref),
        say(
            "{named} of {owner} sends nothing that {end} could hear: work the numbers out, or "
            "set what it sends.",
            named=named,
            owner=owner.name,
            end=end_name(plan, ref),
        ),
    )


def _no_sound(plan: Plan, group: Group) -> Remark:
    ref = group.about[0]
    owner, part = part_of(plan, ref)
    return Remark(
        "sound not in kit",
        (ref,),
        say(
            "{part} in {owner} has no such sound in the kit it is on: choose another sound or kit.",
            part=part.name,
            owner=owner.name,
        ),
    )


def _part_range(plan: Plan, group: Group) -> Remark:
    ref = group.about[0]
    owner, part = part_of(plan, ref)
    notes = set()
    for _, m in group.marks:
        for hit in m.missing:
            if hit.ref == ref:
                notes.add(sent_note(part, hit.shift))
    low, high = min(part.low, *notes), max(part.high, *notes)
    return Remark(
        "outside part",
        (ref,),
        say(
            "{part} in {owner} answers {span}; {pitch} is wished of it.",
            part=part.name,
            owner=owner.name,
            span=pitch.span(part.low, part.high, owner.octaves),
            pitch=listed(pitch.label(note, owner.octaves) for note in sorted(notes)),
        ),
        (let_answer(owner, part, low, high),),
    )


def _ends(plan: Plan, group: Group) -> tuple[Device, str, Device, Target]:
    """The device and name of a control, and the device and target that it is meant to move."""
    device, control, _, ref = group.about
    owner, there = lookup.device(plan, device), read_ref(ref)
    receiver = lookup.device(plan, there.device)
    target = lookup.by_id(receiver.targets, there.thing, "target")
    return owner, lookup.by_id(owner.controls, control, "control").name, receiver, target


def _controller(plan: Plan, group: Group) -> Remark:
    owner, named, receiver, target = _ends(plan, group)
    sends = list(_sends(plan, group))
    send = sends[0][1]
    listens = say("nothing yet") if target.wide is None else wide.name(target.answers, target.wide)
    fixes: list[Edit] = []
    if target.controller is not None and target.answers != send.message:
        answers = partial(_answering, send, target)
        fixes.append(
            edit_sends(
                owner.id, say("Send {listens} from {named}", listens=listens, named=named), answers
            )
        )
    elif target.controller is not None:
        values = {}
        for base, _, _ in sends:
            values[setting_in(base, "number")] = target.wide or 0
        label = say(
            "Send controller {controller} from {named}", controller=target.controller, named=named
        )
        fixes.append(numbers_edit(plan, values, label))
    if _can_listen(receiver, target, send):
        ref = setting_in(owner_place(receiver.id, "target", target.id), "controller")
        label = say(
            "Let {target} listen to controller {number}", target=target.name, number=send.number
        )
        fixes.append(numbers_edit(plan, {ref: send.number}, label))
    return Remark(
        "wrong controller",
        (ref_to(owner.id, group.about[1]), group.about[3]),
        say(
            "{named} of {owner} sends {wide}; {target} in {receiver} listens to {listens}.",
            named=named,
            owner=owner.name,
            wide=wide.name(send.message, send.wide),
            target=target.name,
            receiver=receiver.name,
            listens=listens,
        ),
        tuple(fixes),
    )


def _answering(wrong: Send, target: Target, send: Send) -> Send:
    """What a control sends, with the message and number that a target listens to."""
    if (send.control, send.bank) != (wrong.control, wrong.bank):
        return send
    number = target.controller
    return changed(send, message=target.answers, number=number, page=target.page)


def _can_listen(receiver: Device, target: Target, send: Send) -> bool:
    """Whether a target could listen to what is sent, and nothing else there does."""
    if send.message != target.answers or target.answers not in ("controller", "pair"):
        return False
    used = set()
    for other in receiver.targets:
        used.add(other.controller)
    return send.number not in used | kept_controllers(receiver)


def _controller_channel(plan: Plan, group: Group) -> Remark:
    owner, named, receiver, target = _ends(plan, group)
    part = lookup.find(receiver.parts, target.part)
    channel = part.channel if part else target.channel
    values = {}
    for base, _, _ in _sends(plan, group):
        values[setting_in(base, "channel")] = channel or 1
    return Remark(
        "wrong channel",
        (ref_to(owner.id, group.about[1]), group.about[3]),
        say(
            "{named} of {owner} does not send on channel {channel}, where {target} in {receiver} "
            "listens.",
            named=named,
            owner=owner.name,
            channel=channel,
            target=target.name,
            receiver=receiver.name,
        ),
        (
            numbers_edit(
                plan, values, say("Send {named} on channel {channel}", named=named, channel=channel)
            ),
        )
        if channel
        else (),
    )


def _mode(plan: Plan, group: Group) -> Remark:
    device, control, bank, remark = group.about
    owner = lookup.device(plan, device)
    named = lookup.by_id(owner.controls, control, "control").name
    mark = group.marks[0][1]
    receiver = _receiver_mode(plan, mark.meant[0].ref)
    sends = list(_sends(plan, group))
    fixes = []
    for number, mode in enumerate(MODES.names):
        if receiver and mode != sends[0][1].mode and not pair_remark(mode, receiver):
            values = {}
            for base, _, _ in sends:
                values[setting_in(base, "mode")] = number
            fixes.append(
                set_numbers(values, say("Set {named} to {mode}", named=named, mode=say(mode)))
            )
    where = (
        say(", bank {bank}", bank=bank)
        if lookup.by_id(owner.controls, control, "control").banks > 1
        else ""
    )
    return Remark(
        "modes that do not fit",
        (ref_to(device, control), mark.meant[0].ref),
        say(
            "{named} of {owner}{where}: {remark}",
            named=named,
            owner=owner.name,
            where=where,
            remark=uncapital(remark),
        ),
        tuple(fixes),
    )


def _receiver_mode(plan: Plan, ref: str) -> str:
    device, ident = read_ref(ref)
    owner = lookup.device(plan, device)
    for part in owner.parts:
        if part.id == ident:
            return part.trigger
    mode = next((target.mode for target in owner.targets if target.id == ident), "")
    return "" if mode == "continuous" else mode


def _layer_hole(plan: Plan, group: Group) -> Remark:
    owner = lookup.device(plan, group.about[0])
    control, bank = group.about[1], int(group.about[2])
    name = lookup.by_id(owner.controls, control, "control").name
    _, mark = group.marks[0]
    program = lookup.program(owner, group.programs[0])
    near = nearest_layer(program.sends, control, bank, mark.vel_low)
    fixes = (
        () if near is None else (widened(owner, program.number, near, mark.vel_low, mark.vel_high),)
    )
    return Remark(
        "layer hole",
        (ref_to(owner.id, control), owner.id),
        say(
            "{name} of {owner} sends nothing when struck at {vel_low}–{vel_high}: none of its "
            "layers is for these velocities.",
            name=name,
            owner=owner.name,
            vel_low=mark.vel_low,
            vel_high=mark.vel_high,
        ),
        fixes,
    )


def _stroke(plan: Plan, group: Group) -> Remark:
    owner, ident = lookup.device(plan, group.about[0]), group.about[1]
    control = lookup.by_id(owner.controls, ident, "control")
    pad = pad_of(plan, owner, control)
    jack = lookup.by_id(owner.inputs, control.input or "", "input")
    ref = ref_to(owner.id, jack.id)
    fixes: tuple[Edit, ...] = ()
    if pad is None:
        why = say("no pad is plugged into {jack}", jack=jack.name)
    elif jack.linked and control.zone and SENSED[control.zone] in pad.zones:
        why = say(
            "{jack} is linked, so that all zones of {pad} sound as one",
            jack=jack.name,
            pad=pad.name,
        )
        fixes = (change_input(ref, say("Unlink the zones"), linked=False),)
    else:
        better = []
        for t in jack.types:
            if control.zone and SENSED[control.zone] in surviving(pad, t):
                better.append(t)
        why = say(
            "{pad} in {jack}, set to {type}, does not tell it apart",
            pad=pad.name,
            jack=jack.name,
            type=jack.type,
        )
        fixes = tuple(set_input(ref, t) for t in better[:1])
    return Remark(
        "stroke not heard",
        (ref_to(owner.id, ident), ref, owner.id),
        say(
            "{control} of {owner} is not heard by itself: {why}.",
            control=control.name,
            owner=owner.name,
            why=why,
        ),
        fixes,
    )


TELLERS: dict[str, Callable[[Plan, Group], Remark]] = {
    "layer hole": _layer_hole,
    "stroke": _stroke,
    "send channel": _send_channel,
    "send note": _send_note,
    "control strays": _control_strays,
    "sends nothing": _sends_nothing,
    "no sound": _no_sound,
    "part range": _part_range,
    "controller": _controller,
    "controller channel": _controller_channel,
    "mode": _mode,
}
