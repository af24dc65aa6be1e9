"""The page Evening: a set list as a ribbon, to be put in order, read, written and printed."""

from datetime import date
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QMenu, QScrollArea, QVBoxLayout, QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.calm_combo import CalmCombo
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.fields import choose, offer
from vastzone.app.frame.sheets_song import SONG
from vastzone.app.frame.sized import bound
from vastzone.app.frame.text import Button, add_action, set_tip
from vastzone.app.views.scenes.ribbon import Ribbon
from vastzone.core.cards.setlist import SongRow, begins_words, rows_of, step_words
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits import setlists
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.setlists import SetList, SetStep
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.core.setlist.costs import cost_matrix
from vastzone.core.solve.running_order import presses_in
from vastzone.core.text import listed
from vastzone.desk.session import Desk
from vastzone.files.setlist_files import read_setlist, write_setlist

MINUTES = 15


class EveningPage(QWidget):
    """The ribbon of one set list; another is chosen above it."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._ident = ""
        self.lists = CalmCombo()
        self.lists.setAccessibleName(say("Set list"))
        bound(self.lists, "MinimumWidth", 150)
        self.lists.activated.connect(lambda _: self._choose_list())
        self.ribbon = Ribbon(self._cost_of)
        self.ribbon.chosen.connect(self._go_to)
        self.ribbon.moved.connect(self._move)
        self.ribbon.removed.connect(self._remove)
        self.add, self.more = Button(say("Add")), Button(say("Set list"))
        self.add.setMenu(QMenu(self))
        self.more.setMenu(QMenu(self))
        self.print = Button(say("Print"))
        set_tip(self.print, say("The evening on a sheet, then a sheet for each song"))
        self.print.clicked.connect(self.show_sheet)
        self.said = quiet("")
        self.said.setWordWrap(True)
        room = QScrollArea()
        room.setObjectName("canvasScroll")
        room.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        room.setWidgetResizable(True)
        room.setFrameShape(QFrame.Shape.NoFrame)
        room.setWidget(self.ribbon)
        self._room = room
        box, line = QVBoxLayout(self), QHBoxLayout()
        box.setContentsMargins(0, 0, 0, 8)
        box.setSpacing(6)
        line.setContentsMargins(14, 0, 14, 0)
        line.setSpacing(7)
        for widget in (self.lists, self.add, self.more, self.print):
            line.addWidget(widget)
        line.addStretch()
        below = QHBoxLayout()
        below.setContentsMargins(16, 0, 14, 0)
        below.addWidget(self.said, 1)
        box.addLayout(line)
        box.addWidget(room, 1)
        box.addLayout(below)

    @property
    def setlist(self) -> SetList | None:
        """The set list that is shown; all songs in their order where there is none."""
        plan = self._desk.plan
        one = lookup.find(plan.setlists, self._ident) or next(iter(plan.setlists), None)
        if one is None and plan.scenes:
            steps = tuple(SetStep(scene=scene.id) for scene in plan.scenes)
            return SetList(id="all", name=say("All songs"), steps=steps)
        return one

    @property
    def is_kept(self) -> bool:
        """Whether it stands in the plan, and is not just all songs."""
        return bool(self._desk.plan.setlists)

    def refresh(self) -> None:
        """Show the evening as it is now."""
        plan, one = self._desk.plan, self.setlist
        if one is None:
            return
        names = [(each.name, each.id) for each in plan.setlists] or [(one.name, one.id)]
        offer(self.lists, names)
        choose(self.lists, one.id)
        rows = rows_of(plan, one)
        current = self._desk.scene.id if self._desk.scene is not None else ""
        self.ribbon.show_rows(
            rows,
            lambda step: step_words(plan, step),
            current,
            lambda row: begins_words(plan, row),
        )
        self._offer(plan)
        self.said.setText(self._words(plan, one, rows))

    def _words(self, plan: Plan, one: SetList, rows: tuple[SongRow, ...]) -> str:
        total = presses_in(plan, one.played) if one.played else 0
        said = say(
            "{songs}, {presses} between them.",
            songs=say_many("{count} song", "{count} songs", len(one.played)),
            presses=say_many("{count} press", "{count} presses", total),
        )
        dear = max(rows, key=_seconds, default=None)
        if dear is not None and _seconds(dear) > 0:
            said += say(
                " Dearest: to {dear}, about {seconds:.1f} s.",
                dear=dear.title,
                seconds=_seconds(dear),
            )
        seamless = [r.title for r in rows[1:] if r.scene and not any(g.is_heard for g in r.heard)]
        if seamless:
            said += say(
                " Nothing is heard of the change to {seamless}.", seamless=listed(seamless, 3)
            )
        return said

    def _offer(self, plan: Plan) -> None:
        menu = self.add.menu()
        menu.clear()
        for scene in plan.scenes:
            add_action(menu, scene.name, partial(self._put, SetStep(scene=scene.id)))
        menu.addSeparator()
        add_action(menu, say("A break"), lambda: self._put(SetStep(minutes=MINUTES)))
        more = self.more.menu()
        more.clear()
        add_action(more, say("New, of all songs"), self._new)
        add_action(more, say("From a file …"), self._ask_read)
        add_action(more, say("Write to a file …"), self._ask_write)
        if self.is_kept:
            add_action(more, say("Chosen song is a spare, or not"), self._spare)
            add_action(more, say("Take the chosen song out"), lambda: self._remove(self.ribbon.at))
            add_action(more, say("Remove this set list"), self._remove_list)

    def _choose_list(self) -> None:
        self._ident = str(self.lists.currentData() or "")
        self.refresh()

    def _kept(self, edit: Edit) -> Edit:
        """An edit of the set list; all songs become one first where there is none."""
        one = self.setlist
        if self.is_kept or one is None:
            return edit
        begin = setlists.add_setlist(one.name)
        return Edit(edit.label, lambda plan: edit.change(begin.change(plan)))

    def _ident_kept(self) -> str:
        """The id that the set list has, or will have once it is kept."""
        one = self.setlist
        if one is None:
            return ""
        return one.id if self.is_kept else lookup.free_id(set(), one.name)

    def _put(self, step: SetStep) -> None:
        place = self.ribbon.at + 1 if self.ribbon.rows else 0
        self._perform(self._kept(setlists.put_step(self._ident_kept(), place, step)))

    def _move(self, place: int, to: int) -> None:
        self._perform(self._kept(setlists.move_step(self._ident_kept(), place, to)))

    def _remove(self, place: int) -> None:
        if self.setlist is not None and place < len(self.setlist.steps):
            self._perform(self._kept(setlists.drop_step(self._ident_kept(), place)))

    def _spare(self) -> None:
        one, at = self.setlist, self.ribbon.at
        if one is None or at >= len(one.steps):
            return
        steps = list(one.steps)
        old = steps[at]
        steps[at] = SetStep(scene=old.scene, spare=not old.spare, minutes=old.minutes)
        self._perform(setlists.set_steps(one.id, say("Change a spare song"), steps))

    def _new(self) -> None:
        names = {each.name for each in self._desk.plan.setlists}
        number = 1
        while f"Evening {number}" in names:
            number += 1
        self._perform(setlists.add_setlist(say("Evening {number}", number=number)))
        self._ident = self._desk.plan.setlists[-1].id
        self.refresh()

    def _remove_list(self) -> None:
        if self.setlist is not None and self.is_kept:
            self._perform(setlists.remove_setlist(self.setlist.id))

    def _go_to(self, place: int) -> None:
        row = self.ribbon.rows[place].row
        rect = self.ribbon.rows[place].rect
        self._room.ensureVisible(0, round(rect.center().y()), 0, round(rect.height()))
        if row.scene is not None:
            self._desk.select(f"{SONG}{row.scene.id}")
            self._desk.go_to_scene(row.scene.id)

    def _cost_of(self, place: int, to: int) -> str:
        """What the evening would cost with a song at another place."""
        plan, one = self._desk.plan, self.setlist
        if one is None:
            return ""
        steps = list(one.steps)
        steps.insert(to, steps.pop(place))
        now, then = one.played, SetList(id="x", name="x", steps=tuple(steps)).played
        cost_matrix(plan, tuple(dict.fromkeys(now)))
        before, after = presses_in(plan, now), presses_in(plan, then)
        if before == after:
            return say(
                "{presses}, as now", presses=say_many("{count} press", "{count} presses", after)
            )
        return say(
            "{presses}, {after:+} of now",
            presses=say_many("{count} press", "{count} presses", after),
            after=after - before,
        )

    def _ask_read(self) -> None:
        path = dialogs.ask_setlist(self)
        if path is not None:
            self.read(path)

    def read(self, path: Path) -> None:
        """Songs from a file; what went wrong is said below."""
        begin = None if self.is_kept else setlists.add_setlist(say("Evening 1"), ())
        plan = self._desk.plan if begin is None else begin.change(self._desk.plan)
        one = plan.setlists[-1] if begin is not None else self.setlist
        if one is None:
            return
        try:
            found = read_setlist(plan, one.id, path)
        except PlanError as error:
            self.said.setText(str(error))
            return
        self._perform(Edit(say("Set list from {path}", path=path.name)[:80], lambda _: found.plan))
        said = say(
            "{songs} from {path}.",
            songs=say_many("{count} new song", "{count} new songs", len(found.new)),
            path=path.name,
        )
        if found.alike:
            said += say(
                " Several songs are called {alike}: the first was taken.",
                alike=listed(found.alike, 3),
            )
        self.said.setText(said)

    def _ask_write(self) -> None:
        path = dialogs.ask_save_setlist(self, "setlist.csv")
        if path is not None:
            self.write(path)

    def write(self, path: Path) -> None:
        """Write the set list as .csv, .txt or .mid; what went wrong is said below."""
        one = self.setlist
        if one is None:
            return
        try:
            write_setlist(self._desk.plan, one, path)
        except PlanError as error:
            self.said.setText(str(error))
        else:
            self.said.setText(say("Saved: {path}", path=path.name))

    def show_sheet(self) -> None:
        """The evening on paper, in a preview from which it is printed."""
        from vastzone.app.views.cards.preview import Preview
        from vastzone.files.setlist_sheet import to_pdf

        one = self.setlist
        if one is not None:
            sheet = to_pdf(self._desk.plan, one, date.today().isoformat())
            Preview(self, one.name, sheet).open()


def _seconds(row: SongRow) -> float:
    return row.change.seconds if row.change is not None and row.place else 0.0
