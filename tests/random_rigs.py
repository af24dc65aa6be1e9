"""Random rigs for the laws of the proof and the solver."""

from hypothesis import strategies as st

from tests.rigs import joined, keyboard, module, pads, part, scene, wish, zone
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.fields.dials import dials
from vastzone.core.plan.model.controls import Control, Keybed, Program, Send
from vastzone.core.plan.model.limits import CountLimit, Reserved, ScopeLimit
from vastzone.core.plan.model.parts import Kit, Sound, Target
from vastzone.core.plan.model.plan import Device, Port
from vastzone.core.plan.model.wishes import Schools, Wish

TWO_CHANNELS = (1, 2)


FIXED = tuple(
    ScopeLimit(setting=s, scope="fixed")
    for s in ("part-range", "part-shift", "zone-shift", "send-number")
)


def channel_refs(plan):
    return sorted(ref for ref, d in dials(plan).items() if ref.endswith("/channel") and d.value > 0)


@st.composite
def small_rigs(draw):
    """Two zones and a pad on a keyboard and a pad controller, three parts, some of it locked.

    Every channel but 1 and 2 is kept by the module, so that all ways can be tried out.
    """
    kept = Reserved(purpose="other things", channels=tuple(range(3, 17)))
    split = draw(st.integers(40, 90))
    spans = ((0, 127), (0, split), (split + 1, 127), (30, 100), (0, 60))
    ranges = [draw(st.sampled_from(spans)) for _ in range(3)]
    parts = tuple(
        part(f"p{n}", draw(st.sampled_from(TWO_CHANNELS)), low=low, high=high)
        for n, (low, high) in enumerate(ranges)
    )
    board = keyboard(
        zone("low", 36, split, draw(st.sampled_from(TWO_CHANNELS))),
        zone("high", split + 1, 96, draw(st.sampled_from(TWO_CHANNELS))),
        limits=FIXED,
    )
    wishes = [
        wish("low", f"box:p{draw(st.integers(0, 2))}", 36, split),
        wish("high", f"box:p{draw(st.integers(0, 2))}", split + 1, 96),
    ]
    if draw(st.booleans()):
        target = draw(st.integers(0, 2))
        wishes.append(wish("pad", f"box:p{target}", sources=("pads:pad-1",), note=36))
    plan = joined(
        board, pads(1, limits=FIXED), module(*parts, limits=(*FIXED, kept)), wishes=tuple(wishes)
    )
    for ref in draw(st.sets(st.sampled_from(channel_refs(plan)), max_size=2)):
        plan = lock(ref)(plan)
    return plan


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


def _send(draw, control, message, numbers):
    return Send(control=control, message=message, number=draw(numbers), channel=draw(CHANNELS))


@st.composite
def controllers(draw):
    pads = tuple(Control(id=f"pad-{n}", name=f"Pad {n}", kind="pad") for n in range(4))
    knobs = tuple(Control(id=f"knob-{n}", name=f"Knob {n}", kind="knob") for n in range(2))
    sends = [_send(draw, pad.id, "note", st.integers(30, 100)) for pad in pads]
    sends += [_send(draw, knob.id, "controller", st.integers(12, 119)) for knob in knobs]
    scope = draw(st.sampled_from(["control", "program"]))
    return Device(
        id="pads",
        name="Pads",
        kind="pads",
        ports=(OUT,),
        controls=(*pads, *knobs),
        programs=(Program(number=0, name="One", sends=tuple(sends)),),
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
        made.append(Wish(id=f"m{n}", name=f"M{n}", sources=(f"pads:knob-{n}",), moves=f"box:t{n}"))
    return tuple(made)


@st.composite
def wide_plans(draw):
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
        wishes=draw(wishes()),
        schools=schools,
    )
