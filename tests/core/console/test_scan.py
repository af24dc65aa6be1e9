"""Pins and places by hand, scanning against a nodal solution, each fault’s signature."""

from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rigs import rig
from vastzone.core.console.circuit import built, commons_needed, place_of
from vastzone.core.console.finder import corners_of
from vastzone.core.console.pins import pin_out, take_pins
from vastzone.core.console.scan import crossings, moments, scan, state_of, worst_delay_ms
from vastzone.core.engine.console_contacts import reports
from vastzone.core.plan.edits import consoles
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import COMMON, Block, Console, Encoder, Fault
from vastzone.core.plan.refs import ref_to

from .bittern import circuit, device
from .nodal import closed_lines

C, F, G = 36, 53, 43


@pytest.mark.parametrize(
    ("low", "keys", "by_key", "by_name"),
    [
        (C, 25, 3, 3),
        (C, 27, 3, 3),
        (C, 32, 3, 3),
        (C, 49, 5, 5),
        (C, 56, 5, 5),
        (C, 61, 6, 6),
        (F, 25, 3, 3),
        (F, 27, 3, 3),
        (F, 32, 3, 4),
        (F, 49, 5, 5),
        (F, 56, 5, 6),
        (F, 61, 6, 6),
        (G, 25, 3, 3),
        (G, 27, 3, 3),
        (G, 32, 3, 4),
        (G, 49, 5, 5),
        (G, 56, 5, 6),
        (G, 61, 6, 6),
    ],
)
def test_commons_of_both_schools(low, keys, by_key, by_name):
    assert commons_needed(keys, low, "lowest key") == by_key
    assert commons_needed(keys, low, "note names") == by_name


@pytest.mark.parametrize(
    ("low", "number", "by_key", "by_name"),
    [
        (C, 0, (0, 0), (0, 0)),
        (C, 13, (1, 1), (1, 1)),
        (C, 55, (7, 4), (7, 4)),
        (F, 0, (0, 0), (5, 0)),
        (F, 6, (6, 0), (11, 0)),
        (F, 7, (7, 0), (0, 1)),
        (F, 24, (0, 2), (5, 2)),
        (G, 4, (4, 0), (11, 0)),
        (G, 5, (5, 0), (0, 1)),
        (G, 48, (0, 4), (7, 4)),
    ],
)
def test_line_and_common_of_named_keys(low, number, by_key, by_name):
    assert place_of(number, low, "lowest key") == by_key
    assert place_of(number, low, "note names") == by_name


@pytest.mark.parametrize("school", ["lowest key", "note names"])
@pytest.mark.parametrize("facing", ["common to line", "line to common"])
@pytest.mark.parametrize("low", [C, F, G])
def test_whole_wiring_reports_each_chord_as_it_is_held(school, facing, low):
    made = circuit(
        beds=(("one", low, 25), ("two", 36, 32)),
        stops=7,
        school=school,
        facing=facing,
        declared=facing,
    )
    state = state_of(made, ())
    every = range(len(made.contacts))
    for held in [*((n,) for n in every), (0, 1, 12, 13), tuple(every)]:
        want = {(made.contacts[n].block, made.contacts[n].number) for n in held}
        assert scan(made, state, held) == want


def held(made, faults, *numbers, block=0):
    state = state_of(made, faults)
    return {n for _, n in scan(made, state, [made.contact(block, n) for n in numbers])}


@pytest.mark.parametrize(
    ("fault", "keys", "heard"),
    [
        (Fault(kind="open wire", block="great", at=1), (1, 13, 2), {2}),
        (Fault(kind="open wire", block="great", at=COMMON + 2), (24, 35, 36), {36}),
        (Fault(kind="short", at=4, to=5), (4,), {4, 5}),
        (Fault(kind="short", at=COMMON, to=COMMON + 1), (3,), {3, 15}),
        (Fault(kind="open contact", block="great", at=7), (7, 8), {8}),
        (Fault(kind="reversed diode", block="great", at=7), (7,), set()),
        (Fault(kind="stuck contact", block="great", at=7), (8,), {7, 8}),
        (Fault(kind="swapped wires", block="great", at=0, to=3), (0, 12), {3, 15}),
        (Fault(kind="swapped wires", block="great", at=COMMON, to=COMMON + 1), (0, 13), {12, 1}),
        (Fault(kind="wrong sense", block="great"), tuple(range(56)), set()),
        (Fault(kind="wrong lowest note", block="great", at=-5), (5, 6), {0, 1}),
        (Fault(kind="open pin", at=2), (2, 3, 14), {3}),
        (Fault(kind="shorted diode", block="great", at=13), (13,), {13}),
        (Fault(kind="shorted diode", block="great", at=13), (1, 13, 12), {0, 1, 12, 13}),
        (Fault(kind="shorted diode", block="great", at=13), (0, 1, 12), {0, 1, 12}),
    ],
)
def test_the_signature_of_each_fault(fault, keys, heard):
    assert held(circuit(), (fault,), *keys) == heard


def test_without_diodes_three_corners_make_the_fourth_sound():
    bare = circuit(diodes=False)
    corners = corners_of(bare, bare.contact(0, 13))
    three = {bare.contacts[n].number for n in corners}
    assert len(three) == 3 and len(held(bare, (), *three)) == 4
    assert len(held(circuit(), (), *three)) == 3


def test_a_line_fault_at_the_pin_is_felt_in_every_keyboard():
    made = circuit()
    for block in range(4):
        assert held(made, (Fault(kind="open pin", at=2),), 2, block=block) == set()
        assert held(made, (Fault(kind="open wire", block="swell", at=2),), 2, block=block) == (
            set() if block == 1 else {2}
        )


CONTACT = st.tuples(st.integers(0, 3), st.integers(0, 3), st.sampled_from(["out", "in", "both"]))


