"""The finder against faults that it does not know of; pin tests; wires, work and money by hand."""

import random

import pytest

from vastzone import demo
from vastzone.core.console.circuit import built
from vastzone.core.console.faults import all_single, fault_words
from vastzone.core.console.finder import FaultCause, candidates, propose, rank
from vastzone.core.console.scan import state_of
from vastzone.core.console.shoes import shoe_value, steps_of, sweep
from vastzone.core.console.trial_words import evidence_of, note_of
from vastzone.core.console.trials import (
    ContactStrike,
    Evidence,
    PinTest,
    Probe,
    groups,
    predict,
    read_pin_test,
)
from vastzone.core.console.wires import compare, labour, materials, wire_list
from vastzone.core.errors import EditError
from vastzone.core.midi.pitch import octave_and_index
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.model.console import (
    COMMON,
    Block,
    Console,
    Encoder,
    Fault,
    Rates,
    Seen,
    Shoe,
    Way,
)
from vastzone.core.progress import Cancelled
from vastzone.core.response.travel import examine
from vastzone.files import native

from .bittern import MOST, circuit, device, hunt, mixed, singles

MADE = circuit()


@pytest.mark.parametrize("seed", range(24))
def test_single_faults_are_found_in_few_trials(seed):
    fault = random.Random(seed).choice(singles(MADE))
    count, right = hunt(MADE, (fault,), seed)
    assert right and count <= MOST, fault


@pytest.mark.parametrize("reads", ["lowest key", "note names"])
def test_single_faults_of_a_console_of_both_schools_are_found_as_soon(reads):
    made, rng = mixed(reads), random.Random(reads)
    for seed, fault in enumerate(rng.sample(singles(made), 3)):
        count, right = hunt(made, (fault,), seed)
        assert right and count <= MOST, fault
    (told,) = [fault for fault in singles(made) if fault.kind == "wrong school"]
    count, right = hunt(made, (told,))
    assert right and count <= MOST


def test_most_double_faults_are_found():
    rng = random.Random(3)
    found = [hunt(MADE, tuple(rng.sample(singles(MADE), 2)), n, 12)[1] for n in range(10)]
    assert sum(found) >= 8


@pytest.mark.parametrize(
    "fault",
    [
        Fault(kind="open wire", block="great", at=COMMON + 2),
        Fault(kind="short", at=4, to=5),
        Fault(kind="wrong lowest note", block="counter", at=-5),
    ],
)
def test_the_faults_of_the_demo_are_reached_from_their_symptoms(fault):
    plan = native.read(demo.AS_FOUND)
    owner = next(d for d in plan.devices if d.id == "bittern")
    count, right = hunt(built(owner, owner.console), (fault,), 1)
    assert right and count <= 6
    assert fault_words(owner, owner.console, fault)


def test_nothing_odd_has_no_cause_and_a_proposal_tells_what_each_answer_means():
    whole = state_of(MADE, ())
    fine = Evidence(ContactStrike((3,)), predict(MADE, whole, ContactStrike((3,))))
    assert rank(MADE, [fine]) == ()
    dead = Evidence(ContactStrike((3,)), frozenset())
    causes = rank(
        MADE,
        [
            fine._replace(
                trial=ContactStrike((8,)), result=predict(MADE, whole, ContactStrike((8,)))
            ),
            dead,
        ],
    )
    found = propose(MADE, causes, [dead.trial])
    assert found is not None and found.bits > 0.3 and len(found.answers) > 1
    assert sum(share for _, share, _ in found.answers) == pytest.approx(1)


def test_pin_tests_are_read_grouped_and_explained():
    pairs = read_pin_test("L3-L4, c2–C9\nL4 L7", MADE)
    assert groups(pairs) == [(2, 3, 6), (COMMON + 1, COMMON + 8)]
    for wrong in ("L3", "L3-L99", "L3-L3", "X1-L2"):
        with pytest.raises(EditError):
            read_pin_test(wrong, MADE)
    causes = rank(MADE, [Evidence(PinTest(), read_pin_test("L5-L6", MADE))])
    assert causes[0].faults == (Fault(kind="short", at=4, to=5),)


def test_wires_joints_and_ways_by_hand():
    owner = device(beds=(("k", 36, 25),), stops=0)
    console = Console(
        blocks=owner.console.blocks,
        rates=Rates(
            joint_minutes=3, test_minutes=1, hour=20, diode=0.1, connector=2, metre=0, encoder=100
        ),
        ways=(Way(name="bought", price=500, hours=1), Way(name="own", wired=True)),
    )
    rows = wire_list(owner, console)
    assert len(rows) == 12 + 3 + 25 and len({r.id for r in rows}) == 40
    assert rows[0].colour == "black" and rows[11].colour == "turquoise"
    work = labour(owner, console)
    assert work.joints == 2 * 40 + 2 * 25 and work.hours == round((130 * 3 + 40) / 60, 1)
    assert {m.name: m.amount for m in materials(owner, console)}["diodes"] == 25
    totals = compare(owner, console)
    assert [t.name for t in totals] == ["own", "bought"] and totals[1].price == 520
    assert totals[0].price == pytest.approx(100 + 2.5 + 4 + work.price)


def test_an_encoder_s_octaves_and_indices():
    assert octave_and_index(60, 5) == (5, 1) and octave_and_index(36, 5) == (3, 1)
    assert octave_and_index(53, 5) == (4, 6) and octave_and_index(59, 4) == (3, 12)


