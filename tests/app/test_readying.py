"""Views are made ready while nobody does anything."""

from vastzone.app import readying
from vastzone.app.views.places import PLACES


def test_views_are_ready_before_they_are_wanted(window, qtbot, monkeypatch):
    monkeypatch.setattr(readying, "STEP_MS", 1)
    calm, built = [], []

    def build(ident):
        built.append(ident)
        return window.view(ident)

    readying.Readying(window, build, lambda: bool(calm))
    qtbot.wait(50)
    assert not built, "hands go first"
    calm.append(True)
    qtbot.waitUntil(lambda: len(built) == len(PLACES), timeout=20_000)
    seen = [ident for ident in built if window.view(ident).isVisible()]
    assert seen == ["keys"]
    window.show_view("cards")
    assert window.view("cards").isVisible() and not window.keys.isVisible()
