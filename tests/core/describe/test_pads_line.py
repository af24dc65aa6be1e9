"""Trigger pads in words."""

import pytest

from vastzone.core.describe.pads_line import add_pads, read_pads
from vastzone.core.errors import EditError
from vastzone.core.plan.model.plan import Plan


def test_pads_have_the_sensors_that_such_drums_have():
    pads = read_pads(
        "kick must, snare, 2 toms single, 2 crashes, ride, hat, hat pedal, 2 rubber pads model R, "
        "spare, bell plate"
    )
    told = {pad.name: (pad.sensor, pad.model, pad.importance) for pad in pads}
    assert told == {
        "Kick": ("kick", "", "must"),
        "Snare": ("dual", "", "wanted"),
        "Tom 1": ("single", "", "wanted"),
        "Tom 2": ("single", "", "wanted"),
        "Crash 1": ("switch", "", "wanted"),
        "Crash 2": ("switch", "", "wanted"),
        "Ride": ("two switches", "", "wanted"),
        "Hat": ("switch", "", "wanted"),
        "Hat pedal": ("hi-hat", "", "wanted"),
        "Rubber pad 1": ("single", "R", "spare"),
        "Rubber pad 2": ("single", "R", "spare"),
        "Bell plate": ("single", "", "wanted"),
    }
    twice = add_pads(pads)(add_pads(pads)(Plan(name="P")))
    assert len({pad.id for pad in twice.pads}) == 2 * len(pads)


@pytest.mark.parametrize("line", ["", " , ", "0 toms", "99 toms", "snare, snare"])
def test_what_names_no_pad_is_refused(line):
    with pytest.raises(EditError):
        read_pads(line)
