"""A hi-hat by its pedal: histories of hands and feet against a slow simulator of its own."""

from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import module, rig
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.hats import CHICK_MS, SPLASH_MS, HatPlayer
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.voice import Voice
from vastzone.core.plan.edits.plugs import change_input, pull_out
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.parts import Kit, Part, Sound
from vastzone.core.plan.model.triggers import Plug, TriggerInput, TriggerPad
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.plugged import strokes_as
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove

ZONES = ("open", "half", "closed", "edge", "closed edge", "foot chick", "foot splash")
NOTES = dict(zip(ZONES, range(40, 47), strict=True))


def hat(sensor="switch", without=(), wishes=(), **jack):
    """A module that sounds itself, with a hat's pad and its pedal in one input."""
    zones = tuple(zone for zone in ZONES if zone not in without)
    controls = tuple(
        Control(id=z.replace(" ", "-"), name=z, kind="pad", input="hat", zone=z) for z in zones
    )
    pedal = Control(id="pedal", name="Pedal", kind="pedal", input="hat", zone="pedal")
    sends = tuple(
        Send(control=z.replace(" ", "-"), message="note", number=NOTES[z], channel=10)
        for z in zones
    )
    kit = Kit(
        id="kit",
        name="Kit",
        sounds=tuple(Sound(id=f"s{n}", name=f"S{n}", note=n) for n in NOTES.values()),
    )
    drums = Part(id="drums", name="Drums", tag="DR", channel=10, kit="kit", trigger="gate")
    brain = module(
        drums,
        ident="brain",
        controls=(*controls, pedal),
        kits=(kit,),
        inputs=(TriggerInput(id="hat", name="Hat", types=("hi-hat",), type="hi-hat", **jack),),
        programs=(Program(number=0, name="One", sends=sends),),
    )
    pads = (
        TriggerPad(id="hat", name="Hat", sensor=sensor),
        TriggerPad(id="foot", name="Foot", sensor="hi-hat"),
    )
    plugs = (Plug(pad="hat", input="brain:hat"), Plug(pad="foot", input="brain:hat"))
    return rig(brain, cables=(), pads=pads, plugs=plugs, wishes=wishes)


def notes(done):
    return [one.landing.note for one in done if isinstance(one, Voice)]


class SlowHat:
    """The same told again and again from the whole history: what each moment sounds."""

    def __init__(self, jack):
        self.jack, self.history = jack, []

    def state(self, position):
        value = position if self.jack.closed_end == "high" else 127 - position
        beyond = (
            (lambda limit: value >= limit)
            if self.jack.closed_end == "high"
            else (lambda limit: value <= limit)
        )
        return (
            "closed" if beyond(self.jack.closed) else "half" if beyond(self.jack.half) else "open"
        )

    def positions(self):
        return [(0.0, 0)] + [(at, p) for at, what, p in self.history if what == "foot"]

    def hit(self, zone, at):
        state = self.state(self.positions()[-1][1])
        if zone == "bow":
            return [NOTES[state]]
        return [NOTES["closed edge" if state == "closed" else "edge"]]

    def tread(self, position, at):
        before = self.positions()
        self.history.append((at, "foot", position))
        was, now = self.state(before[-1][1]), self.state(position)
        if now == "closed" and was != "closed":
            return [NOTES["foot chick"]] if self.smart(before, at) else []
        if now == "open" and was != "open":
            closed = self.closings(before)
            last_open = max(
                (i for i, (_, p) in enumerate(before) if self.state(p) == "open"), default=-1
            )
            since = [moment for i, moment in closed if i > last_open]
            if since and at - since[-1] <= SPLASH_MS:
                return [NOTES["foot splash"]]
        return []

    def closings(self, moves):
        """The smart closings among some moves of the foot: their places and when they were."""
        found = []
        for i in range(1, len(moves)):
            at, position = moves[i]
            if self.state(position) == "closed" and self.state(moves[i - 1][1]) != "closed":
                found = [] if not self.smart(moves[:i], at) else [*found, (i, at)]
        return found

    def smart(self, before, at):
        """Whether the pedal was open shortly before: it stays where it is until it is moved."""
        if self.state(before[-1][1]) == "open":
            return True
        for i in range(len(before) - 1, 0, -1):
            if self.state(before[i - 1][1]) == "open" or self.state(before[i][1]) == "open":
                return at - before[i][0] <= CHICK_MS
        return at - before[0][0] <= CHICK_MS


