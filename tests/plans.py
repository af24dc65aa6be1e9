"""Plans for property tests: a keyboard of two programs, a module of three parts, two scenes."""

from hypothesis import strategies as st

from tests.rigs import SUSTAIN, keyboard, module, part, rig, scene, zone
from vastzone.core.plan.model.controls import Program

NOTES = st.integers(36, 96)


@st.composite
def zones(draw, ident):
    low = draw(NOTES)
    return zone(
        ident,
        low,
        draw(st.integers(low, 96)),
        draw(st.integers(1, 3)),
        transpose=draw(st.integers(-12, 12)),
        octave=draw(st.integers(-2, 2)),
        layer=True,
    )


@st.composite
def plans(draw):
    programs = tuple(
        Program(
            number=n, name=f"P{n}", zones=(draw(zones("a")), draw(zones("b"))), sends=(SUSTAIN,)
        )
        for n in range(2)
    )
    parts = tuple(
        part(
            f"p{n}",
            draw(st.integers(1, 3)),
            mono=draw(st.booleans()),
            trigger=draw(st.sampled_from(["gate", "one-shot"])),
            mute_group=draw(st.sampled_from([None, "hats"])),
            sustains=draw(st.booleans()),
        )
        for n in range(3)
    )
    board = keyboard(programs=programs)
    return rig(board, module(*parts), scenes=(scene("one", board=0), scene("two", board=1)))
