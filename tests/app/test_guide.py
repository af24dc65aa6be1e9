"""The guide of an empty plan, in whatever language."""

from gettext import NullTranslations

import pytest

from vastzone.core.say import speak
from vastzone.desk.session import EMPTY


class Shouting(NullTranslations):
    """A language in which every word is another."""

    def gettext(self, message):
        return message.upper()


@pytest.fixture
def shouting():
    speak(Shouting())
    yield
    speak(NullTranslations())


def test_the_step_that_is_next_looks_so_in_every_language(window, shouting):
    window.desk.load(EMPTY, None)
    window.guide.begin()
    states = [button.property("state") for button in window.guide.buttons]
    assert states[0] == "next"
    assert set(states) <= {"next", "done", "later"}, "the style sheet knows these"
    assert window.guide.buttons[0].accessibleName().endswith("NEXT")
