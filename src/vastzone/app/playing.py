"""What plays without hands on the window: MIDI inputs and a MIDI file."""

from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer

from vastzone.app.clock import now_ms
from vastzone.app.jobs import BackgroundJob
from vastzone.app.typing_piano import chosen_bed
from vastzone.core.engine.tables import KeyId
from vastzone.core.engine.trace import Inlet, TraceEntry, control_for, last_of_each
from vastzone.core.errors import PlanError
from vastzone.core.midi.messages import Message
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_ref, ref_to
from vastzone.core.progress import Progress
from vastzone.core.say import say
from vastzone.desk.session import Desk
from vastzone.desk.signal import Signal
from vastzone.desk.song import SongPlayer
from vastzone.files.midi_file import Song, SongReader
from vastzone.ports.base import Input, PortName

if TYPE_CHECKING:
    from vastzone.ports.watch import Inputs

FRAME_MS, LOOK_MS = 12, 500
CALM = 32
"""Messages in a frame up to which each strike is told of and shown."""
FLOOD_MS = 12.0
"""Milliseconds of a frame that a flood may take."""


class Playing(QObject):
    """Reads inputs and advances the song, a step every frame; listens only, never sends."""

    def __init__(self, desk: Desk, complain: Callable[[str], None], parent: QObject) -> None:
        super().__init__(parent)
        self.song_changed, self.inputs_changed = Signal("song changed"), Signal("inputs changed")
        self._desk, self._complain = desk, complain
        self.input: Input | None = None
        self.is_real = False
        """Whether what comes in is from a device, and not from the simulated keyboard."""
        self._inlet = Inlet()
        self._wanted = ""
        self._down: dict[tuple[int, int], KeyId] = {}
        self._pressed: set[KeyId] = set()
        self.song: SongPlayer | None = None
        self._reader: SongReader | None = None
        self._reading = BackgroundJob(self)
        self._reading.progressed.connect(lambda *_: self.song_changed.emit())
        self._frame, self._look = QTimer(self), QTimer(self)
        for timer, ms, run in (
            (self._frame, FRAME_MS, self.step),
            (self._look, LOOK_MS, self.look),
        ):
            timer.setInterval(ms)
            timer.timeout.connect(run)

    @cached_property
    def inputs(self) -> "Inputs":
        """The inputs of the machine, looked for when first wanted."""
        from vastzone.ports.watch import all_inputs

        return all_inputs()

    def look(self) -> None:
        """See what has been plugged in and unplugged; what was listened to is found again."""
        self._look.start()
        change = self.inputs.refresh()
        if self.input is not None and self.input.name in change.removed:
            name = self.input.name.shown
            self._close_input()
            self._desk.stage.stray(
                say("“{name}” is gone. It is listened to again when it is back.", name=name)
            )
        back = [name for name in change.added if name.shown == self._wanted]
        if self.input is None and back:
            self._open_input(back[0])
            self._desk.stage.stray(say("“{shown}” is back.", shown=back[0].shown))
        if change.added or change.removed:
            self.inputs_changed.emit()

    def listen(self, name: PortName | None) -> None:
        """Listen to an input, or to none."""
        self._wanted = name.shown if name is not None else ""
        self._close_input()
        if name is not None:
            self._open_input(name)
        self.inputs_changed.emit()

    def _open_input(self, name: PortName) -> None:
        try:
            self.input = self.inputs.open(name)
            self.is_real = name not in self.inputs.stand_in.inputs().inputs
        except PlanError as error:
            self._complain(str(error))
        self._pace()

    def _close_input(self) -> None:
        """Close the input; what it held down is let go."""
        if self.input is not None:
            self.input.close()
            self.input = None
            self.is_real = False
        self._inlet = Inlet()
        self._let_go(now_ms())
        self._pace()

    def load_song(self, path: Path) -> None:
        """Read a MIDI file beside the window; it is ready to start when ``song_changed`` comes."""
        self.stop_loading()
        self._reader = SongReader(path)
        self._reading.start(partial(_read, self._reader), self._loaded)
        self.song_changed.emit()

    def stop_loading(self) -> None:
        """Give the reading up."""
        reader, self._reader = self._reader, None
        if reader is not None:
            reader.stop()
            self._reading.cancel()
            self.song_changed.emit()

    @property
    def busy(self) -> bool:
        """Whether something is played or read."""
        return self._frame.isActive() or self.loading

    @property
    def loading(self) -> bool:
        """Whether a file is being read."""
        return self._reader is not None

    @property
    def loaded_share(self) -> float:
        """How much of the file has been read, 0–1."""
        return self._reader.share if self._reader is not None else 1.0

    def entry(self) -> TraceEntry:
        """Where a song or an input enters: the keybed that is played."""
        device, keybed = read_ref(chosen_bed(self._desk))
        return TraceEntry(device, keybed)

    def start_or_stop(self) -> None:
        """Start the song, or hold it."""
        if self.song is None:
            return
        if self.song.playing:
            self.song.stop(now_ms())
        else:
            self.song.use(self._desk.stage.performance, self.entry())
            self.song.start(now_ms())
        self._pace()
        self._desk.stage.sounding.emit()
        self.song_changed.emit()

    def play_by_itself(self) -> None:
        """Let the simulated keyboard play, and listen to it; or stop it."""
        stand_in = self.inputs.stand_in
        if stand_in.keyboard.playing:
            stand_in.keyboard.stop()
        else:
            self.listen(stand_in.inputs().inputs[0])
            stand_in.keyboard.start(now_ms())
        self._pace()
        self.inputs_changed.emit()

    def _pace(self) -> None:
        wanted = self.input is not None or bool(self.song and self.song.playing)
        if wanted:
            self._frame.start()
        else:
            self._frame.stop()

    def step(self) -> None:
        """One frame: what came in, what the song has due."""
        now = now_ms()
        if self.input is not None:
            self.inputs.stand_in.keyboard.advance(now)
            self._read(self.input, now)
        if self.song is not None and self.song.playing:
            self._sing(self.song, now)

    def _read(self, source: Input, now: float) -> None:
        """Play what came in; in a flood only its last strike is shown, and the others counted."""
        messages = source.read()
        if source.lost:
            self._let_go(now)
        if len(messages) <= CALM:
            for message in messages:
                self._strike(message, now)
            return
        stage = self._desk.stage
        unshown = stage.unshown + len(messages) - 1
        with stage.together(unshown):
            self._play_all(messages, now)

    def _play_all(self, messages: list[Message], now: float) -> None:
        """Play as many as there is time for; of the rest, what each control comes to."""
        until, played = now_ms() + FLOOD_MS, 0
        for message in messages:
            if now_ms() > until:
                break
            self._strike(message, now, heard=played < CALM)
            played += 1
        for message in last_of_each(messages[played:]):
            self._strike(message, now, heard=False)

    def _loaded(self, read: Song | PlanError | None) -> None:
        self._reader = None
        if isinstance(read, Song):
            if self.song is not None:
                self.song.stop(now_ms())
            self.song = SongPlayer(read, self._desk.stage.performance, self.entry())
        self._pace()
        self.song_changed.emit()
        if isinstance(read, PlanError):
            self._complain(str(read))

    def _strike(self, message: Message, now: float, heard: bool = True) -> None:
        """Let a message strike what it belongs to; a release lets go what its strike struck."""
        stage, entry = self._desk.stage, self.entry()
        if heard:
            stage.heard.emit(message, now)
        stage.real = message if self.is_real else None
        self._play(message, entry, now)
        stage.real = None

    def _play(self, message: Message, entry: TraceEntry, now: float) -> None:
        stage = self._desk.stage
        if message.kind in ("note_on", "note_off"):
            self._release(message, now)
        if message.kind == "note_on":
            self._press(message, entry, now)
        elif message.kind != "note_off":
            moved = self._inlet.moved(stage.performance.compiled, entry.device, message)
            if moved is not None:
                self._moved_to(*moved, now)

    def _press(self, message: Message, entry: TraceEntry, now: float) -> None:
        """Strike a pad where pads are selected, else a key."""
        place = (message.channel, message.first)
        pad = self._pad_for(message)
        if pad is not None:
            self._moved_to(pad, message.second, now)
            self._down[place] = pad
        else:
            bed = ref_to(entry.device, entry.keybed)
            self._desk.stage.press(bed, message.first, message.second, now)
            self._down[place] = (bed, message.first)

    def _release(self, message: Message, now: float) -> None:
        """Let go what a note of this number struck, whatever is selected by now."""
        struck = self._down.pop((message.channel, message.first), None)
        if struck in self._pressed:
            self._moved_to(struck, 0, now)
        elif struck is not None:
            self._desk.stage.release(*struck, now)

    def _moved_to(self, control: KeyId, value: float, now: float) -> None:
        self._desk.stage.move(control, value, now)
        if value > 0:
            self._pressed.add(control)
        else:
            self._pressed.discard(control)

    def _pad_for(self, message: Message) -> KeyId | None:
        """The control that sends a note, where the selected device has no keys."""
        device = device_of(self._desk.selection)
        played = lookup.find(self._desk.plan.devices, device)
        if played is None or played.keybeds:
            return None
        return control_for(self._desk.stage.performance.compiled, device, message)

    def _let_go(self, now: float) -> None:
        """Let go all that an input holds: its releases may never come."""
        for control in list(self._pressed):
            self._moved_to(control, 0, now)
        for struck in list(self._down.values()):
            self._desk.stage.release(*struck, now)
        self._down.clear()

    def _sing(self, song: SongPlayer, now: float) -> None:
        due = song.advance(now)
        if due:
            self._desk.stage.tell_of(song.entry, due)
        if due or not song.playing:
            self._desk.stage.sounding.emit()
        if not song.playing:
            self._pace()
        self.song_changed.emit()

    def close(self) -> None:
        """Let everything go."""
        self._frame.stop()
        self._look.stop()
        self._wanted = ""
        self._close_input()
        self._frame.stop()
        if "inputs" in vars(self):
            self.inputs.close()
        self.stop_loading()


def _read(reader: SongReader, _: Progress) -> Song | PlanError:
    """The song, or the sentence why there is none."""
    try:
        return reader.run()
    except PlanError as error:
        return error
