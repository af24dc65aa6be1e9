"""Wires, pins and what an encoder asks for, worked out by hand."""

import pytest

from tests.core.console.bittern import device
from vastzone.core.console.circuit import built
from vastzone.core.console.pins import pin_out, take_pins
from vastzone.core.console.scan import crossings, state_of
from vastzone.core.console.wires import (
    colour_of,
    compare,
    contact_name,
    facing_words,
    materials,
    setup,
    wire_list,
)
from vastzone.core.plan.edits.consoles import wired
from vastzone.core.plan.edits.edit import edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import (
    COMMON,
    Block,
    Console,
    Encoder,
    Fault,
    Item,
    Rates,
    Way,
)
from vastzone.core.plan.model.controls import Control, Program, Zone
from vastzone.core.plan.model.pedals import PedalJack
from vastzone.core.plan.model.plan import Plan


def two_keyboards(**more):
    """Two keyboards of 25 keys from C: three commons each on an encoder of twelve lines."""
    owner = device(beds=(("one", 36, 25), ("two", 36, 25)), stops=0)
    blocks = tuple(changed(b, commons=()) for b in owner.console.blocks)
    console = Console(blocks=blocks, **more)
    return changed(owner, console=console), console


def test_wire_is_cut_for_the_way_it_runs():
    owner, console = two_keyboards(encoder=Encoder(lines=12, commons=24))
    block = changed(console.blocks[0], distance=2.0, pitch=0.01)
    console = changed(console, blocks=(block,))
    rows = {row.id: row for row in wire_list(owner, console)}
    assert rows["one/line/1"].metres == pytest.approx((2.0 + 24 * 0.01) * 1.15)
    assert rows["one/common/3"].metres == pytest.approx((2.0 + 12 * 0.01) * 1.15)
    assert rows["one/key/25"].metres == pytest.approx(0.12)
    assert "one/line/13" not in rows and "one/common/4" not in rows
    assert rows["one/common/1"].source == "no pin yet"
    assert rows["one/line/12"].place == 11 and rows["one/common/2"].place == COMMON + 1
    assert rows["one/key/14"].dest == "line 2, common 2, diode ring to the line"
    assert rows["one/key/14"].key == 13


def test_a_wire_keeps_its_colour_and_goes_where_its_pin_is():
    owner, console = two_keyboards(colours=("red", "blue"))
    assert [colour_of(console, n) for n in range(3)] == ["red", "blue", "red"]
    assert colour_of(Console(colours=()), 4) == "plain"
    wired = take_pins(owner, pin_out(owner, console))(Plan(name="P", devices=(owner,)))
    rows = wire_list(wired.devices[0], wired.devices[0].console)
    commons = [row.source for row in rows if row.group == "Two: commons"]
    assert commons == ["encoder C4", "encoder C5", "encoder C6"]
    assert facing_words("line to common") == "ring to the common"


def test_contacts_are_named_by_key_or_control():
    owner = device(beds=(("k", 120, 12),), stops=2)
    console = owner.console
    assert contact_name(owner, console, "k", 0) == "C9 of K"
    assert contact_name(owner, console, "k", 7) == "G9 of K"
    assert contact_name(owner, console, "k", 8) == "128 of K"
    assert contact_name(owner, console, "k", -121) == "-1 of K"
    assert contact_name(owner, console, "stops", 1) == "Stop 1"
    assert contact_name(owner, console, "stops", 2) == "contact 3 of Stops"


def test_money_and_hours_of_the_ways():
    owner, console = two_keyboards(
        rates=Rates(diode=0.05, connector=3.0, metre=0.5, encoder=90.0, hour=10.0),
        colours=("grey",),
        ways=(
            Way(name="wired", price=10, hours=2, wired=True, missing=(Item(name="x", price=5.0),)),
            Way(name="bought", price=400, hours=1, floor=2.5, skill="none"),
        ),
    )
    bought = {m.name: m for m in materials(owner, console)}
    assert bought["diodes"].amount == 50 and bought["diodes"].price == 2.5
    assert bought["connectors"].amount == 4
    lines = [row for row in wire_list(owner, console) if not row.colour.endswith("ring")]
    metres = sum(row.metres for row in lines)
    assert bought["wire, grey"].amount == round(metres, 1)
    assert bought["wire, grey"].price == round(metres * 0.5, 2)
    totals = {t.name: t for t in compare(owner, console)}
    assert totals["bought"].price == 410 and totals["bought"].hours == 1
    assert totals["wired"].missing == "x" and totals["wired"].price > 10 + 5 + 20 + 90