def test_shoes_from_volts_to_values():
    shoe = Shoe(control="s", heel=4.5, toe=0.5, hysteresis=2)
    assert [shoe_value(shoe, v) for v in (5, 4.5, 2.5, 0.5, 0)] == [0, 0, 64, 127, 127]
    assert steps_of(Shoe(control="s", heel=1.0, toe=1.5), Encoder()) == 13


def test_worn_and_reversed_shoes_are_told_by_a_sweep():
    fine = examine(sweep(Shoe(control="s", heel=0.5, toe=4.5)))
    assert (fine.sense, fine.leaps) == ("forward", ())
    turned = examine(sweep(Shoe(control="s", heel=0.5, toe=4.5, track="reversed")))
    assert turned.sense == "reversed"
    worn = examine(sweep(Shoe(control="s", heel=0.5, toe=4.5, track="worn")))
    assert len(worn.leaps) >= 2


@pytest.mark.parametrize(
    "change",
    [
        {"faults": (Fault(kind="stuck contact", block="great", at=99),)},
        {"faults": (Fault(kind="open wire", block="nowhere", at=1),)},
        {"faults": (Fault(kind="short", at=3, to=1099),)},
        {"faults": (Fault(kind="open pin", at=12),)},
        {"shoes": (Shoe(control="gone"),)},
        {"blocks": (Block(id="a", name="A", keybed="gone"),)},
        {"blocks": (Block(id="a", name="A"),)},
        {"blocks": (Block(id="a", name="A", controls=("gone",)),)},
        {
            "blocks": (
                Block(id="a", name="A", keybed="great"),
                Block(id="a", name="B", keybed="great"),
            )
        },
    ],
)
def test_what_does_not_hang_together_is_refused_in_a_sentence(change):
    plan = native.read(demo.READY)
    with pytest.raises(EditError, match=r"[:.]"):
        consoles.set_console("bittern", "Break", **change)(plan)


@pytest.mark.parametrize(
    ("trial", "result"),
    [
        (ContactStrike((3, 40)), frozenset({(0, 3), (1, 60)})),
        (ContactStrike(()), frozenset()),
        (Probe("diode", 7), "other way"),
        (Probe("wire", 1, COMMON), "open"),
        (Probe("pins", 2, COMMON + 3), "closed"),
        (PinTest(), frozenset({(1, 2)})),
    ],
)
def test_the_log_gives_back_what_was_seen(trial, result):
    assert evidence_of(note_of(Evidence(trial, result)), MADE) == Evidence(trial, result)


@pytest.mark.parametrize(
    "seen",
    [
        Seen(kind="strike", at=(9999,)),
        Seen(kind="strike", at=(1,), heard=((77, 1),)),
        Seen(kind="strike", at=(1,), reading="open"),
        Seen(kind="diode", at=(1,), reading="open"),
        Seen(kind="diode", at=(9999, 0), reading="open"),
        Seen(kind="wire", at=(1, 400), reading="open"),
        Seen(kind="pins", at=(1, 99), reading="open"),
        Seen(kind="pins", at=(1, 2)),
    ],
)
def test_what_means_nothing_in_this_console_is_left_out(seen):
    assert evidence_of(seen, MADE) is None


def test_a_search_that_is_given_up_stops_wherever_it_is():
    fault = next(f for f in all_single(MADE) if f.kind == "open wire")
    state = state_of(MADE, (fault,))
    trials = [ContactStrike((number,)) for number in range(0, 40, 3)]
    seen = [Evidence(trial, predict(MADE, state, trial)) for trial in trials]
    told = []
    causes = rank(MADE, seen, lambda what, share: told.append(share) or True)
    propose(MADE, causes, (), lambda what, share: told.append(share) or True)
    assert told == sorted(told)
    for most in range(0, len(told), 1 + len(told) // 10):
        left = iter([True] * most)
        with pytest.raises(Cancelled):
            rank_and_propose(seen, lambda what, share, left=left: next(left, False))


def rank_and_propose(seen, progress):
    return propose(MADE, rank(MADE, seen, progress), (), progress)


def test_trials_touch_what_the_causes_are_about():
    def trials(*faults):
        return candidates(MADE, [FaultCause((fault,), 1.0, 1.0) for fault in faults])

    assert candidates(MADE, []) == []
    contact = trials(Fault(kind="open contact", block="great", at=3))
    assert {PinTest(), ContactStrike(()), ContactStrike((3,))} <= set(contact)
    assert {Probe("diode", 3), Probe("rest", 3)} <= set(contact)
    assert len(contact) == len(set(contact))
    short = trials(Fault(kind="short", at=0, to=1))
    assert Probe("pins", 0, 1) in short
    assert Probe("pins", 0, 1) not in trials(Fault(kind="open pin", at=0))
    wire = trials(Fault(kind="open wire", block="great", at=2))
    assert Probe("wire", MADE.block("great"), 2) in wire
    sense = trials(Fault(kind="wrong sense", block="great"))
    struck = {t.contacts for t in sense if isinstance(t, ContactStrike) and t.contacts}
    part = MADE.parts[MADE.block("great")]
    places = (0, part.size // 2, part.size - 1)
    assert struck == {(part.first + n,) for n in places}
