"""The views in working order: how the rail shows each, what it counts, how it is built."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtWidgets import QWidget

from vastzone.app.frame.rail import Place
from vastzone.app.perform import Performer
from vastzone.core.cards.card import PENDING
from vastzone.core.plan.model import Plan
from vastzone.core.proof.finding import Finding
from vastzone.desk.session import Desk

RIG_RULES = frozenset(("connected twice", "local control", "thru ring", "no way there"))
KEY_RULES = frozenset(
    (
        "dead keys",
        "keys that double",
        "parts on one channel",
        "unheard zone",
        "part nobody reaches",
        "outside part",
        "octave naming",
        "outside 0–127",
        "reserved controller",
    )
)
PAD_RULES = frozenset(
    (
        "more pads than inputs",
        "pad in no input",
        "zone lost",
        "splitter broken",
        "modes that do not fit",
        "sound not in kit",
        "two pads on one note",
        "pad outside the kit",
        "pads double keys",
        "mute group alone",
        "rhythm not on 10",
        "channel 10 not rhythm",
        "layer hole",
        "layers together",
        "mute group one-sided",
        "zones linked",
        "hi-hat thresholds",
        "stroke not heard",
        "kit moves sounds",
        "more sounds than pads",
        "note without an end",
    )
)
PEDAL_RULES = frozenset(
    (
        "pedal half works",
        "wrong jack",
        "over-range voltage",
        "pedal in no jack",
        "two controls on one number",
        "step too coarse",
        "switch on a sweep",
        "sweep on a switch",
        "controller",
        "controller channel",
        "controls fight",
        "standard meaning misused",
        "bend ranges disagree",
        "dead slot",
        "half of a pair",
        "low bits used elsewhere",
        "above its ceiling",
        "more targets than slots",
        "held across a scene",
        "pedal holds at rest",
    )
)
CONSOLE_RULES = frozenset(
    (
        "too few pins",
        "too many keyboards",
        "pin used twice",
        "pins not assigned",
        "no diodes",
        "mixed diode sense",
        "wrong diode sense",
        "lowest note outside",
        "declared from the wrong note",
        "keyboards on one channel",
        "shoe range narrow",
        "shoe chatters",
        "shoe track",
        "shoe without input",
        "scan slow",
        "toggle from a held tab",
        "console fault",
        "seen otherwise",
    )
)
ON_PAGE: dict[tuple[str, int], frozenset[str]] = {
    ("pads", 1): frozenset(
        (
            "more pads than inputs",
            "pad in no input",
            "zone lost",
            "splitter broken",
            "modes that do not fit",
            "stroke not heard",
            "zones linked",
            "hi-hat thresholds",
        )
    ),
    ("pedals", 1): frozenset(
        (
            "pedal half works",
            "wrong jack",
            "over-range voltage",
            "pedal in no jack",
        )
    ),
    ("pedals", 5): frozenset(("above its ceiling",)),
    ("pedals", 6): frozenset(("two controls on one number", "more targets than slots")),
    ("console", 1): frozenset(
        (
            "too few pins",
            "too many keyboards",
            "pin used twice",
            "pins not assigned",
            "lowest note outside",
            "declared from the wrong note",
        )
    ),
    ("console", 3): frozenset(("seen otherwise",)),
}
"""Findings that are seen best on another page of their view than its first."""
Go = Callable[[Finding], object]
Count = tuple[int, bool]


class Entry(NamedTuple):
    """A view's place in the rail, and how many things it still has and whether one is a fault."""

    place: Place
    tally: Callable[[Desk], Count]


def _ruled(rules: frozenset[str]) -> Callable[[Desk], Count]:
    def count(desk: Desk) -> Count:
        found = {c.finding.sentence: c.finding for c in desk.causes if c.finding.rule in rules}
        found |= {f.sentence: f for f in desk.findings if f.rule in rules}
        return len(found), any(f.severity == "fault" for f in found.values())

    return count


def _plays(desk: Desk) -> Count:
    held = [c for c in desk.causes if c.weight]
    return len(held), bool(held)


def _prove(desk: Desk) -> Count:
    held = [c.finding for c in desk.causes if c.finding.severity != "hint"]
    return len(held), any(f.severity == "fault" for f in held)


def _cards(desk: Desk) -> Count:
    return sum(s.state in PENDING for s in desk.plan.settings), False


PLACES = (
    Entry(Place("rig", "Rig", "cable"), _ruled(RIG_RULES)),
    Entry(Place("plays", "Plays", "grid-3x3"), _plays),
    Entry(Place("keys", "Keys", "piano"), _ruled(KEY_RULES)),
    Entry(Place("pads", "Pads", "layout-grid"), _ruled(PAD_RULES)),
    Entry(Place("pedals", "Pedals", "pedal"), _ruled(PEDAL_RULES)),
    Entry(Place("console", "Console", "console"), _ruled(CONSOLE_RULES)),
    Entry(Place("prove", "Prove", "circle-check"), _prove),
    Entry(Place("cards", "Cards", "list-checks"), _cards),
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
    "prove": _prove_view,
    "cards": _cards_view,
}


def page_of(view: str, finding: Finding) -> int:
    """The page of a view on which a finding is seen best; 0 is the first."""
    return next(
        (
            page
            for (place, page), rules in ON_PAGE.items()
            if place == view and finding.rule in rules
        ),
        0,
    )


def view_of(plan: Plan, finding: Finding) -> str:
    """The view in which a finding is seen best."""
    if finding.rule in RIG_RULES:
        return "rig"
    if finding.rule in CONSOLE_RULES:
        return "console"
    pads = {f"{d.id}:{c.id}" for d in plan.devices for c in d.controls if c.kind == "pad"}
    if finding.subjects[0] in pads or finding.rule in PAD_RULES:
        return "pads"
    controls = {f"{d.id}:{c.id}" for d in plan.devices for c in d.controls}
    if finding.subjects[0] in controls or finding.rule in PEDAL_RULES:
        return "pedals"
    return "keys"
