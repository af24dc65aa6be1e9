"""Couplers read from what stops are called."""

import pytest

from tests.core.proof.test_organ import organ
from vastzone.core.plan.edits.edit import edit_device
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.coupler_names import couplers_named


def named(name):
    def change(owner):
        first, *rest = owner.controls
        return changed(owner, controls=(changed(first, name=name), *rest))

    plan = edit_device("console", "", change).change(organ())
    found = couplers_named(plan, lookup.device(plan, "console"))
    return [(one.keys[8:], one.plays[6:], one.shift) for one in found]


@pytest.mark.parametrize(
    ("name", "keys", "plays", "shift"),
    [
        ("Swell to Great", "great", "swell", 0),
        ("swell to great 8′", "great", "swell", 0),
        ("Sw to Gt 16", "great", "swell", -12),
        ("Swell to Great 4'", "great", "swell", 12),
        ("Gt / Ped", "pedal", "great", 0),
        ("Swell Octave", "swell", "swell", 12),
        ("Swell Sub Octave", "swell", "swell", -12),
        ("Great to Pedal Super", "pedal", "great", 12),
    ],
)
def test_names_of_couplers_are_understood(name, keys, plays, shift):
    assert named(name) == [(keys, plays, shift)]


@pytest.mark.parametrize(
    "name", ["Trumpet 8", "Octave 4", "Great to Great", "Echo to Great", "to", "/", "Mixture IV"]
)
def test_other_stops_are_no_couplers(name):
    assert named(name) == []
