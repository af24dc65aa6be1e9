"""Pads into inputs: every row of the compatibility list, splitters, and exhaustive search."""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad, can_split, surviving
from vastzone.core.progress import Cancelled
from vastzone.core.solve.plugging import CARE, ModuleInput, fit, value, weigh

MUST, ZONE, SPLIT, MOVE = 10**12, 10**8, 10**5, 100


def pad(ident, sensor="single", importance="wanted", model="", weights=(), pedal=None, name=""):
    return TriggerPad(
        id=ident,
        name=name or ident,
        sensor=sensor,
        importance=importance,
        model=model,
        weights=weights,
        pedal=pedal,
    )


def jack(ident, *types):
    return ModuleInput("brain", TriggerInput(id=ident, name=ident, types=types, type=types[0]))


@pytest.mark.parametrize(
    ("sensor", "kind", "zones"),
    [
        ("single", "mono", "head"),
        ("single", "dual", "head"),
        ("single", "piezo-switch", "head"),
        ("single", "three-way", "head"),
        ("single", "kick", "head"),
        ("single", "hi-hat", "head"),
        ("dual", "dual", "head rim"),
        ("dual", "mono", "head"),
        ("dual", "piezo-switch", "head"),
        ("dual", "three-way", "head"),
        ("dual", "kick", "head"),
        ("switch", "piezo-switch", "bow edge"),
        ("switch", "three-way", "bow edge"),
        ("switch", "dual", "bow"),
        ("switch", "mono", "bow"),
        ("two switches", "three-way", "bow edge bell"),
        ("two switches", "piezo-switch", "bow edge"),
        ("two switches", "dual", "bow"),
        ("two switches", "mono", "bow"),
        ("switch", "hi-hat", "bow edge"),
        ("two switches", "hi-hat", "bow edge"),
        ("dual", "hi-hat", "head"),
        ("hi-hat", "hi-hat", "pedal"),
        ("hi-hat", "mono", ""),
        ("kick", "kick", "head"),
        ("kick", "mono", "head"),
        ("kick", "hi-hat", "head"),
    ],
)
def test_what_survives(sensor, kind, zones):
    assert surviving(pad("p", sensor), kind) == tuple(zones.split())


@pytest.mark.parametrize(
    ("one", "other", "kind", "good"),
    [
        (("single", "a"), ("single", "a"), "dual", True),
        (("single", "a"), ("single", "b"), "dual", False),
        (("single", "a"), ("dual", "a"), "dual", False),
        (("single", "a"), ("single", "a"), "three-way", False),
        (("single", "a"), ("single", "a"), "piezo-switch", False),
        (("single", "a"), ("single", "a"), "hi-hat", False),
    ],
)
def test_what_may_be_split(one, other, kind, good):
    first, second = (pad(n, s, model=m) for n, (s, m) in zip("ab", (one, other), strict=True))
    assert can_split(first, second, kind) is good


def test_a_must_goes_before_zones_and_zones_before_splitters():
    pads = (pad("snare", "dual"), pad("kick", "kick", "must"))
    found = fit(pads, (jack("in", "dual"),))
    assert [g.pad for g in found.best.plugs] == ["kick"] and found.short == 0
    twins = (pad("a", model="m"), pad("b", model="m"), pad("rim", "dual"))
    both = fit(twins, (jack("one", "dual"), jack("two", "dual"))).best
    assert both.splitters == 1 and not both.left_out
    assert {g.side for g in both.plugs if g.pad in "ab"} == {"tip", "ring"}
    room = fit(twins, (jack("one", "dual"), jack("two", "dual"), jack("three", "mono"))).best
    assert room.splitters == 0


def test_two_models_are_split_each_on_an_input_of_its_own():
    pads = tuple(pad(n, model=n[0]) for n in ("x1", "y1", "x2", "y2"))
    best = fit(pads, (jack("one", "dual"), jack("two", "dual"))).best
    assert best.splitters == 2 and not best.left_out
    shared = {r: {g.pad[0] for g in best.plugs if g.input == r} for r in best.types}
    assert all(len(models) == 1 for models in shared.values())


