"""Couplers, pistons and a crescendo: simulated against an organ told anew, and proved."""

from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import part, rig, zone
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.plan.edits import couplers as edits
from vastzone.core.plan.edits.edit import edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Console
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send
from vastzone.core.plan.model.organ import Combination, Coupler, Coupling, Crescendo, stages_at
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Device, Port, Scene
from vastzone.core.plan.model.setlists import StartValue
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.organ import coupled_to, rings
from vastzone.core.proof.check import check
from vastzone.core.proof.combinations import Player

MANUALS = ("great", "swell", "pedal")
STOPS = tuple(f"stop-{n}" for n in range(6))
COUPLE = ("draw-a", "draw-b", "draw-c")


def organ(mode="momentary", couplings=(), combinations=(), crescendos=(), **module):
    """Three manuals at an encoder, three divisions and six stops in the organ behind it."""
    controls = [Control(id=ident, name=ident.title(), kind="stop") for ident in (*STOPS, *COUPLE)]
    controls.append(Control(id="piston", name="Piston", kind="button"))
    controls.append(Control(id="shoe", name="Shoe", kind="shoe"))
    sends = [
        Send(control=stop, message="controller", number=20 + n, channel=16)
        for n, stop in enumerate((*STOPS, *COUPLE))
    ]
    beds = tuple(Keybed(id=name, name=name.title(), low=36, keys=61) for name in MANUALS)
    zones = tuple(
        changed(zone(name, 36, 96, channel=n + 1), keybed=name) for n, name in enumerate(MANUALS)
    )
    console = Device(
        id="console",
        name="Console",
        kind="encoder",
        ports=(Port(id="out", name="out", flow="out"),),
        keybeds=beds,
        controls=tuple(controls),
        programs=(Program(number=0, name="One", zones=zones, sends=tuple(sends)),),
        console=Console(),
        combinations=tuple(combinations),
        crescendos=tuple(crescendos),
    )
    targets = tuple(
        Target(id=f"t-{n}", name=f"Rank {n}", channel=16, controller=20 + n, mode=mode)
        for n in range(len(STOPS) + len(COUPLE))
    )
    pipes = Device(
        id="pipes",
        name="Pipes",
        kind="module",
        ports=(Port(id="in", name="in", flow="in"),),
        parts=tuple(part(name, n + 1, low=36, high=96) for n, name in enumerate(MANUALS)),
        targets=targets,
        **module,
    )
    wishes = [
        Wish(id=name, name=name, sources=(f"console:{name}",), plays=f"pipes:{name}")
        for name in MANUALS
    ]
    for n, stop in enumerate((*STOPS, *COUPLE)):
        ref = f"console:{stop}"
        wishes.append(Wish(id=stop, name=stop, sources=(ref,), moves=f"pipes:t-{n}"))
    cables = (("console:out", "pipes:in"),)
    return rig(console, pipes, cables=cables, wishes=tuple(wishes), couplings=tuple(couplings))


def coupling(n, keys, plays, shift=0, **more):
    return Coupling(
        id=f"c-{n}",
        name=f"C{n}",
        stop=f"console:{COUPLE[n]}",
        keys=f"console:{keys}",
        plays=f"pipes:{plays}",
        shift=shift,
        **more,
    )


def rules(plan):
    return {f.rule for f in check(plan) if "coupler" in f.rule or "draws" in f.rule}


PAIRS = [(a, b) for a in MANUALS for b in MANUALS if a != b]
WISHED = st.lists(
    st.tuples(st.sampled_from(PAIRS), st.sampled_from([-12, 0, 12])),
    min_size=1,
    max_size=3,
    unique=True,
).map(lambda found: [coupling(n, *pair, shift) for n, (pair, shift) in enumerate(found)])


def heard(plan, drawn, keys, key):
    hands = Performance(compile_scene(plan, None))
    for stop in drawn:
        hands.move((f"console:{stop}", 1), 127)
    voices = hands.press((f"console:{keys}", key), 90)
    return sorted((voice.landing.ref, voice.landing.note) for voice in voices)


def as_wished(wished, drawn, keys, key):
    """What a key plays, told anew: its own division, and those that are drawn to it."""
    sounds = [(f"pipes:{keys}", key)]
    for one in wished:
        mine = one.keys == f"console:{keys}" and one.stop.partition(":")[2] in drawn
        if mine and 36 <= key + one.shift <= 96:
            sounds.append((one.plays, key + one.shift))
    return sorted(sounds)