@settings(max_examples=150)
@given(
    st.lists(CONTACT, max_size=9, unique_by=lambda c: c[:2]),
    st.lists(st.tuples(st.integers(0, 7), st.integers(0, 7)), max_size=2),
    st.booleans(),
)
def test_scanning_agrees_with_the_node_voltages(contacts, bridges, out):
    """The graph against ideal diodes and resistors, on matrices of four lines and four commons."""
    kinds = {"out": "as built", "in": "reversed diode", "both": "shorted diode"}
    owner = device(beds=(("k", 36, 16),), stops=0)
    encoder = Encoder(lines=4, commons=4)
    way = "common to line" if out else "line to common"
    block = Block(
        id="k", name="K", keybed="k", commons=(1, 2, 3, 4), declared=way, facing="common to line"
    )
    made = built(owner, Console(encoder=encoder, blocks=(block,)))
    faults = [
        Fault(kind=kinds[w], block="k", at=4 * c + line) for c, line, w in contacts if w != "out"
    ]
    node = [*range(4), *(COMMON + n for n in range(4))]
    faults += [Fault(kind="short", at=node[a], to=node[b]) for a, b in bridges if a != b]
    state = state_of(made, tuple(faults))
    found = crossings(made, state, [4 * c + line for c, line, _ in contacts])
    for driven in range(4):
        want = closed_lines(4, 4, contacts, [b for b in bridges if b[0] != b[1]], driven, out)
        assert {line for pin, line in found if pin == driven} == want


def test_a_scan_takes_its_time_common_by_common():
    made, encoder = circuit(), Encoder(settle_us=100, debounce_ms=2)
    used = len(made.owner_of)
    assert worst_delay_ms(made, encoder) == pytest.approx(used * 0.1 + 2)
    told = moments(made, state_of(made, ()), encoder, [made.contact(0, 14)])
    assert len(told) == used and [m.common for m in told if m.lines == (2,)] == [1]


def test_pins_are_given_in_order_and_soldered_ones_are_kept():
    owner = device()
    console = owner.console
    bare = changed(
        console,
        blocks=tuple(changed(b, commons=(), soldered=False) for b in console.blocks),
        room=1,
        encoder=Encoder(),
    )
    found = pin_out(owner, bare)
    assert [found.pins[b.id] for b in bare.blocks] == [
        (1, 2, 3, 4, 5),
        (7, 8, 9, 10, 11),
        (13, 14, 15),
        (17, 18, 19),
        (21, 22, 23),
    ]
    kept = changed(
        bare,
        room=0,
        blocks=(
            bare.blocks[0],
            changed(bare.blocks[1], commons=(2, 4, 6, 8, 10), soldered=True),
            *bare.blocks[2:],
        ),
    )
    pins = pin_out(owner, kept).pins
    assert pins["swell"] == (2, 4, 6, 8, 10)
    assert all(set(a).isdisjoint(b) for a, b in combinations(pins.values(), 2))
    plan = changed(owner, console=kept)
    assert pin_out(plan, kept) == pin_out(owner, kept) and take_pins(owner, found).label


@given(st.integers(1, 24), st.integers(0, 3))
def test_pins_are_never_shared_and_a_shortage_is_told_exactly(commons, room):
    owner = device()
    bare = changed(
        owner.console,
        encoder=Encoder(commons=commons),
        room=room,
        blocks=tuple(changed(b, commons=()) for b in owner.console.blocks),
    )
    found = pin_out(owner, bare)
    pins = [p for held in found.pins.values() for p in held]
    assert len(pins) == len(set(pins)) and all(1 <= p <= commons for p in pins)
    need = 5 + 5 + 3 + 3 + 3
    assert bool(found.left_out) is (need > commons) and bool(found.mends) is bool(found.left_out)
    if found.left_out:
        assert found.short == need - commons


def test_room_is_kept_after_a_soldered_block_too():
    owner = device(beds=(("great", 36, 25), ("swell", 36, 25)), stops=0)
    console = changed(
        owner.console,
        room=1,
        blocks=tuple(
            changed(b, soldered=b.id == "great", commons=(1, 2, 3) if b.id == "great" else ())
            for b in owner.console.blocks
        ),
    )
    assert pin_out(owner, console).pins == {"great": (1, 2, 3), "swell": (5, 6, 7)}


def test_a_contact_reported_beyond_the_stops_of_a_block_is_no_control():
    """Thirteen stops on twelve lines: bridged with the next, the last is heard past the end."""
    owner = device(beds=(), stops=13)
    shorted = changed(owner.console, faults=(Fault(kind="short", at=0, to=1),))
    found = reports(changed(owner, console=shorted))
    last = ref_to(owner.id, owner.controls[12].id)
    assert found.get((last, 0), ((last, 0),)) == ((last, 0),)
    first, second = (ref_to(owner.id, owner.controls[n].id) for n in (0, 1))
    assert found[first, 0] == ((first, 0), (second, 0))


def test_ticks_stay_with_the_blocks_that_stay_when_others_move_to_a_second_encoder():
    owner = device(beds=(("great", 36, 25), ("swell", 36, 25)), stops=0)
    ticked = ("great/0", "swell/0")
    owner = changed(owner, console=changed(owner.console, soldered=ticked, tested=ticked))
    plan = consoles.split_off(rig(owner, cables=()), owner.id, ("swell",))(rig(owner, cables=()))
    first, second = plan.devices
    assert (first.console.soldered, first.console.tested) == (("great/0",), ("great/0",))
    assert (second.console.soldered, second.console.tested) == ((), ())
    assert [bed.id for bed in first.keybeds] == ["great"]
    assert [bed.id for bed in second.keybeds] == ["swell"]
