"""The header: plan, scene stepper, undo and redo, go-to."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QMenu,
    QToolButton,
    QVBoxLayout,
)

from vastzone.app.actions import Actions
from vastzone.app.frame.dressed import dress
from vastzone.app.frame.elided import Elided
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, set_tip
from vastzone.app.theme.current import THEME
from vastzone.app.theme.icons import icon
from vastzone.core.say import say
from vastzone.desk.session import Desk


class Header(QFrame):
    """Everything about the plan as a whole."""

    def __init__(self, desk: Desk, actions: Actions) -> None:
        super().__init__()
        self._desk, self._actions = desk, actions
        self._icons: list[tuple[QToolButton | Button, str]] = []
        self.setObjectName("header")
        bound(self, "FixedHeight", 60)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(7)
        self.menu_button = self._tool("menu", say("Menu"), None)
        self.menu_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        row.addWidget(self.menu_button)
        row.addLayout(self._names(), 3)
        row.addWidget(self._tool("chevron-left", say("Previous scene"), "scene-back"))
        self.scene = Elided("scene")
        self.scene.setAlignment(Qt.AlignmentFlag.AlignCenter)
        row.addWidget(self.scene, 4)
        row.addWidget(self._tool("chevron-right", say("Next scene"), "scene-on"))
        row.addSpacing(6)
        for name, words, action in (
            ("undo-2", say("Undo"), "undo"),
            ("redo-2", say("Redo"), "redo"),
        ):
            row.addWidget(self._tool(name, words, action))
        self.lens = Button(say("As dialled"))
        self.lens.setCheckable(True)
        self.lens.setProperty("role", "lens")
        set_tip(self.lens, say("Everything as the devices hold it, not as planned (Ctrl+Shift+L)"))
        self.lens.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.lens.clicked.connect(lambda: actions.run("lens"))
        row.addWidget(self.lens)
        numbers = Button(say("Work out numbers"))
        numbers.setProperty("role", "primary")
        set_tip(numbers, say("Work out every number that the wishes need (Ctrl+Enter)"))
        numbers.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        numbers.clicked.connect(lambda: actions.run("numbers"))
        self.numbers = numbers
        row.addWidget(numbers)
        go = Button(say("Go to"))
        set_tip(go, say("Any key, part, scene, finding or action by typing (Ctrl+K)"))
        go.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        go.clicked.connect(lambda: actions.run("go-to"))
        go.setAccessibleName(say("Go to"))
        self.go = go
        self._icons.append((go, "search"))
        row.addWidget(go)
        self._theme = self._tool("moon", say("Stage or day theme"), "theme")
        row.addWidget(self._theme)
        for signal in (
            desk.plan_changed,
            desk.memory_changed,
            desk.scene_changed,
            desk.saved,
            desk.proved,
        ):
            signal.connect(self.refresh)
        THEME.changed.connect(self._restyle)
        self._restyle()
        self.refresh()

    def _names(self) -> QVBoxLayout:
        names = QVBoxLayout()
        names.setSpacing(0)
        self._plan, self._state = Elided("title"), Elided("muted")
        names.addWidget(self._plan)
        names.addWidget(self._state)
        return names

    def _tool(self, name: str, words: str, action: str | None) -> QToolButton:
        button = QToolButton()
        set_tip(button, words)
        button.setAccessibleName(words)
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._icons.append((button, name))
        if action is not None:
            button.clicked.connect(lambda: self._actions.run(action))
            setattr(self, f"_{action.replace('-', '_')}", button)
        return button

    def shorten(self, on: bool) -> None:
        """Leave out what the menu has too, where the window is narrow."""
        self._theme.setVisible(not on)
        self.go.setText("" if on else say("Go to"))
        self.numbers.setText(say("Numbers") if on else say("Work out numbers"))
        self.lens.setText(say("Dialled") if on else say("As dialled"))

    def set_menu(self, menu: QMenu) -> None:
        """The menu behind the first button."""
        self.menu_button.setMenu(menu)

    def _restyle(self) -> None:
        for button, name in self._icons:
            shown = "sun" if name == "moon" and THEME.name == "stage" else name
            button.setIcon(icon(shown, THEME.colours.ink, 20))

    def show_state(self) -> None:
        """Where the plan is kept, whether it has changed, how far the proof is."""
        desk = self._desk
        place = desk.path.name if desk.path else say("not saved yet")
        changed = say(" · changed") if desk.changed else ""
        proving = (
            say(" · proving {share:.0%}", share=desk.derivation.share)
            if desk.derivation.pending
            else ""
        )
        lens = say(" · as dialled") if desk.lens == "dialled" else ""
        self._state.show_text(f"{place}{changed}{proving}{lens}")

    def _show_lens(self, lens: str) -> None:
        """Everything looks different as dialled: the header says so."""
        self.lens.setChecked(lens == "dialled")
        dress(self, "lens", lens)

    def refresh(self) -> None:
        """Show the plan's name, whether it is saved, the scene, and what undo would do."""
        desk = self._desk
        self._plan.show_text(desk.plan.name)
        self._show_lens(desk.lens)
        self.show_state()
        scenes = desk.plan.scenes
        if desk.scene is None:
            self.scene.show_text(say("No scenes"))
        else:
            number = scenes.index(desk.scene) + 1
            self.scene.show_text(f"{number}  {desk.scene.name}")
        at = scenes.index(desk.scene) if desk.scene else 0
        self._scene_back.setEnabled(at > 0)  # type: ignore[attr-defined]
        self._scene_on.setEnabled(at < len(scenes) - 1)  # type: ignore[attr-defined]
        for label, button, word in (
            (desk.undo_label, self._undo, say("Undo")),  # type: ignore[attr-defined]
            (desk.redo_label, self._redo, say("Redo")),  # type: ignore[attr-defined]
        ):
            button.setEnabled(label is not None)
            set_tip(
                button, f"{word}: {label}" if label else say("Nothing to {word}", word=word.lower())
            )
