"""The grid of what plays what, and the walk-through's questions."""

from tests.rigs import keyboard, module, part, rig, scene, wish, zone
from vastzone import demo
from vastzone.core.plan.edits.wishes import WishPlace
from vastzone.core.plan.model.controls import Program
from vastzone.core.proof.grid import grid
from vastzone.core.proof.marking import prove
from vastzone.core.proof.walk import asks
from vastzone.files import native

PARTS = (part(), part("bass", 2, high=59), part("two", 1, low=90))


def plan_of(*zones):
    wishes = (wish("piano", "box:piano"), wish("bass", "box:bass", 36, 59))
    return rig(keyboard(*zones), module(*PARTS), wishes=wishes)


def cells(plan, scene=""):
    found = grid(plan, prove(plan), scene)
    return {
        (found.rows[r].low, found.rows[r].high, found.columns[c]): cell.verdict
        for (r, c), cell in found.cells.items()
    }


def test_rows_are_cut_where_verdicts_change():
    assert cells(plan_of(zone())) == {
        (36, 59, "box:piano"): "as meant",
        (36, 59, "box:bass"): "silent",
        (60, 89, "box:piano"): "as meant",
        (90, 96, "box:piano"): "as meant",
        (90, 96, "box:two"): "extra",
    }


def test_over_all_scenes_the_worst_counts_and_the_scenes_are_told():
    programs = tuple(
        Program(number=n, name=f"P{n}", zones=(zone(channel=1 + 2 * n),)) for n in range(2)
    )
    plan = rig(
        keyboard(programs=programs),
        module(part()),
        wishes=(wish("piano", "box:piano"),),
        scenes=(scene("one", board=0), scene("two", board=1)),
    )
    (cell,) = grid(plan, prove(plan), None).cells.values()
    assert cell.verdict == "silent" and cell.scenes == ("one", "two")
    (here,) = grid(plan, prove(plan), "one").cells.values()
    assert here.verdict == "as meant"


def test_a_range_of_ones_own_is_a_row_with_what_it_meets():
    plan = plan_of(zone())
    own = WishPlace("board:keys", 1, 50, 70)
    found = grid(plan, prove(plan), "", (own,))
    row = found.rows.index(own)
    assert found.worst(row) == "silent"
    piano, bass = (found.cells[row, found.columns.index(f"box:{p}")] for p in ("piano", "bass"))
    assert piano.verdict == "as meant" and not piano.partly
    assert bass.verdict == "silent" and bass.partly


def test_every_control_of_every_bank_has_a_row():
    plan = native.read(demo.READY)
    found = grid(plan, prove(plan), None)
    wanted = {
        (f"{d.id}:{c.id}", bank)
        for d in plan.devices
        for c in d.controls
        for bank in range(1, c.banks + 1)
    }
    assert wanted <= {(r.source, r.bank) for r in found.rows}


def test_keys_that_mean_the_same_are_asked_for_once():
    plan = plan_of(zone(), zone("low", 36, 59, 2, layer=True))
    asked = asks(plan, prove(plan), ())
    assert [(a.place.low, a.place.high) for a in asked] == [(36, 59), (60, 96)]
    assert asked[0].expected == "Piano and Bass" and asked[1].expected == "Piano"


def test_what_is_asked_does_not_depend_on_what_is_wrong():
    right, wrong = plan_of(zone()), plan_of(zone(channel=7))
    assert asks(right, prove(right), ()) == asks(wrong, prove(wrong), ())
