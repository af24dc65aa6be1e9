"""What truly comes from a device is told apart from what is simulated."""

from tests.rigs import keyboard, module, part, rig, wish, zone
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.checks import checked_places
from vastzone.core.memory.rig import memory_of
from vastzone.core.midi.messages import Message
from vastzone.ports.base import Listing, PortName
from vastzone.ports.standin import StandIn
from vastzone.ports.watch import Change

from .hands import LEFT, show

BOARD = PortName("some system", "board 0", "Board")


class Wire:
    """An input on which a device just sent something."""

    name, lost = BOARD, False

    def __init__(self, messages):
        self.messages = messages

    def read(self):
        came, self.messages = self.messages, []
        return came

    def close(self):
        pass


class OneInput:
    """A machine with one real input."""

    def __init__(self, *messages):
        self.stand_in, self.wire = StandIn(), Wire(list(messages))
        self.listing = Listing((*self.stand_in.inputs().inputs, BOARD))

    def refresh(self):
        return Change((), ())

    def open(self, name):
        return self.wire if name == BOARD else self.stand_in.open_input(name)

    def close(self):
        self.wire.close()


def walk_through(window, qtbot, *messages):
    plan = rig(keyboard(zone()), module(part()), wishes=(wish("piano", "box:piano"),))
    window.desk.load(plan, None, memory=of_plan(plan))
    view = show(window, qtbot, "prove")
    view.show_page(1)
    qtbot.mouseClick(view.walk.begin_button, LEFT)
    window.playing.inputs = OneInput(*messages)
    window.playing.listen(BOARD)
    window.playing.step()
    walk = view.walk.walk
    window.playing.listen(None)
    board = window.desk.planned.devices[0]
    return walk.answers[0], checked_places(memory_of(window.desk.memory, board))


def test_a_real_strike_that_is_as_planned_is_checked(window, qtbot):
    answer, checked = walk_through(window, qtbot, Message("note_on", 0, 60, 90))
    assert answer.result == "pass" and answer.real
    assert "0-0/zone.all/channel" in checked


def test_a_real_strike_on_another_channel_fails_and_checks_no_channel(window, qtbot):
    answer, checked = walk_through(window, qtbot, Message("note_on", 4, 60, 90))
    assert answer.result == "fail" and answer.real and "ch 5" in answer.got
    assert "0-0/zone.all/channel" not in checked


def test_the_simulated_keyboard_is_not_real(window, qtbot):
    window.playing.inputs = OneInput()
    name = window.playing.inputs.stand_in.inputs().inputs[0]
    window.playing.listen(name)
    assert not window.playing.is_real
    window.playing.listen(BOARD)
    assert window.playing.is_real
    window.playing.listen(None)
    assert not window.playing.is_real
