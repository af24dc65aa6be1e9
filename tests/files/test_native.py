import json
import os
import stat
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given, settings

from tests.plans import plans
from tests.rigs import simple
from vastzone import demo
from vastzone.core.errors import DamagedFile, NewerFile, ReadError, WriteError
from vastzone.files import native
from vastzone.files.migrate import VERSION
from vastzone.files.plan_schema import schema

ROOT = Path(__file__).parents[2]


@settings(max_examples=60, deadline=None)
@given(plans())
def test_saving_and_loading_gives_an_equal_plan(plan):
    assert native.from_json(native.to_json(plan), "x") == plan


@pytest.mark.parametrize("path", [demo.AS_FOUND, demo.READY], ids=["as found", "ready"])
def test_the_demo_obeys_the_published_schema(path):
    published = json.loads((ROOT / "docs" / "vastzone.schema.json").read_text())
    assert published == json.loads(json.dumps(schema())), "run make schema"
    jsonschema.validate(json.loads(path.read_text()), published)
    assert native.to_json(*native.read_rig(path)) == path.read_bytes()


def broken(change):
    raw = json.loads(native.to_json(simple()))
    change(raw)
    return json.dumps(raw).encode()


@pytest.mark.parametrize(
    ("data", "kind", "says"),
    [
        (b"", DamagedFile, "line 1"),
        (native.to_json(simple())[:200], DamagedFile, "line 12"),
        (b"[1, 2]", DamagedFile, "not a Vast Zone plan"),
        (b'{"format": "other"}', DamagedFile, "not a Vast Zone plan"),
        (broken(lambda r: r.update(version=99)), NewerFile, "later version"),
        (
            broken(lambda r: r["plan"]["devices"][1]["parts"][0].update(channel=17)),
            DamagedFile,
            "Box › Piano › channel",
        ),
        (broken(lambda r: r["plan"]["devices"][0].update(colour=1)), DamagedFile, "Board"),
        (broken(lambda r: r["plan"]["cables"][0].update(dest="box:gone")), DamagedFile, "box:gone"),
        (broken(lambda r: r["plan"].update(devices=3)), DamagedFile, "devices"),
        (b"\xff\xfe\x00", DamagedFile, "damaged"),
    ],
)
def test_what_cannot_be_read_gets_one_sentence(data, kind, says):
    with pytest.raises(kind) as caught:
        native.from_json(data, "tour.vastzone")
    sentence = str(caught.value)
    assert "tour.vastzone" in sentence and says in sentence
    assert "\n" not in sentence and sentence.endswith(".")


def test_an_absent_file_and_a_folder_are_told(tmp_path):
    for path in (tmp_path / "none.vastzone", tmp_path):
        with pytest.raises(ReadError, match="cannot be read"):
            native.read(path)


def test_saving_replaces_whole_and_leaves_nothing_behind(tmp_path):
    path = tmp_path / "a.vastzone"
    native.write(simple(), path)
    path.chmod(0o640)
    native.write(simple("usb"), path)
    assert native.read(path) == simple("usb")
    assert os.listdir(tmp_path) == ["a.vastzone"]
    assert stat.S_IMODE(path.stat().st_mode) == 0o640


@pytest.mark.parametrize("data", [b"{", b"notes", broken(lambda r: r.update(version=VERSION + 1))])
def test_what_it_cannot_read_is_never_overwritten(tmp_path, data):
    path = tmp_path / "b.vastzone"
    path.write_bytes(data)
    with pytest.raises(WriteError, match="another name"):
        native.write(simple(), path)
    assert path.read_bytes() == data


def test_a_folder_that_is_not_there_is_told(tmp_path):
    with pytest.raises(WriteError, match="folder"):
        native.write(simple(), tmp_path / "gone" / "c.vastzone")