def test_plugs_stay_where_they_are_unless_they_must_move():
    pads = tuple(pad(n) for n in "abc")
    jacks = tuple(jack(f"in-{n}", "mono") for n in range(4))
    now = tuple(Plug(pad=p, input=f"brain:in-{n}") for p, n in (("a", 3), ("b", 0), ("c", 2)))
    best = fit(pads, jacks, now).best
    assert set(best.plugs) == set(now) and best.moves == 0


def test_inputs_are_set_to_what_keeps_most():
    pads = (pad("ride", "two switches", weights=(3, 2, 2)), pad("crash", "switch"))
    jacks = (jack("a", "dual", "piezo-switch"), jack("b", "mono", "three-way"))
    best = fit(pads, jacks).best
    assert best.types == {"brain:a": "piezo-switch", "brain:b": "three-way"}
    assert best.kept == {"ride": ("bow", "edge", "bell"), "crash": ("bow", "edge")}
    assert best.lost(pads) == {}


def test_short_inputs_are_counted_and_the_next_best_is_worth_less():
    pads = tuple(pad(n, importance="must") for n in "abcd")
    found = fit(pads, (jack("one", "mono"), jack("two", "kick")))
    assert found.short == 2 and len(found.best.plugs) == 2
    wanted = (pad("snare", "dual"), pad("tom", "dual", weights=(3, 0)))
    ranked = fit(wanted, (jack("one", "dual"), jack("two", "mono")))
    assert ranked.best.kept["snare"] == ("head", "rim")
    assert ranked.following.worth < ranked.best.worth


def fine(held, kind, splitters):
    """Whether an input of a kind can hold some pads, told in words of its own."""
    feet = [p for p in held if p.sensor == "hi-hat"]
    hands = [p for p in held if p.sensor != "hi-hat"]
    if kind == "hi-hat":
        return len(feet) <= 1 and len(hands) <= 1
    if feet or len(hands) > 2:
        return False
    return len(hands) < 2 or (splitters and can_split(*hands, kind))


def pedal_worth(held, kind):
    """What a hat beside its pedal is worth more, and any other pad beside one less."""
    feet = [p.id for p in held if p.sensor == "hi-hat"]
    hands = [p for p in held if p.sensor != "hi-hat"]
    if kind != "hi-hat" or not feet or not hands:
        return 0
    return CARE[hands[0].importance] * (2 if hands[0].pedal == feet[0] else -1)


def brute(pads, jacks, now, splitters):
    """The best price over every assignment and every setting of the inputs."""
    best = 0
    places = {g.pad: g.input for g in now}
    for kinds in itertools.product(*(j.input.types for j in jacks)):
        for spots in itertools.product(range(-1, len(jacks)), repeat=len(pads)):
            price, possible = 0, True
            for j, kind in enumerate(kinds):
                held = [p for p, s in zip(pads, spots, strict=True) if s == j]
                possible = possible and fine(held, kind, splitters)
                price -= kind != jacks[j].input.type
                price -= SPLIT * (len(held) == 2 and kind != "hi-hat")
                price += ZONE * pedal_worth(held, kind)
                for p in held:
                    price += ZONE * value(p, surviving(p, kind)) + MUST * (p.importance == "must")
                    price += MOVE * (places.get(p.id) == jacks[j].ref)
            if possible:
                best = max(best, price)
    return best


def priced(plugging, pads, now):
    known = {p.id: p for p in pads}
    musts = sum(known[g.pad].importance == "must" for g in plugging.plugs)
    return (
        MUST * musts
        + ZONE * plugging.worth
        - SPLIT * plugging.splitters
        + MOVE * (len(now) - plugging.moves)
        - plugging.set_anew
    )


SENSORS = ("single", "dual", "switch", "two switches", "hi-hat", "kick")
KINDS = ("mono", "dual", "piezo-switch", "three-way", "kick", "hi-hat")


