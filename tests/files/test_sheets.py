import csv
import io

import pytest

from vastzone import demo
from vastzone.core.cards.card import cards
from vastzone.core.errors import DamagedFile, ReadError, WriteError
from vastzone.files import native
from vastzone.files.devices import read_device, shipped, write_device
from vastzone.files.sheets import to_csv, to_pdf


def test_the_table_has_a_row_for_every_line():
    made = cards(*native.read_rig(demo.READY))
    rows = list(csv.DictReader(io.StringIO(to_csv(made))))
    assert len(rows) == sum(len(c.lines) for c in made)
    assert {r["Device"] for r in rows} == {c.name for c in made}
    bells = next(r for r in rows if r["Thing"] == "Zone Bells")
    assert (bells["Do"], bells["From"], bells["To"]) == ("dial", "9", "channel 6")
    assert bells["State"] == "planned"


def test_the_sheet_is_the_same_every_time_and_tells_when_there_is_nothing():
    made = cards(*native.read_rig(demo.READY))
    sheet = to_pdf("Tour", made, "2026-11-24")
    assert sheet.startswith(b"%PDF") and sheet == to_pdf("Tour", made, "2026-11-24")
    assert to_pdf("Tour", (), "2026-11-24").startswith(b"%PDF")


def test_every_shipped_device_is_sound_and_round_trips(tmp_path):
    for name, device in shipped().items():
        assert device.id == name and device.ports
        write_device(device, tmp_path / "d.vzdevice")
        assert read_device(tmp_path / "d.vzdevice") == device


@pytest.mark.parametrize(
    "data", [b"", b"{}", b'{"format":"vastzone-device","version":2,"device":{}}']
)
def test_a_device_file_that_is_none_is_told(tmp_path, data):
    (tmp_path / "d.vzdevice").write_bytes(data)
    with pytest.raises(DamagedFile, match=r"d\.vzdevice"):
        read_device(tmp_path / "d.vzdevice")
    with pytest.raises(ReadError):
        read_device(tmp_path / "gone.vzdevice")
    with pytest.raises(WriteError):
        write_device(next(iter(shipped().values())), tmp_path / "no" / "d.vzdevice")
