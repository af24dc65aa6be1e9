"""Facts of one pad in one bank: what it sends, how it answers the hand, its layers, note repeat."""

from functools import partial

from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.sheet import FactRow, Press
from vastzone.core.plan.edits import layers
from vastzone.core.plan.edits.edit import set_plan
from vastzone.core.plan.fields.owners import send_owner
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.say import say
from vastzone.core.timing.repeat import gap_ms

WINDOW = ("vel_low", "vel_high", "fade")
"""Fields that only matter beside other layers."""
OF_LAYER = ("number", "channel", *WINDOW)


def send_rows(
    plan: Plan, owner: Device, program: Program, control: Control, sends: list[Send]
) -> list[FactRow]:
    """What a pad sends and how it answers the hand, then its layers above the first."""
    first = send_owner(owner, program, sends[0], control)
    several = len(sends) > 1
    rows = field_rows(first, without=WINDOW)
    rows += _repeats(plan, sends[0])
    if several:
        rows += field_rows(first, say("Layer 1: "), only=WINDOW[:2])
    for send in sends[1:]:
        above = send_owner(owner, program, send, control)
        rows += field_rows(above, say("Layer {layer}: ", layer=send.layer + 1), only=OF_LAYER)
    return rows


def layer_presses(owner: Device, program: int, sends: list[Send]) -> list[Press]:
    """Add a layer, take the last one away."""
    send = sends[0]
    ref = (owner.id, program, send.control, send.bank)
    presses = [Press(say("Add layer"), "plus", partial(layers.add_layer, *ref))]
    if len(sends) > 1:
        last = sends[-1].layer
        presses.append(
            Press(
                say("Remove layer {count}", count=len(sends)),
                "trash-2",
                partial(layers.remove_layer, *ref, last),
            )
        )
    return presses


def _repeats(plan: Plan, send: Send) -> list[FactRow]:
    """The tempo that note repeat follows, and what that comes to."""
    repeat = send.repeat
    if repeat is None or send.message != "note":
        return []
    on, off = (gap_ms(repeat, plan.tempo, number) for number in (0, 1))
    every = (
        say("{on:.0f} ms", on=on)
        if repeat.swing == 50
        else say("{on:.0f} and {off:.0f} ms", on=on, off=off)
    )
    return [
        FactRow(
            say("Tempo, bpm"),
            "number",
            round(plan.tempo),
            lambda tempo: set_plan(say("Change tempo"), tempo=float(tempo)),
            30,
            300,
        ),
        FactRow(say("Strikes every"), "fixed", every),
    ]
