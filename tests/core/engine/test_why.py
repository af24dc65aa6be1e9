"""Why a key is silent: the hints at the very edges of what a part answers."""

import pytest

from vastzone.core.engine.why import octave_hint


@pytest.mark.parametrize(
    ("low", "high", "note", "said"),
    [
        (48, 59, 47, "one octave higher"),
        (59, 80, 47, "one octave higher"),
        (60, 80, 47, "two octaves higher"),
        (71, 80, 47, "two octaves higher"),
        (20, 35, 47, "one octave lower"),
        (23, 23, 47, "two octaves lower"),
        (60, 70, 47, ""),
    ],
)
def test_an_octave_is_hinted_at_only_where_the_note_fits(low, high, note, said):
    assert said in octave_hint(low, high, note)
    assert bool(octave_hint(low, high, note)) is bool(said)
