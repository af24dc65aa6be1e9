"""What the pedals view shows of each control: what it moves, its jack, the pedal in it."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.tables import Sending
from vastzone.core.midi.controllers import CONTROLLERS
from vastzone.core.plan.model.controls import Control, Send
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.pedals import Meeting, Pedal, PedalJack, served
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.model.values import Mode
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import device_of, ref_to, thing_of
from vastzone.core.response.sweep import CENTRE
from vastzone.core.say import say, say_many
from vastzone.core.text import capital
from vastzone.desk.session import Desk


class MovedTarget(NamedTuple):
    """A target that a control moves, by what it sends."""

    send: Send
    target: Target
    device: str
    parts: tuple[str, ...] = ()


class Worked(NamedTuple):
    """A control that feet or hands move, what it moves, and the jack that it hangs on."""

    ref: str
    owner: Device
    control: Control
    moves: tuple[MovedTarget, ...]
    jack: PedalJack | None
    pedal: Pedal | None
    bank: int = 1

    @property
    def name(self) -> str:
        """What it is called, with its bank where it has several."""
        if self.control.banks == 1:
            return self.control.name
        return say("{control} · bank {bank}", control=self.control.name, bank=self.bank)

    @property
    def is_switch(self) -> bool:
        """Whether it only has two ends."""
        return not control_ability(self.control).swept

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
        if self.pedal is None or self.jack is None:
            return None
        return served(self.pedal, self.jack, self.owner.id)


def worked(desk: Desk) -> tuple[Worked, ...]:
    """Every control of the plan but pads and stops, device by device, in the scene shown.

    Those that exist once in each bank are in the bank shown, or their last.
    """
    return worked_in(desk.compiled, desk.bank)


def worked_in(compiled: Compiled, bank: int = 1) -> tuple[Worked, ...]:
    """Every control of a plan but pads and stops, device by device, in one scene and bank."""
    controls = []
    for owner in compiled.plan.devices:
        for control in owner.controls:
            if control.kind not in ("pad", "stop"):
                controls.append(_worked(compiled, owner, control, bank))
    return tuple(controls)


def moved_of_parts(send: Send) -> str:
    """What a message moves of parts by themselves: «Expression», «Bend», «Program»."""
    if send.message == "controller":
        return capital(CONTROLLERS[send.number].meaning)
    return capital(say(send.message))


def _for_parts(plan: Plan, send: Send, refs: set[str]) -> Target:
    """What parts hear of a control by themselves: volume, expression, sustain, bend."""
    count = len(refs)
    if send.message == "bend":
        bends = set()
        for ref in refs:
            bends.add(lookup.part(lookup.device(plan, device_of(ref)), thing_of(ref)).bend)
        top = float(max(bends))
        return Target(
            id="parts",
            name=say(
                "{what} of {parts}",
                what=moved_of_parts(send),
                parts=say_many("{count} part", "{count} parts", count),
            ),
            unit="st",
            low=-top,
            high=top,
            answers="bend",
        )
    mode: Mode | Literal["continuous"] = "continuous"
    if send.message == "controller" and 64 <= send.number <= 69:
        mode = "momentary"
    role = send.number if send.message == "controller" else None
    name = say(
        "{what} of {parts}",
        what=moved_of_parts(send),
        parts=say_many("{count} part", "{count} parts", count),
    )
    return Target(id="parts", name=name, mode=mode, role=role)


def _worked(compiled: Compiled, owner: Device, control: Control, bank: int) -> Worked:
    bank = min(bank, control.banks)
    plan, ref = compiled.plan, ref_to(owner.id, control.id)
    moves: dict[MovedTarget, None] = {}
    for sending in compiled.controls.get((ref, bank), ()):
        moves.update(dict.fromkeys(_moves(plan, sending)))
    jack = next((jack for jack in owner.jacks if jack.control == control.id), None)
    pedal = _pedal_in(plan, ref_to(owner.id, jack.id)) if jack else None
    return Worked(ref, owner, control, tuple(moves), jack, pedal, bank)


def _moves(plan: Plan, sending: Sending) -> Iterator[MovedTarget]:
    """What one message of a control moves: parts together, then each target."""
    hearings = [hearing for motion in sending.motions for hearing in motion.hearings]
    parts = {hearing.ref for hearing in hearings if hearing.is_part}
    if parts:
        told = _for_parts(plan, sending.send, parts)
        yield MovedTarget(sending.send, told, "", tuple(sorted(parts)))
    for hearing in hearings:
        if hearing.target is not None:
            yield MovedTarget(sending.send, hearing.target, device_of(hearing.ref))


def _pedal_in(plan: Plan, jack: str) -> Pedal | None:
    """The pedal in a jack."""
    for plug in plan.pedal_plugs:
        if plug.jack == jack:
            return lookup.find(plan.pedals, plug.pedal)
    return None
