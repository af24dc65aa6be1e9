import sys

import pytest

from vastzone.core.errors import PortError
from vastzone.core.midi.messages import Message
from vastzone.ports.base import PortName
from vastzone.ports.real import RealSystem, stable_names
from vastzone.ports.standin import StandIn
from vastzone.ports.watch import Inputs


def test_the_simulated_keyboard_can_be_played():
    system = StandIn()
    port = system.open_input(system.inputs().inputs[0])
    note = Message("note_on", 0, 60, 90)
    system.keyboard.play(note)
    assert port.read() == [note] and port.read() == []
    port.close()
    system.keyboard.play(note)
    assert port.read() == []


def test_it_plays_by_itself_and_lets_every_key_go():
    system = StandIn()
    port = system.open_input(system.inputs().inputs[0])
    system.keyboard.start(0.0)
    for now in range(0, 3000, 10):
        system.keyboard.advance(float(now))
    system.keyboard.stop()
    played = port.read()
    ons = [m.first for m in played if m.kind == "note_on"]
    assert len(ons) == 13 and sorted(ons) == sorted(m.first for m in played if m.kind == "note_off")


def test_names_stay_the_same_when_numbers_change():
    first = stable_names(
        "ALSA", ["Heron 73:Heron 73 MIDI 1 20:0", "Wren:port 24:0", "Wren:port 25:0"]
    )
    later = stable_names(
        "ALSA", ["Heron 73:Heron 73 MIDI 1 28:0", "Wren:port 32:0", "Wren:port 33:0"]
    )
    assert [n.shown for n in first] == [n.shown for n in later]
    assert len({n.shown for n in first}) == 3


def test_without_a_midi_system_the_list_says_so(monkeypatch):
    rtmidi = pytest.importorskip("rtmidi")

    def absent(*args):
        raise rtmidi.SystemError("none")

    monkeypatch.setattr(rtmidi, "MidiIn", absent)
    inputs = Inputs(StandIn(), (RealSystem("LINUX_ALSA"), RealSystem("UNIX_JACK")))
    change = inputs.refresh()
    assert not change.added and len(inputs.listing.inputs) == 1
    assert [("ALSA" in s, "JACK" in s) for s in inputs.listing.missing] == [
        (True, False),
        (False, True),
    ]


def test_an_input_that_is_gone_is_told():
    with pytest.raises(PortError, match="choose"):
        StandIn().open_input(PortName("ALSA", "x", "Gone"))
    with pytest.raises(PortError, match="Gone"):
        RealSystem("UNIX_JACK").open_input(PortName("JACK", "x", "Gone"))


def test_without_the_midi_library_one_sentence_says_how_to_get_it(monkeypatch):
    monkeypatch.setitem(sys.modules, "rtmidi", None)
    inputs = Inputs(StandIn(), (RealSystem("LINUX_ALSA"), RealSystem("UNIX_JACK")))
    inputs.refresh()
    (sentence,) = inputs.listing.missing
    assert "python-rtmidi" in sentence and len(inputs.listing.inputs) == 1
