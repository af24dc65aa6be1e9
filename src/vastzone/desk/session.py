"""The desk: one open plan, its scene, what is selected, and everything derived from it."""

import hashlib
from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

import msgspec

from vastzone.core import cache
from vastzone.core.engine.compile import Compiled, compile_scene
from vastzone.core.engine.receivers import programs_at
from vastzone.core.errors import ChangedElsewhere, EditError, ReadError
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.memory.checks import checked
from vastzone.core.memory.described import described, out_of_its_box
from vastzone.core.memory.model import DeviceMemory, How, Known, Memory
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.readings import seen_otherwise
from vastzone.core.memory.rig import as_dialled, memory_of, without_strangers
from vastzone.core.memory.struck import shown_right
from vastzone.core.midi.messages import Message
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.controls import Slot
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, read_setting_ref, thing_of
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.desk.held import Doing, Done, Held
from vastzone.desk.history import History, Told
from vastzone.desk.looking import Lens, Looking
from vastzone.desk.recovery import Autosave
from vastzone.desk.signal import Signal
from vastzone.desk.stage import Stage
from vastzone.files import native
from vastzone.files.reading import PLAN_LIMIT, read_whole
from vastzone.files.whole import clean

if TYPE_CHECKING:
    from vastzone.core.engine.report import Report

EMPTY = Plan(name=say("New plan"))


def _seen(before: Device, after: Device, memory: DeviceMemory, known: Known) -> DeviceMemory:
    return seen_otherwise(memory, before, after, known)


def _checked(
    device: Device, refs: tuple[str, ...], slot: Slot, memory: DeviceMemory, known: Known
) -> DeviceMemory:
    return checked(memory, device, refs, slot, known)


def _same(entries: tuple[Done, ...], others: tuple[Done, ...]) -> bool:
    """Whether nothing was done at devices in between."""
    if len(entries) != len(others):
        return False
    return all(entry is other for entry, other in zip(entries, others, strict=True))


