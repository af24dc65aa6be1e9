"""What to do and what came of it in words, and what is typed read back."""

import pytest

from tests.core.console.bittern import device
from vastzone.core.console.circuit import built
from vastzone.core.console.trial_words import (
    answer_words,
    heard_words,
    read_contacts,
    struck_words,
    trial_words,
)
from vastzone.core.console.trials import ContactStrike, PinTest, Probe
from vastzone.core.errors import EditError
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.console import COMMON

OWNER = changed(device(beds=(("great", 36, 25), ("swell", 36, 25)), stops=8), octaves=4)
CONSOLE = OWNER.console
MADE = built(OWNER, CONSOLE)
SWELL = MADE.parts[1].first
STOPS = MADE.parts[2].first


@pytest.mark.parametrize(
    ("trial", "words"),
    [
        (PinTest(), "Run the encoder’s own pin test."),
        (ContactStrike(()), "Touch nothing, and listen."),
        (ContactStrike((0,)), "Strike C2 of Great."),
        (ContactStrike((0, 4)), "Hold C2 and E2 of Great together."),
        (ContactStrike((0, 4, 7)), "Hold C2, E2 and G2 of Great together."),
        (ContactStrike((0, SWELL)), "Hold C2 of Great and C2 of Swell together."),
        (ContactStrike((0, STOPS)), "Hold C2 of Great and Stop 0 together."),
        (ContactStrike((STOPS, STOPS + 1)), "Hold Stop 0 and Stop 1 together."),
    ],
)
def test_a_trial_in_words(trial, words):
    assert trial_words(OWNER, CONSOLE, MADE, trial) == words


def test_a_meter_is_put_to_pins_wires_and_diodes():
    pins = trial_words(OWNER, CONSOLE, MADE, Probe("pins", 2, COMMON + 3))
    assert "between pins L3 and C4" in pins
    line = trial_words(OWNER, CONSOLE, MADE, Probe("wire", 1, 0))
    assert "from pin L1 to its far end in Swell" in line
    common = trial_words(OWNER, CONSOLE, MADE, Probe("wire", 1, COMMON))
    assert f"from pin C{MADE.parts[1].block.commons[0]} " in common
    held = trial_words(OWNER, CONSOLE, MADE, Probe("diode", 3))
    rest = trial_words(OWNER, CONSOLE, MADE, Probe("rest", 3))
    assert held.endswith("while it is held.") and rest.endswith("while nothing touches it.")
    assert "D♯2 of Great" in held


def test_what_came_of_it_in_words():
    said = answer_words(OWNER, CONSOLE, MADE, PinTest(), frozenset({(4, 5), (0, COMMON + 1)}))
    assert said == "L1–C2, L5–L6"
    assert answer_words(OWNER, CONSOLE, MADE, PinTest(), frozenset()) == "none joined"
    assert answer_words(OWNER, CONSOLE, MADE, Probe("pins", 0, 1), "open") == "open"
    assert heard_words(OWNER, CONSOLE, MADE, frozenset()) == "nothing"
    two = heard_words(OWNER, CONSOLE, MADE, frozenset({(1, 0), (0, 2)}))
    assert two == "D2 of Great and C2 of Swell"
    seven = heard_words(OWNER, CONSOLE, MADE, frozenset((0, n) for n in range(7)))
    assert seven == "C2, C♯2, D2, D♯2, E2 and F2 of Great and 1 more"
    six = heard_words(OWNER, CONSOLE, MADE, frozenset((0, n) for n in range(6)))
    assert six.endswith("F2 of Great")


@pytest.mark.parametrize(
    ("struck", "words"),
    [
        ((0, 1, 2), "C2 to D2 of Great"),
        ((2, 0, 1, 1), "C2 to D2 of Great"),
        ((0, 1), "C2 and C♯2 of Great"),
        ((0, 1, 3), "C2, C♯2 and D♯2 of Great"),
        ((STOPS, STOPS + 1, STOPS + 2), "Stop 0 to Stop 2"),
        ((SWELL - 1, SWELL, SWELL + 1), "C4 of Great, C2 of Swell and C♯2 of Swell"),
    ],
)
def test_contacts_in_a_row_are_told_by_their_ends(struck, words):
    assert struck_words(OWNER, CONSOLE, MADE, struck) == words


@pytest.mark.parametrize(
    ("typed", "block", "contacts"),
    [
        ("C2", 0, ((0, 0),)),
        ("C2", 1, ((1, 0),)),
        ("c2 of swell", 0, ((1, 0),)),
        ("C2, E2 of Swell; stop 3 and D2", 0, ((0, 0), (1, 4), (2, 3), (0, 2))),
        ("nothing", 0, ()),
        ("–", 0, ()),
        ("", 0, ()),
        ("B1", 0, ((0, -1),)),
    ],
)
def test_what_is_typed_is_read(typed, block, contacts):
    assert read_contacts(OWNER, MADE, typed, block) == contacts


@pytest.mark.parametrize("typed", ["C2 of Choir", "H9", "stop 99"])
def test_what_cannot_be_read_is_refused_in_a_sentence(typed):
    with pytest.raises(EditError):
        read_contacts(OWNER, MADE, typed, 0)
