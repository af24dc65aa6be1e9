"""Everything that the window can be told to do, by menu, shortcut or go-to."""

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

from vastzone.app import dialogs
from vastzone.app.actions import Action
from vastzone.app.frame.lists import ProgramList, SceneList
from vastzone.app.frame.menu import ALONE, HIDDEN
from vastzone.app.frame.open_formats import OpenFormats, picture_in
from vastzone.app.views.page_names import PAGE_NAMES
from vastzone.app.views.places import PLACES
from vastzone.core.describe.things import SEVERAL
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.scenes import add_scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of
from vastzone.core.say import say
from vastzone.files.devices import write_device

if TYPE_CHECKING:
    from vastzone.app.window import Window


class Commands:
    """The commands of one window, menu by menu."""

    def __init__(self, window: "Window") -> None:
        self._window, self._desk = window, window.desk
        self._formats = OpenFormats(window, window.desk, window.perform, window.tell, self._picture)

    def actions(self) -> Iterator[Action]:
        """All of them, in the order of the menus."""
        yield from self._plan()
        yield from self._play()
        yield from self._edit()
        yield from self._look()
        yield from self._views()
        yield from self._pages()
        yield from self._pads()
        yield from self._tools()
        yield from self._window.keys.commands.actions()

    def _picture(self) -> QWidget | None:
        return picture_in(self._window.views.current)

    def _plan(self) -> Iterator[Action]:
        files, formats, menu = self._window.documents, self._formats, "Plan"
        yield Action("new", say("New plan"), files.new, "Ctrl+N", menu)
        yield Action("open", say("Open…"), files.open, "Ctrl+O", menu)
        yield Action("save", say("Save"), files.save, "Ctrl+S", menu)
        yield Action("save-as", say("Save as…"), files.save_as, "Ctrl+Shift+S", menu)
        yield Action("tables-out", say("Write tables (CSV)…"), formats.write_tables, "", menu)
        yield Action("table-in", say("Read a table back…"), formats.read_table, "", menu)
        yield Action("test-tune", say("Write a test tune (MIDI)…"), formats.write_tune, "", menu)
        words = say("Write what was struck (MIDI)…")
        yield Action("struck", words, formats.write_struck, "", menu)
        yield Action("picture", say("Save this picture (SVG)…"), formats.write_picture, "", menu)

    def _play(self) -> Iterator[Action]:
        playing, menu = self._window.playing, "Play"
        choose = self._window.keys.songs.choose
        yield Action("play-file", say("Play a MIDI file…"), choose, "Ctrl+M", menu)
        words = say("Start or stop the MIDI file")
        yield Action("play", words, playing.start_or_stop, "Space", menu, late=True)
        words = say("Simulated keyboard plays by itself")
        yield Action("play-alone", words, playing.play_by_itself, "", menu)
        panic = self._desk.stage.panic
        yield Action("panic", say("Panic: stop all notes"), panic, "Esc", menu)

    def _edit(self) -> Iterator[Action]:
        window, desk, menu = self._window, self._desk, "Edit"
        yield Action("undo", say("Undo"), desk.undo, "Ctrl+Z", menu)
        yield Action("redo", say("Redo"), desk.redo, "Ctrl+Shift+Z", menu)
        words = say("Lock or free the numbers of what is selected")
        yield Action("lock", words, window.facts.lock_shown, "Ctrl+Alt+L", menu)
        words = say("Wish for what is selected…")
        yield Action("wish", words, window.wish, "Ctrl+Shift+W", menu)
        words = say("Select the plan, and nothing in it")
        yield Action("select-plan", words, partial(desk.select, ""), "Ctrl+Home", menu)
        yield Action("go-to", say("Go to…"), window.go_to, "Ctrl+K", menu)
        yield Action("new-scene", say("New scene"), self._new_scene, "Ctrl+Shift+N", menu)
        yield Action("scenes", say("Scenes…"), self._list_scenes, "Ctrl+Shift+E", menu)
        words = say("Programs of the device…")
        yield Action("programs", words, self._list_programs, "Ctrl+P", menu)

    def _look(self) -> Iterator[Action]:
        """Scenes, the lens, the theme, the size of text, what is folded."""
        window, menu = self._window, "View"
        back, on = partial(self._desk.step_scene, -1), partial(self._desk.step_scene, 1)
        yield Action("scene-back", say("Previous scene"), back, "Alt+Left", menu)
        yield Action("scene-on", say("Next scene"), on, "Alt+Right", menu)
        words = say("As planned or as dialled")
        yield Action("lens", words, window.switch_lens, "Ctrl+Shift+L", menu)
        yield Action("theme", say("Day or stage theme"), window.switch_theme, "Ctrl+Shift+T", menu)
        larger, smaller = partial(window.resize_text, 1), partial(window.resize_text, -1)
        as_usual = partial(window.resize_text, 0)
        yield Action("larger", say("Larger text"), larger, "Ctrl++", menu)
        yield Action("larger-too", say("Larger text"), larger, "Ctrl+=", HIDDEN)
        yield Action("smaller", say("Smaller text"), smaller, "Ctrl+-", menu)
        yield Action("text-100", say("Text of 100 %"), as_usual, "Ctrl+0", menu)
        yield Action("fold-facts", say("Fold or unfold the facts"), window.fold_facts, "F8", menu)
        words = say("Fold or unfold the strike strip")
        yield Action("fold-strip", words, window.fold_strip, "F9", menu)
        words = say("Letters of the computer's keys on the piano")
        yield Action("label-keys", words, self._label_keys, "Ctrl+Shift+K", menu)

    def _views(self) -> Iterator[Action]:
        menu = "View"
        for number, place in enumerate(PLACES, 1):
            ident, words = place.place.ident, say("Show {name}", name=place.place.name)
            show = partial(self._window.show_view, ident)
            yield Action(f"show-{ident}", words, show, f"Alt+{number % 10}", menu)
        on, back = partial(self._window.turn_page, 1), partial(self._window.turn_page, -1)
        yield Action("next-page", say("Show the next page"), on, "Ctrl+PgDown", menu)
        yield Action("previous-page", say("Show the page before"), back, "Ctrl+PgUp", menu)

    def _pages(self) -> Iterator[Action]:
        """Every page of every view, for go-to."""
        for place in PLACES:
            ident, name = place.place.ident, place.place.name
            for page in PAGE_NAMES.get(ident, ()):
                words = say("Page {page} of {name}", page=say(page), name=name)
                show = partial(self._show_page, ident, page)
                yield Action(f"page-{ident}-{page}", words, show, "", HIDDEN)

    def _pads(self) -> Iterator[Action]:
        """What the menu of the pads offers, for go-to: it is shown where the pads are."""
        for ident, name in (
            ("own_channels", say("A channel for each drum")),
            ("show_tracks", say("Track list for a recorder …")),
            ("show_sheet", say("Sheet of pads to print …")),
        ):
            yield Action(f"pads-{ident}", name, partial(self._at_pads, ident), "", HIDDEN)

    def _tools(self) -> Iterator[Action]:
        window, menu = self._window, "Tools"
        yield Action("numbers", say("Work out numbers"), window.work_out, "Ctrl+Return", menu)
        yield Action("initials", say("Your initials…"), window.documents.ask_initials, "", menu)
        yield Action("add-device", say("Add device…"), self._add_device, "Ctrl+D", menu)
        words = say("Share the selected device as a file…")
        yield Action("save-device", words, self._save_device, "", menu)
        words = say("Describe the selected device")
        yield Action("describe", words, self._describe, "Ctrl+E", menu)
        yield Action("guide", say("Show what to do next"), window.guide.begin, "", "Help")
        yield Action("quit", say("Quit"), window.close, "Ctrl+Q", ALONE)

    def _label_keys(self) -> None:
        self._window.piano.label_keys()

    def _show_page(self, ident: str, page: str) -> None:
        self._window.open_page(ident, page)
        self._window.view(ident).setFocus()

    def _at_pads(self, what: str) -> None:
        self._show_page("pads", "Pads")
        getattr(self._window.view("pads"), what)()

    def _new_scene(self) -> None:
        count = len(self._desk.plan.scenes) + 1
        self._window.perform(add_scene(say("Scene {count}", count=count)))
        self._desk.go_to_scene(self._desk.plan.scenes[-1].id)
        self._desk.select("")

    def _add_device(self) -> None:
        self._window.show_view("rig")
        self._window.view("rig").add_device()  # type: ignore[attr-defined]

    def _list_scenes(self) -> None:
        """The scenes as a list to work in."""
        SceneList(self._window, self._desk).open()

    def _list_programs(self) -> None:
        """The programs of the selected device as a list to work in."""
        ident = device_of(self._desk.selection.removeprefix(SEVERAL).split(" ")[0])
        if lookup.find(self._desk.planned.devices, ident) is None:
            self._window.tell(say("No device is selected: choose one in Rig first."))
        else:
            ProgramList(self._window, self._desk, ident).open()

    def _describe(self) -> None:
        """Lay the selected device open."""
        self._window.open_page("rig", "Device")

    def _save_device(self) -> None:
        try:
            device = lookup.device(self._desk.planned, device_of(self._desk.selection))
            device = self._desk.boxed(device.id)
        except PlanError:
            self._window.tell(say("No device is selected: choose one in Rig first."))
            return
        path = dialogs.ask_save_device(self._window, device.id)
        try:
            if path is not None:
                write_device(device, path)
        except PlanError as error:
            self._window.tell(str(error))
