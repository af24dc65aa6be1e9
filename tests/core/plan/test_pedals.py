"""Pedals in jacks: every pair by hand, the fit against exhaustive search, what rules say."""

from collections import Counter
from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone import demo
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import pedals
from vastzone.core.plan.edits.devices import set_part
from vastzone.core.plan.edits.edit import edit_device, set_plan
from vastzone.core.plan.edits.sends import set_send
from vastzone.core.plan.model.checked import changed, swapped
from vastzone.core.plan.model.pedals import (
    FootWish,
    Pedal,
    PedalJack,
    meeting,
    served,
    serves,
    suited,
    values_given,
)
from vastzone.core.proof.check import check
from vastzone.core.solve.pedal_fit import CARE, HALF, WORKS, DeviceJack
from vastzone.core.solve.pedals import fit_pedals, hopeless, next_best
from vastzone.files import native


def pedal(kind="switch", function="any", ident="p", **more):
    return Pedal(id=ident, name=ident.upper(), kind=kind, function=function, **more)


def jack(*accepts, ident="j", functions=("any",), **more):
    return PedalJack(id=ident, name=ident.upper(), accepts=accepts, functions=functions, **more)


@pytest.mark.parametrize(
    ("held", "there", "works"),
    [
        (pedal("switch"), jack("switch"), "works"),
        (pedal("switch", contact="closed"), jack("switch"), "half"),
        (pedal("switch", contact="closed"), jack("switch", sense="at power-up"), "works"),
        (pedal("switch"), jack("continuous"), "half"),
        (pedal("continuous"), jack("continuous"), "works"),
        (pedal("continuous"), jack("continuous", wiper="ring"), "half"),
        (pedal("continuous"), jack("switch"), "half"),
        (pedal("dual switch"), jack("dual switch"), "works"),
        (pedal("dual switch"), jack("switch"), "half"),
        (pedal("dual switch"), jack("continuous"), "not"),
        (pedal("triple"), jack("dual switch", "switch"), "not"),
        (pedal("triple"), jack("triple"), "works"),
        (pedal("hi-hat"), jack("hi-hat"), "works"),
        (pedal("hi-hat"), jack("continuous"), "not"),
        (pedal("voltage", high=5), jack("voltage"), "works"),
        (pedal("voltage", high=10), jack("voltage"), "never"),
        (pedal("voltage", low=-5), jack("continuous"), "never"),
    ],
)
def test_how_each_pedal_works_in_each_jack(held, there, works):
    assert meeting(held, there).works == works
    assert bool(meeting(held, there).feel) or works == "works"


@pytest.mark.parametrize(
    ("held", "there", "works"),
    [
        (pedal("switch", "sustain"), jack("switch", functions=("hold",)), "not"),
        (pedal("latching switch", "sustain"), jack("switch"), "half"),
        (pedal("latching switch", "speed"), jack("switch"), "works"),
        (pedal("switch", "swell"), jack("switch"), "half"),
        (pedal("continuous", "sustain"), jack("continuous"), "half"),
        (pedal("continuous", "swell"), jack("continuous"), "works"),
    ],
)
def test_whether_a_pedal_does_what_is_wanted_of_it(held, there, works):
    assert served(held, there).works == works


@pytest.mark.parametrize(
    ("source", "there", "values", "works"),
    [
        # 5 V · 100/101 = 4.95 V: 127 · 0.990 = 125.7
        (pedal("voltage"), jack("voltage"), (0, 126), "works"),
        # 5 V · 10/(10 + 10) = 2.5 V: half of the range, 63.5
        (pedal("voltage", source_ohms=10_000), jack("voltage", ohms=10_000), (0, 64), "works"),
        # an antenna of 0 to 1 V: 127 · 0.99 / 5 = 25.1
        (pedal("voltage", high=1), jack("voltage"), (0, 25), "half"),
        # ±2.5 V in a jack for −5 to 5 V, unloaded but for a hundredth: 127 · (2.525, 7.475) / 10
        (pedal("voltage", low=-2.5, high=2.5), jack("voltage", low=-5), (32, 95), "half"),
        (pedal("voltage", high=1), jack("voltage", calibrated=True), (0, 25), "works"),
    ],
)
def test_what_a_jack_makes_of_a_source_by_hand(source, there, values, works):
    assert values_given(source, there) == values
    assert meeting(source, there).works == works


def test_a_jack_that_can_be_told_is_set_to_its_pedal():
    closed = pedal(contact="closed")
    assert suited(closed, jack("switch", senses=("open", "closed"))).sense == "closed"
    assert suited(closed, jack("switch")).sense == "open"
    assert (
        suited(pedal("continuous"), jack("continuous", wiper="ring", wipers=("ring", "tip"))).wiper
        == "tip"
    )


