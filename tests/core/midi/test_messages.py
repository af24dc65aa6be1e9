import pytest

from vastzone.core.midi.controllers import CONTROLLERS, UNDEFINED, classify
from vastzone.core.midi.messages import Message, from_bytes

HEX = {
    "90 34 54": Message("note_on", 0, 52, 84),
    "8F 7F 40": Message("note_off", 15, 127, 64),
    "B1 40 7F": Message("controller", 1, 64, 127),
    "C9 05": Message("program", 9, 5),
    "E0 00 40": Message("bend", 0, 8192),
    "E3 7F 7F": Message("bend", 3, 16383),
    "D2 11": Message("pressure", 2, 17),
    "A2 3C 11": Message("poly_pressure", 2, 60, 17),
}


@pytest.mark.parametrize("text", HEX)
def test_bytes_both_ways(text):
    assert from_bytes(bytes.fromhex(text)) == HEX[text]
    assert HEX[text].hex() == text


def test_a_silent_note_on_is_a_note_off():
    assert from_bytes(bytes.fromhex("90 3C 00")) == Message("note_off", 0, 60, 0)


@pytest.mark.parametrize("data", [b"", b"\xf8", b"\xf0\x01\xf7", b"\x90\x3c", b"\x3c\x40"])
def test_what_is_no_channel_message_is_left_alone(data):
    assert from_bytes(data) is None


def test_the_undefined_controllers_are_those_of_the_standard():
    free = {3, 9, 14, 15, *range(20, 32), 85, 86, 87, 89, 90, *range(102, 120)}
    assert set(UNDEFINED) == free
    assert [c.number for c in CONTROLLERS] == list(range(128))


@pytest.mark.parametrize(
    ("number", "expected"),
    [
        (20, "free"),
        (74, "standard"),
        (33, "standard"),
        (123, "reserved"),
        (102, "reserved"),
        (21, "in use"),
    ],
)
def test_the_four_classes(number, expected):
    assert classify(number, reserved={102}, in_use={21, 102}) == expected


def test_data_bytes_over_127_are_no_message():
    for status in range(0x80, 0xF0, 0x10):
        for data in ((200,), (1, 200), (200, 1), (255, 255)):
            assert from_bytes([status, *data]) is None
