"""What a device can and cannot, said and unsaid; what lies on a face, moved and put in line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core.describe.abilities import (
    SCOPES,
    add_switch,
    numbers_in,
    panel_rows,
    scope_of_setting,
    scoped_in,
    set_answers,
    set_count,
    set_panel,
    set_reserved,
    set_scope,
    set_sources,
)
from vastzone.core.describe.arranging import duplicate, line_up, move_things, paste, reorder
from vastzone.core.describe.face import face_of
from vastzone.core.describe.line import read_line
from vastzone.core.describe.making import new_device
from vastzone.core.describe.numbering import (
    channel_parts,
    name_things,
    number_controls,
    number_targets,
)
from vastzone.core.describe.search import found
from vastzone.core.describe.things import Thing
from vastzone.core.errors import EditError
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.consistency import device_problems
from vastzone.core.plan.queries.limits import kept_controllers, most
from vastzone.files.devices import shipped

BOX = new_device(read_line("Box: 61 keys, 8 pads as 2 × 4 notes from 36, 4 faders, 2 layers"))


def done(edit, device=BOX):
    return edit(Plan(name="Plan", devices=(device,))).devices[0]


def things(kind, *numbers):
    return tuple(Thing("controls", f"{kind}-{number}") for number in numbers)


@given(st.sampled_from(scoped_in(BOX)), st.sampled_from([None, *(scope for scope, _ in SCOPES)]))
def test_how_far_a_setting_reaches_is_said_and_unsaid(setting, scope):
    told = done(set_scope(BOX, setting[0], scope))
    assert scope_of_setting(told, setting[0]) == scope
    assert done(set_scope(told, setting[0], None), told).limits == BOX.limits


def test_counts_what_is_kept_and_where_that_was_read():
    box = done(set_count(BOX, "assign-slots", 16, "1 2 5–8"))
    assert most(box, "assign-slots").taken == (1, 2, 5, 6, 7, 8)
    box = done(set_reserved(box, 0, "patches", "80, 81"), box)
    box = done(set_sources(box, "its book, page 4", "ro, 2026"), box)
    assert kept_controllers(box) == {80, 81}
    assert {(limit.source, limit.verified) for limit in box.limits} == {
        ("its book, page 4", "ro, 2026")
    }
    assert done(set_reserved(box, 0, "patches", ""), box).limits == box.limits[:1]
    assert done(set_answers(box, 35, 59), box).limits[-1].high == 59
    with pytest.raises(EditError, match="above"):
        set_answers(box, 59, 35)
    for wrong in ("x", "8–3", "900"):
        with pytest.raises(EditError):
            numbers_in(wrong)


def test_the_way_to_a_setting_and_switches():
    row = next(row for row in panel_rows(BOX) if row.field == "zone/channel")
    box = done(set_panel(BOX.id, row.field, "Edit, Zone, Channel", 5))
    now = next(row for row in panel_rows(box) if row.field == "zone/channel")
    assert (now.path, now.presses) == ("Edit, Zone, Channel", 5)
    box = done(add_switch(BOX.id, "Clock", "own/from MIDI"))
    assert box.switches[0].choices == ("own", "from MIDI")
    with pytest.raises(EditError, match="two choices"):
        add_switch(BOX.id, "Clock", "own")


@given(st.floats(-300, 300), st.floats(-300, 300))
def test_what_is_moved_lies_there_and_never_off_the_face(right, down):
    before = face_of(BOX).spots
    after = face_of(done(move_things(BOX.id, things("fader", 1), right, down)))
    spot, was = after.spots["fader-1"], before["fader-1"]
    assert spot.x == round(max(0.0, was.x + right), 1)
    assert spot.y == round(max(0.0, was.y + down), 1)
    assert {key: spot for key, spot in after.spots.items() if key != "fader-1"} == {
        key: spot for key, spot in before.items() if key != "fader-1"
    }


def test_pads_that_are_moved_find_their_rows_anew():
    under = done(move_things(BOX.id, things("pad", 1, 2, 3, 4), 0, 100))
    rows = {pad.id: (pad.row, pad.column) for pad in under.controls if pad.kind == "pad"}
    assert rows["pad-1"] == (1, 0) and rows["pad-8"] == (0, 3)


def test_things_are_lined_up_named_and_numbered_as_they_lie():
    apart = done(move_things(BOX.id, things("fader", 2), 3, 40))
    row = face_of(done(line_up(BOX.id, things("fader", 1, 2, 3, 4), "row"), apart)).spots
    assert len({row[f"fader-{n}"].y for n in range(1, 5)}) == 1
    steps = [row[f"fader-{n + 1}"].x - row[f"fader-{n}"].x for n in range(1, 4)]
    assert max(steps) - min(steps) < 0.2
    named = done(name_things(BOX, things("fader", 3, 1, 2), "Layer {n} volume"))
    assert [c.name for c in named.controls[8:11]] == [f"Layer {n} volume" for n in (1, 2, 3)]
    numbered = done(number_controls(BOX, things("fader", 4, 2, 1), "controller", 70, 5))
    sends = {send.control: (send.number, send.channel) for send in numbered.programs[0].sends}
    assert [sends[f"fader-{n}"] for n in (1, 2, 4)] == [(70, 5), (71, 5), (72, 5)]
    with pytest.raises(EditError, match="127"):
        number_controls(BOX, things("fader", 1, 2), "controller", 127)


def test_copies_lie_beside_send_the_same_and_paste_elsewhere():
    twice = done(duplicate(BOX, things("pad", 1, 2)))
    assert [c.name for c in twice.controls[-2:]] == ["Pad 1 2", "Pad 2 2"]
    sends = {send.control: send.number for send in twice.programs[0].sends}
    assert [sends[c.id] for c in twice.controls[-2:]] == [36, 37]
    other = new_device(read_line("Other: 2 knobs"))
    both = (*things("pad", 1), Thing("parts", "layer-1"))
    pasted = done(paste(other, BOX, both), other)
    assert pasted.controls[-1].kind == "pad" and pasted.parts[0].name == "Layer 1"
    assert not device_problems(pasted)


@pytest.mark.parametrize("device", shipped().values(), ids=lambda device: device.id)
def test_nothing_on_a_face_lies_on_something_else(device):
    face = face_of(device)
    spots = list(face.spots.values())
    for place, one in enumerate(spots):
        assert one.right <= face.size.wide and one.bottom <= face.size.deep
        for other in spots[place + 1 :]:
            apart = one.right <= other.x or other.right <= one.x
            assert apart or one.bottom <= other.y or other.bottom <= one.y


@pytest.mark.parametrize(
    ("words", "wanted"),
    [
        ("fader", "keyboard-49-faders"),
        ("organ", "organ"),
        ("stops", "encoder-lowest"),
        ("looper", "looper-16"),
        ("breath", "breath-box"),
        ("takes all", "recorder"),
        ("hi-hat", "drum-module-8"),
    ],
)
def test_the_library_is_searched_by_plain_words(words, wanted):
    shelves = found(tuple(shipped().values()), words)
    assert wanted in {device.id for shelf in shelves for device in shelf.devices}


def test_parts_and_targets_are_numbered_and_put_in_another_order():
    host = new_device(read_line("Host: host, 4 layers with volume each"))
    layers = [Thing("parts", f"layer-{n}") for n in (4, 2, 3)]
    after = done(channel_parts(host, layers, 15), host)
    assert [part.channel for part in after.parts] == [1, 15, 16, 1]
    volumes = [Thing("targets", f"layer-{n}-volume") for n in (1, 2)]
    after = done(number_targets(host, volumes, 20), host)
    assert [target.controller for target in after.targets] == [20, 21, None, None]
    with pytest.raises(EditError, match="119"):
        number_targets(host, volumes, 119)
    after = done(reorder(host.id, layers[:1], Thing("parts", "layer-1")), host)
    assert [part.id[-1] for part in after.parts] == ["4", "1", "2", "3"]
