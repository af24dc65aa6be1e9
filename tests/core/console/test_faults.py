"""Every single fault of a console and its words, by hand."""

import pytest

from tests.core.console.bittern import device
from vastzone.core.console.circuit import built
from vastzone.core.console.faults import (
    all_single,
    fault_words,
    mend_words,
    pin_name,
    short_words,
    wire_words,
)
from vastzone.core.console.trials import groups, read_pin_test
from vastzone.core.console.wires import wire_list
from vastzone.core.errors import EditError
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import COMMON, Fault

OWNER = changed(device(beds=(("great", 36, 25),), stops=3), octaves=4)
CONSOLE = OWNER.console
FAULTS = all_single(built(OWNER, CONSOLE))


def of(kind, block=None):
    return [f for f in FAULTS if f.kind == kind and block in (None, f.block)]


def test_every_contact_can_be_open_stuck_or_lose_its_diode():
    for kind in ("open contact", "stuck contact", "reversed diode", "shorted diode"):
        assert [f.at for f in of(kind, "great")] == list(range(25))
        assert [f.at for f in of(kind, "stops")] == list(range(3))
    bare = changed(CONSOLE, blocks=tuple(changed(b, diodes=False) for b in CONSOLE.blocks))
    kinds = {f.kind for f in all_single(built(changed(OWNER, console=bare), bare))}
    assert not kinds & {"reversed diode", "shorted diode"} and "open contact" in kinds


def test_only_wires_that_are_used_can_be_open_or_swapped():
    lines = [f.at for f in of("open wire", "stops") if f.at < COMMON]
    assert lines == [0, 1, 2]
    assert len(of("open wire", "great")) == 12 + 3
    swaps = [(f.at, f.to) for f in of("swapped wires", "stops")]
    assert swaps == [(0, 1), (0, 2), (1, 2)]
    great = [(f.at, f.to) for f in of("swapped wires", "great")]
    assert len(great) == 12 * 11 // 2 + 3 and all((a < COMMON) is (b < COMMON) for a, b in great)


def test_what_the_encoder_may_be_told_wrongly():
    assert [f.block for f in of("wrong sense")] == ["great", "stops"]
    shifts = [f.at for f in of("wrong lowest note")]
    assert shifts and all(f.block == "great" for f in of("wrong lowest note"))
    assert all(s >= -36 and s <= 67 for s in shifts)
    low = device(beds=(("low", 0, 25),), stops=0)
    down = [f.at for f in all_single(built(low, low.console)) if f.kind == "wrong lowest note"]
    assert down and min(down) > 0 and len(down) < len(shifts)
    high = device(beds=(("high", 103, 25),), stops=0)
    up = [f.at for f in all_single(built(high, high.console)) if f.kind == "wrong lowest note"]
    assert up and max(up) < 0


def test_pins_are_open_or_bridged_in_pairs():
    used = 12 + 3 + 1
    assert [f.at for f in of("open pin")] == list(range(12))
    assert len(of("short")) == used * (used - 1) // 2


@pytest.mark.parametrize(
    ("fault", "words"),
    [
        (Fault(kind="open pin", at=4), "Pin L5 of the encoder has no contact"),
        (Fault(kind="open pin", at=COMMON + 2), "Pin C3 of the encoder has no contact"),
        (Fault(kind="wrong sense", block="great"), "wrong diode sense for Great"),
        (Fault(kind="wrong lowest note", block="great", at=-12), "−12 semitones off for Great"),
        (Fault(kind="wrong lowest note", block="great", at=1), "+1 semitones off for Great"),
        (Fault(kind="short", at=0, to=COMMON), "Pins L1 and C1"),
        (Fault(kind="open contact", block="great", at=3), "D♯2 of Great"),
        (Fault(kind="wrong sense", block="gone"), "wrong diode sense for "),
    ],
)
def test_a_fault_in_words(fault, words):
    assert words in fault_words(OWNER, CONSOLE, fault)


def test_wires_are_named_as_in_the_wire_list():
    rows = {(row.block, row.place): row.number for row in wire_list(OWNER, CONSOLE)}
    line = wire_words(OWNER, CONSOLE, "great", 2)
    assert line.startswith("The ") and line.endswith(f"wire {rows['great', 2]} of Great, line 3")
    common = wire_words(OWNER, CONSOLE, "great", COMMON)
    assert common.endswith(f"wire {rows['great', COMMON]} with a ring of Great, common 1")
    assert wire_words(OWNER, CONSOLE, "gone", 0).endswith("of gone, line 1")
    wire = Fault(kind="open wire", block="great", at=COMMON + 1)
    assert fault_words(OWNER, CONSOLE, wire).endswith("common 2 is open")
    swap = Fault(kind="swapped wires", block="great", at=0, to=1)
    assert fault_words(OWNER, CONSOLE, swap).count("the ") == 1
    assert pin_name(0) == "L1" and pin_name(COMMON) == "C1"


def test_every_fault_has_its_words_and_a_mend():
    for fault in FAULTS:
        assert fault_words(OWNER, CONSOLE, fault)
        assert mend_words(fault)


def test_an_encoder_s_own_report_of_shorts_is_read_and_told_as_wires():
    circuit = built(OWNER, CONSOLE)
    lines = circuit.lines
    printed = f"5 is shorted to 6 6 is shorted to 5\n{lines + 2} is shorted to {lines + 9}."
    pairs = read_pin_test(printed, circuit)
    assert pairs == read_pin_test("L5-L6, C2-C9", circuit)
    told = [short_words(OWNER, CONSOLE, group) for group in groups(pairs)]
    assert "L5" in told[0] and "wire" in told[0] and "of Great" in told[0]
    assert "with a ring" in told[1]
    with pytest.raises(EditError, match="no pin 99"):
        read_pin_test("99 is shorted to 1", circuit)
    with pytest.raises(EditError, match="no pair"):
        read_pin_test("5 is fine", circuit)
