import os

import pytest
from PySide6.QtCore import QCoreApplication, QEvent

from vastzone import demo
from vastzone.app import dialogs
from vastzone.desk.session import EMPTY

if not os.environ.get("DISPLAY"):
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


@pytest.fixture
def window(qtbot, qapp, tmp_path):
    """The real window on the demo as found."""
    from vastzone.app.theme.current import THEME
    from vastzone.app.window import Window

    if qapp.style().objectName() != "fusion":
        qapp.setStyle("Fusion")
    THEME.use("day")
    opened = Window(tmp_path / "state")
    opened.fill()
    opened.resize(1280, 800)
    opened.show()
    opened.documents.open_path(demo.AS_FOUND, untitled=True)
    qtbot.waitExposed(opened)
    opened.desk.wake()
    yield opened
    opened.desk.load(EMPTY, None)
    opened.close()
    opened.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def told(monkeypatch):
    """The sentences that the window would have said."""
    sentences = []
    monkeypatch.setattr(dialogs, "tell", lambda parent, sentence: sentences.append(sentence))
    return sentences


@pytest.fixture(autouse=True)
def no_questions(monkeypatch):
    """A question that a test does not expect fails it instead of waiting for an answer."""

    def asked(*_):
        raise AssertionError("the window asked a question that the test did not expect")

    for name in dir(dialogs):
        if name.startswith("ask_") or name == "tell":
            monkeypatch.setattr(dialogs, name, asked)
