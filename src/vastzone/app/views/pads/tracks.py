"""The track list for a recorder: shown, and saved as CSV."""

from pathlib import Path

from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import row_of
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.core.cards.tracks import CHANNELS, to_csv, tracks
from vastzone.core.errors import WriteError
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.text import many
from vastzone.files.tables import write_table

COLUMNS = ("Track", "Name", "Channel", "Notes")


class TrackList(Dialog):
    """One line a drum."""

    def __init__(self, parent: QWidget, plan: Plan, owner: Device, program: Program) -> None:
        super().__init__(parent)
        set_title(self, "Track list")
        self.resize(720, 460)
        self.tracks = tracks(plan, owner, program)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        title = Label(f"{many(len(self.tracks), 'track')} of {owner.name}, {program.name}")
        title.setProperty("role", "title")
        title.setWordWrap(True)
        self.warning = quiet(self._shared())
        self.table = reading_table(COLUMNS, "Tracks")
        self.table.show_rows(
            row_of((str(number), track.name, ", ".join(map(str, track.channels)), track.words))
            for number, track in enumerate(self.tracks, 1)
        )
        self.table.horizontalHeader().setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        for column, wide in ((0, 60), (1, 170), (2, 80)):
            self.table.setColumnWidth(column, wide)
        for widget in (title, self.warning):
            box.addWidget(widget)
        box.addWidget(self.table, 1)
        self.said = quiet("")
        row = QHBoxLayout()
        row.addWidget(self.said, 1)
        save, close = Button("Save as CSV"), Button("Close")
        save.clicked.connect(self._ask)
        close.clicked.connect(self.reject)
        row.addWidget(save)
        row.addWidget(close)
        box.addLayout(row)

    def _shared(self) -> str:
        """Whether a recorder can tell the drums apart by channel."""
        channels: list[int] = []
        for track in self.tracks:
            channels.extend(track.channels)
        if len(self.tracks) > CHANNELS:
            return f"{len(self.tracks)} drums and {CHANNELS} channels: some have to share one."
        if len(set(channels)) < len(self.tracks):
            return (
                "Drums share channels: a recorder tells them apart by notes only. “A channel "
                "for each drum” changes that."
            )
        return "Each drum has a channel of its own."

    def _ask(self) -> None:
        path = dialogs.ask_save_table(self, "Save track list", "tracks.csv")
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Save as CSV; what went wrong is said below the table."""
        try:
            write_table(to_csv(self.tracks), path, "The track list")
        except WriteError as error:
            self.said.setText(str(error))
        else:
            self.said.setText(f"Saved: {path.name}")
