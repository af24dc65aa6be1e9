"""The window: the frame with the views in it."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QTimer
from PySide6.QtGui import QCloseEvent, QKeyEvent, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QMainWindow

from vastzone.core.say import say

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from vastzone.core.plan.edits.edit import Edit
    from vastzone.core.proof.finding import Finding


class Window(QMainWindow):
    """Header above, rail left, facts right, strip below, a view in the middle.

    It can be shown before it is filled, so that a person sees it at once: everything that takes
    time to load is loaded by ``fill``.
    """

    def __init__(self, folder: Path) -> None:
        super().__init__()
        self._folder = folder
        self.filled = False
        self.once_painted: Callable[[], None] | None = None
        self.setWindowTitle("Vast Zone")
        self._go_where_it_was()

    def _go_where_it_was(self) -> None:
        from vastzone.app.frame.placing import LEAST, first_place
        from vastzone.desk.preferences import load, place

        self._kept = load(place(self._folder))
        kept = self._kept[0]
        self.setMinimumSize(LEAST)
        screens = self.screen().virtualSiblings() if self.screen() else []
        free = [screen.availableGeometry() for screen in screens]
        self.setGeometry(first_place(free, kept.place))
        self.begins_large = kept.maximized

    def fill(self) -> None:
        """Load and build everything."""
        from vastzone.app import reader
        from vastzone.app.announce import Announcer
        from vastzone.app.documents import Documents
        from vastzone.app.garbage import Collector
        from vastzone.app.playing import Playing
        from vastzone.app.text_size import first_text
        from vastzone.app.theme import fonts
        from vastzone.app.theme.current import THEME
        from vastzone.app.typing_piano import TypingPiano
        from vastzone.desk.recovery import Autosave
        from vastzone.desk.session import Desk

        self._garbage = Collector(self, lambda: self.desk.pending or self.playing.busy)
        self.desk = Desk(Autosave(self._folder / "recovery"), self._folder / "devices")
        self.desk.asleep = True
        self.documents = Documents(self.desk, self, self._folder, self._kept)
        reader.install()
        fonts.load()
        THEME.use(
            self.documents.preferences.theme, first_text(self, self.documents.preferences.text)
        )
        THEME.changed.connect(self._dress)
        self._dress()
        self.playing = Playing(self.desk, self.tell, self)
        self._build()
        self._declare()
        self.actions_table.bind(self)
        self.piano = TypingPiano(self.desk, self)
        self.announcer = Announcer(self.desk, self)
        self.keys.canvas.paged.connect(self.piano.shift)
        self.keys.canvas.labels = self.piano.labels
        self.piano.relabelled.connect(self.keys.canvas.update)
        stage = self.desk.stage
        for signal in (self.desk.plan_changed, self.desk.selected, stage.sounding):
            signal.connect(self._garbage.note)
        self._pump = QTimer(self)
        self._pump.setInterval(0)
        self._pump.timeout.connect(self._work)
        for signal in (
            self.desk.plan_changed,
            self.desk.memory_changed,
            self.desk.scene_changed,
            self.desk.saved,
            self.desk.proved,
        ):
            signal.connect(self._refresh)
        self.desk.paced = True
        self.documents.begun.connect(self.begin)
        self._refresh()
        self.show_view("keys")
        self.keys.setFocus()
        self.filled = True
        self._fitting.fit()

    def _build(self) -> None:
        from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

        from vastzone.app.actions import Actions
        from vastzone.app.frame.drawer import Drawer
        from vastzone.app.frame.facts import Facts
        from vastzone.app.frame.fitting import Fitting
        from vastzone.app.frame.focus_ring import FocusRing
        from vastzone.app.frame.guide import Guide
        from vastzone.app.frame.header import Header
        from vastzone.app.frame.rail import Rail
        from vastzone.app.frame.strip import Strip
        from vastzone.app.frame.view_shelf import ViewShelf
        from vastzone.app.views.keys.view import KeysView
        from vastzone.app.views.places import PLACES

        self.actions_table = Actions()
        self._views: dict[str, QWidget] = {}
        self.header = Header(self.desk, self.actions_table)
        self.keys = KeysView(self.desk, self.playing, self.perform)
        self.rail = Rail(tuple(p.place for p in PLACES), self.show_view)
        self.views = ViewShelf()
        self._add_view("keys", self.keys)
        self.facts, self.strip = Facts(self.desk, self.wish), Strip(self.desk)
        self.facts.fold(self.documents.preferences.facts_folded)
        self.strip.fold(self.documents.preferences.strip_folded)
        self.facts.fold_wanted.connect(self.fold_facts)
        self.strip.fold_wanted.connect(self.fold_strip)
        self.guide = Guide(self.desk, self._follow_guide)
        self.drawer = Drawer(self.facts, self.views)
        self.drawer.handle.clicked.connect(self.fold_facts)
        self._fitting = Fitting(self, self.drawer, self.header, self.strip)
        self._fitting.wants_strip = lambda: not self.documents.preferences.strip_folded
        middle = QHBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.rail)
        middle.addWidget(self.views, 1)
        middle.addWidget(self.drawer)
        body = QWidget()
        box = QVBoxLayout(body)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self.header)
        box.addWidget(self.guide)
        box.addLayout(middle, 1)
        box.addWidget(self.strip)
        self.setCentralWidget(body)
        self.ring = FocusRing(self)

    def _add_view(self, ident: str, view: "QWidget") -> None:
        self._views[ident] = view
        self.views.add(view)

    def view(self, ident: str) -> "QWidget":
        """A view by its id, built when it is first wanted."""
        if ident not in self._views:
            from vastzone.app.views.places import BUILDERS

            self._add_view(ident, BUILDERS[ident](self.desk, self.perform, self.go_to_finding))
        return self._views[ident]

    def make_ready(self) -> None:
        """Load and build the other views while nobody does anything."""
        from vastzone.app.readying import Readying

        Readying(self, self.view, self._garbage.is_calm)

    def _follow_guide(self, where: str) -> None:
        if where == "numbers":
            self.work_out()
        else:
            self.show_view(where)

    def _declare(self) -> None:
        from vastzone.app.commands import Commands
        from vastzone.app.frame.menu import MainMenu

        self.actions_table.add(*Commands(self).actions())
        self.header.set_menu(MainMenu(self, self.actions_table, self.documents))

    def open_page(self, ident: str, page: str) -> None:
        """Show a page of a view; its first where none is named."""
        from vastzone.app.frame.pages import show_page_of

        self.show_view(ident)
        show_page_of(self.view(ident), page)

    def turn_page(self, steps: int) -> None:
        """To another page of the view that is shown; the focus goes along."""
        from vastzone.app.frame.pages import turn_page

        view = self.views.current
        turn_page(view, steps)
        self.views.begin_at_the_top()
        view.setFocus()

    def fold_facts(self) -> None:
        """Without facts, as long as nothing is selected; or with them."""
        if self.drawer.is_shut:
            self.drawer.pull(not self.drawer.is_out)
            return
        self.facts.fold(not self.facts.folded)
        self.documents.remember(facts_folded=self.facts.folded)

    def fold_strip(self) -> None:
        """The strip in one line, or whole."""
        self.strip.fold(not self.strip.folded)
        if not self._fitting.is_low:
            self.documents.remember(strip_folded=self.strip.folded)

    def show_view(self, ident: str) -> None:
        """Show a view."""
        self.views.show_view(self.view(ident))
        self.rail.show_place(ident)
        if self.filled:
            self.view(ident).setFocus()

    def go_to_finding(self, finding: "Finding") -> None:
        """Go to what a finding is about, in the view where it is seen best."""
        from vastzone.core.proof.rules import page_of, view_of

        self.facts.go_to(finding)
        plan = self.desk.plan
        self.open_page(view_of(plan, finding), page_of(plan, finding))

    def begin(self) -> None:
        """Lead a person who begins with an empty plan."""
        self.guide.begin()
        self.show_view("rig")

    def perform(self, edit: "Edit") -> None:
        """Apply an edit; say why not when it cannot be."""
        from vastzone.core.errors import PlanError

        try:
            self.desk.perform(edit)
        except PlanError as error:
            self.tell(str(error))

    def mend(self, edit: "Edit") -> None:
        """Apply what was worked out for the plan, whatever lens one looks through."""
        self.desk.look("planned")
        self.perform(edit)

    def tell(self, sentence: str) -> None:
        """Say one sentence."""
        from vastzone.app import dialogs

        dialogs.tell(self, sentence)

    def go_to(self) -> None:
        """Ask where to go."""
        from vastzone.app.frame.goto import GoTo

        GoTo(self, self.desk, self.actions_table, self.go_to_finding).show()

    def wish(self) -> None:
        """Ask what the things that are chosen shall play or move."""
        from vastzone.app.frame.wishing import WishFor, Wishing, places_of

        view = self.views.current
        places = view.wish_places() if isinstance(view, Wishing) else ()
        places = places or places_of(self.desk)
        if places:
            WishFor(self, self.desk, places, self.desk.perform).open()
        else:
            self.tell(say("Nothing to wish for is selected: choose keys or controls first."))

    def work_out(self) -> None:
        """Work out every number, preview what would change, apply it as one step."""
        from vastzone.app.frame.work_out import WorkOut

        WorkOut(self, self.desk, self.mend).open()

    def switch_lens(self) -> None:
        """Everything as planned, or as the devices hold it."""
        self.desk.look("dialled" if self.desk.lens == "planned" else "planned")

    def switch_theme(self) -> None:
        """The other theme."""
        from vastzone.app.theme.current import THEME

        name = "day" if THEME.name == "stage" else "stage"
        THEME.use(name)
        self.documents.remember(theme=name)

    def resize_text(self, steps: int) -> None:
        """So many steps larger, or smaller; 0 for the usual size."""
        from vastzone.app.text_size import resize_text

        resize_text(steps, lambda text: self.documents.remember(text=text))

    def _dress(self) -> None:
        from vastzone.app.frame.sized import bound_anew
        from vastzone.app.theme.current import THEME

        if self.filled:
            self.views.put_aside()
        THEME.dress(self)
        bound_anew(self)
        if self.filled:
            self._fitting.fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """What does not fit folds by itself."""
        super().resizeEvent(event)
        if self.filled:
            self._fitting.fit()

    def _refresh(self) -> None:
        from vastzone.app.frame.text import set_title
        from vastzone.app.views.places import PLACES

        desk = self.desk
        set_title(
            self,
            (
                say("• {plan} – Vast Zone", plan=desk.plan.name)
                if desk.changed
                else say("{plan} – Vast Zone", plan=desk.plan.name)
            ),
        )
        for place in PLACES:
            self.rail.buttons[place.place.ident].show_count(*place.tally(desk))
        if desk.pending:
            self._pump.start()

    def _work(self) -> None:
        """A slice of what is derived from a large plan."""
        from vastzone.app.jobs import SLICE

        self.desk.work(SLICE)
        self.header.show_state()
        if not self.desk.pending:
            self._pump.stop()
            self._garbage.set_aside()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Keys that no widget wanted: the piano, and Space for the MIDI file."""
        from PySide6.QtCore import Qt  # all its names take long to load before the first painting

        if not self.filled or self.piano.press(event) or self._by_place(event):
            return
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        if event.key() == Qt.Key.Key_Space and plain and not event.isAutoRepeat():
            self.actions_table.run("play")
        else:
            super().keyPressEvent(event)

    def _by_place(self, event: QKeyEvent) -> bool:
        """Shortcuts by the place of their key, where a layout writes something else there."""
        from PySide6.QtCore import Qt

        from vastzone.app.piano_places import digit_of, latin_of
        from vastzone.app.views.places import PLACES

        held = event.modifiers()
        if held == Qt.KeyboardModifier.AltModifier:
            digit = digit_of(event.nativeScanCode(), event.key())
            number = (digit - 1) % 10
            if digit >= 0 and number < len(PLACES):
                self.show_view(PLACES[number].place.ident)
                return True
        letter = latin_of(event.nativeScanCode(), event.key())
        if not letter or not held & Qt.KeyboardModifier.ControlModifier:
            return False
        shift = "Shift+" if held & Qt.KeyboardModifier.ShiftModifier else ""
        alt = "Alt+" if held & Qt.KeyboardModifier.AltModifier else ""
        return self.actions_table.run_keys(f"Ctrl+{alt}{shift}{letter}")

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        """Let a key of the piano go."""
        if not self.filled or not self.piano.release(event):
            super().keyReleaseEvent(event)

    def event(self, event: QEvent) -> bool:
        """Keys that are down when the window loses the hands are let go."""
        if self.filled and event.type() is QEvent.Type.WindowDeactivate:
            self.piano.let_go()
        return super().event(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Check the plan just after the first painting, so that the window is there at once."""
        super().paintEvent(event)
        if self.once_painted is not None:
            QTimer.singleShot(0, self.once_painted)
            self.once_painted = None
        elif self.filled and self.desk.asleep:
            QTimer.singleShot(0, self.desk.wake)

    def _remember_place(self) -> None:
        at = self.normalGeometry() if self.isMaximized() else self.geometry()
        place = (at.left(), at.top(), at.width(), at.height())
        self.documents.remember(place=place, maximized=self.isMaximized())

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask about unsaved work, then let everything go."""
        from vastzone.app.theme.current import THEME

        if not self.filled:
            return
        if not self.documents.may_leave():
            event.ignore()
            return
        self._remember_place()
        self.desk.close()
        self.playing.close()
        self.views.clear()
        THEME.changed.disconnect_all()
        self._garbage.close()
        event.accept()
