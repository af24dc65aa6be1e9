"""Pads into inputs: every row of the compatibility list, splitters, and exhaustive search."""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad, can_split, surviving
from vastzone.core.progress import Cancelled
from vastzone.core.solve.plugging import ModuleInput, fit, value, weigh

MUST, ZONE, SPLIT = 10**10, 10**6, 1000


def pad(ident, sensor="single", importance="wanted", model="", weights=()):
    return TriggerPad(
        id=ident, name=ident, sensor=sensor, importance=importance, model=model, weights=weights
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
        ("single", "hi-hat", ""),
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
        ("hi-hat", "hi-hat", "pedal"),
        ("hi-hat", "mono", ""),
        ("kick", "kick", "head"),
        ("kick", "mono", "head"),
        ("kick", "hi-hat", ""),
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


def brute(pads, jacks, now, splitters):
    """The best price over every assignment and every setting of the inputs."""
    best = 0
    places = {g.pad: g.input for g in now}
    for kinds in itertools.product(*(j.input.types for j in jacks)):
        for spots in itertools.product(range(-1, len(jacks)), repeat=len(pads)):
            price, fine = 0, True
            for j, kind in enumerate(kinds):
                held = [p for p, s in zip(pads, spots, strict=True) if s == j]
                price -= kind != jacks[j].input.type
                if len(held) > 2 or (len(held) == 2 and not (splitters and can_split(*held, kind))):
                    fine = False
                    break
                price -= SPLIT * (len(held) == 2)
                for p in held:
                    kept = surviving(p, kind)
                    fine = fine and bool(kept)
                    price += ZONE * value(p, kept) + MUST * (p.importance == "must")
                    price -= places.get(p.id) != jacks[j].ref
            if fine:
                best = max(best, price)
    return best


def priced(plugging, pads, jacks):
    known = {p.id: p for p in pads}
    settings_ = sum(plugging.types.get(j.ref, j.input.type) != j.input.type for j in jacks)
    musts = sum(known[g.pad].importance == "must" for g in plugging.plugs)
    return (
        MUST * musts
        + ZONE * plugging.worth
        - SPLIT * plugging.splitters
        - plugging.moves
        - settings_
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
    assert priced(best, pads, jacks) == brute(pads, jacks, now, splitters)
    refs = [g.input for g in best.plugs]
    assert all(refs.count(r) <= (2 if splitters else 1) for r in refs)


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