def _digest(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()


class Desk(Looking):
    """The session.  Views read it and follow its signals; they hold no second copy of anything.

    One's own devices are kept for reuse in ``own_folder``.
    """

    def __init__(self, autosave: Autosave | None = None, own_folder: Path | None = None) -> None:
        super().__init__()
        self.own_folder = own_folder
        self.memory_changed = Signal("memory changed")
        self.lens_changed = Signal("lens changed")
        self.opened = Signal("another plan opened")
        self.scene_changed = Signal("scene changed")
        self.selected = Signal("selected")
        self.saved = Signal("saved")
        self._history = History(EMPTY)
        self._clean = EMPTY
        self.held = Held(Memory())
        self._held_clean = self.held.memory
        self._autosave = autosave
        self._scene = ""
        self._gesture = False
        self.path: Path | None = None
        self._on_disk = ""
        self.selection = ""
        self.bank = 1
        self.chosen: set[str] = set()
        """Pads ``device:control`` that are chosen together."""
        self.describing = False
        self.unseen: frozenset[str] = frozenset()
        self.stage = Stage(self.compiled)
        self.stage.stepped.connect(self._follow_step)

    @property
    def planned(self) -> Plan:
        """The current plan, whatever lens one looks through."""
        return self._history.plan

    @property
    def plan(self) -> Plan:
        """The plan under the lens: as planned, or with what the devices hold put in."""
        if self.lens == "planned":
            return self.planned
        return self.dialled_plan

    @property
    def dialled_plan(self) -> Plan:
        """The plan with every device as it is known to be."""
        return as_dialled(self.planned, self.memory)

    @property
    def memory(self) -> Memory:
        """What the devices are known to hold."""
        return self.held.memory

    @property
    def changed(self) -> bool:
        """Whether there is something to save."""
        return self.planned is not self._clean or self.memory is not self._held_clean

    @property
    def scene(self) -> Scene | None:
        """The current scene; None in a plan without scenes."""
        scenes = self.planned.scenes
        return next(
            (scene for scene in scenes if scene.id == self._scene), scenes[0] if scenes else None
        )

    @property
    def tempo(self) -> float:
        """Beats a minute of the current scene, or of the plan where it says nothing."""
        own = self.scene.tempo if self.scene is not None else None
        return own or self.plan.tempo

    @property
    def compiled(self) -> Compiled:
        """The current plan and scene, ready to be struck."""
        return compile_scene(self.plan, self.scene)

    def show_bank(self, bank: int) -> None:
        """The bank of pads that views and facts show."""
        if bank != self.bank:
            self.bank = bank
            self.selected.emit()

    def load(
        self, plan: Plan, path: Path | None, clean: bool = True, memory: Memory | None = None
    ) -> None:
        """Make another plan the current one; ``clean`` False when it still has to be saved.

        Devices hold what stands in the plan where no ``memory`` is given.
        """
        cache.forget_all()
        self._history = History(plan)
        self._clean = plan if clean else EMPTY
        initials = self.held.initials
        self.held = Held(of_plan(plan) if memory is None else memory)
        self.held.initials = initials
        self._held_clean, self.lens = self.memory, "planned"
        self.path, self.selection, self._scene, self.bank = path, "", "", 1
        self.unseen, self._on_disk = frozenset(), ""
        self.derivation.forget()
        self.dialled_derivation.forget()
        self.stage.forget()
        self.opened.emit()
        self._follow()
        self.selected.emit()

    def open(self, path: Path) -> None:
        """Open a file.  Raises ReadError and leaves the current plan as it is."""
        data = read_whole(path, PLAN_LIMIT)
        rig = native.rig_from_json(data, path.name)
        self.load(rig.plan, path, memory=rig.memory)
        self._on_disk = _digest(data)
        clean(path.parent)

    def save(self, path: Path | None = None, *, over: bool = False) -> None:
        """Save, under another name when one is given.

        Raises WriteError: ChangedElsewhere where somebody else changed the file since it was opened
        or saved here, unless ``over`` says to write over that.
        """
        where = path or self.path
        if where is None:
            raise ValueError("a new plan needs a path")
        if where == self.path and not over:
            self._compare(where)
        memory = without_strangers(self.memory, self.planned)
        native.write(self.planned, where, memory)
        self._on_disk = _digest(native.to_json(self.planned, memory))
        self.path, self._clean, self._held_clean = where, self.planned, self.memory
        self.drop_autosave()
        self.saved.emit()

    def _compare(self, path: Path) -> None:
        """Look whether the file is still as it was left here; one that is gone may be written."""
        try:
            now = _digest(read_whole(path, PLAN_LIMIT))
        except ReadError:
            return
        if self._on_disk and now not in (self._on_disk, _digest(b"")):
            raise ChangedElsewhere(
                say(
                    "{path} was changed by someone else since it was opened here.",
                    path=quoted(path.name),
                )
            )

    def watch_for_crashes(self) -> None:
        """Write down where the process crashes, if it does."""
        if self._autosave is not None:
            self._autosave.watch()

    def close(self) -> None:
        """The program ends as it should: no copy is left."""
        if self._autosave is not None:
            self._autosave.close()

    def autosave(self) -> bool:
        """Keep a copy of unsaved work; True when one was written."""
        write = self.autosaving()
        return write is not None and write()

    def autosaving(self) -> Callable[[], bool] | None:
        """What writes a copy of the work as it is now, in any thread; None where none is due."""
        if self._autosave is None or not self.changed:
            return None
        memory = without_strangers(self.memory, self.planned)
        return self._autosave.keeping(self.planned, self.path, memory)

    def drop_autosave(self) -> None:
        """Forget the copy: the work is saved or given up."""
        if self._autosave is not None:
            self._autosave.drop()

    def perform(self, edit: Edit, join: bool = False) -> None:
        """Apply an edit as one undo step.  Raises EditError and changes nothing.

        Edits with ``join`` make one step together until ``end_gesture``.  Under the lens *as
        dialled* an edit is a reading: the devices show what it says.
        """
        if self.lens == "dialled":
            self._read(edit)
            return
        before = self.planned
        plan = edit(before)
        if plan is not before:
            self._history.add(edit.label, plan, join and self._gesture)
            self._gesture = join
            self.held.meet(before, plan, edit.out_of_the_box)
            self._follow_edit()

    def describe(self, edit: Edit, join: bool = False) -> None:
        """Apply an edit as how its devices *are*: plan and memory take it up, as one undo step.

        Raises EditError and changes nothing.
        """
        before = self.planned
        plan, tellings = described(before, self.memory, edit)
        if plan is before:
            return
        done = self.held.entries()
        if tellings:
            self.held.tell(tellings)
        told = Told(tellings, done, self.held.entries()) if tellings else None
        self._history.add(edit.label, plan, join and self._gesture, told)
        self._gesture = join
        self.held.meet(before, plan, boxed=True)
        self._follow()

    def replace(self, edit: Edit, new: Device) -> None:
        """Put another device in the place of one; it is out of its box.  Raises EditError."""
        before = self.planned
        plan = edit(before)
        if plan == before:
            return
        done = self.held.entries()
        self.held.unbox(new)
        told = Told((), done, self.held.entries())
        self._history.add(edit.label, plan, told=told)
        self._follow()

    def boxed(self, ident: str) -> Device:
        """A device as it left its box: what a file of it carries."""
        device = lookup.device(self.planned, ident)
        return out_of_its_box(device, memory_of(self.memory, device))

    def _take_back_telling(self, told: Told | None) -> None:
        """What devices were told in a step is taken back; what was done at them since stays."""
        if told is None:
            return
        if _same(self.held.entries(), told.after):
            self.held.come_back(told.before)
        else:
            self.held.tell([telling.backwards for telling in reversed(told.tellings)])

    def _tell_again(self, told: Told | None) -> None:
        if told is None:
            return
        if _same(self.held.entries(), told.before):
            self.held.come_back(told.after)
        else:
            self.held.tell(told.tellings)

    def _read(self, edit: Edit) -> None:
        """Take an edit for what the devices show."""
        before = self.plan
        after = edit(before)
        if after is before:
            return
        if msgspec.structs.replace(after, devices=before.devices) != before or len(
            after.devices
        ) != len(before.devices):
            raise EditError(
                say(
                    "As dialled, only what a device shows can be typed in: look as planned to "
                    "change "
                    "the plan itself."
                )
            )
        for old, new in zip(before.devices, after.devices, strict=True):
            if new is not old:
                self.held.do(new, edit.label, "read back", partial(_seen, old, new))
        self._follow_memory()

    def operate(self, device: str, label: str, how: How, doing: Doing) -> None:
        """Do something at a device: what it is known to hold changes, the plan does not.

        Raises EditError where it cannot be done, and changes nothing.
        """
        if self.held.do(lookup.device(self.planned, device), label, how, doing):
            self._follow_memory()

    def tick(
        self, device: str, operation: Operation, label: str, goal: Device | None = None
    ) -> None:
        """Perform the operation of a card's line; ``goal`` is what it leads to, else the plan."""
        planned = lookup.device(self.planned, device)
        owner = goal if goal is not None and goal.id == device else planned

        def doing(memory: DeviceMemory, known: Known) -> DeviceMemory:
            return perform(memory, owner, operation, known)

        self.operate(device, label, "dialled", doing)

    def struck(self, report: "Report", message: Message) -> None:
        """A real strike: what its message shows is checked where it is as planned."""
        owner = lookup.device(self.planned, device_of(report.subject))
        program = lookup.program_in(self.scene, owner)
        if program is not None:
            place = thing_of(report.subject), report.bank, report.key
            right = shown_right(owner, program, *place, message)
            slot = Slot(number=program.number)
            doing = partial(_checked, owner, right, slot)
            self.operate(owner.id, say("Strike {struck}", struck=report.struck), "read back", doing)

    def take_back(self) -> None:
        """Take back what was done last at a device."""
        if self.held.take_back():
            self._follow_memory()

    def look(self, lens: Lens) -> None:
        """Look at everything as planned, or as dialled."""
        if lens != self.lens:
            self.lens = lens
            self.stage.load(self.compiled)
            self.lens_changed.emit()
            self.plan_changed.emit()

    def _follow_memory(self) -> None:
        cache.edit_passed()
        if self.lens == "dialled":
            self.stage.load(self.compiled)
            self.plan_changed.emit()
        self.memory_changed.emit()

    def end_gesture(self) -> None:
        """A drag is over: the next edit is a step of its own."""
        self._gesture = False

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self._history.undo_label

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""
        return self._history.redo_label

    def undo(self) -> None:
        """Take the last edit back."""
        self._take_back_telling(self._history.told)
        self._history.undo()
        self._follow_edit()

    def redo(self) -> None:
        """Do it again."""
        if self._history.redo_label is not None:
            self._history.redo()
            self._tell_again(self._history.told)
        self._follow_edit()

    def _follow(self) -> None:
        cache.edit_passed()
        self.stage.load(self.compiled)
        self.plan_changed.emit()

    def _follow_edit(self) -> None:
        """Show what hands did at once, and what follows from it soon after."""
        with self.patience():
            self._follow()

    def go_to_scene(self, scene: str) -> None:
        """Change to a scene; keys that are down keep sounding what they struck."""
        self._scene = scene
        self.stage.load(self.compiled)
        self.scene_changed.emit()

    def _follow_step(self, played: Compiled) -> None:
        """A pedal or pad put its device on another program: go to the scene that has it so.

        Where no scene has, only what is played goes there, until the next change.
        """
        wanted = programs_at(self.plan, played.scene)
        for scene in self.planned.scenes:
            if programs_at(self.plan, scene) == wanted:
                self.go_to_scene(scene.id)
                return

    def step_scene(self, steps: int) -> None:
        """Go some scenes on or back; stays at the ends."""
        scenes = self.planned.scenes
        if scenes and self.scene is not None:
            at = scenes.index(self.scene) + steps
            self.go_to_scene(scenes[max(0, min(len(scenes) - 1, at))].id)

    def describe_now(self, on: bool) -> None:
        """Whether facts say how devices are, as in the workshop, or what the plan wants."""
        if on != self.describing:
            self.describing = on
            self.selected.emit()

    def select(self, ref: str) -> None:
        """Select a thing everywhere: ``device`` or ``device:thing``; nothing when empty."""
        if ref != self.selection or ref in self.unseen:
            self.selection = ref
            self.unseen -= {ref}
            self.selected.emit()

    def mark_unseen(self, settings: Iterable[str]) -> None:
        """Remember what was changed for the person, by the things that the settings belong to."""
        self.unseen |= {read_setting_ref(ref).thing for ref in settings}
        self.selected.emit()

    def look_at(self, device: str) -> None:
        """Everything of a device has been looked at."""
        left = frozenset(r for r in self.unseen if device_of(r) != device)
        if left != self.unseen:
            self.unseen = left
            self.selected.emit()
