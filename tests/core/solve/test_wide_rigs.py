"""Wider random rigs: scenes, layers, pads with kits, knobs, a board with one channel for all.

What the solver returns must be as meant everywhere, and a second run must change nothing.
"""

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.core.solve.test_worked import joined, wish
from tests.rigs import keyboard, module, part, scene, zone
from vastzone.core.plan.limits import CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model import Device, Port
from vastzone.core.plan.settings import dials
from vastzone.core.plan.sound import Kit, Sound, Target
from vastzone.core.plan.touch import Control, Keybed, Program, Send
from vastzone.core.plan.wish import Intent, Schools
from vastzone.core.proof.intended import prove
from vastzone.core.solve.clash import Refusal, can_hold, work_out

OUT = Port(id="out", name="out", flow="out")
CHANNELS = st.integers(1, 16)
SHIFTS = st.sampled_from([-12, -5, 0, 0, 0, 7, 12])


@st.composite
def boards(draw):
    programs = tuple(
        Program(
            number=n,
            name=f"P{n}",
            zones=(
                zone("a", 36, draw(st.integers(40, 90)), draw(CHANNELS)),
                zone("b", draw(st.integers(40, 90)), 96, draw(CHANNELS), on=draw(st.booleans())),
            ),
        )
        for n in range(2)
    )
    return keyboard(programs=programs)


@st.composite
def small_boards(draw):
    limits = (CountLimit(what="zones", most=1), ScopeLimit(setting="zone-channel", scope="global"))
    return Device(
        id="small",
        name="Small",
        kind="keyboard",
        ports=(OUT,),
        keybeds=(Keybed(id="keys", name="Keys", low=48, keys=25),),
        programs=(Program(number=0, name="Panel", zones=(zone("whole", 48, 72, draw(CHANNELS)),)),),
        limits=limits,
    )


@st.composite
def controllers(draw):
    pads = tuple(Control(id=f"pad-{n}", name=f"Pad {n}", kind="pad") for n in range(4))
    knobs = tuple(Control(id=f"knob-{n}", name=f"Knob {n}", kind="knob") for n in range(2))
    sends = tuple(
        Send(
            control=f"pad-{n}",
            message="note",
            number=draw(st.integers(30, 100)),
            channel=draw(CHANNELS),
        )
        for n in range(4)
    ) + tuple(
        Send(
            control=f"knob-{n}",
            message="controller",
            number=draw(st.integers(12, 119)),
            channel=draw(CHANNELS),
        )
        for n in range(2)
    )
    scope = draw(st.sampled_from(["control", "program"]))
    return Device(
        id="pads",
        name="Pads",
        kind="pads",
        ports=(OUT,),
        controls=(*pads, *knobs),
        programs=(Program(number=0, name="One", sends=sends),),
        limits=(ScopeLimit(setting="send-channel", scope=scope),),
    )


@st.composite
def boxes(draw):
    notes = draw(st.lists(st.integers(35, 80), min_size=4, max_size=4, unique=True))
    kit = Kit(
        id="kit",
        name="Kit",
        fixed=draw(st.booleans()),
        sounds=tuple(Sound(id=f"d{n}", name=f"Drum {n}", note=k) for n, k in enumerate(notes)),
    )
    parts = tuple(
        part(
            f"p{n}",
            draw(CHANNELS),
            low=draw(st.sampled_from([0, 24, 48])),
            high=draw(st.sampled_from([84, 127])),
        )
        for n in range(4)
    )
    targets = tuple(
        Target(id=f"t{n}", name=f"T{n}", part=f"p{n}", controller=draw(st.integers(14, 31)))
        for n in range(2)
    )
    kept = Reserved(
        purpose="patches", controllers=tuple(draw(st.sets(st.integers(20, 30), max_size=3)))
    )
    drums = part("drums", 10, kit="kit", rhythm=True)
    return module(*parts, drums, kits=(kit,), targets=targets, limits=(kept,))


@st.composite
def wishes(draw):
    made, numbers = [], st.integers(0, 3)
    for at in ("dusk", "dawn"):
        split = draw(st.integers(45, 85))
        made += [
            wish(f"{at}-low", f"box:p{draw(numbers)}", 36, split, scenes=(at,), shift=draw(SHIFTS)),
            wish(f"{at}-high", f"box:p{draw(numbers)}", split + 1, 96, scenes=(at,)),
        ]
    if draw(st.booleans()):
        made.append(wish("small", f"box:p{draw(numbers)}", 48, 72, ("small:keys",)))
    if draw(st.booleans()):
        made.append(
            wish("beat", "box:drums", sources=("pads:pad-0", "pads:pad-1"), sounds=("d0", "d1"))
        )
    if draw(st.booleans()):
        made.append(
            wish(
                "hit",
                f"box:p{draw(numbers)}",
                sources=("pads:pad-2",),
                note=draw(st.integers(50, 80)),
            )
        )
    for n in range(draw(st.integers(0, 2))):
        made.append(
            Intent(id=f"m{n}", name=f"M{n}", sources=(f"pads:knob-{n}",), moves=f"box:t{n}")
        )
    return tuple(made)


@st.composite
def plans(draw):
    schools = Schools(
        channels=draw(st.sampled_from(["device", "sound", "program", "shared"])),
        controllers=draw(st.sampled_from(["standard", "undefined", "run"])),
    )
    return joined(
        draw(boards()),
        draw(small_boards()),
        draw(controllers()),
        draw(boxes()),
        scenes=(scene("dusk", board=0), scene("dawn", board=draw(st.integers(0, 1)))),
        intents=draw(wishes()),
        schools=schools,
    )


@settings(max_examples=30, deadline=None, suppress_health_check=list(HealthCheck))
@given(plans())
def test_whatever_is_returned_is_as_meant_and_stays(plan):
    found = work_out(plan)
    if isinstance(found, Refusal):
        items = [("wish", i) for i in found.intents] + [("lock", r) for r in found.locks]
        assert items and not can_hold(plan, items)
        return
    faults = list(prove(found.plan).faults())
    assert not faults, faults[:2]
    assert not any(
        d.value != dials(found.plan)[r].value
        for r, d in dials(plan).items()
        if r in dials(found.plan) and r not in {n.ref for n in found.numbers}
    )
    again = work_out(found.plan)
    assert again.numbers == () and again.plan.devices == found.plan.devices
