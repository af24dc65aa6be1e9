"""Frozen values: the slots, the edit buffer and the settings of devices, as far as they are known.

Settings outside programs are known by name without the device, «part.viol/channel», so that the
memory of a device can be taken into another plan; those of a program by «zone.viol/channel».
"""

from collections.abc import Mapping
from typing import Annotated, Literal

from msgspec import Meta

from vastzone.core.plan.model.controls import KitChoice, Program, Send, Slot, Zone
from vastzone.core.plan.model.values import Byte, Id, Text, Value

How = Literal["out of the box", "dialled", "read back", "typed in", "from a file"]
Initials = Annotated[str, Meta(max_length=12)]
Date = Annotated[str, Meta(max_length=32)]
Bank = Annotated[int, Meta(ge=0, le=16383)]
SettingKey = Annotated[str, Meta(pattern=r"^[a-z0-9._-]+(/[a-z0-9._-]+){1,5}$", max_length=200)]
HeldValue = int | Text
Values = Mapping[SettingKey, HeldValue]


class Known(Value, frozen=True, kw_only=True):
    """How something is known, since which day, and who says so."""

    on: Date = ""
    how: How = "dialled"
    by: Initials = ""


class Content(Value, frozen=True, kw_only=True):
    """What a slot, or the edit buffer, is known to hold.

    Where it is not ``whole``, nothing is known of things that ``program`` does not have; of those
    that it has, the fields in ``unknown`` are not known.
    """

    program: Program
    whole: bool = True
    unknown: tuple[SettingKey, ...] = ()


class HeldSlot(Value, frozen=True, kw_only=True):
    """A slot that something is known of."""

    number: Byte
    bank: Bank = 0
    content: Content

    @property
    def slot(self) -> Slot:
        """Which slot it is."""
        return Slot(number=self.number, bank=self.bank)


class Check(Value, frozen=True, kw_only=True):
    """Settings that were struck and heard, or read and typed in, with the values they had.

    ``known`` is the place among what is known of when and by whom.
    """

    known: int
    values: Values


class Backup(Value, frozen=True, kw_only=True):
    """That the memory was written to a file, and a digest of what it held then."""

    on: Date
    by: Initials = ""
    digest: Annotated[str, Meta(max_length=64)]


class ContentChange(Value, frozen=True, kw_only=True):
    """How the content of a slot was before: things as they were, and what was not there.

    The buffer has no number.  Where nothing was known of it, it is ``blank``.
    """

    number: int = -1
    bank: Bank = 0
    blank: bool = False
    program: Program | None = None
    whole: bool = True
    unknown: tuple[SettingKey, ...] = ()
    zones: tuple[Zone, ...] = ()
    sends: tuple[Send, ...] = ()
    kits: tuple[KitChoice, ...] = ()
    without: tuple[str, ...] = ()


class PastState(Value, frozen=True, kw_only=True):
    """What a device held at the end of a day, as a difference from the state after it."""

    on: Date
    label: Text = ""
    values: Mapping[SettingKey, HeldValue | None] = {}
    contents: tuple[ContentChange, ...] = ()
    selected: Slot | None = None


class DeviceMemory(Value, frozen=True, kw_only=True):
    """What one device is known to hold.

    ``values`` are its settings outside programs; what is absent there, among ``slots`` or as
    ``buffer`` and ``selected`` is not known.  ``unwritten`` are values that a device which must be
    told to write them falls back to when it is switched off (None: not known).  ``known`` says once
    how and by whom things are known; ``since`` points there, by «values», «buffer», a slot «0-4» or
    what stands in one: «0-4/zone.viol».  ``past`` are earlier states, the newest first, each as a
    difference from the one after it.
    """

    device: Id
    values: Values = {}
    unwritten: Mapping[SettingKey, HeldValue | None] = {}
    slots: tuple[HeldSlot, ...] = ()
    buffer: Content | None = None
    selected: Slot | None = None
    known: tuple[Known, ...] = ()
    since: Mapping[str, int] = {}
    checks: tuple[Check, ...] = ()
    backup: Backup | None = None
    past: tuple[PastState, ...] = ()


class Memory(Value, frozen=True, kw_only=True):
    """What the devices of a rig are known to hold."""

    devices: tuple[DeviceMemory, ...] = ()
