"""Files of older versions are read as they were meant, and written as today's."""

import json
from pathlib import Path

import pytest

from tests.rigs import keyboard, module, part, rig, zone
from vastzone import demo
from vastzone.core.cards.card import card
from vastzone.core.cards.diff import undialled
from vastzone.core.errors import DamagedFile, NewerFile
from vastzone.core.plan.model.bodies import AudioOutput, Supply
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Storage
from vastzone.core.plan.queries import lookup
from vastzone.files import native
from vastzone.files.devices import read_device, write_device
from vastzone.files.migrate import VERSION

OLD = Path(__file__).parent / "old"


def test_a_plan_of_version_1_is_the_same_plan():
    assert native.read(OLD / "as-found-1.vastzone") == as_it_was(native.read(demo.AS_FOUND))


def as_it_was(plan):
    """The demo without its evening and its desk, which files of version 1 knew nothing of."""
    devices, scenes = [], []
    for device in plan.devices:
        if device.audio_inputs:
            continue
        if device.id == "mudlark":
            cells = tuple(changed(cell, output="5") for cell in device.parts)
            device = changed(device, parts=cells, outputs=(AudioOutput(id="5", name="5"),))
        elif device.id == "dovecote":
            named = tuple(changed(output, name=output.id) for output in device.outputs)
            device = changed(device, outputs=named)
        else:
            device = changed(device, outputs=())
        device = changed(
            device,
            player="",
            changes_by="own buttons",
            sensing_ms=0.0,
            buffer=None,
            place=None,
            supply=Supply(),
            weight_kg=0.0,
            delay_ms=5.3 if device.id == "rookery" else device.delay_ms,
        )
        if device.id == "mudlark":
            device = changed(device, programs=())
        if device.id == "heron":
            device = changed(device, storage=Storage())
        devices.append(device)
    for scene in plan.scenes:
        kept = tuple(choice for choice in scene.programs if choice.device != "mudlark")
        scenes.append(changed(scene, programs=kept))
    return changed(
        plan,
        devices=tuple(devices),
        scenes=tuple(scenes),
        setlists=(),
        audio_cables=(),
        output_wishes=(),
        power=(),
        hearing=(),
        hours=4.0,
        cables=tuple(changed(cable, metres=None) for cable in plan.cables),
    )


def test_a_device_of_version_1_is_the_same_device():
    assert read_device(OLD / "drum-module-1.vzdevice") == read_device(
        OLD / "drum-module-2.vzdevice"
    )


def test_an_encoder_that_said_nothing_counted_from_1(tmp_path):
    plan = json.loads(demo.AS_FOUND.read_text())
    plan["version"] = 3
    (bittern,) = (d for d in plan["plan"]["devices"] if d["id"] == "bittern")
    bittern["console"].get("encoder", {}).pop("first_index", None)
    path = tmp_path / "three.vastzone"
    path.write_text(json.dumps(plan))
    read = lookup.device(native.read(path), "bittern")
    assert read.console.encoder.first_index == 1
    assert lookup.device(native.read(demo.AS_FOUND), "bittern").console.encoder.first_index == 0


def test_what_is_written_is_of_this_version(tmp_path):
    for old in OLD.iterdir():
        new = tmp_path / old.name
        if old.suffix == ".vastzone":
            native.write(native.read(old), new)
        else:
            write_device(read_device(old), new)
        assert json.loads(new.read_text())["version"] == VERSION


def test_fields_of_a_newer_version_are_not_called_damage(tmp_path):
    plan = json.loads(demo.READY.read_text())
    plan["version"] = VERSION + 1
    plan["plan"]["lights"] = ["blue"]
    with pytest.raises(NewerFile, match="later version"):
        native.from_json(json.dumps(plan).encode(), "tour.vastzone")
    device = json.loads((OLD / "drum-module-1.vzdevice").read_text())
    device["version"] = VERSION + 1
    device["device"]["lights"] = 3
    path = tmp_path / "new.vzdevice"
    path.write_text(json.dumps(device))
    with pytest.raises(NewerFile, match="later version"):
        read_device(path)


@pytest.mark.parametrize("version", [0, -1, True, "1", None, 1.5])
def test_a_version_that_is_none_is_damage(version):
    plan = json.loads((OLD / "as-found-1.vastzone").read_text())
    plan["version"] = version
    with pytest.raises(DamagedFile):
        native.from_json(json.dumps(plan).encode(), "tour.vastzone")


@pytest.mark.parametrize("broken", [{"plan": []}, {"plan": {"devices": 3}}, {"plan": None}, {}])
def test_an_old_file_that_is_broken_gets_one_sentence(broken):
    raw = {"format": "vastzone", "version": 1, **broken}
    with pytest.raises(DamagedFile):
        native.from_json(json.dumps(raw).encode(), "tour.vastzone")


def test_what_was_recorded_beside_each_number_becomes_what_the_devices_hold():
    plan = rig(keyboard(zone("a", 36, 59, 3), zone("b", 60, 96, 4)), module(part(channel=5)))
    raw = json.loads(native.to_json(plan))
    raw["version"] = 2
    raw["plan"]["settings"] = [
        {"ref": "board/0/zone.a/channel", "state": "planned", "held": 9, "on": "2026-01-05"},
        {"ref": "board/0/zone.b/channel", "hold": "locked", "state": "sent", "held": 8},
        {"ref": "box/part.piano/channel", "state": "planned", "held": None},
        {"ref": "box/part.piano/low", "state": "checked", "on": "2026-01-04", "why": "So."},
    ]
    old = native.rig_from_json(json.dumps(raw).encode(), "old")
    assert [(s.ref, s.hold, s.why) for s in old.plan.settings] == [
        ("board/0/zone.b/channel", "locked", ""),
        ("box/part.piano/low", "free", "So."),
    ]
    board, box = old.plan.devices
    states = {}
    for device in (board, box):
        for line in card(old.plan, old.memory, device, everything=True).lines:
            states[line.thing] = (line.state, line.before)
    assert states["Zone A"][0] == "planned" and states["Zone B"][0] == "sent"
    assert states["Part Piano"][0] == "planned"
    undone = {each.whole for each in undialled(old.plan, old.memory)}
    assert "Board, program 1: Zone A, channel from 9 to 3." in undone
    assert "Board, program 1: Zone B, channel from 8 to 4." in undone
    assert "Box: Part Piano, channel from not known to 5." in undone and len(undone) == 3