@given(WISHED, st.booleans(), st.data())
def test_every_mend_makes_couplers_play_as_wished(wished, in_organ, data):
    """Silent at first; held in the console or in the organ, every key plays what is wished."""
    plan = organ(couplings=wished)
    for _ in range(len(wished)):
        found = [f for f in check(plan) if f.rule == "coupler not as wished"]
        if not found:
            break
        fixes = found[0].fixes
        assert fixes
        plan = fixes[-1 if in_organ else 0].change(plan)
    assert rules(plan) == set()
    if in_organ:
        assert lookup.device(plan, "pipes").couplers
    drawn = data.draw(st.sets(st.sampled_from(COUPLE)))
    for keys in MANUALS:
        for key in (36, 47, 60, 85, 96):
            assert heard(plan, drawn, keys, key) == as_wished(wished, drawn, keys, key)


def test_a_coupler_held_twice_sounds_twice():
    """In the console and in the organ at once; the mend leaves one."""
    one = coupling(0, "great", "swell")
    plan = organ(couplings=(one,))
    plan = edits.hold_in_console(plan, one).change(plan)
    plan = edits.hold_in_organ(plan, one, ["pipes:great"]).change(plan)
    assert rules(plan) == {"coupler sounds twice"}
    (found,) = [f for f in check(plan) if f.rule == "coupler sounds twice"]
    for fix in found.fixes:
        assert rules(fix.change(plan)) == set()
    assert heard(edits.drop_coupler("c-0").change(plan), COUPLE, "great", 60) == [
        ("pipes:great", 60)
    ]


def test_what_a_stop_does_not_reach_is_no_coupler():
    """Held in the organ, but the stop sends on another channel: silent, and told."""
    one = coupling(0, "great", "swell")
    plan = organ(couplings=(one,))
    plan = edits.hold_in_organ(plan, one, ["pipes:great"]).change(plan)
    assert rules(plan) == set()

    def elsewhere(owner):
        program = owner.programs[0]
        sends = tuple(changed(send, channel=12) for send in program.sends)
        return changed(owner, programs=(changed(program, sends=sends),))

    assert "coupler not as wished" in rules(edit_device("console", "", elsewhere).change(plan))


LINKS = st.lists(
    st.builds(
        lambda n, pair, shift, through: Coupler(
            id=f"k{n}", name=f"K{n}", of=pair[0], plays=pair[1], shift=shift, through=through
        ),
        st.integers(0, 99),
        st.sampled_from(PAIRS),
        st.sampled_from([-12, 0, 12]),
        st.booleans(),
    ),
    max_size=4,
    unique_by=lambda one: one.id,
)


@given(LINKS, st.sampled_from(MANUALS))
def test_what_is_handed_on_is_every_way_without_a_repeat(links, begin):
    """The parts reached are the ends of all ways of couplers, each passed once at most."""

    def ways(here, shift, gone):
        for one in links:
            if one.of == here and one.id not in gone and (not gone or one.through):
                yield one.plays, shift + one.shift
                yield from ways(one.plays, shift + one.shift, (*gone, one.id))

    assert sorted(coupled_to(begin, links)) == sorted(ways(begin, 0, ()))


@given(LINKS)
def test_rings_are_those_of_couplers_that_hand_on(links):
    """A ring is found exactly where some way through comes back; told, and mended."""

    def comes_back(here, begun, gone):
        for one in links:
            there = one.through and one.of == here and one.id not in gone
            if there and (one.plays == begun or comes_back(one.plays, begun, (*gone, one.id))):
                return True
        return False

    there = any(comes_back(name, name, ()) for name in MANUALS)
    assert bool(rings(links)) == there
    plan = organ(couplers=tuple(links))
    for _ in range(len(links) + 1):
        told = [f for f in check(plan) if f.rule == "couplers in a ring"]
        if not told:
            break
        plan = told[0].fixes[0].change(plan)
    assert bool(rings(lookup.device(plan, "pipes").couplers)) is False


SETS = st.sets(st.sampled_from(STOPS))


