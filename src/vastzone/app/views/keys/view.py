"""The Keys view: the canvas, the line about what is pointed at, and the song bar."""

from functools import partial

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QMenu,
    QScrollArea,
    QVBoxLayout,
)

from vastzone.app.applying import Performer
from vastzone.app.frame.stack import Stack
from vastzone.app.frame.text import Label, add_action
from vastzone.app.playing import Playing
from vastzone.app.views.base import View
from vastzone.app.views.keys.canvas import KeysCanvas, Pointed
from vastzone.app.views.keys.commands import ZoneCommands
from vastzone.app.views.keys.pointer import PointerLine
from vastzone.app.views.keys.song_bar import SongBar
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.desk.session import Desk

EMPTY = say("This plan has no keyboard yet.\nAdd one in Rig (Alt+1), or open a plan from the menu.")


class KeysView(View):
    """Every keybed to scale on one note axis."""

    def __init__(self, desk: Desk, playing: Playing, perform: Performer) -> None:
        super().__init__(desk)
        self._desk, self._perform = desk, perform
        self.commands = ZoneCommands(desk, perform, self)
        self.canvas = KeysCanvas(desk)
        self.pointer = PointerLine(desk)
        self.songs = SongBar(playing)
        self._scroll = QScrollArea()
        self._scroll.setObjectName("canvasScroll")
        self._scroll.setWidgetResizable(True)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setFrameShape(QFrame.Shape.NoFrame)
        self._scroll.setWidget(self.canvas)
        self._scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._empty = Label(EMPTY)
        self._empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._empty.setProperty("role", "muted")
        self._empty.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._stack = Stack()
        self._stack.add(self._scroll)
        self._stack.add(self._empty)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self._stack, 1)
        box.addWidget(self.pointer)
        box.addWidget(self.songs)
        self.canvas.pointed.connect(self.pointer.show_hit)
        self.canvas.menu_wanted.connect(self._menu)
        desk.stage.sounding.connect(self.canvas.refresh_lit)
        self.refresh()

    def refresh(self) -> None:
        """Show the plan as it is now."""
        has_keys = bool(lookup.keybeds(self._desk.plan))
        self._stack.show_at(0 if has_keys else 1)
        self.lead = self.canvas if has_keys else self._empty
        self.canvas.rebuild()
        self.pointer.show_hit(None)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Let the keys fill the height."""
        super().resizeEvent(event)
        if self.isVisible():
            self.refresh()

    def _menu(self, hit: Pointed, place: QPoint) -> None:
        """What can be done at a key or zone."""
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        for label, edit in self.commands.offers(hit):
            add_action(menu, label, partial(self._perform, edit))
        if menu.isEmpty():
            add_action(menu, say("Nothing to change here")).setEnabled(False)
        menu.popup(place)
