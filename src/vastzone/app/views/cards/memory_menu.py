"""What can be done with a device as a whole: switched off, reset, backed up, brought back."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QMenu, QWidget

from vastzone.app import dialogs
from vastzone.app.frame.text import add_action
from vastzone.core.errors import PlanError
from vastzone.core.memory.model import DeviceMemory, How, Known
from vastzone.core.memory.operations import Operation, perform
from vastzone.core.memory.past import Snapshot, snapshots
from vastzone.core.memory.restoring import (
    Begin,
    backed_up,
    begun_anew,
    is_backed_up,
    reset,
    restored,
    set_up_anew,
    taken_from_file,
)
from vastzone.core.memory.rig import memory_of
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.desk.session import Desk
from vastzone.files.memory_file import read_memory, write_memory

BEGINNINGS: tuple[tuple[str, Begin], ...] = (
    (say("It is out of its box"), "out of the box"),
    (say("It holds what is planned"), "as planned"),
    (say("Nobody knows what it holds"), "not known"),
)


class MemoryMenu(QMenu):
    """Filled as it is opened, for the device that is chosen then."""

    def __init__(
        self,
        parent: QWidget,
        desk: Desk,
        chosen: Callable[[], str],
        bring_back: Callable[[Device, Snapshot], object],
    ) -> None:
        super().__init__(parent)
        self._parent, self._desk, self._chosen = parent, desk, chosen
        self._bring_back = bring_back
        self._again = QMenu(say("Bring back"), self)
        self.aboutToShow.connect(self.fill)

    def fill(self) -> None:
        """What can be done now."""
        self.clear()
        device = lookup.find(self._desk.planned.devices, self._chosen())
        if device is None:
            return
        held = memory_of(self._desk.memory, device)
        add_action(self, say("Switch it off and on"), partial(self._power, device))
        for words, begin in BEGINNINGS:
            add_action(self, words, partial(self._begin, device, begin))
        add_action(self, say("Reset it to how it left the factory"), partial(self._reset, device))
        if device.console is not None and device.console.encoder.erases:
            words = say("Set it up anew: that erases all that it holds")
            add_action(self, words, partial(self._set_up, device))
        self.addSeparator()
        mark = held.backup
        told = ""
        if mark is not None:
            told = (
                say(" (last on {on}, all of it)", on=mark.on)
                if is_backed_up(held)
                else say(" (last on {on}, changed since)", on=mark.on)
            )
        add_action(self, say("Back up to a file…{told}", told=told), partial(self._back_up, device))
        add_action(self, say("Take what it holds from a file…"), partial(self._take, device))
        action = add_action(self, say("Restore it from a backup…"), partial(self._restore, device))
        action.setEnabled(device.storage.restores)
        self._fill_again(device, held)

    def _fill_again(self, device: Device, held: DeviceMemory) -> None:
        self._again.clear()
        for past in snapshots(held):
            words = " ".join(filter(None, (past.on, past.label))) or say("earlier")
            add_action(self._again, words, partial(self._bring, device, past))
        if not self._again.isEmpty():
            self.addMenu(self._again)

    def _operate(
        self,
        device: Device,
        label: str,
        how: How,
        doing: Callable[[DeviceMemory, Known], DeviceMemory],
    ) -> None:
        try:
            self._desk.operate(device.id, label, how, doing)
        except PlanError as error:
            dialogs.tell(self._parent, str(error))

    def _power(self, device: Device) -> None:
        off_and_on = Operation("power")
        self._operate(
            device,
            say("Switch {device} off and on", device=device.name),
            "dialled",
            lambda held, known: perform(held, device, off_and_on, known),
        )

    def _begin(self, device: Device, begin: Begin) -> None:
        self._operate(
            device,
            say("Say that {device} is {begin}", device=device.name, begin=begin),
            "typed in",
            lambda held, known: begun_anew(held, device, begin, known),
        )

    def _reset(self, device: Device) -> None:
        self._operate(
            device,
            say("Reset {device}", device=device.name),
            "dialled",
            lambda held, known: reset(held, device, known),
        )

    def _set_up(self, device: Device) -> None:
        self._operate(
            device,
            say("Set {device} up anew", device=device.name),
            "dialled",
            lambda held, known: set_up_anew(held, device, known),
        )

    def _back_up(self, device: Device) -> None:
        path = dialogs.ask_save_memory(self._parent, device.id)
        if path is not None:
            self.back_up(device, path)

    def back_up(self, device: Device, path: Path) -> None:
        """Write what a device holds to a file."""

        def doing(held: DeviceMemory, known: Known) -> DeviceMemory:
            write_memory(held, path)
            return backed_up(held, known)

        self._operate(device, say("Back {device} up", device=device.name), "typed in", doing)

    def _take(self, device: Device) -> None:
        path = dialogs.ask_memory(self._parent)
        if path is not None:
            self._operate(
                device,
                say("Take what {device} holds from {path}", device=device.name, path=path.name),
                "from a file",
                lambda held, known: taken_from_file(held, device, read_memory(path), known),
            )

    def _restore(self, device: Device) -> None:
        path = dialogs.ask_memory(self._parent)
        if path is not None:
            self._operate(
                device,
                say("Restore {device} from {path}", device=device.name, path=path.name),
                "from a file",
                lambda held, known: restored(held, device, read_memory(path), known),
            )

    def _bring(self, device: Device, past: Snapshot) -> None:
        """Bring an earlier state back: at once where the device can restore, else by a card."""
        if not device.storage.restores:
            self._bring_back(device, past)
            return
        self._operate(
            device,
            say("Bring {device} back to {on}", device=device.name, on=past.on),
            "from a file",
            lambda held, known: restored(held, device, past.memory, known),
        )