kinds = st.sampled_from(("switch", "latching switch", "continuous", "dual switch", "voltage"))
functions = st.sampled_from(("sustain", "swell", "any"))
worth = st.sampled_from(("must", "wanted", "spare"))
foot_wishes = st.builds(
    FootWish,
    function=functions,
    importance=worth,
    device=st.sampled_from((None, "d", "e")),
    tied=st.booleans(),
)
some_pedals = st.lists(
    st.tuples(
        kinds, st.lists(foot_wishes, min_size=1, max_size=2), st.sampled_from(("tip", "ring"))
    ),
    min_size=1,
    max_size=3,
)
accepted = st.sampled_from(
    (("switch",), ("continuous",), ("switch", "continuous"), ("dual switch",), ("voltage",))
)
offered = st.sampled_from((("any",), ("sustain",), ("swell", "sustain")))
some_jacks = st.lists(st.tuples(st.sampled_from("de"), accepted, offered), max_size=3)


def rig_of(feet, holes):
    held = []
    for number, (kind, wishes, wiper) in enumerate(feet):
        one = pedal(kind, "any", f"p{number}", wiper=wiper)
        held.append(pedals.with_wishes(one, tuple(wishes)))
    sockets = []
    for number, (device, takes, does) in enumerate(holes):
        sockets.append(DeviceJack(device, jack(*takes, ident=f"j{number}", functions=does)))
    return tuple(held), tuple(sockets)


def dealt(held):
    """Every way to deal the wishes out: as many to each pedal as it had, the tied ones to theirs."""
    loose, seats = [], []
    for place, one in enumerate(held):
        for wish in one.wishes:
            if not wish.tied:
                loose.append(wish)
                seats.append(place)
    for order in set(permutations(range(len(loose)))):
        hands = [[wish for wish in one.wishes if wish.tied] for one in held]
        for seat, number in zip(seats, order, strict=True):
            hands[seat].append(loose[number])
        yield hands


def value_of(held, hands, places):
    whole = 0.0
    for one, wishes, socket in zip(held, hands, places, strict=True):
        if socket is None:
            continue
        there = suited(one, socket.jack)
        best = {}
        for wish in wishes:
            works = serves(wish, one, there, socket.device).works
            value = CARE[wish.importance] * {"works": WORKS, "half": HALF}.get(works, 0.0)
            best[wish.function] = max(best.get(wish.function, 0.0), value)
        whole += sum(best.values())
    return whole


@settings(max_examples=30, deadline=None)
@given(some_pedals, some_jacks)
def test_the_fit_is_as_good_as_trying_every_plugging_with_every_deal_of_wishes(feet, holes):
    held, sockets = rig_of(feet, holes)
    best = fit_pedals(held, sockets)
    every = 0.0
    for hands in dealt(held):
        for places in set(permutations((*sockets, *([None] * len(held))), len(held))):
            every = max(every, value_of(held, hands, places))
    assert best.worth == pytest.approx(every)
    assert len({plug.jack for plug in best.plugs}) == len(best.plugs)


@settings(max_examples=30, deadline=None)
@given(some_pedals, some_jacks)
def test_the_fit_taken_over_does_what_it_promised_and_keeps_what_is_tied(feet, holes):
    held, sockets = rig_of(feet, holes)
    best = fit_pedals(held, sockets)
    given_now = [best.given.get(one.id, one.wishes) for one in held]
    assert Counter(w for wishes in given_now for w in wishes) == Counter(
        wish for one in held for wish in one.wishes
    )
    for one, wishes in zip(held, given_now, strict=True):
        assert len(wishes) == len(one.wishes)
        assert not Counter(w for w in one.wishes if w.tied) - Counter(wishes)
    at = {plug.pedal: plug.jack for plug in best.plugs}
    by_ref = {socket.ref: socket for socket in sockets}
    places = [by_ref.get(at.get(one.id, "")) for one in held]
    assert value_of(held, given_now, places) == pytest.approx(best.worth)
    again = fit_pedals(tuple(map(pedals.with_wishes, held, given_now)), sockets, best.plugs)
    assert again.moves == 0 and not again.given


@settings(max_examples=30, deadline=None)
@given(some_pedals, some_jacks)
def test_the_next_best_does_something_else_and_is_worth_no_more(feet, holes):
    held, sockets = rig_of(feet, holes)
    best = fit_pedals(held, sockets)
    other = next_best(held, sockets, best)
    if other is None:
        assert not best.done
        return

    def services(found):
        told = []
        for done in found.done:
            device = done.jack.partition(":")[0]
            told.append((done.wish.function, done.wish.importance, device, done.meeting.works))
        return Counter(told)

    assert other.worth <= best.worth
    assert services(best) != services(other)


@settings(max_examples=30, deadline=None)
@given(some_pedals, some_jacks)
def test_what_no_jack_can_give_is_in_no_plugging(feet, holes):
    held, sockets = rig_of(feet, holes)
    best = fit_pedals(held, sockets)
    for one in hopeless(held, sockets):
        for done in best.done:
            if done.wish == one.wish and one.best.works == "not":
                assert done.owner != one.pedal


