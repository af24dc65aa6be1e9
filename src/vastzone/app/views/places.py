"""The views in working order: how the rail shows each, what it counts, how it is built."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtWidgets import QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.rail import RailPlace
from vastzone.core.cards.card import count
from vastzone.core.proof.finding import Finding
from vastzone.core.proof.rules import View, view_of
from vastzone.core.say import say
from vastzone.desk.session import Desk

Go = Callable[[Finding], object]
Count = tuple[int, bool]


class ViewEntry(NamedTuple):
    """A view's place in the rail, and how many things it still has and whether one is a fault."""

    place: RailPlace
    tally: Callable[[Desk], Count]


def _leads_to(view: View) -> Callable[[Desk], Count]:
    """Counts what is seen best in a view: going to any of it leads there."""

    def count(desk: Desk) -> Count:
        every = {cause.finding.sentence: cause.finding for cause in desk.planned_causes}
        every |= {finding.sentence: finding for finding in desk.findings}
        findings = []
        for f in every.values():
            if view_of(desk.planned, f) == view:
                findings.append(f)
        return len(findings), any(f.severity == "fault" for f in findings)

    return count


def _plays(desk: Desk) -> Count:
    causes_here = []
    for cause in desk.planned_causes:
        if cause.weight:
            causes_here.append(cause)
    return len(causes_here), bool(causes_here)


def _prove(desk: Desk) -> Count:
    findings = []
    for cause in desk.planned_causes:
        if cause.finding.severity != "hint":
            findings.append(cause.finding)
    return len(findings), any(item.severity == "fault" for item in findings)


def _cards(desk: Desk) -> Count:
    return sum(count(desk.planned, desk.memory, d).steps for d in desk.planned.devices), False


PLACES = (
    ViewEntry(RailPlace("rig", say("Rig"), "cable"), _leads_to("rig")),
    ViewEntry(RailPlace("plays", say("Plays"), "grid-3x3"), _plays),
    ViewEntry(RailPlace("keys", say("Keys"), "piano"), _leads_to("keys")),
    ViewEntry(RailPlace("pads", say("Pads"), "layout-grid"), _leads_to("pads")),
    ViewEntry(RailPlace("pedals", say("Pedals"), "pedal"), _leads_to("pedals")),
    ViewEntry(RailPlace("console", say("Console"), "console"), _leads_to("console")),
    ViewEntry(RailPlace("scenes", say("Scenes"), "scenes"), _leads_to("scenes")),
    ViewEntry(RailPlace("outputs", say("Outputs"), "outputs"), _leads_to("outputs")),
    ViewEntry(RailPlace("prove", say("Prove"), "circle-check"), _prove),
    ViewEntry(RailPlace("cards", say("Cards"), "list-checks"), _cards),
)


def _rig(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.rig.view import RigView

    return RigView(desk, perform)


def _plays_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.plays.view import PlaysView

    return PlaysView(desk, perform)


def _pads_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.pads.view import PadsView

    return PadsView(desk, perform)


def _pedals_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.pedals.view import PedalsView

    return PedalsView(desk, perform)


def _console_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.console.view import ConsoleView

    return ConsoleView(desk, perform)


def _scenes_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.scenes.view import ScenesView

    return ScenesView(desk, perform)


def _outputs_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.outputs.view import OutputsView

    return OutputsView(desk, perform)


def _prove_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.prove.view import ProveView

    return ProveView(desk, perform, go)


def _cards_view(desk: Desk, perform: Performer, go: Go) -> QWidget:
    from vastzone.app.views.cards.view import CardsView

    return CardsView(desk, perform)


BUILDERS: dict[str, Callable[[Desk, Performer, Go], QWidget]] = {
    "rig": _rig,
    "plays": _plays_view,
    "pads": _pads_view,
    "pedals": _pedals_view,
    "console": _console_view,
    "scenes": _scenes_view,
    "outputs": _outputs_view,
    "prove": _prove_view,
    "cards": _cards_view,
}
