"""Rules about pads: notes that double, kits that hold nothing there, mute groups with one end."""

from collections.abc import Iterator

from vastzone.core.engine.compile import Compiled, played
from vastzone.core.engine.tables import Emission, Sending
from vastzone.core.midi import pitch
from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability, has_pads
from vastzone.core.plan.queries.channels import channel_free
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say, say_many
from vastzone.core.text import first_to_last, listed


def _programs(
    plan: Plan, compiled: tuple[Compiled, ...]
) -> Iterator[tuple[Compiled, Device, Program, tuple[str, ...]]]:
    """Each device with pads in each of its programs that a scene is on, in the first such scene."""
    seen: dict[tuple[str, int], list[str]] = {}
    first: dict[tuple[str, int], tuple[Compiled, Device, Program]] = {}
    for scene in compiled:
        for owner in plan.devices:
            program = lookup.program_in(scene.scene, owner)
            if program is None or not has_pads(owner):
                continue
            key = (owner.id, program.number)
            first.setdefault(key, (scene, owner, program))
            seen.setdefault(key, []).append(scene.scene.id if scene.scene else "")
    for key, (scene, owner, program) in first.items():
        names = tuple(n for n in seen[key] if n)
        yield scene, owner, program, () if len(names) == len(plan.scenes) else names


def _notes(
    scene: Compiled, owner: Device, program: Program
) -> Iterator[tuple[Send, Sending, Emission]]:
    pads = set()
    for control in owner.controls:
        if control_ability(control).laid:
            pads.add(control.id)
    for send in program.sends:
        if send.control in pads and send.message == "note":
            for sending in scene.controls.get((ref_to(owner.id, send.control), send.bank), ()):
                if sending.send is send:
                    for note in sending.notes:
                        yield (send, sending, note)