@given(SETS, SETS, st.booleans())
def test_a_piston_leaves_what_it_is_set_to(draws, before, organ_holds):
    """Whatever was drawn before, in the console or in the organ; others stay as they were."""
    governs = STOPS[:5]
    by_console = Combination(
        id="p", name="P", by="piston", draws=tuple(sorted(draws & set(governs))), governs=governs
    )
    if organ_holds:
        ids = dict(zip(STOPS, (f"t-{n}" for n in range(6)), strict=True))
        held = Combination(
            id="p",
            name="P",
            by="t-8",
            draws=tuple(ids[stop] for stop in by_console.draws),
            governs=tuple(ids[stop] for stop in governs),
        )
        plan = organ()
        plan = edits.add_combination("pipes", held).change(plan)
        piston = "console:draw-c"
    else:
        plan = organ(combinations=(by_console,))
        piston = "console:piston"
    player = Player(compile_scene(plan, None))
    for stop in before:
        player.move(f"console:{stop}", 127)
    player.move(piston, 127)
    player.move(piston, 0)
    for n, stop in enumerate(STOPS):
        wanted = stop in draws if stop in governs else stop in before
        assert player.is_on(f"pipes:t-{n}") == wanted
    assert rules(plan) == set()


def test_a_piston_flips_what_toggles():
    """Stops that flip at each message are left the wrong way round; the mend is told."""
    held = Combination(id="p", name="P", by="piston", draws=STOPS[:2], governs=STOPS[:4])
    plan = organ(mode="toggle", combinations=(held,))
    for _ in range(9):
        found = [f for f in check(plan) if f.rule == "piston draws otherwise"]
        if not found:
            break
        plan = found[0].fixes[0].change(plan)
    assert "piston draws otherwise" not in rules(plan)
    assert any(t.mode == "momentary" for t in lookup.device(plan, "pipes").targets)


STAGES = st.permutations(STOPS).flatmap(
    lambda stops: st.lists(st.integers(0, 2), min_size=1, max_size=4).map(
        lambda sizes: tuple(
            tuple(stops[sum(sizes[:n]) : sum(sizes[: n + 1])][:6]) for n in range(len(sizes))
        )
    )
)


@given(STAGES, SETS, st.lists(st.integers(0, 127), max_size=8))
def test_a_crescendo_adds_to_what_hands_have_drawn(stages, by_hand, places):
    """Wherever the shoe goes: its stages up to there, and what is drawn by hand."""
    shoe = Crescendo(id="cr", name="Cr", by="shoe", stages=stages)
    plan = organ(crescendos=(shoe,))
    player = Player(compile_scene(plan, None))
    for stop in by_hand:
        player.move(f"console:{stop}", 127)
    for place in places:
        player.move("console:shoe", place)
        drawn = {stop for stage in stages[: stages_at(shoe, place)] for stop in stage}
        for n, stop in enumerate(STOPS):
            assert player.is_on(f"pipes:t-{n}") == (stop in drawn | by_hand)
    assert "crescendo draws otherwise" not in rules(plan)


@given(st.integers(1, 12))
def test_stages_come_evenly(count):
    """Stage k of n from 128·k / (n + 1) on: none at the heel, all at the toe."""
    shoe = Crescendo(id="c", name="C", by="s", stages=((),) * count)
    assert (stages_at(shoe, 0), stages_at(shoe, 127)) == (0, count)
    firsts = [next(v for v in range(128) if stages_at(shoe, v) == k) for k in range(1, count + 1)]
    assert firsts == [-(-128 * k // (count + 1)) for k in range(1, count + 1)]


@given(st.sampled_from(PAIRS), st.sampled_from([0.0, 63.0, 64.0, 127.0]))
def test_a_song_may_begin_with_a_coupler_drawn(pair, begins):
    """What is drawn at its beginning couples, and what is pushed in does not, until moved."""
    one = Coupler(id="k", name="K", target="t-6", of=pair[0], plays=pair[1])
    start = StartValue(target="pipes:t-6", value=begins)
    plan = organ(couplers=(one,))
    songs = (Scene(id="a", name="A"), Scene(id="b", name="B", starts=(start,)))
    plan = changed(plan, scenes=songs)
    hands = Performance(compile_scene(plan, songs[0]))
    assert len(hands.press((f"console:{pair[0]}", 60), 90)) == 1
    hands.load(compile_scene(plan, songs[1]))
    is_on = begins >= 64
    assert len(hands.press((f"console:{pair[0]}", 62), 90)) == 1 + is_on
    hands.load(compile_scene(plan, songs[0]))
    assert len(hands.press((f"console:{pair[0]}", 64), 90)) == 1 + is_on, "it stays"
