import pytest
from hypothesis import given
from hypothesis import strategies as st

from vastzone.core.errors import PitchError
from vastzone.core.midi import pitch

NOTES, NAMINGS = st.integers(0, 127), st.sampled_from(pitch.NAMINGS)


@given(NOTES, NAMINGS, st.booleans())
def test_names_round_trip_in_every_naming(note, naming, flats):
    assert pitch.parse(pitch.name(note, naming, flats), naming) == note
    assert pitch.parse(str(note), naming) == note


@pytest.mark.parametrize(("naming", "shown"), [(3, "C3"), (4, "C4"), (5, "C5")])
def test_middle_c_is_named_as_the_maker_does(naming, shown):
    assert pitch.name(60, naming) == shown


@pytest.mark.parametrize("text", ["E♭3", "Eb3", "D#3", "D♯3", "eb3", " E♭ 3 "])
def test_enharmonics_are_one_note(text):
    assert pitch.parse(text, 4) == 51


@pytest.mark.parametrize(("text", "note"), [("B#3", 60), ("Cb4", 59), ("Fx4", 67), ("C-1", 0)])
def test_accidentals_cross_the_octave(text, note):
    assert pitch.parse(text, 4) == note


@pytest.mark.parametrize("text", ["", "H3", "C", "C99", "128", "C-3", "piano"])
def test_what_is_no_note_gets_a_sentence(text):
    with pytest.raises(PitchError, match="“"):
        pitch.parse(text, 4)


@given(NOTES)
def test_two_namings_differ_by_whole_octaves(note):
    assert pitch.parse(pitch.name(note, 4), 3) - note == 12 if note <= 115 else True
