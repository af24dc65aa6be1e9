"""Pins of an old console as they are read off it."""

import pytest

from tests.trial_rigs import barge
from vastzone.core.console.pins import pin_out
from vastzone.core.console.typed_pins import as_wired, read_pins
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.consoles import failed, move_block, set_console, tick
from vastzone.core.plan.model.console import Encoder
from vastzone.core.plan.queries import lookup


def coot(plan=None):
    plan = plan or set_console("coot", "x", encoder=Encoder(commons=24))(barge())
    owner = lookup.device(plan, "coot")
    return plan, owner, owner.console


@pytest.mark.parametrize(
    ("text", "pins"),
    [
        ("6-11", (6, 7, 8, 9, 10, 11)),
        ("C11-C6", (11, 10, 9, 8, 7, 6)),
        ("6 9 7, 8; 20-21", (6, 9, 7, 8, 20, 21)),
        (
            "common 2: C9, common 1 = 6\n3: 7\n4 → 8\n5 20\n6: 21".replace("5 20", "5: 20"),
            (6, 9, 7, 8, 20, 21),
        ),
    ],
)
def test_pins_in_any_order_per_common_or_per_wire(text, pins):
    _, owner, console = coot()
    assert read_pins(owner, console, text, console.blocks[1]) == {"b2": pins}
    assert read_pins(owner, console, f"Manual 2: {text}") == {"b2": pins}


def test_a_whole_console_is_pasted_and_the_plan_goes_round_it():
    plan, owner, console = coot()
    told = read_pins(owner, console, "Manual 2: 19-24; Pedalboard: 3 1 2")
    wired = as_wired("coot", told)(plan)
    _, owner, console = coot(wired)
    assert console.blocks[1].commons == (19, 20, 21, 22, 23, 24)
    assert console.blocks[0].commons == () and console.blocks[2].soldered
    pins = pin_out(owner, console)
    assert pins.pins["b2"] == (19, 20, 21, 22, 23, 24) and pins.pins["b3"] == (3, 1, 2)
    assert not set(pins.pins["b1"]) & {1, 2, 3, *range(19, 25)} and not pins.left_out
    moved = move_block("coot", "b3", -2)(wired)
    _, owner, console = coot(moved)
    assert [block.id for block in console.blocks] == ["b3", "b1", "b2", "b4"]
    assert pin_out(owner, console).pins["b2"] == (19, 20, 21, 22, 23, 24)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("6-10", "needs 6 commons"),
        ("6 7 8 9 10 10", "C10 is told"),
        ("20-25", "no pin C25"),
        ("six", "no pin"),
        ("1: 6, 7 8 9 10 11", "one way"),
        ("1: 6, 3: 7", "Common 2"),
        ("", "needs 6 commons"),
    ],
)
def test_what_cannot_be_is_said(text, said):
    _, owner, console = coot()
    with pytest.raises(EditError, match=said):
        read_pins(owner, console, text, console.blocks[1])


def test_pins_without_a_keyboard_are_asked_for():
    _, owner, console = coot()
    with pytest.raises(EditError, match="names no keyboard"):
        read_pins(owner, console, "6-11")


def test_what_is_soldered_is_not_given_away():
    _, owner, console = coot()
    with pytest.raises(EditError, match="C6 is told for Manual 2"):
        read_pins(owner, console, "Pedalboard: 4-6")


def test_an_open_wire_is_kept_until_it_conducts():
    plan, _, _ = coot()
    noted = failed("coot", "b1/line/1", "open")(tick("coot", "b1/line/1", "tested", True)(plan))
    console = lookup.device(noted, "coot").console
    assert console.failed[0].wire == "b1/line/1" and "b1/line/1" not in console.tested
    good = lookup.device(tick("coot", "b1/line/1", "tested", True)(noted), "coot").console
    assert good.failed == () and "b1/line/1" in good.tested
