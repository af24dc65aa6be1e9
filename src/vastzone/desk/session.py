"""The desk: one open plan, its scene, what is selected, and everything derived from it."""

import hashlib
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import TYPE_CHECKING

from vastzone.core import cache
from vastzone.core.engine.compile import Compiled, compile_scene
from vastzone.core.errors import ChangedElsewhere, ReadError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.refs import device_of, read_setting_ref
from vastzone.core.text import quoted
from vastzone.desk.derivation import Derivation
from vastzone.desk.history import History
from vastzone.desk.recovery import Autosave
from vastzone.desk.signal import Signal
from vastzone.desk.stage import Stage
from vastzone.files import native
from vastzone.files.reading import PLAN_LIMIT, read_whole
from vastzone.files.whole import clean

if TYPE_CHECKING:
    from vastzone.core.engine.report import Report
    from vastzone.core.proof.causes import Cause
    from vastzone.core.proof.finding import Finding
    from vastzone.core.proof.marking import Proof
    from vastzone.core.proof.slices import Derived
    from vastzone.core.proof.verdict import Mark

EMPTY = Plan(name="New plan")


def _digest(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()


class Desk:
    """The session.  Views read it and follow its signals; they hold no second copy of anything."""

    def __init__(self, autosave: Autosave | None = None) -> None:
        self.plan_changed = Signal("plan changed")
        self.opened = Signal("another plan opened")
        self.scene_changed = Signal("scene changed")
        self.selected = Signal("selected")
        self.saved = Signal("saved")
        self.proved = Signal("proved")
        self._history = History(EMPTY)
        self._clean = EMPTY
        self._autosave = autosave
        self._scene = ""
        self._gesture = False
        self.asleep = False
        self.path: Path | None = None
        self._on_disk = ""
        self.selection = ""
        self.bank = 1
        self.derivation = Derivation()
        self.unseen: frozenset[str] = frozenset()
        self.stage = Stage(self.compiled)

    @property
    def plan(self) -> Plan:
        """The current plan."""
        return self._history.plan

    @property
    def changed(self) -> bool:
        """Whether there is something to save."""
        return self.plan is not self._clean

    @property
    def scene(self) -> Scene | None:
        """The current scene; None in a plan without scenes."""
        scenes = self.plan.scenes
        return next(
            (scene for scene in scenes if scene.id == self._scene), scenes[0] if scenes else None
        )

    @property
    def compiled(self) -> Compiled:
        """The current plan and scene, ready to be struck."""
        return compile_scene(self.plan, self.scene)

    @property
    def derived(self) -> "Derived | None":
        """What is known of the plan; nothing while ``asleep``, the last state while pending."""
        if self.asleep:
            return None
        self.derivation.follow(self.plan)
        return self.derivation.known

    @property
    def findings(self) -> "tuple[Finding, ...]":
        """What the rules say of the whole plan; nothing yet while ``asleep``."""
        known = self.derived
        return known.findings if known else ()

    @property
    def causes(self) -> "tuple[Cause, ...]":
        """What falls short, by cause."""
        known = self.derived
        return known.causes if known else ()

    def wake(self) -> None:
        """Begin to check: a window wakes the desk once it has been painted."""
        if self.asleep:
            self.asleep = False
            self.plan_changed.emit()

    def work(self, seconds: float) -> None:
        """Go on deriving for about so long; ``proved`` tells when all is known."""
        if not self.asleep and self.derivation.work(seconds):
            self.proved.emit()

    @property
    def proof(self) -> "Proof | None":
        """What the proof says of every strike; None without wishes, or while ``asleep``."""
        known = self.derived
        return known.proof if known else None

    def marks(self, source: str) -> "tuple[Mark, ...]":
        """The verdicts on a keybed or control in the current scene."""
        proof = self.proof
        if proof is None:
            return ()
        marks = []
        for mark in proof.marks(self.scene.id if self.scene else ""):
            if mark.source == source:
                marks.append(mark)
        return tuple(marks)

    def verdict(self, report: "Report") -> str:
        """The verdict on a strike; nothing where no wish and no sound is there."""
        for mark in self.marks(report.subject):
            within = report.key is None or mark.low <= report.key <= mark.high
            if (
                within
                and mark.bank == report.bank
                and mark.vel_low <= (report.velocity or 127) <= mark.vel_high
            ):
                return mark.verdict
        return ""

    def show_bank(self, bank: int) -> None:
        """The bank of pads that views and facts show."""
        if bank != self.bank:
            self.bank = bank
            self.selected.emit()

    def findings_here(self) -> "tuple[Finding, ...]":
        """The findings that hold in the current scene."""
        at = self.scene.id if self.scene else ""
        here = []
        for finding in self.findings:
            if not finding.scenes or at in finding.scenes:
                here.append(finding)
        return tuple(here)

    def findings_of(self, ref: str) -> "tuple[Finding, ...]":
        """The findings about one thing, worst first; of a wish, what spoils it."""
        if ref.startswith("wish "):
            wish = ref.removeprefix("wish ")
            findings = []
            for cause in self.causes:
                if any(wish in m.wishes for _, m in cause.marks):
                    findings.append(cause.finding)
            return tuple(findings)
        findings = []
        for finding in self.findings_here():
            if ref in finding.subjects:
                findings.append(finding)
        return tuple(findings)

    def load(self, plan: Plan, path: Path | None, clean: bool = True) -> None:
        """Make another plan the current one; ``clean`` False when it still has to be saved."""
        cache.forget_all()
        self._history = History(plan)
        self._clean = plan if clean else EMPTY
        self.path, self.selection, self._scene, self.bank = path, "", "", 1
        self.unseen, self._on_disk = frozenset(), ""
        self.derivation.forget()
        self.stage.forget()
        self.opened.emit()
        self._follow()
        self.selected.emit()

    def open(self, path: Path) -> None:
        """Open a file.  Raises ReadError and leaves the current plan as it is."""
        data = read_whole(path, PLAN_LIMIT)
        self.load(native.from_json(data, path.name), path)
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
        native.write(self.plan, where)
        self._on_disk = _digest(native.to_json(self.plan))
        self.path, self._clean = where, self.plan
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
                f"{quoted(path.name)} was changed by someone else since it was opened here."
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
        return self._autosave.keeping(self.plan, self.path)

    def drop_autosave(self) -> None:
        """Forget the copy: the work is saved or given up."""
        if self._autosave is not None:
            self._autosave.drop()

    def perform(self, edit: Edit, join: bool = False) -> None:
        """Apply an edit as one undo step.  Raises EditError and changes nothing.

        Edits with ``join`` make one step together until ``end_gesture``.
        """
        plan = edit(self.plan)
        if plan is not self.plan:
            self._history.add(edit.label, plan, join and self._gesture)
            self._gesture = join
            self._follow()

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
        self._history.undo()
        self._follow()

    def redo(self) -> None:
        """Do it again."""
        self._history.redo()
        self._follow()

    def _follow(self) -> None:
        cache.edit_passed()
        self.stage.load(self.compiled)
        self.plan_changed.emit()

    def go_to_scene(self, scene: str) -> None:
        """Change to a scene; keys that are down keep sounding what they struck."""
        self._scene = scene
        self.stage.load(self.compiled)
        self.scene_changed.emit()

    def step_scene(self, steps: int) -> None:
        """Go some scenes on or back; stays at the ends."""
        scenes = self.plan.scenes
        if scenes and self.scene is not None:
            at = scenes.index(self.scene) + steps
            self.go_to_scene(scenes[max(0, min(len(scenes) - 1, at))].id)

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
