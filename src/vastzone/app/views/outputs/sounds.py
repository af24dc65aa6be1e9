"""The page Sounds: what goes to which output, what is wished of it, and giving outputs out."""

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QMenu, QVBoxLayout, QWidget

from vastzone.app.applying import Performer, refused
from vastzone.app.frame.elided import quiet
from vastzone.app.frame.rows import Cell, row_of
from vastzone.app.frame.sized import bound
from vastzone.app.frame.table import reading_table
from vastzone.app.frame.text import Button, add_action, set_tip
from vastzone.app.jobs import BackgroundJob
from vastzone.app.theme.current import THEME
from vastzone.app.views.outputs.patch import PatchGrid
from vastzone.core.pictures.patch_lines import PatchLine, patch_lines
from vastzone.core.plan.edits import audio
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.together import together
from vastzone.core.plan.model.audio import OutputWish, Wanted
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.sounds import output_words
from vastzone.core.plan.refs import ref_to
from vastzone.core.progress import Progress
from vastzone.core.proof.at_desk import WishKept, sounding_devices, wishes_kept
from vastzone.core.say import say, say_many
from vastzone.core.solve.desk_outputs import GivenOut, edit_of, give_out, one_more
from vastzone.core.text import listed
from vastzone.desk.session import Desk

COLUMNS = (say("Wish"), say("Matters"), say("Kept"))
WANTED: dict[Wanted, str] = {
    "alone": say("alone"),
    "apart": say("apart"),
    "stereo": say("in stereo"),
    "channel": say("on a channel"),
}
HELP = say("Press where a sound shall go; choose names, with Ctrl or Shift several, to wish.")


def give_out_all(plan: Plan, tell: Progress) -> tuple[GivenOut, ...]:
    """The outputs of every device that sounds, given out."""
    return tuple(give_out(plan, device.id, tell) for device in sounding_devices(plan))


