"""What to do next in a plan that was begun from nothing; it leads, and locks nobody in."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtWidgets import QFrame, QHBoxLayout, QToolButton

from vastzone.app.frame.dressed import dress
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.core.cards.card import count
from vastzone.core.say import noted, say
from vastzone.desk.session import Desk


class Hint(NamedTuple):
    """A step: its words, where it is done, whether it is."""

    words: str
    view: str
    done: Callable[[Desk], bool]


def _plays(desk: Desk) -> bool:
    return any(
        device.keybeds or (device.controls and not device.parts) for device in desk.plan.devices
    )


def _sounds(desk: Desk) -> bool:
    return any(device.parts or device.targets for device in desk.plan.devices)


def _joined(desk: Desk) -> bool:
    return bool(desk.plan.cables)


def _wished(desk: Desk) -> bool:
    return bool(desk.plan.wishes)


def _worked_out(desk: Desk) -> bool:
    proof = desk.proof
    return bool(desk.plan.wishes) and proof is not None and proof.good


def _dialled(desk: Desk) -> bool:
    plan = desk.planned
    return _worked_out(desk) and not any(
        count(plan, desk.memory, device).steps for device in plan.devices
    )


HINTS = (
    Hint(say("Add what you play"), "rig", _plays),
    Hint(say("Add what sounds"), "rig", _sounds),
    Hint(say("Connect them"), "rig", _joined),
    Hint(say("Say what plays what"), "plays", _wished),
    Hint(say("Work out numbers"), "numbers", _worked_out),
    Hint(say("Dial the cards"), "cards", _dialled),
)


NEXT, DONE, LATER = noted("next"), noted("done"), noted("later")
"""The states of a hint, as the style sheet knows them."""


class Guide(QFrame):
    """The steps in a row, ticked as they are done; each goes to where it is done."""

    def __init__(self, desk: Desk, go: Callable[[str], object]) -> None:
        super().__init__()
        self._desk, self._go = desk, go
        self.wanted = False
        self.setObjectName("guide")
        self.setAccessibleName(say("What to do next"))
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 12, 5)
        row.setSpacing(2)
        self.buttons: list[Button] = []
        for n, hint in enumerate(HINTS):
            button = Button(f"{n + 1}  {hint.words}")
            button.setProperty("role", "hintstep")
            button.clicked.connect(lambda _=False, view=hint.view: self._go(view))
            self.buttons.append(button)
            row.addWidget(button)
        row.addStretch()
        self.close_button = QToolButton()
        self.close_button.setAccessibleName(say("Hide the guide"))
        set_tip(self.close_button, say("Hide the guide"))
        self.close_button.clicked.connect(self._dismiss)
        row.addWidget(self.close_button)
        for signal in (desk.plan_changed, desk.memory_changed, desk.proved, THEME.changed):
            signal.connect(self.refresh)
        self.refresh()

    def begin(self) -> None:
        """Lead from here on."""
        self.wanted = True
        self.refresh()

    def _dismiss(self) -> None:
        self.wanted = False
        self.refresh()

    def refresh(self) -> None:
        """Tick what is done and mark what is next."""
        self.setVisible(self.wanted)
        if not self.wanted:
            return
        colours = THEME.colours
        done = [hint.done(self._desk) for hint in HINTS]
        following = done.index(False) if False in done else -1
        self.close_button.setIcon(icon("x", colours.muted, 16))
        for n, button in enumerate(self.buttons):
            state = NEXT if n == following else DONE if done[n] else LATER
            button.setIcon(
                icon("circle-check", colours.good, 16)
                if done[n]
                else icon("arrow-right", colours.action if n == following else colours.muted, 16)
            )
            button.setText(HINTS[n].words)
            button.setAccessibleName(f"{HINTS[n].words}: {say(state)}")
            dress(button, "state", state)