@st.composite
def modules(draw):
    pads = tuple(
        pad(
            f"p{n}",
            draw(st.sampled_from(SENSORS)),
            draw(st.sampled_from(("must", "wanted", "spare"))),
            draw(st.sampled_from("xy")),
            tuple(draw(st.lists(st.integers(0, 4), max_size=3))),
            draw(st.sampled_from((None, "p0", "p1"))),
        )
        for n in range(draw(st.integers(1, 4)))
    )
    jacks = tuple(
        jack(f"j{n}", *draw(st.lists(st.sampled_from(KINDS), min_size=1, max_size=2, unique=True)))
        for n in range(draw(st.integers(1, 3)))
    )
    where = st.sampled_from([j.ref for j in jacks])
    now = tuple(Plug(pad=p.id, input=draw(where)) for p in pads if draw(st.booleans()))
    return pads, jacks, now, draw(st.booleans())


@settings(max_examples=80, deadline=None)
@given(modules())
def test_the_fit_is_as_good_as_exhaustive_search(made):
    pads, jacks, now, splitters = made
    best = fit(pads, jacks, now, splitters).best
    assert priced(best, pads, now) == brute(pads, jacks, now, splitters)


@settings(max_examples=40, deadline=None)
@given(modules())
def test_what_is_plugged_is_worth_what_the_fit_says(made):
    pads, jacks, now, splitters = made
    best = fit(pads, jacks, now, splitters).best
    kinds = tuple(
        ModuleInput(
            j.device,
            TriggerInput(
                id=j.input.id,
                name=j.input.name,
                types=j.input.types,
                type=best.types.get(j.ref, j.input.type),
            ),
        )
        for j in jacks
    )
    again = weigh(pads, kinds, best.plugs, now)
    assert (again.worth, again.kept, again.left_out) == (best.worth, best.kept, best.left_out)


def test_a_fit_that_is_given_up_stops_where_it_is():
    pads = (pad("snare", "dual"), pad("tom", "dual"), pad("left", "single"))
    jacks = (jack("one", "dual"), jack("two", "dual"))
    whole: list[str] = []
    fit(pads, jacks, progress=lambda what, share: whole.append(what) or True)
    for most in range(len(whole)):
        left = iter([True] * most)
        with pytest.raises(Cancelled):
            fit(pads, jacks, progress=lambda what, share, left=left: next(left, False))


def test_a_hat_and_its_pedal_share_one_input_and_a_crash_there_is_priced():
    pads = (pad("hat", "switch"), pad("hat-pedal", "hi-hat"), pad("crash", "switch"))
    jacks = (jack("cymbal", "piezo-switch"), jack("hi-hat", "hi-hat"))
    best = fit(pads, jacks).best
    where = {g.pad: g.input for g in best.plugs}
    assert where["hat"] == where["hat-pedal"] == "brain:hi-hat" and best.disturbed == ()
    assert best.kept["hat"] == ("bow", "edge") and not best.left_out
    more = (*pads, pad("splash", "switch"))
    alone = fit(more, jacks[1:]).best
    assert {g.pad for g in alone.plugs} == {"hat", "hat-pedal"}
    other = fit((pads[1], pads[2]), jacks[1:]).best
    assert other.disturbed == ("crash",) and other.worth < fit(pads[2:], jacks[1:]).best.worth + 6


def test_drums_go_where_their_name_stands_and_nothing_moves_for_nothing():
    names = ("Kick", "Snare", "Tom 1", "Tom 2", "Tom 3", "Tom 4")
    jacks = tuple(
        ModuleInput("brain", TriggerInput(id=f"in-{n}", name=name, types=("dual",), type="dual"))
        for n, name in enumerate(names)
    )
    pads = tuple(
        pad(f"p{n}", "dual", name=name)
        for n, name in enumerate(("Tom, floor", "Snare", "Bass drum", "Tom 2"))
    )
    where = {g.pad: g.input for g in fit(pads, jacks).best.plugs}
    assert where["p1"] == "brain:in-1" and where["p3"] == "brain:in-3"
    now = (Plug(pad="p1", input="brain:in-5"), Plug(pad="p0", input="brain:in-1"))
    again = fit(pads, jacks, now).best
    assert set(now) <= set(again.plugs) and (again.moves, again.fresh) == (0, 2)


def test_pads_of_unknown_model_share_no_input():
    found = fit((pad("bell"), pad("plate")), (jack("one", "dual"),)).best
    assert len(found.plugs) == 1 and found.splitters == 0
