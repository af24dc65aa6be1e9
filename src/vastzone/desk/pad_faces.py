"""What each pad shows: what it sends, what that sounds, and the proof's verdict."""

from itertools import chain
from typing import NamedTuple

from vastzone.core.engine.named_sounds import landings_of, sound_name
from vastzone.core.engine.tables import Hearing
from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import label
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import ref_to, send_place, setting_in
from vastzone.core.proof.marking import prove_scene
from vastzone.core.proof.verdict import Mark
from vastzone.core.say import say
from vastzone.core.solve.holds import locked
from vastzone.desk.derivation import is_small
from vastzone.desk.session import Desk


class Face(NamedTuple):
    """One control in one bank as it is drawn."""

    ref: str
    bank: int
    control: Control
    send: Send | None
    sound: str
    tag: str
    colour: int | None
    verdict: str
    mute: str
    feel: str = ""

    @property
    def words(self) -> str:
        """The message in words of its own: note, controller, program."""
        if self.send is None or self.send.message == "none":
            return say("nothing")
        return self.send.message


def program_of(desk: Desk, owner: Device) -> Program | None:
    """The program that a device is on in the current scene."""
    return lookup.program_in(desk.scene, owner)


def faces(desk: Desk, owner: Device, bank: int) -> list[Face]:
    """The faces of a device's pads in a bank."""
    laid = []
    for pad in pads_of(owner):
        if bank <= pad.banks:
            laid.append(face(desk, owner, pad, bank))
    return laid


def others(desk: Desk, owner: Device, bank: int) -> list[Face]:
    """Knobs, buttons and the rest, beside the pads."""
    rest = []
    for control in owner.controls:
        if not control_ability(control).laid:
            rest.append(control)
    return [face(desk, owner, c, bank if bank <= c.banks else 1) for c in rest]


def face(desk: Desk, owner: Device, control: Control, bank: int) -> Face:
    """One control in one bank."""
    ref, program = ref_to(owner.id, control.id), program_of(desk, owner)
    sends = program.sends if program else ()
    send = next((s for s in sends if (s.control, s.bank) == (control.id, bank)), None)
    mine = []
    for s in sends:
        if (s.control, s.bank) == (control.id, bank) and (s.message != "none" or s.does):
            mine.append(s)
    sound, tag, colour, mute = _heard(desk, ref, bank)
    mark = next((m for m in _marks(desk) if m.source == ref and m.bank == bank), None)
    verdict = mark.verdict if mark else ""
    said = _feel(mine)
    if program is not None and _is_locked(desk, owner, program, send):
        said = " · ".join(filter(None, ("locked", said)))
    return Face(ref, bank, control, send, sound, tag, colour, verdict, mute, said)


def _is_locked(desk: Desk, owner: Device, program: Program, send: Send | None) -> bool:
    """Whether the channel or the number that a control sends is locked."""
    held = locked(desk.planned)
    if send is None or not held:
        return False
    place = send_place(owner.id, program.id, send.thing)
    return any(setting_in(place, field) in held for field in ("channel", "number"))


DRIVEN = {"steps": say("next of a row"), "random": say("by chance"), "speed": say("by speed")}


def _feel(sends: list[Send]) -> str:
    """What a pad has besides its message: layers, mute groups, note repeat, a velocity."""
    said = [say("{count} layers", count=len(sends))] if len(sends) > 1 else []
    for send in sends[:1]:
        said += [send.does] if send.does else []
        said += [say("{chance} % of strokes", chance=send.chance)] if send.chance < 100 else []
        said += [DRIVEN[send.drive.kind]] if send.drive is not None else []
        said += [say("mutes {group}", group=_group(send.mutes))] if send.mutes else []
        said += [say("muted by {group}", group=_group(send.muted_by))] if send.muted_by else []
        said += [say("repeats {division}", division=send.repeat.division)] if send.repeat else []
        said += [say("velocity {fixed}", fixed=send.fixed)] if send.fixed is not None else []
        said += [send.curve] if send.curve != "linear" and send.fixed is None else []
    return " · ".join(said)


def _group(group: str) -> str:
    return group.removeprefix("group-")


def _marks(desk: Desk) -> list[Mark]:
    if not desk.plan.wishes:
        return []
    proof = desk.proof
    if proof is None and is_small(desk.plan):
        marks: list[Mark] = []
        for of_control in prove_scene(desk.plan, desk.scene, desk.memory):
            marks.extend(of_control)
        return marks
    return list(proof.marks(desk.scene.id if desk.scene else "")) if proof else []


def _heard(desk: Desk, ref: str, bank: int) -> tuple[str, str, int | None, str]:
    """The sounds that a control calls: their names, tag and colour, and the mute group."""
    plan = desk.plan
    hearings: list[Hearing] = []
    sendings = desk.compiled.controls.get((ref, bank), ())
    landings = landings_of(sendings)
    for sending in sendings:
        hearings += chain.from_iterable(motion.hearings for motion in sending.motions)
    if landings:
        names = list(dict.fromkeys(sound_name(plan, landing) for landing in landings))
        words = " / ".join(names[:2]) + (f" +{len(names) - 2}" if len(names) > 2 else "")
        part = landings[0].part
        return words, part.tag.upper(), part.colour, part.mute_group or ""
    for hearing in hearings:
        if not hearing.is_part:
            target = lookup.target(plan, hearing.ref)
            return target.name, target.name[:2].upper(), None, ""
    return "", "", None, ""


def number_words(owner: Device, face: Face) -> str:
    """The number that a pad sends, in the device's own naming."""
    send = face.send
    if send is not None and send.message == "none" and send.does:
        return send.does
    if send is None or send.message == "none":
        return say("sends nothing")
    if send.message == "note":
        return pitch.label(send.number, owner.octaves)
    if send.message == "controller":
        return say("controller {label}", label=label(send.number))
    if send.message == "program":
        return say("program {number}", number=send.number + owner.first_program)
    return send.message


def channel_words(face: Face) -> str:
    """The channel and, where it is not the plain one, the mode."""
    send = face.send
    if send is None or send.message == "none":
        return ""
    channel = say("as zones") if send.channel is None else say("ch {channel}", channel=send.channel)
    return channel if send.mode == "momentary" else f"{channel} · {say(send.mode)}"
