"""The track list for a recorder: shown, and saved as CSV."""

from datetime import date
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
from vastzone.app.frame.text import Button, Label, set_tip, set_title
from vastzone.core.cards.tracks import CHANNELS, Track, to_csv, tracks
from vastzone.core.errors import WriteError
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.say import say, say_many
from vastzone.files.pad_sheet import to_pdf
from vastzone.files.tables import write_table

HEADS = (
    say("Track"),
    say("Drum"),
    say("Zone"),
    say("Kit"),
    say("Channel"),
    say("Message"),
    say("Sound"),
)
WIDTHS = (54, 130, 96, 110, 70, 96)


class TrackList(Dialog):
    """A line for every zone of every pad in every kit."""

    def __init__(self, parent: QWidget, plan: Plan, owner: Device) -> None:
        super().__init__(parent)
        set_title(self, say("Track list"))
        self.resize(820, 500)
        self._plan, self._owner = plan, owner
        self.tracks = tracks(plan, owner)
        box = QVBoxLayout(self)
        box.setContentsMargins(18, 16, 18, 14)
        box.setSpacing(10)
        count = max((track.number for track in self.tracks), default=0)
        title = Label(
            say(
                "{tracks} of {owner}",
                tracks=say_many("{count} track", "{count} tracks", count),
                owner=owner.name,
            )
        )
        title.setProperty("role", "title")
        title.setWordWrap(True)
        self.warning = quiet(self._shared())
        self.table = reading_table(HEADS, say("Tracks"))
        self.table.show_rows(row_of(_cells(track)) for track in self.tracks)
        last = len(HEADS) - 1
        self.table.horizontalHeader().setSectionResizeMode(last, QHeaderView.ResizeMode.Stretch)
        for column, wide in enumerate(WIDTHS):
            self.table.setColumnWidth(column, wide)
        for widget in (title, self.warning):
            box.addWidget(widget)
        box.addWidget(self.table, 1)
        self.said = quiet("")
        row = QHBoxLayout()
        row.addWidget(self.said, 1)
        sheet, save, close = (
            Button(say("Sheet of pads…")),
            Button(say("Save as CSV")),
            Button(say("Close")),
        )
        set_tip(
            sheet, say("Every pad where it lies, with its name, what it sends and what it sounds")
        )
        sheet.clicked.connect(self.show_sheet)
        save.clicked.connect(self._ask)
        close.clicked.connect(self.reject)
        row.addWidget(sheet)
        row.addWidget(save)
        row.addWidget(close)
        box.addLayout(row)

    def _shared(self) -> str:
        """Whether a recorder can tell the drums apart by channel."""
        drums: dict[int | None, set[int]] = {}
        for track in self.tracks:
            drums.setdefault(track.channel, set()).add(track.number)
        count = max((track.number for track in self.tracks), default=0)
        if count > CHANNELS:
            return say(
                "{count} drums and {channels} channels: some have to share one.",
                count=count,
                channels=CHANNELS,
            )
        if any(len(numbers) > 1 for numbers in drums.values()):
            return say(
                "Drums share channels: a recorder tells them apart by notes only. “A channel "
                "for each drum” changes that."
            )
        return say("Each drum has a channel of its own.")

    def show_sheet(self) -> None:
        """The pads on one sheet, to look at and print."""
        show_sheet(self, self._plan, self._owner)

    def _ask(self) -> None:
        path = dialogs.ask_save_table(self, say("Save track list"), "tracks.csv")
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Save as CSV; what went wrong is said below the table."""
        try:
            write_table(to_csv(self.tracks), path, say("The track list"))
        except WriteError as error:
            self.said.setText(str(error))
        else:
            self.said.setText(say("Saved: {path}", path=path.name))


def show_sheet(parent: QWidget, plan: Plan, owner: Device) -> None:
    """The sheet of pads in a preview, from which it is printed."""
    from vastzone.app.views.cards.preview import Preview

    sheet = to_pdf(plan, owner, date.today().isoformat())
    Preview(parent, say("Pads of {owner}", owner=owner.name), sheet).open()


def _cells(track: Track) -> tuple[str, ...]:
    channel = "" if track.channel is None else str(track.channel)
    return (
        str(track.number),
        track.drum,
        track.zone,
        track.kit,
        channel,
        track.words,
        track.sound,
    )
