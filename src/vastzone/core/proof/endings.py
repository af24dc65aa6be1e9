"""Rules about what begins and never ends: notes without a release, pedals that hold at rest."""

from collections.abc import Callable, Iterator
from typing import Any, NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.performance import MIDDLE
from vastzone.core.engine.tables import Hearing, Sending
from vastzone.core.midi.controllers import SUSTAIN
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.controls import Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say


class SentSetting(NamedTuple):
    """A setting as it is in one program: its device, what it sends, and in which scenes."""

    owner: Device
    program: Program
    send: Send
    sending: Sending
    scenes: tuple[str, ...]

    @property
    def ref(self) -> str:
        """The control as ``device:control``."""
        return ref_to(self.owner.id, self.send.control)

    @property
    def name(self) -> str:
        """What the control is called."""
        controls = self.owner.controls
        return next(
            (control.name for control in controls if control.id == self.send.control),
            self.send.control,
        )

    def mend(self, label: str, **changes: Any) -> Edit:
        """What the control sends here, changed."""
        send, number = self.send, self.program.number
        return set_send(self.owner.id, number, send.control, send.bank, label, **changes)


def _settings(
    plan: Plan, compiled: tuple[Compiled, ...], wanted: Callable[[Send], bool]
) -> Iterator[SentSetting]:
    """The settings that are wanted, in each program that a scene is on."""
    by_scene = {}
    for scene in compiled:
        by_scene[scene.scene.id if scene.scene else ""] = scene
    for owner in plan.devices:
        for number, scenes in lookup.scenes_by_program(plan, owner).items():
            program = lookup.program(owner, number)
            here = by_scene[scenes[0] if scenes else ""]
            some = () if len(scenes) == len(plan.scenes) else scenes
            for send in filter(wanted, program.sends):
                for sending in here.controls.get((ref_to(owner.id, send.control), send.bank), ()):
                    if sending.send is send:
                        yield SentSetting(owner, program, send, sending, some)


def notes_without_end(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Notes that are begun with nothing sent at release, in parts that wait for a release."""
    for spot in _settings(plan, compiled, lambda s: s.message == "note" and s.mode == "trigger"):
        heard = []
        for note in spot.sending.notes:
            for landing in note.landings:
                heard.append(landing.part)
        waiting = []
        for part in heard:
            if part.trigger == "gate":
                waiting.append(part.name)
        if not waiting:
            continue
        mend = spot.mend(say("Let {spot} send a release", spot=spot.name), mode="momentary")
        yield Remark(
            "note without an end",
            (spot.ref, spot.owner.id),
            say(
                "{spot} of {owner} begins a note in {waiting} and sends nothing at release: "
                "the note "
                "never ends.",
                spot=spot.name,
                owner=spot.owner.name,
                waiting=waiting[0],
            ),
            (mend,),
            spot.scenes,
        )


def pedals_that_hold(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Sustain that is on while the pedal is up, or that nothing takes off again."""
    for spot in _settings(
        plan, compiled, lambda s: s.message == "controller" and bool(_held_by(s))
    ):
        hearings: list[Hearing] = []
        for motion in spot.sending.motions:
            hearings.extend(motion.hearings)
        if not any(hearing.is_part for hearing in hearings):
            continue
        label = say("Let {spot} send 0 at rest and 127 pressed", spot=spot.name)
        mend = spot.mend(label, low=0, high=127, mode="momentary")
        yield Remark(
            "pedal holds at rest",
            (spot.ref, spot.owner.id),
            say(
                "{spot} of {owner} {held_by}: what it reaches sounds on.",
                spot=spot.name,
                owner=spot.owner.name,
                held_by=_held_by(spot.send),
            ),
            (mend,),
            spot.scenes,
        )


def _held_by(send: Send) -> str:
    """What keeps a sustain on, in words; nothing where it comes off, or is none."""
    if send.number != SUSTAIN:
        return ""
    if send.mode == "trigger":
        return say("switches sustain on and never off") if send.high >= MIDDLE else ""
    if send.mode == "toggle":
        return say("never sends a sustain below 64") if send.low >= MIDDLE else ""
    if send.low >= MIDDLE > send.high:
        return say(
            "sends its high value at rest: it holds while it is up, and lets go when pressed"
        )
    return say("never sends a sustain below 64") if min(send.low, send.high) >= MIDDLE else ""
