"""The table of controllers against the published one, written out here by hand."""

import pytest

from vastzone.core.midi.controllers import CONTROLLERS, UNDEFINED, classify, label
from vastzone.core.midi.wide import heard_as, messages_of, name, sent_numbers

STANDARD = """
0 bank select; 1 modulation; 2 breath; 4 foot; 5 portamento time; 6 data entry; 7 channel volume
8 balance; 10 pan; 11 expression; 12 effect control 1; 13 effect control 2; 16 general purpose 1
17 general purpose 2; 18 general purpose 3; 19 general purpose 4; 64 sustain
65 portamento on/off; 66 sostenuto; 67 soft; 68 legato; 69 hold 2; 70 sound variation; 71 timbre
72 release time; 73 attack time; 74 brightness; 75 decay time; 76 vibrato rate; 77 vibrato depth
78 vibrato delay; 79 sound controller 10; 80 general purpose switch 5; 81 general purpose switch 6
82 general purpose switch 7; 83 general purpose switch 8; 84 portamento control
88 high-resolution velocity prefix; 91 reverb depth; 92 tremolo depth; 93 chorus depth
94 detune depth; 95 phaser depth; 96 increment; 97 decrement; 98 NRPN low; 99 NRPN high
100 RPN low; 101 RPN high; 120 all sound off; 121 reset all controllers; 122 local control
123 all notes off; 124 omni off; 125 omni on; 126 mono on; 127 poly on
"""
NAMED = [words.strip() for line in STANDARD.split("\n") for words in line.split(";") if words]


@pytest.mark.parametrize("words", NAMED)
def test_a_controller_with_a_meaning_has_the_published_one(words):
    assert label(int(words.split()[0])) == words


def test_the_other_controllers_are_low_bits_or_undefined():
    free = {3, 9, 14, 15, *range(20, 32), 85, 86, 87, 89, 90, *range(102, 120)}
    assert set(UNDEFINED) == free
    low = [c.number for c in CONTROLLERS if c.sort == "low bits"]
    assert low == list(range(32, 64))
    assert label(39) == "39 channel volume, low 7 bits"
    assert label(35) == "35 controller 3, low 7 bits"
    assert {c.number for c in CONTROLLERS if c.sort == "channel mode"} == set(range(120, 128))


@pytest.mark.parametrize(
    ("number", "kept", "used", "kind"),
    [
        (20, (), (), "free"),
        (7, (), (), "standard"),
        (39, (), (), "standard"),
        (20, (20,), (20,), "reserved"),
        (20, (), (20,), "in use"),
        (119, (), (), "free"),
        (120, (), (120,), "reserved"),
        (127, (), (), "reserved"),
    ],
)
def test_the_class_of_a_controller(number, kept, used, kind):
    assert classify(number, kept, used) == kind


@pytest.mark.parametrize(
    ("kind", "number", "words"),
    [
        ("controller", 7, "controller 7"),
        ("pair", 1, "pair 1/33"),
        ("rpn", 2, "RPN 0/2"),
        ("nrpn", 300, "NRPN 2/44"),
        ("nrpn", 255, "NRPN 1/127"),
    ],
)
def test_wide_numbers_in_words(kind, number, words):
    assert name(kind, number) == words


def sent(kind, number, value):
    return [(m.first, m.second) for m in messages_of(kind, 2, number, value)]


def test_wide_values_as_they_go_over_the_wire():
    assert sent("pair", 1, 8193) == [(1, 64), (33, 1)]
    assert sent("rpn", 130, 16383) == [(101, 1), (100, 2), (6, 127), (38, 127)]
    assert sent("nrpn", 5, 129) == [(99, 0), (98, 5), (6, 1), (38, 1)]
    assert {m.channel for m in messages_of("rpn", 2, 0, 0)} == {2}


def test_what_listens_to_a_part_of_a_wide_number_hears_that_part():
    assert sent_numbers("pair", 3) == ((3, "coarse"), (35, "fine"))
    assert sent_numbers("rpn", 3) == ((6, "coarse"), (38, "fine"))
    assert heard_as("pair", 3, "controller", 3) == "coarse"
    assert heard_as("pair", 3, "controller", 35) == "fine"
    assert heard_as("pair", 3, "controller", 4) is None
    assert heard_as("controller", 3, "pair", 3) == "coarse"
    assert heard_as("controller", 35, "pair", 3) == "fine"
    assert heard_as("pair", 3, "pair", 3) == "whole" and heard_as("pair", 3, "pair", 35) is None
    assert heard_as("rpn", 3, "controller", 6) == "coarse"
    assert heard_as("rpn", 3, "rpn", 3) == "whole" and heard_as("rpn", 3, "nrpn", 3) is None