def asked(*zones, first_index=1, octaves=5):
    owner, console = two_keyboards(encoder=Encoder(first_index=first_index))
    owner = changed(owner, octaves=octaves, programs=(Program(number=0, name="P", zones=zones),))
    return setup(owner, console, 0)


def test_an_encoder_is_told_the_lowest_note_of_what_is_on():
    low = Zone(id="a", name="A", keybed="one", low=36, high=60, channel=3)
    off = Zone(id="b", name="B", keybed="two", low=36, high=60, on=False)
    (row,) = asked(low, off)
    assert (row.block, row.channel, row.octave, row.note_index) == ("One", 3, 3, 1)
    assert row.name == "C3 (36)" and (row.commons, row.pins) == (3, "none")
    (row,) = asked(changed(low, transpose=-1), first_index=0)
    assert (row.octave, row.note_index) == (2, 11)
    (row,) = asked(changed(low, octave=-3))
    assert row.name == "C0 (0)"
    (row,) = asked(changed(low, octave=-3, transpose=-1))
    assert row.name == "-1"


def placed(commons, room=0, soldered=None, beds=(("one", 36, 25), ("two", 36, 25)), stops=0):
    owner = device(beds=beds, stops=stops)
    blocks = tuple(
        changed(b, commons=soldered.get(b.id, ()), soldered=b.id in soldered)
        if soldered
        else changed(b, commons=())
        for b in owner.console.blocks
    )
    console = Console(blocks=blocks, encoder=Encoder(lines=12, commons=commons), room=room)
    return pin_out(changed(owner, console=console), console)


def test_blocks_stand_side_by_side_with_as_much_room_as_there_is():
    assert placed(6).pins == {"one": (1, 2, 3), "two": (4, 5, 6)}
    roomy = placed(9, room=2)
    assert roomy.pins == {"one": (1, 2, 3), "two": (6, 7, 8)} and roomy.room == 2
    tight = placed(7, room=2)
    assert tight.pins == {"one": (1, 2, 3), "two": (5, 6, 7)} and tight.room == 1
    assert roomy.used == 6 and roomy.short == 0


def test_room_that_is_kept_is_not_given_to_the_next_block():
    three = (("one", 36, 12), ("two", 36, 12), ("three", 36, 12))
    assert placed(5, room=1, beds=three).pins == {"one": (1,), "two": (3,), "three": (5,)}


def test_soldered_blocks_keep_their_pins_and_others_go_around_them():
    kept = placed(9, soldered={"one": (3, 4, 5)})
    assert kept.pins == {"one": (3, 4, 5), "two": (6, 7, 8)}
    before = placed(8, soldered={"two": (4, 5, 6)})
    assert before.pins == {"one": (1, 2, 3), "two": (4, 5, 6)}
    apart = placed(6, soldered={"two": (2, 3, 5)})
    assert apart.pins == {"one": (1, 4, 6), "two": (2, 3, 5)}
    gone = placed(6, soldered={"two": (5, 6, 7)})
    assert gone.pins == {"one": (1, 2, 3), "two": (4, 5, 6)}


def test_what_is_short_is_counted_with_what_would_mend_it():
    short = placed(4)
    assert short.left_out == ("two",) and short.short == 2
    assert [mend.gain for mend in short.mends] == [2, 2]
    assert "6 common pins" in short.mends[-1].sentence and "Two" in short.mends[0].sentence
    empty = placed(2)
    assert empty.left_out == ("one", "two") and empty.short == 4


