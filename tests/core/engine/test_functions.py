"""What pedals, switches and pads do in their own device, against a slow player of its own."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import part, rig, zone
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.performance import Performance
from vastzone.core.midi.turns import MOST_STEPS, code_of, steps_of
from vastzone.core.plan.edits.functions import tell_function
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Control, Drive, Keybed, Program, Send
from vastzone.core.plan.model.functions import TOLD
from vastzone.core.plan.model.limits import ScopeLimit
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.pedals import Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import Device, Scene, Storage
from vastzone.core.plan.queries import lookup
from vastzone.core.response.sources import falls
from vastzone.core.timing.repeat import LATEST_TAP

PIANO, ORGAN, LOOPS = range(40, 43), range(60, 63), range(80, 83)
FOOT = ("stage:foot", 1)


def stage(does=None, latches=False, programs=1, step="none", kind="switch", **send):
    """A keyboard that sounds itself: a piano that sustains, an organ that does not, and loops."""
    zones = (
        zone("low", 36, 55, channel=1),
        zone("middle", 56, 75, channel=2),
        zone("high", 76, 96, channel=3),
    )
    foot = Control(id="foot", name="Foot", kind=kind, latches=latches, can=TOLD)
    sent = Send(control="foot", message=send.pop("message", "none"), does=does, **send)
    numbers = [3 * number for number in range(programs)]
    device = Device(
        id="stage",
        name="Stage",
        kind="keyboard",
        keybeds=(Keybed(id="keys", name="Keys", low=36, keys=61),),
        controls=(foot,),
        parts=(
            part("piano", 1),
            part("organ", 2, sustains=False),
            part("loops", 3, trigger="toggle"),
        ),
        programs=tuple(
            Program(number=number, name=f"P{number}", zones=zones, sends=(sent,))
            for number in numbers
        ),
        storage=Storage(step=step),
    )
    return rig(device, cables=())


def player(plan):
    return Performance(compile_scene(plan, plan.scenes[0] if plan.scenes else None))


class SlowPlayer:
    """The same told anew: which keys sound, of those that are down and those that are held."""

    def __init__(self, does):
        self.does, self.down, self.sounds, self.caught = does, set(), set(), set()
        self.held = False

    def press(self, key):
        self.caught.discard(key)
        if key in LOOPS:
            self.sounds ^= {key}
            return
        self.down.add(key)
        self.sounds.add(key)

    def release(self, key):
        self.down.discard(key)
        if key not in LOOPS and not self._kept(key):
            self.sounds.discard(key)

    def _kept(self, key):
        if not self.held or (key in ORGAN and self.does not in ("hold", "latch")):
            return False
        return self.does != "sostenuto" or key in self.caught

    def tread(self):
        if self.does == "stop loops":
            self.sounds -= set(LOOPS)
            return
        self.held = not self.held if self.does == "latch" else True
        self.caught = set(self.sounds)
        if not self.held:
            self._let_go()

    def lift(self):
        if self.does in ("sustain", "hold", "sostenuto"):
            self.held = False
            self._let_go()

    def _let_go(self):
        self.sounds = {key for key in self.sounds if key in self.down or key in LOOPS}


KEYS = st.sampled_from([*PIANO, *ORGAN, *LOOPS])
STEPS = st.one_of(
    st.tuples(st.sampled_from(["press", "release"]), KEYS),
    st.tuples(st.sampled_from(["tread", "lift"]), st.just(0)),
)


@given(
    st.sampled_from(["sustain", "sostenuto", "hold", "latch", "stop loops"]),
    st.lists(STEPS, max_size=24),
)
def test_what_goes_on_is_what_a_slow_player_hears(does, history):
    """Whatever is struck, let go and trodden in whatever order."""
    hands, slow = player(stage(does)), SlowPlayer(does)
    trodden = False
    for step, key in history:
        if step == "press" and key not in slow.down:
            hands.press(("stage:keys", key), 90)
            slow.press(key)
        elif step == "release":
            hands.release(("stage:keys", key))
            slow.release(key)
        elif step == "tread" and not trodden:
            hands.move(FOOT, 127)
            slow.tread()
            trodden = True
        elif step == "lift" and trodden:
            hands.move(FOOT, 0)
            slow.lift()
            trodden = False
        assert {voice.key[1] for voice in hands.sounding} == slow.sounds
    hands.panic()
    assert not hands.sounding


@given(st.integers(2, 8), st.floats(210, 1900), st.integers(0, 3))
def test_the_last_of_so_many_taps_sets_the_tempo(taps, gap, more):
    """n taps: one less sets nothing; later ones go on averaging; a pause begins anew."""
    plan = stage("tap tempo")
    device = plan.devices[0]
    foot = Control(id="foot", name="Foot", kind="switch", can=TOLD, taps=taps)
    hands = player(changed(plan, devices=(changed(device, controls=(foot,)),)))
    state = hands.functions.state("stage")
    for n in range(taps + more):
        assert (state.tempo is None) == (n < taps)
        hands.move(FOOT, 127, n * gap)
        hands.move(FOOT, 0, n * gap + 50)
    assert state.tempo == pytest.approx(60_000 / gap)
    last = (taps + more - 1) * gap
    hands.move(FOOT, 127, last + LATEST_TAP + 1)
    assert len(state.taps) == 1


def test_states_flip_step_and_open():
    """Rotor, start and stop, the next step, the gate while it is down."""
    hands = player(stage("speed"))
    said = []
    for _ in range(3):
        hands.move(FOOT, 127)
        said += [done.stands for done in hands.done]
        hands.move(FOOT, 0)
    assert said == ["fast", "slow", "fast"]
    hands = player(stage("step"))
    for n in (1, 2, 3):
        hands.move(FOOT, 127)
        hands.move(FOOT, 0)
        assert hands.functions.state("stage").steps == n
    hands = player(stage("gate"))
    hands.move(FOOT, 127)
    assert hands.functions.state("stage").gate
    hands.move(FOOT, 0)
    assert not hands.functions.state("stage").gate


@given(st.lists(st.booleans(), max_size=8), st.booleans(), st.integers(1, 4))
def test_programs_are_stepped_through_in_their_order(ups, round_and_round, count):
    """Next and previous go to the neighbour in the order of numbers, and stop or go round."""
    at = 0
    step = "goes round" if round_and_round else "stops"
    hands = player(stage("program up", programs=count, step=step))
    plan = hands.compiled.plan
    for up in ups:
        does = "program up" if up else "program down"
        owner = plan.devices[0]
        numbers = [program.number for program in owner.programs]
        told = tell_function(owner, "foot", numbers, does).change(plan)
        hands.load(compile_scene(told, hands.compiled.scene))
        hands.press(("stage:keys", 40), 90)
        hands.move(FOOT, 127)
        hands.move(FOOT, 0)
        at += 1 if up else -1
        at = at % count if round_and_round else max(0, min(count - 1, at))
        now = lookup.program_number(hands.compiled.scene, hands.compiled.plan.devices[0])
        assert now == 3 * at
        hands.release(("stage:keys", 40))
        assert not hands.sounding


@given(st.integers(-12, 12), st.booleans())
def test_a_song_stays_as_it_is_while_its_programs_are_stepped(by, up):
    """A step of a program takes nothing else from the song: it stays transposed."""
    plan = stage("program up" if up else "program down", programs=3, step="goes round")
    song = Scene(id="a", name="A", transpose=by, tempo=90.0)
    hands = Performance(compile_scene(changed(plan, scenes=(song,)), song))
    before = [voice.landing.note for voice in hands.press(("stage:keys", 40), 90)]
    hands.release(("stage:keys", 40))
    hands.move(FOOT, 127)
    hands.move(FOOT, 0)
    now = hands.compiled.scene
    assert now is not None and now.programs != song.programs
    assert changed(now, programs=song.programs) == song
    assert [voice.landing.note for voice in hands.press(("stage:keys", 40), 90)] == before


def test_what_stays_down_acts_at_each_press():
    """A latching switch, or a latching pedal in the jack: one press down, the next one up."""
    by_itself = player(stage("sustain", latches=True))
    plan = stage("sustain")
    jack = PedalJack(
        id="jack", name="Jack", accepts=("switch",), functions=("sustain",), control="foot"
    )
    under_foot = changed(
        plan,
        devices=(changed(plan.devices[0], jacks=(jack,)),),
        pedals=(Pedal(id="p", name="P", kind="latching switch", function="sustain"),),
        pedal_plugs=(PedalPlug(pedal="p", jack="stage:jack"),),
    )
    for hands in (by_itself, player(under_foot)):
        hands.move(FOOT, 127)
        hands.move(FOOT, 0)
        hands.press(("stage:keys", 40), 90)
        hands.release(("stage:keys", 40))
        assert len(hands.sounding) == 1
        hands.move(FOOT, 127)
        assert not hands.sounding


def test_a_global_function_is_told_to_every_program():
    """Where the device has it once, telling one program tells them all; else only that one."""
    device = stage(programs=3).devices[0]
    one = tell_function(device, "foot", [3], "step")
    plan = rig(device, cables=())
    assert [p.sends[0].does for p in one.change(plan).devices[0].programs] == [None, "step", None]
    once = changed(device, limits=(ScopeLimit(setting="send-function", scope="global"),))
    every = tell_function(once, "foot", [3], "step").change(rig(once, cables=()))
    assert {p.sends[0].does for p in every.devices[0].programs} == {"step"}


@given(st.integers(-MOST_STEPS, MOST_STEPS), st.sampled_from(["1 or 127", "65 or 63", "1 or 65"]))
def test_turns_are_read_as_they_are_told(steps, code):
    """Every code tells each number of steps, one way."""
    assert steps_of(code, code_of(code, steps)) == steps
    assert 0 <= code_of(code, steps) <= 127


KNOB = ("stage:foot", 1)


def turning(told, read):
    plan = stage(kind="knob", message="controller", number=20, channel=1, turning=told)
    device = plan.devices[0]
    knob = Control(id="foot", name="Knob", kind="knob", endless=True)
    target = Target(id="cut", name="Cut", controller=20, turning=read)
    return changed(plan, devices=(changed(device, controls=(knob,), targets=(target,)),))


@given(
    st.sampled_from(["1 or 127", "65 or 63", "1 or 65"]),
    st.lists(st.integers(0, 127), min_size=1, max_size=12),
)
def test_a_target_follows_turns_that_it_reads(code, places):
    """It stands where the knob was turned to, however it went there, within its ends."""
    hands, stands, before = player(turning(code, code)), 0, 0
    for place in places:
        steps = max(-MOST_STEPS, min(MOST_STEPS, place - before))
        moved = hands.move(KNOB, place)
        before += steps
        stands = max(0, min(127, stands + steps))
        if steps:
            share = moved[0].share_of("stage:cut", "whole")
            assert share == pytest.approx(stands / 127)


def test_strokes_send_the_next_of_a_row_or_fall_to_chance():
    """A row of values comes round; of a hundred strokes so many send as was said."""
    row = Drive(kind="steps", values=(10, 60, 120))
    send = {"message": "controller", "number": 20, "channel": 1, "drive": row}
    plan = stage(kind="pad", **send)
    target = Target(id="cut", name="Cut", controller=20)
    hands = player(changed(plan, devices=(changed(plan.devices[0], targets=(target,)),)))
    values = []
    for _ in range(4):
        values += [one.value for one in hands.move(FOOT, 100)]
        assert not hands.move(FOOT, 0)
    assert values == [10, 60, 120, 10]
    sometimes = player(stage(kind="pad", message="note", number=40, channel=1, chance=30))
    came = sum(bool(sometimes.move(FOOT, 100)) for _ in range(400))
    assert 85 <= came <= 155
    assert came == sum(falls(30, stroke) for stroke in range(1, 401))