HISTORIES = st.lists(
    st.tuples(
        st.sampled_from((5.0, 30.0, 70.0, 125.0, 400.0)),
        st.sampled_from(("bow", "edge", "foot", "foot")),
        st.sampled_from((0, 20, 39, 40, 64, 95, 96, 127)),
    ),
    max_size=25,
)


@given(
    HISTORIES,
    st.sampled_from((("high", 40, 96), ("low", 90, 30), ("high", 1, 127), ("low", 100, 0))),
)
def test_a_history_of_hands_and_feet_sounds_as_the_slow_simulator_says(history, school):
    end, half, closed = school
    plan = hat(closed_end=end, half=half, closed=closed)
    jack = plan.devices[0].inputs[0]
    player = HatPlayer(Performance(compile_scene(plan, None)))
    the_hat = player.hats()[0]
    slow, at = SlowHat(jack), 0.0
    for gap, what, position in history:
        at += gap
        if what == "foot":
            done = player.tread(the_hat, position, at)
            assert notes(done) == slow.tread(position, at)
            if slow.state(position) == "closed":
                assert not player.ringing(the_hat)
        else:
            key = ("brain:open" if what == "bow" else "brain:edge", 1)
            assert notes(player.hit(key, 100, at)) == slow.hit(what, at)
            player.hit(key, 0, at)


def test_the_pedal_tells_where_it_is_and_closing_chokes_what_rings():
    plan = hat()
    sends = (
        *plan.devices[0].programs[0].sends,
        Send(control="pedal", message="controller", number=4, channel=10),
    )
    from vastzone.core.plan.edits.devices import set_device
    from vastzone.core.plan.model.checked import changed

    owner = plan.devices[0]
    plan = set_device("brain", "x", programs=(changed(owner.programs[0], sends=sends),))(plan)
    performance = Performance(compile_scene(plan, None))
    player = HatPlayer(performance)
    the_hat = player.hats()[0]
    player.hit(("brain:closed", 1), 90, 0.0)
    assert [v.landing.note for v in performance.sounding] == [NOTES["open"]]
    moved = [m for m in player.tread(the_hat, 100, 300.0) if isinstance(m, Movement)]
    assert (moved[0].motion.number, moved[0].value) == (4, 100)
    assert [v.landing.note for v in performance.sounding] == [NOTES["foot chick"]]
    player.tread(the_hat, 0, 900.0)
    assert not performance.sounding
    player.hit(("brain:edge", 1), 90, 1000.0)
    player.choke(the_hat, 1100.0)
    assert not performance.sounding and not player.ringing(the_hat)


def test_states_that_cannot_be_reached_are_dead_and_without_a_pedal_it_is_always_open():
    never = hat(half=100, closed=90)
    owner = never.devices[0]
    assert dict(strokes_as(never, owner)) == {"half": ""}
    assert any(f.rule == "hi-hat thresholds" for f in check(never))
    mended = next(f for f in check(never) if f.rule == "hi-hat thresholds").fixes[0](never)
    assert strokes_as(mended, lookup.device(mended, "brain")) == ()
    upside = change_input("brain:hat", "x", closed_end="low")(hat())
    assert any(f.rule == "hi-hat thresholds" for f in check(upside))
    pulled = pull_out("foot")(hat())
    dead = {c for c, other in strokes_as(pulled, pulled.devices[0]) if not other}
    assert dead == {"half", "closed", "closed-edge", "foot-chick", "foot-splash", "pedal"}
    assert any(f.rule == "hat without its pedal" for f in check(pulled))


def test_a_single_piezo_beside_the_pedal_has_no_edge():
    player = HatPlayer(Performance(compile_scene(hat("single"), None)))
    player.tread(player.hats()[0], 127, 0.0)
    assert notes(player.hit(("brain:edge", 1), 100, 500.0)) == [NOTES["closed"]]


def test_a_wish_says_which_sound_is_for_which_state():
    from vastzone.core.plan.model.wishes import Wish

    states = Wish(
        id="hat",
        name="Hat",
        sources=("brain:open", "brain:closed"),
        plays="brain:drums",
        sounds=("s40", "s42"),
    )
    assert prove(hat(wishes=(states,))).good
    swapped = Wish(
        id="hat",
        name="Hat",
        sources=("brain:open", "brain:closed"),
        plays="brain:drums",
        sounds=("s42", "s40"),
    )
    assert prove(hat(wishes=(swapped,))).count("wrong") == 2
    never = hat(wishes=(states,), half=0, closed=0)
    assert prove(never).count("silent") == 1
