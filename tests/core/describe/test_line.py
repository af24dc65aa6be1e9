"""Devices told in a line: what the line says is what the device has."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import add_line, new_device
from vastzone.core.describe.nouns import NOUNS
from vastzone.core.errors import EditError, PlanError
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.consistency import device_problems


def told(text):
    return new_device(read_line(text))


def test_a_master_keyboard_in_one_line():
    plover = told(
        "Plover 61: 61 keys from C2, 8 pads notes from C2 channel 1, 9 faders, 8 knobs, 6 buttons, "
        "bend wheel, lever, sustain jack, expression jack, 8 memory slots"
    )
    assert (plover.name, plover.kind, plover.storage.slots) == ("Plover 61", "keyboard", 8)
    assert [(bed.low, bed.keys) for bed in plover.keybeds] == [(36, 61)]
    kinds = [control.kind for control in plover.controls]
    counted = [kinds.count(kind) for kind in ("pad", "fader", "knob", "button", "lever")]
    assert counted == [8, 9, 8, 6, 1]
    sends = {send.control: send for send in plover.programs[0].sends}
    assert [sends[f"pad-{n}"].number for n in range(1, 9)] == list(range(36, 44))
    assert (sends["sustain"].number, sends["expression"].number) == (64, 11)
    assert sends["bend-wheel"].message == "bend"
    assert [jack.control for jack in plover.jacks] == ["sustain", "expression"]


def test_a_host_that_learns():
    laptop = told(
        "Laptop: host that learns, 6 layers with volume each, master, 4 loops on/off, "
        "previous and next patch"
    )
    assert [part.name for part in laptop.parts] == [f"Layer {n}" for n in range(1, 7)]
    assert [target.name for target in laptop.targets] == [
        *(f"Layer {n} volume" for n in range(1, 7)),
        "Master",
        *(f"Loop {n}" for n in range(1, 5)),
        "Previous patch",
        "Next patch",
    ]
    assert {target.receives for target in laptop.targets} == {"learns"}
    assert [target.mode for target in laptop.targets[7:]] == ["toggle"] * 4 + ["trigger"] * 2
    assert laptop.targets[0].part == "layer-1"
    assert laptop.targets[0].role == 7


def test_pads_in_banks_run_on_in_the_devices_own_naming():
    box = told("16 pads as 4 × 4 in 3 banks, notes from C1 channel 10, middle C is C5")
    sends = {(send.control, send.bank): send for send in box.programs[0].sends}
    assert len(sends) == 48
    # C1 where middle C is C5 is note 12; the third bank begins 32 notes later.
    assert (sends["pad-1", 1].number, sends["pad-16", 3].number) == (12, 59)
    assert {send.channel for send in sends.values()} == {10}
    assert [(pad.row, pad.column) for pad in box.controls[3:6]] == [(0, 3), (1, 0), (1, 1)]


def test_a_looper_with_what_it_keeps():
    looper = told(
        "Millpond: looper, 16 assign slots 5 taken, 25 sounds from 35 channel 10, keeps "
        "controllers 80 and 81 for patch up and down, 4 levels 0–200 called Voice/Guitar/Loops/Rhythm"
    )
    slots, kept = looper.limits
    assert (slots.most, slots.taken) == (16, (1, 2, 3, 4, 5))
    assert (kept.controllers, kept.purpose) == ((80, 81), "patch up and down")
    assert [target.name for target in looper.targets] == ["Voice", "Guitar", "Loops", "Rhythm"]
    assert {(target.low, target.high) for target in looper.targets} == {(0.0, 200.0)}
    assert [sound.note for sound in looper.kits[0].sounds] == list(range(35, 60))
    assert looper.parts[0].channel == 10


def test_a_drum_module_by_its_inputs():
    skua = told(
        "1 kick input, 7 dual inputs, 2 piezo-switch inputs, 1 three-way input, hi-hat input"
    )
    assert len(skua.inputs) == 12
    struck = [control.zone for control in skua.controls if control.input == "in-11"]
    assert struck == ["bow", "edge", "bell"]
    feet = [c.name for c in skua.controls if c.input == "in-12" and c.zone == "pedal"]
    assert feet == ["Input 12 pedal"]


def test_an_encoder_knows_its_keyboards_stops_and_shoes():
    coot = told(
        "encoder, 12 lines, 16 commons, 0 is C, 2 manuals of 54 keys from G2, 30 pedal keys from "
        "C2, 40 stops, 2 shoes, middle C is C5"
    )
    console = coot.console
    assert (console.encoder.commons, console.encoder.first_index) == (16, 0)
    assert [block.name for block in console.blocks] == [
        "Manual 1",
        "Manual 2",
        "Pedalboard",
        "Stops and pistons",
    ]
    assert len(console.blocks[3].controls) == 40
    assert [shoe.control for shoe in console.shoes] == ["shoe-1", "shoe-2"]
    assert [bed.low for bed in coot.keybeds] == [31, 31, 24]


@pytest.mark.parametrize(
    "text",
    ["3 flurbs", "9 faders purple", "61 keys from C9", "20 cells own channels from 1", "0 pads"],
)
def test_what_is_not_understood_or_cannot_be_is_one_sentence(text):
    with pytest.raises(EditError) as said:
        told(text)
    assert text.split()[1] in str(said.value)


COUNTED = sorted(word for word in NOUNS if NOUNS[word].makes in ("control", "part", "output"))


@given(st.lists(st.tuples(st.integers(1, 40), st.sampled_from(COUNTED)), min_size=1, max_size=5))
def test_as_many_as_the_line_says(pieces):
    device = told(", ".join(f"{count} {word}s" for count, word in pieces))
    made = len(device.controls) + len(device.parts) + len(device.outputs)
    assert made == sum(count for count, _ in pieces)
    assert not device_problems(device)


@given(st.text(max_size=80))
def test_any_text_is_a_device_or_one_sentence(text):
    try:
        device = told(text)
    except PlanError as error:
        assert str(error).count("\n") == 0
    else:
        assert not device_problems(device)


def test_a_line_adds_to_a_device_that_is_there():
    plan = Plan(name="Plan", devices=(told("Plover: 61 keys, 2 faders"),))
    more = add_line("plover", read_line("3 faders, sustain jack"))(plan).devices[0]
    assert [control.id for control in more.controls] == [
        "fader-1",
        "fader-2",
        "fader-3",
        "fader-4",
        "fader-5",
        "sustain",
    ]


@given(st.integers(1, 40), st.integers(1, 9))
def test_a_comma_in_a_number_is_a_point_where_a_unit_follows(whole, tenth):
    device = told(
        f"Plover: 61 keys, {whole},{tenth} kg, delay {whole},{tenth} ms, adapter {whole},{tenth} V"
    )
    value = pytest.approx(whole + tenth / 10)
    assert (device.weight_kg, device.delay_ms, device.supply.volts) == (value,) * 3
