"""What the pedals view shows of each control: what it moves, its jack, the pedal in it."""

from typing import Literal, NamedTuple

from vastzone.core.midi.controllers import CONTROLLERS
from vastzone.core.plan import lookup
from vastzone.core.plan.model import Device
from vastzone.core.plan.pedal import Meeting, Pedal, PedalJack, served
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.plan.sound import Target
from vastzone.core.plan.touch import Control, Send
from vastzone.core.plan.values import Mode
from vastzone.core.proof.words import many
from vastzone.core.response.sweep import CENTRE
from vastzone.desk.session import Desk

SWITCHES = ("switch", "button", "stop")


class Moved(NamedTuple):
    """A target that a control moves, by what it sends."""

    send: Send
    target: Target
    device: str


class Worked(NamedTuple):
    """A control that feet or hands move, what it moves, and the jack that it hangs on."""

    ref: str
    owner: Device
    control: Control
    moves: tuple[Moved, ...]
    jack: PedalJack | None
    pedal: Pedal | None

    @property
    def is_switch(self) -> bool:
        """Whether it only has two ends."""
        return self.control.kind in SWITCHES

    @property
    def springs(self) -> bool:
        """Whether it goes back to its middle by itself: a wheel or lever that bends."""
        bends = any(moved.send.message == "bend" for moved in self.moves)
        return bends and self.control.kind in ("wheel", "lever")

    @property
    def rest(self) -> int:
        """Where it stands when nobody touches it, 0–127."""
        return CENTRE if self.springs else 0

    @property
    def meets(self) -> Meeting | None:
        """How its pedal works in its jack."""
        return served(self.pedal, self.jack) if self.pedal and self.jack else None


def worked(desk: Desk) -> tuple[Worked, ...]:
    """Every control of the plan but pads and stops, device by device."""
    return tuple(
        _worked(desk, owner, control)
        for owner in desk.plan.devices
        for control in owner.controls
        if control.kind not in ("pad", "stop")
    )


def _for_parts(desk: Desk, send: Send, refs: set[str]) -> Target:
    """What parts hear of a control by themselves: volume, expression, sustain, bend."""
    count = len(refs)
    if send.message == "bend":
        bends = {
            lookup.part(lookup.device(desk.plan, device_of(r)), thing_of(r)).bend for r in refs
        }
        top = float(max(bends))
        return Target(
            id="parts", name=f"Bend of {many(count, 'part')}", unit="st", low=-top, high=top
        )
    what = CONTROLLERS[send.number].meaning if send.message == "controller" else send.message
    mode: Mode | Literal["continuous"] = "continuous"
    if send.message == "controller" and 64 <= send.number <= 69:
        mode = "momentary"
    role = send.number if send.message == "controller" else None
    name = f"{what} of {many(count, 'part')}".capitalize()
    return Target(id="parts", name=name, mode=mode, role=role)


def _worked(desk: Desk, owner: Device, control: Control) -> Worked:
    plan, ref = desk.plan, ref_to(owner.id, control.id)
    moves = []
    for sending in desk.compiled.controls.get((ref, 1), ()):
        parts = {h.ref for m in sending.motions for h in m.hearings if h.is_part}
        if parts:
            moves.append(Moved(sending.send, _for_parts(desk, sending.send, parts), ""))
        moves += [
            Moved(sending.send, h.target, device_of(h.ref))
            for m in sending.motions
            for h in m.hearings
            if h.target is not None
        ]
    jack = next((j for j in owner.jacks if j.control == control.id), None)
    plug = next((g for g in plan.pedal_plugs if jack and g.jack == ref_to(owner.id, jack.id)), None)
    pedal = next((p for p in plan.pedals if plug and p.id == plug.pedal), None)
    return Worked(ref, owner, control, tuple(dict.fromkeys(moves)), jack, pedal)
