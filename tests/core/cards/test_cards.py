from tests.rigs import joined, keyboard, module, pads, part, wish, zone
from vastzone.core.cards.card import card, cards, effort, tick
from vastzone.core.cards.diff import differences, undialled
from vastzone.core.plan.edits.cables import remove_cable
from vastzone.core.plan.edits.devices import set_device
from vastzone.core.plan.fields.dials import record
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.solve.clash import work_out


def solved():
    board = keyboard(zone("low", 36, 59, 9), zone("high", 60, 96, 2), octaves=3, first_program=0)
    plan = joined(
        board,
        module(part("one", 1), part("two", 2)),
        wishes=(
            wish("low", "box:one", 36, 59),
            wish("high", "box:two", 60, 96),
        ),
    )
    return plan, work_out(plan, "2026-11-24").plan


def test_a_card_lists_only_what_differs_in_the_devices_own_terms():
    _, plan = solved()
    (made,) = cards(plan)
    (section,) = made.sections
    (step,) = made.steps
    assert (made.device, section.title) == ("board", "Program 0, First")
    assert (step.thing, step.field, step.before, step.after) == ("Zone Low", "Channel", "9", "1")
    assert section.closing == ("Store to slot 0.", "Select slot 0.")
    everything = card(plan, plan.devices[0], everything=True)
    assert {"C1 (36)", "B2 (59)"} <= {s.after for s in everything.steps}, "middle C is C3 here"


def test_ticks_walk_through_the_states_with_their_date_and_undo_as_edits():
    _, plan = solved()
    (made,) = cards(plan)
    for state in ("sent", "stored", "checked"):
        plan = tick(made.steps[0].refs, state, "2026-11-25")(plan)
        known = record(plan, made.steps[0].refs[0])
        assert (known.state, known.on) == (state, "2026-11-25")
        assert bool(cards(plan)) is (state == "sent"), "sent but not stored still has to be stored"


def test_numbers_that_are_one_in_the_device_are_dialled_once():
    limits = (ScopeLimit(setting="send-channel", scope="program"),)
    plan = joined(
        pads(4, limits=limits),
        module(*(part(f"p{n}", 5, high=60, low=60) for n in range(1))),
        wishes=(
            wish(
                "hit",
                "box:p0",
                sources=("pads:pad-1", "pads:pad-2", "pads:pad-3", "pads:pad-4"),
                note=60,
            ),
        ),
    )
    (made,) = (c for c in cards(work_out(plan).plan) if c.device == "pads")
    channels = [s for s in made.steps if s.field == "Channel"]
    assert len(channels) <= 1 and all(len(s.refs) == 4 for s in channels)


def test_effort_compares_two_solutions():
    old, plan = solved()
    assert effort(cards(old)) == (0, 0)
    assert effort(cards(plan)) == (1, 3 + 8 + 5), "three to reach, eight steps, select and store"


def test_what_differs_is_told_in_words():
    old, plan = solved()
    assert differences(old, plan) == ["Board, program 0: Zone Low, channel from 9 to 1."]
    assert undialled(plan) == ["Board, program 0: Zone Low, channel from 9 to 1."]
    assert differences(plan, plan) == [] and undialled(old) == []
    renamed = set_device("board", "Rename", name="Big board")(plan)
    assert differences(plan, renamed) == ["The device Board is now called Big board."]
    assert "Cable from merge:out to box:in is gone." in differences(
        plan, remove_cable(plan.cables[-1])(plan)
    )
