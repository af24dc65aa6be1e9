"""Outputs given out: worked by hand, and against trying everything."""

from itertools import product

import msgspec
from hypothesis import given
from hypothesis import strategies as st

from tests.core.audio.rigs import module, on_stage, outputs, wish
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.model.audio import OutputWish, SoundRoute
from vastzone.core.plan.model.parts import Part
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.sounds import output_choices, sounds_of
from vastzone.core.solve.desk_outputs import edit_of, family, give_out, one_more

KICK = wish("alone", "kick", strength=5)
SNARE = wish("alone", "snare", strength=5)
CYMBALS = wish("stereo", "crash", "ride", strength=2)
HAT = wish("alone", "hat", strength=4)


def chosen(plan):
    found = give_out(plan, "skua")
    return {ref.partition("/")[2]: choice for ref, choice in found.choices.items()}, found


def test_kick_and_snare_alone_and_the_rest_as_a_pair():
    by_sound, found = chosen(on_stage(KICK, SNARE, CYMBALS))
    assert (by_sound["kick"], by_sound["snare"]) == ("1", "2")
    assert {by_sound[each] for each in ("hat", "tom-1", "crash", "ride")} == {"3+4"}
    assert found.is_best and not found.given_up


def test_the_hat_alone_too_costs_the_pair_and_one_more_output_would_give_it_back():
    plan = on_stage(KICK, SNARE, CYMBALS, HAT)
    by_sound, found = chosen(plan)
    assert [by_sound[each] for each in ("kick", "snare", "hat", "ride")] == ["1", "2", "3", "4"]
    assert [one.wish.id for one in found.given_up] == [CYMBALS.id]
    assert [one.id for one in one_more(plan, "skua", found)] == [CYMBALS.id]


def test_what_is_locked_stays_and_the_rest_goes_around_it():
    routed = on_stage(
        KICK, SNARE, count=3, routes=(SoundRoute(part="drums", sound="kick", output="3"),)
    )
    plan = lock("skua/route.drums.kick/output")(routed)
    by_sound, found = chosen(plan)
    assert by_sound["kick"] == "3"
    assert by_sound["snare"] != "3" and not found.given_up


def test_giving_out_twice_moves_nothing():
    plan = on_stage(KICK, SNARE, CYMBALS)
    once = edit_of(plan, give_out(plan, "skua"))(plan)
    again = give_out(once, "skua")
    assert again.moved == 0
    assert edit_of(once, again)(once).devices == once.devices


def test_two_copies_of_a_kit_keep_each_sound_once():
    rest = Part(id="rest", name="Rest", tag="RE", channel=10, kit="second", output="2")
    whole = module(2, lacks=("route/output",))
    first = whole.parts[0].__class__(
        id="drums", name="Drums", tag="DR", channel=10, kit="kit", output="1"
    )
    second = msgspec.structs.replace(whole.kits[0], id="second", name="Second")
    device = msgspec.structs.replace(whole, parts=(first, rest), kits=(whole.kits[0], second))
    alone = OutputWish(
        id="k", name="Kick alone", of=("skua:drums/kick", "skua:rest/kick"), want="alone"
    )
    plan = Plan(name="Copies", devices=(device,), output_wishes=(alone,))
    found = give_out(plan, "skua")
    assert not found.given_up
    after = edit_of(plan, found)(plan).devices[0]
    kits = {kit.id: {sound.id for sound in kit.sounds} for kit in after.kits}
    assert not kits["kit"] & kits["second"]
    assert kits["kit"] | kits["second"] == {sound.id for sound in whole.kits[0].sounds}
    assert {"kick"} in kits.values()


KINDS = ("Kick", "Snare", "Tom", "Loop", "Lead")


@st.composite
def small_rigs(draw):
    """A device of few sounds and outputs, with wishes that may clash."""
    count = draw(st.integers(2, 4))
    names = draw(st.lists(st.sampled_from(KINDS), min_size=2, max_size=4))
    parts = []
    for place, name in enumerate(names):
        output = draw(st.sampled_from(("", *map(str, range(1, count + 1)))))
        parts.append(
            Part(id=f"p{place}", name=f"{name} {place}", tag="AA", channel=place + 1, output=output)
        )
    device = Device(
        id="skua", name="Skua", kind="module", parts=tuple(parts), outputs=outputs(count)
    )
    wishes = []
    idents = [f"skua:p{place}" for place in range(len(parts))]
    for number in range(draw(st.integers(0, 3))):
        want = draw(st.sampled_from(("alone", "apart", "stereo")))
        of = draw(st.lists(st.sampled_from(idents), min_size=1, max_size=2, unique=True))
        others = [ident for ident in idents if ident not in of]
        if want == "apart" and not others:
            continue
        apart = others[:1] if want == "apart" else ()
        strength = draw(st.integers(1, 5))
        wishes.append(
            OutputWish(
                id=f"w{number}",
                name=f"w{number}",
                of=tuple(of),
                want=want,
                apart=tuple(apart),
                strength=strength,
            )
        )
    return Plan(name="Small", devices=(device,), output_wishes=tuple(wishes))


def cost(plan, choices):
    """What a choice for each part costs, told slowly: given up, mixed, moved."""
    device = plan.devices[0]
    jacks = {ref: set(choice.split("+")) for ref, choice in choices.items()}
    given_up = 0
    for one in plan.output_wishes:
        mine = set().union(*(jacks[ref] for ref in one.of))
        if one.want == "stereo":
            kept = all(len(jacks[ref]) == 2 for ref in one.of)
        else:
            others = one.apart if one.want == "apart" else set(jacks) - set(one.of)
            kept = not any(mine & jacks[ref] for ref in others)
        given_up += 0 if kept else one.strength
    mixed = 0
    for output in device.outputs:
        kinds = {family(unit) for unit in sounds_of(device) if output.id in jacks[unit.ref]}
        mixed += max(0, len(kinds) - 1)
    moved = 0
    for unit in sounds_of(device):
        moved += bool(unit.output) and choices[unit.ref] != unit.output
    return given_up, mixed, moved


def allowed(choices):
    """Whether no two neighbouring jacks are both a pair and used singly."""
    pairs = {choice for choice in choices if "+" in choice}
    singles = {choice for choice in choices if "+" not in choice}
    return not any(single in pair.split("+") for pair in pairs for single in singles)


@given(small_rigs())
def test_nothing_better_is_found_by_trying_everything(plan):
    device = plan.devices[0]
    refs = [unit.ref for unit in sounds_of(device)]
    every = product(output_choices(device), repeat=len(refs))
    best = min(
        cost(plan, dict(zip(refs, choices, strict=True))) for choices in every if allowed(choices)
    )
    found = give_out(plan, "skua")
    assert found.is_best
    assert cost(plan, found.choices) == best
    assert (found.cost, found.moved) == (best[0], best[2])
