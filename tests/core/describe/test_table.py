"""Tables of a device's things: recognised by their columns, wrong rows told, written out likewise."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device
from vastzone.core.describe.table import MOST, guessed, put_in, read_table, written
from vastzone.core.describe.table_columns import WHATS
from vastzone.core.errors import EditError
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.consistency import device_problems
from vastzone.files.columns import cells_of
from vastzone.files.devices import shipped

BOX = new_device(read_line("Box: 8 pads, 2 faders, middle C is C3"))


def put(device, what, text):
    reading = read_table(device, what, cells_of(text))
    return put_in(device.id, reading)(Plan(name="Plan", devices=(device,))).devices[0], reading


def test_controls_with_what_they_send_in_any_order_of_columns():
    text = "ch;label;type;cc;message\n3;Mix;fader;20;controller\n10;Pad 1;pad;C1;note\n"
    after, reading = put(BOX, "controls", text)
    mix = next(c for c in after.controls if c.name == "Mix")
    sends = {send.control: send for send in after.programs[0].sends}
    assert (mix.kind, sends[mix.id].number, sends[mix.id].channel) == ("fader", 20, 3)
    # C1 where middle C is C3 is note 36, and the pad of that name was there.
    assert (sends["pad-1"].number, sends["pad-1"].message) == (36, "note")
    assert len(after.controls) == len(BOX.controls) + 1 and not reading.mistakes


def test_parts_targets_sounds_inputs_and_stops():
    box = new_device(read_line("Box: module, 1 part"))
    box, _ = put(box, "parts", "name,channel,low,high,plays\nChain,4,C2,C3,one-shot\n")
    assert (box.parts[1].channel, box.parts[1].low, box.parts[1].trigger) == (4, 36, "one-shot")
    box, _ = put(box, "targets", "name,of,cc,answers as,max,unit\nMute,Chain,85,toggle,100,%\n")
    target = box.targets[0]
    assert (target.part, target.controller, target.mode, target.high) == (
        "chain",
        85,
        "toggle",
        100,
    )
    box, _ = put(box, "sounds", "sound\tnote\nKick\t36\nSnare\t38\n")
    assert [(s.name, s.note) for s in box.kits[0].sounds] == [("Kick", 36), ("Snare", 38)]
    box, _ = put(box, "inputs", "name,can be\nKick,kick\nRide,three-way\n")
    assert [jack.type for jack in box.inputs] == ["kick", "three-way"]
    box, _ = put(box, "stops", "name,number\nFlute 8,20\n")
    assert box.controls[0].kind == "stop" and box.programs[0].sends[0].number == 20


def test_rows_name_the_program_and_the_kit_that_they_are_for():
    box = new_device(read_line("Box: 2 pads, 3 programs"))
    box, reading = put(box, "controls", "name,program,number\nPad 1,2,50\nPad 2,,51\nPad 1,9,52\n")
    notes = []
    for program in box.programs:
        notes.append([send.number for send in program.sends])
    assert notes == [[51], [50, 51], [51]]
    assert [mistake.row for mistake in reading.mistakes] == [3]
    kits, _ = put(box, "sounds", "name,kit,note\nKick,Dry,36\nKick,Wet,40\nClap,,41\n")
    held = []
    for kit in kits.kits:
        held.append((kit.name, [(sound.name, sound.note) for sound in kit.sounds]))
    assert held == [("Dry", [("Kick", 36), ("Clap", 41)]), ("Wet", [("Kick", 40)])]


def test_what_a_table_is_of_is_guessed_and_wrong_columns_are_told():
    assert guessed(["name", "kind", "message", "channel"]) == "controls"
    assert guessed(["sound", "note"]) == "sounds"
    assert guessed(["parameter", "of part", "max", "unit"]) == "targets"
    with pytest.raises(EditError, match="name"):
        read_table(BOX, "controls", [["colour", "taste"], ["red", "sweet"]])


def test_mistakes_are_told_by_row_and_the_rest_is_read():
    text = (
        "name,message,number\nA,note,36\nB,nonsense,1\n,note,37\nC,note,300\n"
        + "D" * 90
        + ",note,1"
    )
    after, reading = put(BOX, "controls", text)
    assert [mistake.row for mistake in reading.mistakes] == [2, 3, 4, 5]
    assert [row["name"] for row in reading.rows] == ["A"]
    assert after.controls[-1].name == "A"


def test_a_table_that_is_too_long_is_refused():
    with pytest.raises(EditError, match="too many"):
        read_table(BOX, "controls", [["name"], *([f"K {n}"] for n in range(MOST + 1))])


@pytest.mark.parametrize("device", shipped().values(), ids=lambda device: device.id)
def test_what_is_written_out_changes_nothing_when_it_is_read(device):
    for what in WHATS:
        rows = written(device, what)
        if len(rows) > 1:
            reading = read_table(device, what, rows)
            assert reading.mistakes == ()
            after = put_in(device.id, reading)(Plan(name="Plan", devices=(device,))).devices[0]
            assert (after.controls, after.programs) == (device.controls, device.programs)
            assert (after.parts, after.targets, after.kits) == (
                device.parts,
                device.targets,
                device.kits,
            )


CELL = st.text(max_size=12)


@given(st.lists(st.lists(CELL, min_size=1, max_size=5), max_size=6), st.sampled_from(WHATS))
def test_any_cells_are_read_or_told(rows, what):
    try:
        reading = read_table(BOX, what, [["name", "kind", "number", "channel", "low"], *rows])
        after = put_in("box", reading)(Plan(name="Plan", devices=(BOX,))).devices[0]
    except EditError as error:
        assert str(error).count("\n") == 0
    else:
        assert not device_problems(after)
