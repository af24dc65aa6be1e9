"""What is refused is impossible: every choice of the open numbers tried on small rigs.

Two knobs, two targets, a part and a zone, with two controllers and two channels to choose from;
receivers that are fixed, learn or hear everything, and locks.
"""

import itertools

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rigs import keyboard, module, part, rig, wish, zone
from tests.scale import scaled
from vastzone.core.plan.edits.locks import lock
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields.dials import open_dials
from vastzone.core.plan.model.controls import Control, Program, Send
from vastzone.core.plan.model.limits import Reserved
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import Refusal, can_hold, work_out

NUMBERS, CHANNELS = (20, 21), (1, 2)
KEPT = Reserved(
    purpose="all others",
    controllers=tuple(number for number in range(128) if number not in NUMBERS),
    channels=tuple(range(3, 17)),
)


@st.composite
def tight_rigs(draw):
    number, channel = st.sampled_from(NUMBERS), st.sampled_from(CHANNELS)
    sends = [
        Send(control=f"k{n}", message="controller", number=draw(number), channel=draw(channel))
        for n in (1, 2)
    ]
    knobs = tuple(Control(id=f"k{n}", name=f"K{n}", kind="knob") for n in (1, 2))
    program = Program(number=0, name="P", zones=(zone(channel=draw(channel)),), sends=tuple(sends))
    receives = st.sampled_from(["set", "set", "fixed", "learns", "takes all"])
    targets = tuple(
        Target(
            id=f"t{n}",
            name=f"T{n}",
            part=draw(st.sampled_from([None, "piano"])),
            channel=draw(st.sampled_from([None, 1, 2])),
            controller=draw(number),
            receives=draw(receives),
        )
        for n in (1, 2)
    )
    parts = (
        part(channel=draw(channel), receives=draw(st.sampled_from(["set", "set", "fixed"]))),
        part("other", draw(st.sampled_from([1, 2, None]))),
    )
    pairs = st.tuples(st.sampled_from(["k1", "k2"]), st.sampled_from(["t1", "t2"]))
    wishes = [
        Wish(id=f"{knob}{end}", name=f"{knob}{end}", sources=(f"board:{knob}",), moves=f"box:{end}")
        for knob, end in sorted(draw(st.sets(pairs, min_size=1, max_size=3)))
    ]
    if draw(st.booleans()):
        wishes.append(wish("keys", "box:piano"))
    board = keyboard(controls=knobs, programs=(program,), limits=(KEPT,))
    box = module(*parts, targets=targets, limits=(KEPT,))
    plan = rig(board, box, wishes=tuple(wishes))
    for ref in sorted(draw(st.sets(st.sampled_from(_refs(plan)), max_size=2))):
        plan = lock(ref)(plan)
    return plan


def _refs(plan):
    """The channels and controllers that can be chosen."""
    fields = ("channel", "number", "controller")
    return [
        ref
        for ref, dial in open_dials(plan).items()
        if ref.endswith(fields) and dial.scope != "fixed" and dial.value >= 0
    ]


def possible(plan):
    """Whether any choice makes every wish as meant, with no other knob on a target of theirs."""
    wished = {wish.moves for wish in plan.wishes if wish.moves}
    locked = {setting.ref for setting in plan.settings if setting.hold == "locked"}
    refs = [ref for ref in _refs(plan) if ref not in locked]
    choices = [CHANNELS if ref.endswith("channel") else NUMBERS for ref in refs]
    for choice in itertools.product(*choices):
        tried = set_numbers(dict(zip(refs, choice, strict=True)), "Try")(plan)
        disturbed = False
        for _, mark in prove(tried).faults():
            moved = {effect.ref for effect in mark.extra}
            disturbed = disturbed or bool(mark.wishes or moved & wished)
        if not disturbed:
            return True
    return False


def test_a_movement_that_nobody_can_help_refuses_no_wish():
    """The first knob is locked to the number of a fixed target, and no wish is about either."""
    sends = [Send(control=f"k{n}", message="controller", number=20, channel=1) for n in (1, 2)]
    knobs = tuple(Control(id=f"k{n}", name=f"K{n}", kind="knob") for n in (1, 2))
    program = Program(number=0, name="P", zones=(zone(channel=1),), sends=tuple(sends))
    own = Target(id="t1", name="T1", controller=20)
    fixed = Target(id="t2", name="T2", controller=20, receives="fixed")
    board = keyboard(controls=knobs, programs=(program,), limits=(KEPT,))
    box = module(part(channel=1), targets=(own, fixed), limits=(KEPT,))
    moves = Wish(id="k2t1", name="k2t1", sources=("board:k2",), moves="box:t1")
    found = work_out(lock("board/0/k1.1/number")(rig(board, box, wishes=(moves,))))
    assert not isinstance(found, Refusal)
    assert found.plan.devices[1].targets[0].controller == 21


@settings(max_examples=scaled(30), deadline=None)
@given(tight_rigs())
def test_what_is_refused_cannot_be_whatever_numbers_are_tried(plan):
    found = work_out(plan)
    if not isinstance(found, Refusal):
        assert not any(mark.wishes for _, mark in prove(found.plan).faults())
        return
    assert not found.defects
    assert not possible(plan), found.sentence
    items = [("wish", name) for name in found.wishes] + [("lock", ref) for ref in found.locks]
    assert not can_hold(plan, items)
    for item in items:
        assert can_hold(plan, [other for other in items if other != item])