def test_stops_and_pistons_together_need_fewer_commons():
    owner = device(beds=(), stops=14)
    names = tuple(c.id for c in owner.controls)
    blocks = (
        Block(id="a", name="A", controls=names[:7]),
        Block(id="b", name="B", controls=names[7:]),
    )
    console = Console(blocks=blocks, encoder=Encoder(lines=12, commons=1))
    mends = pin_out(changed(owner, console=console), console).mends
    assert not [m for m in mends if "together" in m.sentence]
    blocks = (
        Block(id="a", name="A", controls=names[:6]),
        Block(id="b", name="B", controls=names[6:12]),
    )
    console = Console(blocks=blocks, encoder=Encoder(lines=12, commons=1))
    mends = pin_out(changed(owner, console=console), console).mends
    assert [m.gain for m in mends if "together" in m.sentence] == [1]


def test_a_manual_from_g_needs_one_common_more_by_note_names():
    owner = device(beds=(("g", 43, 54),), stops=0)
    block = changed(owner.console.blocks[0], school="note names", commons=())
    console = Console(blocks=(block,), encoder=Encoder(lines=12, commons=5))
    mends = pin_out(changed(owner, console=console), console).mends
    wire = [m for m in mends if m.sentence.startswith("Wire G")]
    assert [m.gain for m in wire] == [1] and "5 commons" in wire[0].sentence
    soldered = changed(console, blocks=(changed(block, soldered=True),))
    assert not [
        m
        for m in pin_out(changed(owner, console=soldered), soldered).mends
        if m.sentence.startswith("Wire")
    ]


def test_wires_are_swapped_only_where_both_are_there():
    owner = device(beds=(("k", 36, 25),), stops=0)
    circuit = built(owner, owner.console)
    whole = [crossings(circuit, state_of(circuit, ()), (n,)) for n in range(25)]
    half = Fault(kind="swapped wires", block="k", at=0, to=COMMON + 9)
    assert [crossings(circuit, state_of(circuit, (half,)), (n,)) for n in range(25)] == whole
    both = Fault(kind="swapped wires", block="k", at=0, to=1)
    changed_over = [crossings(circuit, state_of(circuit, (both,)), (n,)) for n in range(25)]
    assert changed_over[0] == whole[1] and changed_over[1] == whole[0]
    assert changed_over[2:12] == whole[2:12]


def test_pins_are_taken_as_one_step():
    owner, console = two_keyboards()
    plan = edit_device(owner.id, "", lambda d: d)(Plan(name="P", devices=(owner,)))
    edit = take_pins(owner, pin_out(owner, console))
    assert [b.commons for b in edit(plan).devices[0].console.blocks] == [(1, 2, 3), (4, 5, 6)]


def test_every_wire_has_a_number_of_its_own_and_commons_another_colour():
    owner, console = two_keyboards()
    rows = wire_list(owner, console)
    assert [row.number for row in rows] == list(range(1, len(rows) + 1))
    lines = {row.colour for row in rows if "/line/" in row.id}
    commons = {row.colour for row in rows if "/common/" in row.id}
    assert lines and commons and not lines & commons


def test_one_contact_needs_one_line():
    owner = device(beds=(), stops=1)
    rows = wire_list(owner, owner.console)
    assert [row.id for row in rows] == ["stops/line/1", "stops/common/1", "stops/key/1"]


def test_only_keys_stops_pistons_and_shoes_are_wired():
    sustain = Control(id="hold", name="Hold", kind="switch")
    piston = Control(id="piston", name="Piston", kind="button")
    sostenuto = Control(id="so", name="So", kind="button")
    jack = PedalJack(id="j", name="J", accepts=("switch",), functions=("any",), control="so")
    owner = changed(device(beds=(("k", 36, 25),)), controls=(sustain, piston, sostenuto))
    owner = changed(owner, jacks=(jack,), console=None)
    blocks = wired(owner, Console()).blocks
    assert [block.controls for block in blocks] == [(), ("piston",)]
