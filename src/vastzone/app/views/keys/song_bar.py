"""A MIDI file, or an input, played through the plan."""

from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QSlider,
    QToolButton,
)

from vastzone.app import dialogs
from vastzone.app.clock import now_ms
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.rows import Cell, Rows, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, Label, set_tip
from vastzone.app.playing import Playing
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.core.say import say
from vastzone.desk.song import SongPlayer
from vastzone.ports.base import PortName

NO_INPUT = say("No MIDI input")
LOOK_AFTER_MS = 300


class SongBar(QFrame):
    """File, start and stop, position; the input listened to."""

    def __init__(self, playing: Playing) -> None:
        super().__init__()
        self._playing = playing
        bound(self, "FixedHeight", 44)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 4, 16, 6)
        row.setSpacing(8)
        self.file = Button(say("Play a MIDI file…"))
        self.file.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.file.clicked.connect(self.choose)
        self.start = QToolButton()
        self.start.setAccessibleName(say("Start or stop the MIDI file"))
        self.start.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.start.clicked.connect(self._start_or_stop)
        self.position = QSlider(Qt.Orientation.Horizontal)
        self.position.setRange(0, 1000)
        self.position.setAccessibleName(say("Position in the MIDI file"))
        self.position.sliderMoved.connect(self._seek)
        self.time = Label("")
        bound(self.time, "MinimumWidth", 92)
        self.input, self._inputs = CalmCombo(), Rows(parent=self)
        self.input.setModel(self._inputs)
        bound(self.input, "MinimumWidth", 210)
        self.input.setAccessibleName(say("MIDI input listened to"))
        self.input.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.input.activated.connect(self._listen)
        self.alone = QToolButton()
        self.alone.setCheckable(True)
        set_tip(self.alone, say("Let the simulated keyboard play by itself"))
        self.alone.setAccessibleName(say("Simulated keyboard plays by itself"))
        self.alone.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.alone.clicked.connect(lambda: playing.play_by_itself())
        row.addWidget(self.file)
        row.addWidget(self.start)
        row.addWidget(self.position, 1)
        row.addWidget(self.time)
        row.addStretch(0)
        row.addWidget(self.input)
        row.addWidget(self.alone)
        playing.song_changed.connect(self._show_song)
        playing.inputs_changed.connect(self._show_inputs)
        THEME.changed.connect(self._restyle)
        self._inputs.show_rows([row_of((NO_INPUT,), None)])
        self._restyle()

    def showEvent(self, event: object) -> None:
        """Look for inputs once the window is up."""
        QTimer.singleShot(LOOK_AFTER_MS, self._look)

    def _look(self) -> None:
        self._playing.look()
        self._show_inputs()

    def choose(self) -> None:
        """Ask for a file and read it."""
        path = dialogs.ask_midi_file(self)
        if path is not None:
            self.load(path)

    def load(self, path: Path) -> None:
        """Read a file."""
        self._playing.load_song(path)

    def _restyle(self) -> None:
        self.alone.setIcon(icon("piano", THEME.colours.ink, 18))
        self.file.setIcon(icon("file-music", THEME.colours.ink, 18))
        self._show_song()

    def _show_song(self) -> None:
        song = self._playing.song
        self.start.setVisible(song is not None or self._playing.loading)
        self.position.setVisible(song is not None and not self._playing.loading)
        if self._playing.loading:
            self._sign("x", say("Stop reading"))
            self.time.setText(
                say("Reading {loaded_share:.0%}", loaded_share=self._playing.loaded_share)
            )
        elif song is None:
            self.time.setText("")
        else:
            self._show_position(song)

    def _sign(self, name: str, words: str) -> None:
        """What the button beside the file does."""
        self.start.setIcon(icon(name, THEME.colours.ink, 18))
        set_tip(self.start, words)

    def _show_position(self, song: SongPlayer) -> None:
        if song.playing:
            self._sign("square", say("Stop"))
        else:
            self._sign("play", say("Start"))
        name = song.song.name
        self.file.setText(name if len(name) < 28 else name[:26] + "…")
        whole = max(1.0, song.song.length_ms)
        if not self.position.isSliderDown():
            self.position.setValue(round(1000 * song.position_ms / whole))
        self.time.setText(f"{_clock(song.position_ms)} / {_clock(song.song.length_ms)}")

    def _start_or_stop(self) -> None:
        if self._playing.loading:
            self._playing.stop_loading()
        else:
            self._playing.start_or_stop()

    def _seek(self, value: int) -> None:
        song = self._playing.song
        if song is not None:
            song.seek(song.song.length_ms * value / 1000, now_ms())
            self._show_song()

    def _show_inputs(self) -> None:
        listing, chosen = self._playing.inputs.listing, self._playing.input
        rows = [row_of((NO_INPUT,), None)]
        rows += [row_of((name.shown,), name) for name in listing.inputs]
        rows += [row_of((Cell(sentence, heading=True),), None) for sentence in listing.missing]
        self._inputs.show_rows(rows)
        names = [row.ref for row in rows]
        at = names.index(chosen.name) if chosen is not None and chosen.name in names else 0
        self.input.setCurrentIndex(at)
        self.alone.setChecked(self._playing.inputs.stand_in.keyboard.playing)

    def _listen(self, index: int) -> None:
        name = self.input.itemData(index)
        self._playing.listen(name if isinstance(name, PortName) else None)


def _clock(ms: float) -> str:
    seconds = int(ms // 1000)
    return f"{seconds // 60}:{seconds % 60:02}"
