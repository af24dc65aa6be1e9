"""Facts of one pad in one bank: velocity, layers, mute groups, note repeat."""

from functools import partial
from typing import Any

from vastzone.app.frame.sheet import Make, Press, Row
from vastzone.core.errors import EditError
from vastzone.core.plan import edits, layers
from vastzone.core.plan.fields.table import CURVES, DIVISIONS
from vastzone.core.plan.fields.values import mute_groups
from vastzone.core.plan.model import Device, Plan
from vastzone.core.plan.touch import Repeat, Send
from vastzone.core.text import quoted, whole_number
from vastzone.core.timing.repeat import gap_ms

GROUPS = 8
CURVE_WORDS = {
    "linear": "straight",
    "easy": "easy, loud early",
    "hard": "hard, loud late",
    "s-shaped": "S-shaped",
}
REPEATS = (("off", None), *((d.replace("t", " triplet"), d) for d in DIVISIONS.names))


def feel_rows(plan: Plan, owner: Device, program: int, sends: list[Send]) -> list[Row]:
    """How a pad answers the hand, then its layers above the first."""
    send = sends[0]
    rows = _velocity(owner, program, send)
    if len(sends) > 1:
        rows += _window(owner, program, send, "Layer 1, ")
    rows += _mutes(owner, program, send)
    rows += _repeat(plan, owner, program, send)
    for layer in sends[1:]:
        rows += _layer(owner, program, layer)
    return rows


def feel_presses(owner: Device, program: int, sends: list[Send]) -> list[Press]:
    """Add a layer, take the last one away."""
    send = sends[0]
    ref = (owner.id, program, send.control, send.bank)
    presses = [Press("Add layer", "plus", partial(layers.add_layer, *ref))]
    if len(sends) > 1:
        last = sends[-1].layer
        presses.append(
            Press(f"Remove layer {len(sends)}", "trash-2", partial(layers.remove_layer, *ref, last))
        )
    return presses


def _setter(owner: Device, program: int, send: Send, words: str, field: str) -> Make:
    return lambda v: edits.set_send(
        owner.id, program, send.control, send.bank, words, send.layer, **{field: v}
    )


def _velocity(owner: Device, program: int, send: Send) -> list[Row]:
    make = partial(_setter, owner, program, send)
    choices = (("as struck", None), ("always the same", send.fixed or 100))
    rows = [
        Row("Velocity", "choice", send.fixed, make("Change velocity", "fixed"), choices=choices)
    ]
    if send.fixed is not None:
        return [
            *rows,
            Row("Always", "number", send.fixed, make("Change velocity", "fixed"), 1, 127),
        ]
    return [
        *rows,
        Row(
            "Curve",
            "choice",
            send.curve,
            make("Change velocity curve", "curve"),
            choices=tuple((CURVE_WORDS[c], c) for c in CURVES.names),
        ),
        Row(
            "Drawn through",
            "text",
            points_words(send),
            lambda v: make("Draw curve", "points")(read_points(v)),
        ),
        Row("Softest sends", "number", send.low, make("Change softest", "low"), 0, 127),
        Row("Hardest sends", "number", send.high, make("Change hardest", "high"), 0, 127),
    ]


def _window(owner: Device, program: int, send: Send, before: str) -> list[Row]:
    make = partial(_setter, owner, program, send)
    return [
        Row(
            f"{before}struck from",
            "number",
            send.vel_low,
            make("Move layer", "vel_low"),
            1,
            127,
        ),
        Row(f"{before}struck to", "number", send.vel_high, make("Move layer", "vel_high"), 1, 127),
    ]


def _mutes(owner: Device, program: int, send: Send) -> list[Row]:
    make = partial(_setter, owner, program, send)
    known = dict.fromkeys((*mute_groups(owner), *(f"group-{n + 1}" for n in range(GROUPS))))
    choices: tuple[tuple[str, Any], ...] = (
        ("none", None),
        *((g.replace("group-", ""), g) for g in known),
    )
    return [
        Row(
            "Mutes group", "choice", send.mutes, make("Change mute group", "mutes"), choices=choices
        ),
        Row(
            "Muted by group",
            "choice",
            send.muted_by,
            make("Change mute group", "muted_by"),
            choices=choices,
        ),
    ]


def _repeat(plan: Plan, owner: Device, program: int, send: Send) -> list[Row]:
    held = send.repeat

    def make(words: str, field: str) -> Make:
        def edit(value: Any) -> Any:
            kept = {"division": held.division, "swing": held.swing} if held else {}
            new = None if value is None else Repeat(**{**kept, field: value})
            return _setter(owner, program, send, words, "repeat")(new)

        return edit

    rows = [
        Row(
            "Note repeat",
            "choice",
            held.division if held else None,
            make("Change note repeat", "division"),
            choices=REPEATS,
        )
    ]
    if held is None:
        return rows
    on, off = (gap_ms(held, plan.tempo, n) for n in (0, 1))
    every = f"{on:.0f} ms" if held.swing == 50 else f"{on:.0f} and {off:.0f} ms"
    return [
        *rows,
        Row("Swing %", "number", held.swing, make("Change swing", "swing"), 50, 80),
        Row(
            "Tempo, bpm",
            "number",
            round(plan.tempo),
            lambda v: edits.set_plan("Change tempo", tempo=float(v)),
            30,
            300,
        ),
        Row("Strikes every", "fixed", every),
    ]


def _layer(owner: Device, program: int, send: Send) -> list[Row]:
    make = partial(_setter, owner, program, send)
    name = f"Layer {send.layer + 1}: "
    return [
        Row(
            f"{name}note", "note", send.number, make("Change note", "number"), naming=owner.octaves
        ),
        Row(
            f"{name}channel",
            "choice",
            send.channel,
            make("Change channel", "channel"),
            choices=tuple((str(c), c) for c in range(1, 17)),
        ),
        *_window(owner, program, send, f"{name[:-2]}, "),
        Row(f"{name}blends", "check", send.fade, make("Blend layer", "fade")),
    ]


def points_words(send: Send) -> str:
    """The points of a drawn curve: «40 10, 90 80»."""
    return ", ".join(f"{x} {y}" for x, y in send.points)


def read_points(words: str) -> tuple[tuple[int, int], ...]:
    """Points as they are typed.  Raises EditError where one is no pair of 0–127."""
    found = []
    for piece in (p.strip() for p in words.split(",") if p.strip()):
        first, _, second = piece.partition(" ")
        x, y = whole_number(first), whole_number(second)
        if x is None or y is None:
            raise EditError(
                f"“{quoted(piece)}” is no point: write where and how much, such as “64 40”."
            )
        if not (0 <= x <= 127 and 0 <= y <= 127):
            raise EditError(f"“{quoted(piece)}” goes beyond 127: both numbers are 0–127.")
        found.append((x, y))
    return tuple(sorted(found))
