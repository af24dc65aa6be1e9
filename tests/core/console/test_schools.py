"""Both ways to wire a keyboard on both kinds of encoder, by an independent calculation."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.rigs import module, part, rig, wish
from tests.trial_rigs import barge
from vastzone.core.console.circuit import needed
from vastzone.core.console.schools import mends, rewiring, told_otherwise
from vastzone.core.console.wires import setup
from vastzone.core.engine.compile import compile_scene
from vastzone.core.plan.edits.consoles import found, set_console
from vastzone.core.plan.edits.zones import set_zone
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import Block, Console, Encoder
from vastzone.core.plan.model.controls import Keybed, Program, Zone
from vastzone.core.plan.model.plan import Device, Port
from vastzone.core.plan.queries import lookup
from vastzone.core.proof.check import check
from vastzone.core.proof.marking import prove
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution

SCHOOLS = ("lowest key", "note names")


def organ(low, keys, wired, reads, told=0):
    """A keyboard on an encoder, and a part that plays what comes; ``told`` is its shift."""
    bed = Keybed(id="great", name="Great", low=low, keys=keys)
    zone = Zone(
        id="great", name="Great", keybed="great", low=low, high=bed.high, channel=1, transpose=told
    )
    block = Block(id="b", name="Great", keybed="great", school=wired)
    console = Console(encoder=Encoder(commons=24, school=reads), blocks=(block,))
    count = needed(Device(id="x", name="X", kind="encoder", keybeds=(bed,)), block)
    console = changed(console, blocks=(changed(block, commons=tuple(range(1, count + 1))),))
    coot = Device(
        id="coot",
        name="Coot",
        kind="encoder",
        ports=(Port(id="out", name="out", flow="out"),),
        keybeds=(bed,),
        programs=(Program(number=0, name="P", zones=(zone,)),),
        console=console,
    )
    wished = (wish("w", "box:piano", sources=("coot:great",)),)
    return rig(coot, module(part()), cables=(("coot:out", "box:in"),), wishes=wished)


def wired_at(key, low, school):
    """Line and common, both from 0, at which a key is soldered: by the two ways to wire."""
    if school == "lowest key":
        return (key - low) % 12, (key - low) // 12
    return key % 12, key // 12 - low // 12


def read_as(line, common, told, school):
    """The note that an encoder sends for a line and a common when it is told a lowest note."""
    if school == "lowest key":
        return told + 12 * common + line
    return 12 * (told // 12) + 12 * common + line


@given(
    st.integers(12, 70),
    st.integers(5, 40),
    st.sampled_from(SCHOOLS),
    st.sampled_from(SCHOOLS),
    st.integers(-1, 1),
)
def test_every_key_sounds_what_line_and_common_make_of_it(low, keys, wired, reads, octaves):
    plan = organ(low, keys, wired, reads, 12 * octaves)
    table = compile_scene(plan, None).keys
    for key in range(low, low + keys):
        line, common = wired_at(key, low, wired)
        expected = read_as(line, common, low + 12 * octaves, reads)
        sent = [emission.note for emission in table.get(("coot:great", key), ())]
        assert sent == ([expected] if 0 <= expected <= 127 else [])


@given(st.integers(24, 60), st.integers(5, 40), st.sampled_from(SCHOOLS), st.sampled_from(SCHOOLS))
def test_every_mend_mends_and_the_free_one_comes_first(low, keys, wired, reads):
    plan = organ(low, keys, wired, reads)
    faults = [f for f in check(plan) if f.rule == "read otherwise than wired"]
    if wired == reads or low % 12 == 0:
        assert not faults and prove(plan).good
        return
    (fault,) = faults
    assert (
        f"{low % 12} semitones {'higher' if wired == 'note names' else 'lower'}" in fault.sentence
    )
    assert len(fault.fixes) == 3
    for fix in fault.fixes:
        assert "read otherwise than wired" not in {f.rule for f in check(fix(plan))}
        assert prove(fix(plan)).good
    owner = plan.devices[0]
    work = rewiring(owner, owner.console, owner.console.blocks[0])
    moved = sum(
        wired_at(key, low, "lowest key")[1] != wired_at(key, low, "note names")[1]
        for key in range(low, low + keys)
    )
    assert (work.lines, work.contacts) == (12, moved)
    assert str(work.wires) in fault.fixes[1].label


@given(st.integers(24, 60), st.integers(5, 40), st.sampled_from(SCHOOLS), st.sampled_from(SCHOOLS))
def test_the_numbers_worked_out_allow_for_the_wiring(low, keys, wired, reads):
    solved = work_out(organ(low, keys, wired, reads))
    assert isinstance(solved, Solution) and prove(solved.plan).good


def test_the_barge_by_hand():
    plan = set_console("coot", "x", encoder=Encoder(commons=18, school="lowest key"))(barge())
    owner = lookup.device(plan, "coot")
    rows = {row.block: row for row in setup(owner, owner.console, 0)}
    assert (rows["Manual 1"].octave, rows["Manual 1"].note_index) == (3, 7)
    assert rows["Manual 2"].commons == 6
    (fault,) = told_otherwise(owner, owner.console)
    assert (fault.block, fault.at) == ("b2", 7)
    zone = lookup.zone(owner, 0, "two")
    first = next(mends(owner, owner.console, owner.programs[0], owner.console.blocks[1], zone))
    told = first(plan)
    owner = lookup.device(told, "coot")
    row = next(r for r in setup(owner, owner.console, 0) if r.block == "Manual 2")
    assert (row.octave, row.note_index, row.commons) == (3, 0, 6)
    assert told_otherwise(owner, owner.console) == ()


def test_what_the_finder_finds_is_known_from_then_on():
    plan = organ(43, 30, "note names", "either")
    from vastzone.core.plan.model.console import Fault

    noted = found("coot", (Fault(kind="wrong school", block="b", at=7),))(plan)
    assert noted.devices[0].console.encoder.school == "lowest key"
    assert not noted.devices[0].console.faults
    assert any(f.rule == "read otherwise than wired" for f in check(noted))


@pytest.mark.parametrize(("octave", "transpose", "said"), [(1, 0, (4, 0)), (0, 5, (3, 5))])
def test_an_octave_shift_is_in_the_lowest_note_that_is_told(octave, transpose, said):
    plan = organ(36, 25, "lowest key", "lowest key")
    plan = set_zone("coot", 0, "great", "x", octave=octave, transpose=transpose)(plan)
    owner = changed(plan.devices[0], octaves=5)
    (row,) = setup(owner, owner.console, 0)
    assert (row.octave, row.note_index) == said
