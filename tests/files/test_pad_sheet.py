"""The sheet of pads: the same bytes for the same plan, others where a sound or a place differs."""

import pytest

from vastzone import demo
from vastzone.core.plan.edits.edit import edit_device, set_thing
from vastzone.core.plan.edits.fills import pads_of
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.queries import lookup
from vastzone.files import native
from vastzone.files.pad_sheet import to_pdf

DAY = "2026-01-02"


@pytest.fixture(scope="module")
def ready():
    return native.read(demo.READY)


def sheet(plan, device):
    return to_pdf(plan, lookup.device(plan, device), DAY)


def renamed(plan):
    kits = []
    dovecote = lookup.device(plan, "dovecote")
    for kit in dovecote.kits:
        sounds = tuple(changed(sound, name=f"{sound.name}!") for sound in kit.sounds)
        kits.append(changed(kit, sounds=sounds))
    return edit_device("dovecote", "x", lambda owner: changed(owner, kits=tuple(kits)))(plan)


def test_a_sheet_tells_names_places_and_sounds(ready):
    first = sheet(ready, "curlew")
    assert first.startswith(b"%PDF") and first == sheet(ready, "curlew")
    assert first != sheet(renamed(ready), "curlew")
    pad = pads_of(lookup.device(ready, "curlew"))[0]
    moved = set_thing("curlew", "controls", pad.id, "pad", "x", column=11)(ready)
    assert first != sheet(moved, "curlew")


@pytest.mark.parametrize("device", ["dipper", "heron"])
def test_any_device_has_one_even_without_pads(ready, device):
    assert sheet(ready, device).startswith(b"%PDF")
