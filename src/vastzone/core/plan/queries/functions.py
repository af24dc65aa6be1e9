"""What controls can be told to do in their own device, and what they are told."""

from vastzone.core.cache import derived
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.functions import TOLD, Function
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import read_ref

Sole = tuple[tuple[str, Function], ...]
"""Controls that can do one thing only, with it."""
BY_NUMBER: dict[int, Function] = {
    64: "sustain",
    66: "sostenuto",
    67: "soft",
    69: "hold",
}
"""Controllers that mean what pedals do (MIDI 1.0, table of controllers)."""


def offered(device: Device, control: Control) -> tuple[Function, ...]:
    """What a control can be told: what its jack offers, or what it can itself."""
    for jack in device.jacks:
        if jack.control == control.id:
            return offered_by(jack)
    return tuple([each for each in TOLD if each in control.can])


def offered_by(jack: PedalJack) -> tuple[Function, ...]:
    """What can be told of what is in a jack; nothing of one that takes no switch."""
    if not {"switch", "dual switch", "triple"} & set(jack.accepts):
        return ()
    return tuple([each for each in TOLD if "any" in jack.functions or each in jack.functions])


def sole_of(device: Device) -> Sole:
    """The controls whose jacks offer one thing only: they need not be told."""
    return _sole(device.jacks) if device.jacks else ()


@derived(256, whole=True)
def _sole(jacks: tuple[PedalJack, ...]) -> Sole:
    sole = []
    for jack in jacks:
        can = offered_by(jack)
        if jack.control is not None and len(can) == 1 and len(jack.functions) == 1:
            sole.append((jack.control, can[0]))
    return tuple(sole)


def told(send: Send, sole: Sole) -> Function | None:
    """What a control does in its own device: as it is told, or the one thing that it can.

    One that sends something and is told nothing does nothing besides.
    """
    if send.does is not None or send.message != "none":
        return send.does
    return dict(sole).get(send.control)


def told_in(device: Device, program: Program, control: str) -> Function | None:
    """What a control does in its own device in a program; by its number where it sends that.

    A controller 64 is sustain, 66 sostenuto, 67 soft and 69 hold, by the standard.
    """
    for send in program.sends:
        if send.control == control and send.bank == 1 and send.layer == 0:
            said = told(send, sole_of(device))
            return said if said is not None else function_sent(send)
    return dict(sole_of(device)).get(control)


def function_sent(send: Send) -> Function | None:
    """What a controller means by the MIDI standard, of what pedals do; None for anything else."""
    return BY_NUMBER.get(send.number) if send.message == "controller" else None


def latching(plan: Plan, device: Device) -> frozenset[str]:
    """The controls that stay down by their own mechanics or by those of a pedal."""
    if not (device.jacks and plan.pedal_plugs):
        return _latching_themselves(device.controls)
    return _latching(device.id, device.controls, device.jacks, plan.pedals, plan.pedal_plugs)


@derived(1024, whole=True)
def _latching_themselves(controls: tuple[Control, ...]) -> frozenset[str]:
    return frozenset([control.id for control in controls if control.latches])


@derived(1024, whole=True)
def _latching(
    device: str,
    controls: tuple[Control, ...],
    jacks: tuple[PedalJack, ...],
    pedals: tuple[Pedal, ...],
    plugs: tuple[PedalPlug, ...],
) -> frozenset[str]:
    kinds = {pedal.id: pedal.kind for pedal in pedals}
    control_of = {jack.id: jack.control for jack in jacks}
    stay = set(_latching_themselves(controls))
    for plug in plugs:
        owner, jack = read_ref(plug.jack)
        control = control_of.get(jack) if owner == device else None
        if control is not None and kinds.get(plug.pedal) == "latching switch":
            stay.add(control)
    return frozenset(stay)
