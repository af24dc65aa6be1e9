"""What else can be done with a device that is laid open: dialogs, files, another in its place."""

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QWidget

from vastzone.app import dialogs
from vastzone.app.applying import Performer
from vastzone.app.frame.learn import LearnDevice
from vastzone.app.views.rig.add import AddDevice
from vastzone.app.views.rig.workshop.abilities import Abilities
from vastzone.app.views.rig.workshop.counters import Counters
from vastzone.app.views.rig.workshop.replace import AskReplace
from vastzone.app.views.rig.workshop.table import ReadTable, write_out
from vastzone.core.describe.names import names_in, take_names
from vastzone.core.describe.phrase import numbered_names
from vastzone.core.describe.replacing import replace
from vastzone.core.describe.table_columns import What
from vastzone.core.errors import PlanError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say
from vastzone.desk.session import Desk
from vastzone.files.devices import keep_for_reuse, read_device, write_device
from vastzone.files.name_documents import read_names, write_names

Tell = Callable[[str, bool], None]
"""Says a sentence, and whether it is bad news."""


class DeviceCommands:
    """Works on the device that a page shows; what cannot be done is told there."""

    def __init__(
        self,
        page: QWidget,
        desk: Desk,
        shown: Callable[[], Device | None],
        describe: Performer,
        tell: Tell,
    ) -> None:
        self._page, self._desk, self._shown = page, desk, shown
        self._describe, self._tell = describe, tell

    @property
    def _device(self) -> Device | None:
        return self._shown()

    def count(self, add: Callable[[str], object]) -> None:
        """Choose with counters what is to be added."""
        device = self._device
        if device is not None:
            Counters(self._page, device.name, device.octaves, add).open()

    def learn_device(self) -> None:
        """Learn the device by touching it."""
        device = self._device
        if device is not None:
            LearnDevice(self._page, self._desk, device, self._describe).open()

    def say_abilities(self) -> None:
        """Say what the device can and cannot."""
        device = self._device
        if device is not None:
            Abilities(self._page, self._desk, device.id, self._desk.describe).open()

    def read_names(self) -> None:
        """Take names of programs, sounds and controllers from a document."""
        device = self._device
        path = None if device is None else dialogs.ask_names(self._page)
        if device is None or path is None:
            return
        try:
            names = read_names(path)
        except PlanError as error:
            self._tell(str(error), True)
            return
        self._describe(take_names(device.id, names))
        self._tell(say("Taken: {names}.", names=names.words), False)

    def write_names(self) -> None:
        """Write the device's names to a document."""
        device = self._device
        if device is None:
            return
        path = dialogs.ask_save_table(self._page, say("Save names"), f"{device.id}.midnam")
        try:
            if path is not None:
                write_names(device.name, names_in(device), path)
        except PlanError as error:
            self._tell(str(error), True)

    def replace_device(self) -> None:
        """Choose another device to put in its place."""
        if self._device is not None:
            AddDevice(self._page, self._ask_to_put, self._desk.own_folder, say("Replace by")).open()

    def _ask_to_put(self, new: Device) -> None:
        """Another device takes the place of this one, out of its box."""
        if self._device is not None:
            ident = self._device.id
            put = changed(new, id=ident, name=self._free(new.name))
            self._ask_to_replace(put, partial(self._put, put))

    def _put(self, put: Device, edit: Edit) -> None:
        try:
            self._desk.replace(edit, put)
        except PlanError as error:
            self._tell(str(error), True)

    def update_device(self) -> None:
        """Bring the device up to date from a newer file, its differences shown first."""
        path = dialogs.ask_device(self._page)
        if path is None:
            return
        try:
            self._ask_to_replace(read_device(path), self._describe)
        except PlanError as error:
            self._tell(str(error), True)

    def _ask_to_replace(self, new: Device, go: Performer) -> None:
        old = self._device
        if old is not None:
            make = partial(replace, self._desk.planned, old.id, new)
            AskReplace(self._page, old, new, make, go).open()

    def _free(self, name: str) -> str:
        """A name that no other device has."""
        taken = {device.name for device in self._desk.planned.devices if device is not self._device}
        return numbered_names(name, 1, taken)[0]

    def keep_device(self) -> None:
        """Keep the device, as it left its box, among one's own."""
        device, folder = self._device, self._desk.own_folder
        if device is None or folder is None:
            return
        try:
            path = keep_for_reuse(self._desk.boxed(device.id), folder)
        except PlanError as error:
            self._tell(str(error), True)
            return
        self._tell(
            say("{device} is among your own devices ({path}).", device=device.name, path=path.name),
            False,
        )

    def share_device(self) -> None:
        """Write the device, as it left its box, to a file."""
        device = self._device
        path = None if device is None else dialogs.ask_save_device(self._page, device.id)
        if device is None or path is None:
            return
        try:
            write_device(self._desk.boxed(device.id), path)
        except PlanError as error:
            self._tell(str(error), True)

    def read_table(self) -> None:
        """Put things in from a table."""
        device = self._device
        if device is not None:
            ReadTable(self._page, device, self._describe).open()

    def write_table(self, what: What) -> None:
        device = self._device
        if device is None:
            return
        try:
            write_out(self._page, device, what)
        except PlanError as error:
            self._tell(str(error), True)
