"""What a device can and cannot: how far its settings reach, how many it has, what it keeps."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit, edit_device
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import owners
from vastzone.core.plan.fields.table import fields_for
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.limits import (
    Answers,
    Count,
    CountLimit,
    Limit,
    LimitedSetting,
    Reserved,
    Scope,
    ScopeLimit,
)
from vastzone.core.plan.model.plan import Device, PanelPath, Switch
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.text import capital, quoted, whole_number

SCOPED: tuple[tuple[LimitedSetting, str], ...] = (
    ("zone-channel", say("Channel of a zone")),
    ("zone-range", say("Ends of a zone")),
    ("zone-shift", say("Octave and transposition of a zone")),
    ("send-channel", say("Channel of a control")),
    ("send-number", say("Number of a control")),
    ("send-mode", say("Momentary, toggle or trigger")),
    ("part-channel", say("Channel of a part")),
    ("part-range", say("Range of a part")),
    ("part-shift", say("Transposition of a part")),
    ("kit-notes", say("Notes of a kit")),
    ("target-controller", say("Controller of a target")),
    ("send-feel", say("Velocities and curve of a pad")),
    ("send-function", say("What a control is told to do")),
    ("outputs", say("Outputs of a zone or control")),
    ("part-mode", say("How a part plays")),
    ("target-mode", say("How a target answers")),
    ("input", say("Settings of a trigger input")),
    ("jack", say("Settings of a pedal jack")),
)
"""Settings whose reach can be said, and what they are called."""
SCOPES: tuple[tuple[Scope, str], ...] = (
    ("fixed", say("fixed")),
    ("global", say("for the whole device")),
    ("program", say("a program")),
    ("bank", say("a bank")),
    ("control", say("each control")),
)
"""How far a setting reaches, from not at all to everywhere its own."""
COUNTED: tuple[tuple[Count, str], ...] = (
    ("zones", say("Zones at once")),
    ("memory-slots", say("Memory slots")),
    ("assign-slots", say("Assign slots")),
    ("channels", say("Channels at once")),
    ("messages", say("Messages of a control at once")),
)
"""What there may be only so many of."""
PARTS_OF: dict[str, str] = {
    "zone": "keybeds",
    "send": "controls",
    "part": "parts",
    "kit": "kits",
    "target": "targets",
    "outputs": "ports",
    "input": "inputs",
    "jack": "jacks",
}


def scoped_in(device: Device) -> tuple[tuple[LimitedSetting, str], ...]:
    """The settings that a device has at all."""
    there = []
    for setting, words in SCOPED:
        if getattr(device, PARTS_OF[setting.partition("-")[0]]):
            there.append((setting, words))
    return tuple(there)


def scope_of_setting(device: Device, setting: LimitedSetting) -> Scope | None:
    """How far a setting reaches; None where nobody said."""
    for limit in device.limits:
        if isinstance(limit, ScopeLimit) and limit.setting == setting:
            return limit.scope
    return None


def _edit_limits(device: str, label: str, kept: tuple[Limit, ...], new: Limit | None) -> Edit:
    limits = kept if new is None else (*kept, new)
    return edit_device(device, label, lambda owner: changed(owner, limits=limits))


def set_scope(device: Device, setting: LimitedSetting, scope: Scope | None) -> Edit:
    """Say how far a setting reaches, or no longer say it."""
    kept = tuple(
        limit
        for limit in device.limits
        if not (isinstance(limit, ScopeLimit) and limit.setting == setting)
    )
    new = (
        None if scope is None else ScopeLimit(setting=setting, scope=scope, source=_source(device))
    )
    return _edit_limits(device.id, say("Change how far a setting reaches"), kept, new)


def _source(device: Device) -> str:
    """Where the limits of a device were read: new ones are from there too."""
    return next((limit.source for limit in device.limits if limit.source), "")


def set_count(device: Device, what: Count, most: int | None, taken: str = "") -> Edit:
    """Say how many of something there are, and which are taken; or no longer say it."""
    kept = tuple(
        limit
        for limit in device.limits
        if not (isinstance(limit, CountLimit) and limit.what == what)
    )
    new = None
    if most is not None:
        new = CountLimit(what=what, most=most, taken=numbers_in(taken), source=_source(device))
    return _edit_limits(device.id, say("Change how many there are"), kept, new)


def numbers_in(text: str) -> tuple[int, ...]:
    """Numbers as they are typed: «1 2 5–8».  Raises EditError for what is none."""
    numbers: list[int] = []
    for word in text.replace(",", " ").replace("-", "–").split():
        first, dash, last = word.partition("–")
        low, high = whole_number(first), whole_number(last if dash else first)
        if low is None or high is None or not 0 <= low <= high <= 512:
            raise EditError(
                say("“{word}” is no number: write such as “1 2 5–8”.", word=quoted(word))
            )
        numbers.extend(range(low, high + 1))
    return tuple(numbers)


def reserved_of(device: Device) -> tuple[Reserved, ...]:
    """What a device keeps for itself."""
    return tuple(limit for limit in device.limits if isinstance(limit, Reserved))


def set_reserved(
    device: Device, place: int, purpose: str, controllers: str, channels: str = ""
) -> Edit:
    """Say which controllers and channels a device keeps, and for what: in place of one, or one
    more.

    Without any it keeps none.  Raises EditError beyond 127 and 16.
    """
    numbers, kept = numbers_in(controllers), numbers_in(channels)
    if any(number > 127 for number in numbers):
        raise EditError(say("Controllers end at 127: correct the number."))
    if any(not 1 <= channel <= 16 for channel in kept):
        raise EditError(say("Channels go from 1 to 16: correct the number."))
    known = list(reserved_of(device))
    others = tuple(limit for limit in device.limits if not isinstance(limit, Reserved))
    new = Reserved(
        purpose=purpose or say("its own use"),
        controllers=numbers,
        channels=kept,
        source=_source(device),
    )
    known[place : place + 1] = [new] if numbers or kept else []
    limits = (*others, *known)
    return edit_device(
        device.id, say("Change what it keeps"), lambda owner: changed(owner, limits=limits)
    )


def answers_of(device: Device) -> Answers | None:
    """The notes that a device answers at all; None where nobody said."""
    for limit in device.limits:
        if isinstance(limit, Answers):
            return limit
    return None


def set_answers(device: Device, low: int, high: int) -> Edit:
    """Say which notes a device answers; all of them are no limit.  Raises EditError."""
    if low > high:
        raise EditError(say("The lowest note lies above the highest: swap them."))
    kept = tuple(limit for limit in device.limits if not isinstance(limit, Answers))
    new = None if (low, high) == (0, 127) else Answers(low=low, high=high, source=_source(device))
    return _edit_limits(device.id, say("Change what it answers"), kept, new)


def set_sources(device: Device, source: str, verified: str) -> Edit:
    """Say where the limits were read, and who verified them when."""
    limits = tuple(changed(limit, source=source, verified=verified) for limit in device.limits)
    return edit_device(
        device.id, say("Say where limits were read"), lambda owner: changed(owner, limits=limits)
    )


class PanelRow(NamedTuple):
    """A field that is reached on the panel: its name in the table, in words, how, in presses."""

    field: str
    words: str
    path: str
    presses: int


def panel_rows(device: Device) -> tuple[PanelRow, ...]:
    """How each field that a device has is reached; as is usual where nobody said."""
    told = {path.field: path for path in device.panel}
    rows = {}
    for field in _dialled_fields(device):
        known = told.get(field.full_name)
        presses = field.presses if known is None else known.presses
        path = "" if known is None else known.path
        kind = capital(say(field.owner))
        rows[field.full_name] = PanelRow(
            field.full_name, f"{kind}: {field.name.lower()}", path, presses
        )
    return tuple(rows.values())


def _dialled_fields(device: Device) -> Iterator[Field]:
    seen = set()
    for owner in owners(device):
        if owner.kind in seen:
            continue
        seen.add(owner.kind)
        for field in fields_for(owner.kind):
            if field.is_dialled and field.belongs_to(owner):
                yield field


def set_panel(device: str, field: str, path: str, presses: int) -> Edit:
    """Say how a field is reached on a device's panel, and in how many presses."""

    def change(owner: Device) -> Device:
        kept = tuple(known for known in owner.panel if known.field != field)
        new = changed(PanelPath(field=field), path=path, presses=presses)
        return changed(owner, panel=(*kept, new))

    return edit_device(device, say("Change how it is reached"), change)


def add_switch(device: str, name: str, choices: str) -> Edit:
    """Add something that is set by choosing, «Clock» with «own/from MIDI».  Raises EditError."""
    named = tuple(choice.strip() for choice in choices.split("/") if choice.strip())
    if not name.strip() or len(named) < 2:
        raise EditError(
            say("A switch has a name and two choices or more: write “Clock” and “own/MIDI”.")
        )

    def change(owner: Device) -> Device:
        ident = lookup.free_id(lookup.ids_of(owner.switches), name)
        new = changed(Switch(id=ident, name=say("New"), choices=named), name=name.strip())
        return changed(owner, switches=(*owner.switches, new))

    return edit_device(device, say("Add {name}", name=name.strip()), change)
