import gc
import os
from time import monotonic

import pytest
from PySide6.QtCore import QCoreApplication, QEvent
from pytestqt.exceptions import TimeoutError as NeverHappened
from pytestqt.qtbot import QtBot

from vastzone import demo
from vastzone.app import dialogs
from vastzone.core import cache
from vastzone.desk.session import EMPTY
from vastzone.files import native

if not os.environ.get("DISPLAY"):
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


class _Aside:
    """Collecting, but what the tests themselves have loaded is set aside once and for all."""

    freeze = unfreeze = staticmethod(lambda: None)

    def __getattr__(self, name):
        return getattr(gc, name)


class PatientBot(QtBot):
    """Looks less often at what takes longer: work beside the window gives way at every look."""

    def waitUntil(self, true, *, timeout=5000):
        end, pause = monotonic() + timeout / 1000, 10
        while not true():
            if monotonic() > end:
                raise NeverHappened(f"not within {timeout} ms")
            self.wait(pause)
            pause = min(60, pause + 5)


@pytest.fixture
def qtbot(qapp, request):
    return PatientBot(request)


@pytest.fixture(scope="session")
def loaded(qapp, tmp_path_factory):
    """A first window, so that what all of them need is there once.

    Everything is loaded by it, and no collection looks at it again: each test collects what its
    window leaves.  What is derived from the demo as found is kept for those that open it.
    """
    from vastzone.app import garbage
    from vastzone.app.window import Window

    data, rig, patch = (
        demo.AS_FOUND.read_bytes(),
        native.read_rig(demo.AS_FOUND),
        pytest.MonkeyPatch(),
    )
    read, forget_all = native.rig_from_json, cache.forget_all
    patch.setattr(native, "rig_from_json", lambda *given: rig if given[0] == data else read(*given))
    first = Window(tmp_path_factory.mktemp("first"))
    first.fill()
    first.documents.open_path(demo.AS_FOUND)
    first.desk.wake()
    kept = [(each, {**each.before, **each.lately}) for each in cache._every]

    def forget_others():
        forget_all()
        for each, entries in kept:
            each.before = dict(entries)

    patch.setattr(cache, "forget_all", forget_others)
    _close(first)
    del first
    gc.collect()
    gc.freeze()
    patch.setattr(garbage, "gc", _Aside())
    yield
    patch.undo()


def _close(window):
    window.desk.load(EMPTY, None)
    window.close()
    window.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def window(qtbot, qapp, loaded, tmp_path):
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
    _close(opened)


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
