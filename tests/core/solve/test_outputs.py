"""Outputs and local control: every wish arrives exactly once, and no switch is turned on unasked."""

from tests.rigs import keyboard, module, part, rig, wish, zone
from vastzone.core.plan.model.plan import Device, Port, Thru
from vastzone.core.plan.queries import lookup
from vastzone.core.solve.clash import Refusal, work_out
from vastzone.core.solve.numbers import Solution


def board_with_a_sound(*, local, cables=()):
    owner = keyboard(zone(), local=local, parts=(part("own"),))
    return rig(owner, module(part()), cables=cables, wishes=(wish("mine", "board:own"),))


def test_local_control_that_is_off_is_not_switched_on():
    answer = work_out(board_with_a_sound(local=False))
    assert isinstance(answer, Refusal)
    assert answer.wishes == ("mine",)
    assert "ocal control" in answer.sentence


def test_local_control_that_is_on_carries_a_wish_for_the_own_sound():
    answer = work_out(board_with_a_sound(local=True))
    assert isinstance(answer, Solution)
    assert lookup.device(answer.plan, "board").local


def test_local_control_is_switched_off_where_the_notes_come_back_by_cable():
    ports = (Port(id="out", name="out", flow="out"), Port(id="in", name="in", flow="in"))
    board = keyboard(zone(), ports=ports, parts=(part("own"),), local=True)
    back = Device(
        id="back",
        name="Back",
        kind="merger",
        ports=(Port(id="in", name="in", flow="in"), Port(id="out", name="out", flow="out")),
        thrus=(Thru(source="in", dest="out"),),
    )
    cables = (("board:out", "back:in"), ("back:out", "board:in"))
    plan = rig(board, back, cables=cables, wishes=(wish("mine", "board:own"),))
    answer = work_out(plan)
    assert isinstance(answer, Solution)
    assert not lookup.device(answer.plan, "board").local