def two_on_one_note(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Two pads of one bank that send the same note on the same channel, and sound by it."""
    for scene, owner, program, scenes in _programs(plan, compiled):
        by_note: dict[tuple[int, int, int], list[str]] = {}
        for send, _, emission in _notes(scene, owner, program):
            if emission.landings:
                key = (send.bank, emission.channel, emission.note)
                by_note.setdefault(key, []).append(send.control)
        names = lookup.names_of(owner.controls)
        for (bank, channel, note), every in by_note.items():
            pads = list(dict.fromkeys(every))
            if len(pads) > 1:
                said = pitch.label(note, owner.octaves)
                named = listed(names[pad] for pad in pads)
                yield Remark(
                    "two pads on one note",
                    tuple(ref_to(owner.id, p) for p in (*pads[1:], pads[0])),
                    say(
                        "{named} of {owner} all send {said} on channel {channel}: they sound "
                        "the same.",
                        named=named,
                        owner=owner.name,
                        said=said,
                        channel=channel + 1,
                    ),
                    tuple(_other_note(owner, program, bank, p, by_note) for p in pads[1:2]),
                    scenes,
                )


def _other_note(
    owner: Device,
    program: Program,
    bank: int,
    pad: str,
    by_note: dict[tuple[int, int, int], list[str]],
) -> Edit:
    used = {note for _, _, note in by_note}
    free = next((n for n in range(36, 128) if n not in used), 36)
    label = say("Send {pitch} from it", pitch=pitch.label(free, owner.octaves))
    return set_send(owner.id, program.number, pad, bank, label, number=free)


def silent_pads(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads whose note is on a kit's channel, where the kit holds nothing on it."""
    for scene, owner, program, scenes in _programs(plan, compiled):
        silent: dict[str, list[tuple[Send, Kit, Device, Part]]] = {}
        for send, _, emission in _notes(scene, owner, program):
            if emission.landings:
                continue
            kit_there = _kit_there(scene, emission)
            if kit_there is not None:
                silent.setdefault(kit_there[2].id, []).append(
                    (send, *kit_there[:1], kit_there[1], kit_there[2])
                )
        for names in silent.values():
            yield _silent(owner, program, names, scenes)


def _kit_there(scene: Compiled, emission: Emission) -> tuple[Kit, Device, Part] | None:
    """The kit that listens where a note goes."""
    for step in emission.tree.steps:
        device = device_of(step.arc.dest)
        for listener in scene.world.of(device).by_channel[emission.channel]:
            if listener.kit is not None and listener.hears(thing_of(step.arc.dest)):
                owner = lookup.device(scene.plan, device)
                return listener.kit, owner, listener.part
    return None


def _silent(
    owner: Device,
    program: Program,
    kit_sends: list[tuple[Send, Kit, Device, Part]],
    scenes: tuple[str, ...],
) -> Remark:
    names = lookup.names_of(owner.controls)
    send, kit, receiver, part = kit_sends[0]
    near = min(kit.sounds, key=lambda s: (abs(s.note - send.number), s.note), default=None)
    nearest = ""
    fixes: tuple[Edit, ...] = ()
    if near is not None:
        where = pitch.label(near.note, receiver.octaves)
        nearest = say(
            " The nearest to {names} is {near} on {where}.",
            names=names[send.control],
            near=near.name,
            where=where,
        )
        label = say("Let {names} play {near}", names=names[send.control], near=near.name)
        fixes = (
            set_send(owner.id, program.number, send.control, send.bank, label, number=near.note),
        )
    banked = {control.id for control in owner.controls if control.banks > 1}
    pads = first_to_last(
        say("{names} in bank {bank}", names=names[s.control], bank=s.bank)
        if s.control in banked
        else names[s.control]
        for s, _, _, _ in kit_sends
    )
    count = say("sends a note") if len(kit_sends) == 1 else say("send notes")
    return Remark(
        "pad outside the kit",
        (ref_to(owner.id, send.control), ref_to(receiver.id, part.id), owner.id),
        say(
            "{pads} of {owner} {count} on which {kit} of {receiver} has nothing.{nearest}",
            pads=pads,
            owner=owner.name,
            count=count,
            kit=kit.name,
            receiver=receiver.name,
            nearest=nearest,
        ),
        fixes,
        scenes,
    )


def pads_double_keys(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pads that play parts which keys of another device play too, on the same channel."""
    for scene, owner, program, scenes in _programs(plan, compiled):
        parts: dict[str, list[str]] = {}
        for send, _, emission in _notes(scene, owner, program):
            for landing in emission.landings:
                parts.setdefault(landing.ref, []).append(send.control)
        keys: dict[str, set[str]] = {}
        for bed, sounded in played(scene).items():
            if device_of(bed) != owner.id:
                for ref in sorted(sounded & parts.keys()):
                    keys.setdefault(ref, set()).add(bed)
        for part_ref, beds in keys.items():
            yield _doubled(plan, owner, part_ref, parts[part_ref], min(beds), scenes)


def _doubled(
    plan: Plan, owner: Device, part_ref: str, pads: list[str], bed: str, scenes: tuple[str, ...]
) -> Remark:
    there = lookup.device(plan, device_of(part_ref))
    part = lookup.part(there, thing_of(part_ref))
    board = lookup.device(plan, device_of(bed))
    count = say_many("{count} pad", "{count} pads", len(dict.fromkeys(pads)))
    return Remark(
        "pads double keys",
        (ref_to(owner.id, pads[0]), owner.id, part_ref),
        say(
            "{count} of {owner} play {part}, which the keys of {board} play too: both send on "
            "channel {channel}.",
            count=count,
            owner=owner.name,
            part=part.name,
            board=board.name,
            channel=part.channel or say("any"),
        ),
        (),
        scenes,
    )


def lonely_mute_groups(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Mute groups in which one part alone has nothing to silence and nothing to silence it."""
    for owner in plan.devices:
        groups: dict[str, list[Part]] = {}
        for part in owner.parts:
            if part.mute_group:
                groups.setdefault(part.mute_group, []).append(part)
        for group, parts in groups.items():
            if len(parts) == 1 and parts[0].kit is None:
                label = say("Take {parts} out of the group", parts=parts[0].name)
                yield Remark(
                    "mute group alone",
                    (ref_to(owner.id, parts[0].id),),
                    say(
                        "{parts} in {owner} is alone in the mute group “{group}”: it silences "
                        "nothing, and "
                        "nothing silences it.",
                        parts=parts[0].name,
                        owner=owner.name,
                        group=group,
                    ),
                    (set_part(owner.id, parts[0].id, label, mute_group=None),),
                )


def rhythm_elsewhere(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Rhythm that is not on channel 10, where the person likes it there."""
    if not plan.schools.rhythm_on_10:
        return
    for owner, part in lookup.parts(plan):
        if part.rhythm and part.channel not in (None, 10):
            label = say("Put {part} on channel 10", part=part.name)
            yield Remark(
                "rhythm not on 10",
                (ref_to(owner.id, part.id),),
                say(
                    "{part} in {owner} is rhythm and listens on channel {channel}; by custom "
                    "it is on 10.",
                    part=part.name,
                    owner=owner.name,
                    channel=part.channel,
                ),
                (set_part(owner.id, part.id, label, channel=10),),
            )


def others_on_10(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Something on channel 10 that is not rhythm, where the person likes rhythm there."""
    if not plan.schools.rhythm_on_10 or not any(p.rhythm for _, p in lookup.parts(plan)):
        return
    for owner, part in lookup.parts(plan):
        if part.channel == 10 and not part.rhythm:
            free = channel_free(plan, owner)
            label = say("Put {part} on channel {free}", part=part.name, free=free)
            yield Remark(
                "channel 10 not rhythm",
                (ref_to(owner.id, part.id),),
                say(
                    "{part} in {owner} listens on channel 10, which by custom is the rhythm’s.",
                    part=part.name,
                    owner=owner.name,
                ),
                (set_part(owner.id, part.id, label, channel=free),) if free else (),
            )


def more_sounds_than_pads(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Scenes that want more sounds of a device than it has pads in all its banks."""
    names = lookup.names_of(plan.scenes)
    wanted = _sounds_wanted(plan)
    for owner in plan.devices:
        room = sum(control.banks for control in _laid(owner))
        for scene in names or ("",):
            count = len(wanted.get((owner.id, scene), ()))
            if room and count > room:
                yield Remark(
                    "more sounds than pads",
                    (owner.id,),
                    say(
                        "{names} wants {sounds} of {owner}, which has {pads} in all its banks: "
                        "{count} kits "
                        "hold them.",
                        names=names.get(scene, plan.name),
                        sounds=say_many("{count} sound", "{count} sounds", count),
                        owner=owner.name,
                        pads=say_many("{count} pad", "{count} pads", room),
                        count=-(-count // room),
                    ),
                    (),
                    (scene,) if scene else (),
                )


def _laid(owner: Device) -> list[Control]:
    """The pads of a device."""
    pads = []
    for control in owner.controls:
        if control_ability(control).laid:
            pads.append(control)
    return pads


def _sounds_wanted(plan: Plan) -> dict[tuple[str, str], set[object]]:
    """The sounds that pads are wished to play, by device and scene."""
    everywhere = tuple(scene.id for scene in plan.scenes) or ("",)
    pads: dict[str, str] = {}
    for owner in plan.devices:
        pads |= {ref_to(owner.id, pad.id): owner.id for pad in _laid(owner)}
    wanted: dict[tuple[str, str], set[object]] = {}
    for wish in plan.wishes:
        for place, source in enumerate(wish.sources):
            if wish.plays and source in pads:
                sound = (wish.plays, wish.sound(place), wish.note)
                for scene in wish.scenes or everywhere:
                    wanted.setdefault((pads[source], scene), set()).add(sound)
    return wanted
