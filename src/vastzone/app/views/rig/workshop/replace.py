"""A device replaced by another, or brought up to date: what that does is shown before."""

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QCheckBox, QWidget

from vastzone.app.applying import Performer
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell
from vastzone.app.frame.table import RowList
from vastzone.app.frame.text import Button
from vastzone.app.theme.current import THEME
from vastzone.app.theme.fonts import bold
from vastzone.core.describe.replacing import Replacing, differences
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say, say_many


class AskReplace(Dialog):
    """What is otherwise, what is lost, who could stand in; then the two answers."""

    def __init__(
        self,
        parent: QWidget,
        old: Device,
        new: Device,
        make: Callable[[bool], Replacing],
        go: Performer,
    ) -> None:
        super().__init__(parent)
        self._old, self._new, self._make, self._go = old, new, make, go
        replacing = self.replacing = make(False)
        box = self.begin(replacing.edit.label, replacing.edit.label, 640, 520)
        self.said = quiet("")
        box.addWidget(self.said)
        self.list = RowList(say("What it does"))
        self.list.wrap()
        box.addWidget(self.list, 1)
        self.stand_in = QCheckBox(say("Let what could stand in do so"))
        self.stand_in.setVisible(bool(replacing.stand_ins))
        self.stand_in.toggled.connect(lambda _: self._show())
        box.addWidget(self.stand_in)
        self.take = Button(say("Go on"))
        self.take.clicked.connect(self._take)
        self.answers(box, say("Leave it as it is"), self.take)

        self._show()

    def _show(self) -> None:
        replacing = self.replacing = self._make(self.stand_in.isChecked())
        fits = say_many("{count} thing", "{count} things", replacing.fits)
        self.said.setText(
            say(
                "{fits} of {old} have their like in it and move over.",
                fits=fits,
                old=self._old.name,
            )
        )
        lines: list[tuple[str | Cell, str]] = []
        for heading, sentences in (
            (say("Would be lost"), replacing.lost),
            (say("Could stand in"), replacing.stand_ins),
            (say("Is otherwise"), differences(self._old, self._new)),
        ):
            lines += _lines(heading, sentences)
        self.list.show_lines(lines or [(say("Nothing is otherwise."), "")])

    def _take(self) -> None:
        self.accept()
        self._go(self.replacing.edit)


def _lines(heading: str, sentences: Sequence[str]) -> list[tuple[str | Cell, str]]:
    if not sentences:
        return []
    colours = THEME.colours
    face = bold(colours.text_px - 1)
    words = f"{heading} ({len(sentences)})"
    lines: list[tuple[str | Cell, str]] = [
        (Cell(words, face=face, colour=colours.muted, heading=True), "")
    ]
    lines.extend((sentence, sentence) for sentence in sentences)
    return lines