class SoundsPage(QWidget):
    """The picture of outputs above, the wishes for them below."""

    def __init__(self, desk: Desk, perform: Performer) -> None:
        super().__init__()
        self._desk, self._perform = desk, perform
        self._aside = BackgroundJob(self)
        self.grid = PatchGrid()
        self.grid.put.connect(self._put)
        self.grid.chosen_changed.connect(self._choose)
        self.give = Button(say("Give out outputs"))
        self.give.setProperty("role", "primary")
        set_tip(
            self.give, say("The best use of the outputs for what is wished, what is locked kept")
        )
        self.give.clicked.connect(self.give_out)
        self.usual = Button(say("Usual wishes"))
        set_tip(self.usual, say("Kick, snare and hat alone, loops apart from the rest"))
        self.usual.clicked.connect(self._wish_usual)
        self.alone, self.stereo = Button(say("Alone")), Button(say("Stereo"))
        self.apart, self.channel = Button(say("Apart from")), Button(say("Channel"))
        self.alone.clicked.connect(lambda: self._wish("alone"))
        self.stereo.clicked.connect(lambda: self._wish("stereo"))
        set_tip(self.channel, say("Wish the chosen sounds on a channel of the desk"))
        self._apart_menu, self._channel_menu = QMenu(self), QMenu(self)
        self.apart.setMenu(self._apart_menu)
        self.channel.setMenu(self._channel_menu)
        self._apart_menu.aboutToShow.connect(self._fill_apart)
        self._channel_menu.aboutToShow.connect(self._fill_channels)
        self.wishes = reading_table(COLUMNS, say("Wishes for outputs"))
        self.wishes.horizontalHeader().setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.wishes.setColumnWidth(0, 260)
        self.wishes.setColumnWidth(1, 80)
        self.wishes.chosen.connect(self._tell)
        self.less, self.more = Button(say("Less")), Button(say("More"))
        self.less.clicked.connect(lambda: self._matter(-1))
        self.more.clicked.connect(lambda: self._matter(1))
        self.drop = Button(say("Drop"))
        set_tip(self.drop, say("Take the chosen wish back"))
        self.drop.clicked.connect(self._drop)
        self.words = quiet(HELP)
        self.words.setWordWrap(True)
        self._lay_out()

    def _lay_out(self) -> None:
        box, line, below = QVBoxLayout(self), QHBoxLayout(), QHBoxLayout()
        box.setContentsMargins(14, 2, 14, 8)
        box.setSpacing(7)
        for button in (self.give, self.usual):
            line.addWidget(button)
        line.addWidget(self.words, 1)
        for button in (self.alone, self.stereo, self.apart, self.channel):
            below.addWidget(button)
        below.addStretch()
        for button in (self.less, self.more, self.drop):
            below.addWidget(button)
        box.addLayout(line)
        box.addWidget(self.grid, 1)
        box.addWidget(self.wishes)
        box.addLayout(below)

    def refresh(self) -> None:
        """Show the plan as it is now."""
        plan = self._desk.plan
        self.grid.show_lines(patch_lines(plan))
        kept = wishes_kept(plan)
        self.wishes.show_rows([row_of(self._cells(told), told.wish.id) for told in kept])
        self.wishes.setVisible(bool(kept))
        bound(self.wishes, "MaximumHeight", 40 + 30 * min(4, len(kept)))
        self.usual.setEnabled(any(True for _ in audio.usual_wishes(plan)))
        self.give.setEnabled(bool(sounding_devices(plan)))
        self._tell()

    def _cells(self, told: WishKept) -> tuple[str | Cell, ...]:
        colours = THEME.colours
        said = say("kept") if told.kept else say("not kept: {why}", why=told.why)
        shade = colours.good if told.kept else colours.caution
        name = f"{told.wish.name}"
        if WANTED[told.wish.want] not in name.lower():
            name = f"{name}, {WANTED[told.wish.want]}"
        return name, say("{strength} of 5", strength=told.wish.strength), Cell(said, colour=shade)

    def _tell(self) -> None:
        chosen = bool(self.grid.chosen)
        for button in (self.alone, self.stereo, self.apart, self.channel):
            button.setEnabled(chosen)
        has_wish = self._wish_here() is not None
        for button in (self.less, self.more, self.drop):
            button.setVisible(bool(self._desk.plan.output_wishes))
            button.setEnabled(has_wish)

    def _choose(self) -> None:
        line = self.grid.lines[self.grid.at[0]]
        if line.ref:
            self._desk.select(line.ref.partition("/")[0])
        else:
            self._desk.select(line.device.id)
        names = [one.name for one in self._chosen_lines()]
        self.words.setText(say("Chosen: {names}.", names=listed(names, 4)) if names else HELP)
        self._tell()

    def _chosen_lines(self) -> list[PatchLine]:
        return [line for line in self.grid.lines if line.ref in self.grid.chosen]

    def _put(self, refs: list[str], choice: str) -> None:
        device = lookup.device(self._desk.plan, refs[0].partition(":")[0])
        names = [line.name for line in self.grid.lines if line.ref in refs]
        edit = audio.set_outputs(dict.fromkeys(refs, choice), "")
        where = output_words(device, choice)
        self._do(Edit(say("{names} to {where}", names=listed(names[:1]), where=where), edit.change))

    def _do(self, edit: Edit) -> None:
        why = refused(edit, self._desk.plan)
        if why:
            self.words.setText(why)
        else:
            self._perform(edit)

    def _wish(
        self, want: Wanted, apart: tuple[str, ...] = (), channel: str | None = None, to: str = ""
    ) -> None:
        """Wish something for all chosen lines, as one wish."""
        lines = self._chosen_lines()
        if not lines:
            return
        name = f"{listed((line.name for line in lines), 3)} {to or WANTED[want]}"
        wish = OutputWish(
            id=lookup.free_id((), name),
            name=name[:80],
            of=tuple(line.ref for line in lines),
            want=want,
            apart=apart,
            channel=channel,
        )
        self._do(audio.wish_output(wish))

    def _fill_apart(self) -> None:
        """The other parts, and everything else, to be apart from."""
        self._apart_menu.clear()
        others = [line for line in self.grid.lines if line.ref and not line.deep]
        others = [line for line in others if line.ref not in self.grid.chosen]
        rest = tuple(line.ref for line in others)
        if rest:
            run = partial(self._wish, "apart", rest, None, say("apart from the rest"))
            add_action(self._apart_menu, say("everything else"), run)
        for line in others:
            run = partial(
                self._wish, "apart", (line.ref,), None, say("apart from {line}", line=line.name)
            )
            add_action(self._apart_menu, line.name, run)

    def _fill_channels(self) -> None:
        self._channel_menu.clear()
        for device in self._desk.plan.devices:
            for channel in device.audio_inputs if device.kind == "desk" else ():
                ref = ref_to(device.id, channel.id)
                run = partial(
                    self._wish, "channel", (), ref, say("on {channel}", channel=channel.name)
                )
                add_action(self._channel_menu, channel.name, run)
        if self._channel_menu.isEmpty():
            add_action(self._channel_menu, say("The plan has no desk yet: add one in Rig"))

    def _wish_usual(self) -> None:
        edits = [audio.wish_output(wish) for wish in audio.usual_wishes(self._desk.plan)]
        self._do(together(say("Wish the usual for outputs"), edits))

    def _wish_here(self) -> OutputWish | None:
        return lookup.find(self._desk.plan.output_wishes, str(self.wishes.chosen_ref))

    def _matter(self, step: int) -> None:
        wish = self._wish_here()
        if wish is not None:
            strength = max(1, min(5, wish.strength + step))
            label = (
                say("{wish} matters more", wish=wish.name)
                if step > 0
                else say("{wish} matters less", wish=wish.name)
            )
            self._do(audio.change_output_wish(wish.id, label, strength=strength))

    def _drop(self) -> None:
        wish = self._wish_here()
        if wish is not None:
            self._do(audio.remove_output_wish(wish.id))

    def give_out(self) -> None:
        """Work the best outputs out beside the window, and take them."""
        plan = self._desk.plan
        self.words.setText(say("Working out the best outputs …"))
        self._aside.start(partial(give_out_all, plan), partial(self._take, plan))

    def _take(self, plan: Plan, found: tuple[GivenOut, ...]) -> None:
        if plan is not self._desk.plan:
            return
        edits = [edit_of(plan, each) for each in found]
        self._do(together(say("Give out outputs"), edits))
        self.words.setText(given_words(plan, found))


def given_words(plan: Plan, found: tuple[GivenOut, ...]) -> str:
    """What came of giving out: how much moved, what was given up, what one more would bring."""
    moved = sum(each.moved for each in found)
    said = [
        say("Given out; {sounds} moved.", sounds=say_many("{count} sound", "{count} sounds", moved))
    ]
    for each in found:
        for given in each.given_up:
            said.append(say("Given up: {why}", why=given.why))
        more = one_more(plan, each.device, each)
        if more:
            name = lookup.device(plan, each.device).name
            kept = listed((wish.name for wish in more), 3)
            said.append(say("One more output of {name} would keep {kept}.", name=name, kept=kept))
        if not each.is_best:
            said.append(say("Perhaps {gap:.0%} better is possible.", gap=each.gap))
    return " ".join(said)
