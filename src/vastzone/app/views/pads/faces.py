"""What each pad shows: what it sends, what that sounds, and the proof's verdict."""

from typing import NamedTuple

from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import label
from vastzone.core.plan import lookup
from vastzone.core.plan.fills import pads_of
from vastzone.core.plan.model import Device
from vastzone.core.plan.touch import Control, Program, Send
from vastzone.core.proof.intended import prove_scene
from vastzone.core.proof.verdict import Mark
from vastzone.desk.ledger import is_small
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

    @property
    def words(self) -> str:
        """The message in words of its own: note, controller, program."""
        if self.send is None or self.send.message == "none":
            return "nothing"
        return self.send.message


def program_of(desk: Desk, owner: Device) -> Program | None:
    """The program that a device is on in the current scene."""
    return lookup.program_in(desk.scene, owner)


def faces(desk: Desk, owner: Device, bank: int) -> list[Face]:
    """The faces of a device's pads in a bank."""
    return [face(desk, owner, pad, bank) for pad in pads_of(owner) if bank <= pad.banks]


def others(desk: Desk, owner: Device, bank: int) -> list[Face]:
    """Knobs, buttons and the rest, beside the pads."""
    rest = [c for c in owner.controls if c.kind != "pad"]
    return [face(desk, owner, c, bank if bank <= c.banks else 1) for c in rest]


def face(desk: Desk, owner: Device, control: Control, bank: int) -> Face:
    """One control in one bank."""
    ref, program = f"{owner.id}:{control.id}", program_of(desk, owner)
    sends = program.sends if program else ()
    send = next((s for s in sends if (s.control, s.bank) == (control.id, bank)), None)
    sound, tag, colour, mute = _heard(desk, ref, bank)
    mark = next((m for m in _marks(desk) if m.source == ref and m.bank == bank), None)
    verdict = mark.verdict if mark else ""
    return Face(ref, bank, control, send, sound, tag, colour, verdict, mute)


def _marks(desk: Desk) -> list[Mark]:
    if not desk.plan.intents:
        return []
    proof = desk.proof
    if proof is None and is_small(desk.plan):
        return [m for held in prove_scene(desk.plan, desk.scene) for m in held]
    return list(proof.marks(desk.scene.id if desk.scene else "")) if proof else []


def _heard(desk: Desk, ref: str, bank: int) -> tuple[str, str, int | None, str]:
    """The sound that a control calls: its name, tag and colour, and its mute group."""
    plan = desk.plan
    for sending in desk.compiled.controls.get((ref, bank), ()):
        for emission in sending.notes:
            for landing in emission.landings:
                owner = lookup.device(plan, landing.ref.partition(":")[0])
                part = landing.part
                kit = next((k for k in owner.kits if k.id == part.kit), None)
                named = [s.name for s in kit.sounds if s.note == landing.note] if kit else []
                more = len(emission.landings) - 1
                words = (named[0] if named else part.name) + (f" +{more}" if more else "")
                return words, part.tag.upper(), part.colour, part.mute_group or ""
        for motion in sending.motions:
            for hearing in motion.hearings:
                if not hearing.is_part:
                    device, _, ident = hearing.ref.partition(":")
                    target = lookup.by_id(lookup.device(plan, device).targets, ident, "target")
                    return target.name, target.name[:2].upper(), None, ""
    return "", "", None, ""


def number_words(owner: Device, face: Face) -> str:
    """The number that a pad sends, in the device's own naming."""
    send = face.send
    if send is None or send.message == "none":
        return "sends nothing"
    if send.message == "note":
        return pitch.label(send.number, owner.octaves)
    if send.message == "controller":
        return f"controller {label(send.number)}"
    if send.message == "program":
        return f"program {send.number + owner.first_program}"
    return send.message


def channel_words(face: Face) -> str:
    """The channel and, where it is not the plain one, the mode."""
    send = face.send
    if send is None or send.message == "none":
        return ""
    channel = "as zones" if send.channel is None else f"ch {send.channel}"
    return channel if send.mode == "momentary" else f"{channel} · {send.mode}"