def test_a_wish_goes_to_the_pedal_whose_wiper_the_jack_wants():
    ring = pedal("continuous", "swell", "ring", wiper="ring", importance="must")
    tip = pedal("continuous", "morph", "tip", importance="spare")
    sockets = (DeviceJack("d", jack("continuous", functions=("swell",))),)
    best = fit_pedals((ring, tip), sockets)
    (plug,) = best.plugs
    assert plug.pedal == "tip" and best.given["tip"][0].function == "swell"
    assert [done.meeting.works for done in best.done] == ["works"]
    stays = changed(ring, tied=True)
    (plug,) = fit_pedals((stays, tip), sockets).plugs
    assert plug.pedal == "ring"


def test_a_wish_on_one_device_is_not_met_on_another():
    piano = pedal("switch", "sustain", "p", device="d")
    sockets = (DeviceJack("e", jack("switch")), DeviceJack("d", jack("switch", ident="k")))
    (plug,) = fit_pedals((piano,), sockets).plugs
    assert plug.jack == "d:k"
    (cannot,) = hopeless((piano,), sockets[:1])
    assert cannot.best.works == "not"


@pytest.fixture
def found():
    return native.read(demo.AS_FOUND)


def said(plan, rule):
    return [f for f in check(plan) if f.rule == rule]


def test_as_found_the_damper_is_reversed_and_the_swell_pedal_mismatched(found):
    damper, swell = said(found, "pedal half works")
    assert damper.severity == "fault" and "reversed" in damper.sentence
    assert "ring" in swell.sentence and not swell.fixes
    assert [f.sentence for f in said(damper.fixes[0](found), "pedal half works")] == [
        swell.sentence
    ]
    ready = native.read(demo.READY)
    assert not said(ready, "pedal half works") and not said(ready, "pedal in no jack")


def test_plugs_stay_and_the_next_best_is_worth_less(found):
    sockets = tuple(DeviceJack(d.id, j) for d in found.devices for j in d.jacks)
    best = fit_pedals(found.pedals, sockets, found.pedal_plugs)
    assert best.moves == 1 and best.left_out == ("old-swell",)
    other = next_best(found.pedals, sockets, best, found.pedal_plugs)
    assert other is not None and (other.worth, -other.effort) < (best.worth, -best.effort)


def test_a_voltage_beyond_the_rating_is_never_plugged_in_and_priced_in_resistors(found):
    source = pedal("voltage", "swell", "lfo", low=-5, high=5)
    plan = pedals.add_pedal(source)(found)
    with pytest.raises(EditError, match="must not"):
        pedals.plug_in(plan, "lfo", "heron:expression-jack")
    forced = set_plan(
        "x", pedal_plugs=(pedals.PedalPlug(pedal="lfo", jack="heron:expression-jack"),)
    )(plan)
    (over,) = said(forced, "over-range voltage")
    assert over.severity == "fault" and "in series" in over.sentence
    assert not said(over.fixes[0](forced), "over-range voltage")


def test_two_controls_on_one_number_are_named(found):
    (both,) = said(found, "two controls on one number")
    assert "Knob 2 and Knob 3" in both.sentence
    assert not said(both.fixes[0](found), "two controls on one number")
    assert not said(native.read(demo.READY), "two controls on one number")


def test_a_wheel_that_bends_parts_apart_and_a_slot_in_vain_are_told(found):
    apart = set_part("dovecote", "celesta", "x", bend=12)(found)
    told = said(apart, "bend ranges disagree")
    assert told and "Celesta by 12" in told[0].sentence
    assert not said(told[0].fixes[0](apart), "bend ranges disagree")
    wishes = tuple(i for i in found.wishes if i.moves != "echo-pool:mix")
    idle = set_plan("x", wishes=wishes)(found)
    assert [f.sentence for f in said(idle, "dead slot")] == [
        "Nothing moves Mix in Echo Pool, which waits for controller 20."
    ]


def test_controls_that_fight_and_standard_numbers_misused_are_told(found):
    ready = native.read(demo.READY)
    foot = set_send("heron", 0, "dual-right", 1, "x", message="controller", number=20, channel=16)(
        ready
    )
    (both,) = said(foot, "controls fight")
    assert "Mix" in both.sentence and len(both.subjects) == 2
    volume = set_send("dipper", 0, "knob-2", 1, "x", number=7)(ready)

    def echo(owner):
        old = next(t for t in owner.targets if t.id == "feedback")
        new = changed(old, controller=7, role=91)
        return changed(owner, targets=swapped(owner.targets, old, new))

    volume = edit_device("echo-pool", "x", echo)(volume)
    (wrong,) = said(volume, "standard meaning misused")
    assert "channel volume" in wrong.sentence


def test_a_drawn_curve_that_falls_is_refused(found):
    with pytest.raises(EditError, match="drawn curve"):
        set_send("dipper", 0, "knob-2", 1, "x", points=((10, 60), (20, 30)))(found)
