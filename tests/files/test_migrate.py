"""Files of older versions are read as they were meant, and written as today's."""

import json
from pathlib import Path

import pytest

from vastzone import demo
from vastzone.core.errors import DamagedFile, NewerFile
from vastzone.files import native
from vastzone.files.devices import read_device, shipped, write_device
from vastzone.files.migrate import VERSION

OLD = Path(__file__).parent / "old"


def test_a_plan_of_version_1_is_the_same_plan():
    assert native.read(OLD / "as-found-1.vastzone") == native.read(demo.AS_FOUND)


def test_a_device_of_version_1_is_the_same_device():
    assert read_device(OLD / "drum-module-1.vzdevice") == shipped()["drum-module-10"]


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
