"""A line of the page Storing: many kits in a controller, or presets in its receiver."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import offer
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.variety import kits_in_controller, presets_in_receiver
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries.capabilities import has_pads
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say, say_many
from vastzone.core.solve.running_order import presses_in
from vastzone.desk.session import Desk


class VarietyLine(QWidget):
    """Pads and the part that they play; what either way costs, and a button for each."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._songs: tuple[str, ...] = ()
        self.pads, self.part = _combo(say("Pads of")), _combo(say("Part with a kit"))
        self.presets, self.kits = (
            Button(say("Presets in the receiver")),
            Button(say("Kits in the pads")),
        )
        set_tip(self.presets, say("The pads stay on one kit; the receiver has a preset for each"))
        set_tip(self.kits, say("The receiver stays as it is; the pads have a kit for each song"))
        self.words = quiet("")
        self.words.setWordWrap(True)
        self.presets.clicked.connect(lambda: self._take(in_receiver=True))
        self.kits.clicked.connect(lambda: self._take(in_receiver=False))
        self.pads.activated.connect(lambda _: self._tell())
        self.part.activated.connect(lambda _: self._tell())
        box, line = QVBoxLayout(self), QHBoxLayout()
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(4)
        line.addWidget(Label(say("Pads of")))
        line.addWidget(self.pads, 1)
        line.addWidget(Label(say("playing")))
        line.addWidget(self.part, 1)
        line.addWidget(self.presets)
        line.addWidget(self.kits)
        box.addLayout(line)
        box.addWidget(self.words)

    def show_songs(self, songs: tuple[str, ...]) -> None:
        """Show what there is to choose from, for an evening."""
        plan, self._songs = self._desk.plan, songs
        pads = [(d.name, d.id) for d in plan.devices if has_pads(d) and d.programs]
        parts = []
        for device in plan.devices:
            for part in device.parts:
                if part.kit is not None:
                    parts.append(
                        (
                            say("{part} of {device}", part=part.name, device=device.name),
                            ref_to(device.id, part.id),
                        )
                    )
        offer(self.pads, pads)
        offer(self.part, parts)
        self.setVisible(bool(pads and parts))
        self._tell()

    def _edit(self, plan: Plan, in_receiver: bool) -> Edit:
        """The change to one of both ways.  Raises EditError where it cannot be."""
        device, part = read_ref(str(self.part.currentData() or ""))
        change = presets_in_receiver if in_receiver else kits_in_controller
        return change(plan, str(self.pads.currentData()), device, part)

    def _tell(self) -> None:
        if not self.pads.count() or not self.part.count() or not self._songs:
            return
        plan = self._desk.plan
        now = presses_in(plan, self._songs)
        said = [
            say(
                "As it is, {presses} an evening.",
                presses=say_many("{count} press", "{count} presses", now),
            )
        ]
        for button, in_receiver, words in (
            (self.presets, True, say("With presets in the receiver")),
            (self.kits, False, say("With kits in the pads")),
        ):
            try:
                after = self._edit(plan, in_receiver).change(plan)
            except EditError as error:
                button.setEnabled(False)
                set_tip(button, str(error))
                continue
            button.setEnabled(after != plan)
            presses = presses_in(after, self._songs)
            said.append(f"{words} {presses}.")
        self.words.setText(" ".join(said))

    def _take(self, in_receiver: bool) -> None:
        self._perform(self._edit(self._desk.plan, in_receiver))


def _combo(name: str) -> QComboBox:
    combo = CalmCombo()
    combo.setAccessibleName(name)
    bound(combo, "MinimumWidth", 90)
    return combo
