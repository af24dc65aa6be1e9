"""The table of fields: one line for each kind of thing that is set in a device."""

from collections import defaultdict
from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import Any, Literal, NamedTuple, get_args

from vastzone.core.errors import EditError
from vastzone.core.midi.wide import SELECT
from vastzone.core.plan.fields import values
from vastzone.core.plan.fields.owners import Owner, OwnerKind
from vastzone.core.plan.fields.values import MISSING, Choice, Say, mute_groups
from vastzone.core.plan.limits import Setting as LimitKind
from vastzone.core.plan.pedal import Sense, Wiper
from vastzone.core.plan.touch import Curve, Division
from vastzone.core.plan.values import Sending

OwnKind = Literal["device-switch", "input", "jack", "outputs", "send-feel"]
FieldKind = LimitKind | OwnKind
KINDS: tuple[FieldKind, ...] = (*get_args(LimitKind), *get_args(OwnKind))
"""What kind of setting it is: how far it reaches may be said in the limits of a device."""
Read = Callable[[Owner], int | None]
Write = Callable[[int], Any]
MESSAGES = Choice(get_args(Sending))
MODES = Choice(("momentary", "toggle", "trigger"))
CURVES = Choice(get_args(Curve))
SENSES = Choice(get_args(Sense))
WIPERS = Choice(get_args(Wiper))
DIVISIONS = Choice(get_args(Division))


class Field(NamedTuple):
    """One kind of thing that is set in a device.

    ``owner`` is what it belongs to, ``id`` its name in references and, unless it is read another
    way, in the plan; ``name`` what it is called on a card, ``console_name`` what on an encoder of
    a console.  ``read`` gives its value, None where this owner has no such field.  ``write`` makes
    the value of the plan, where a solver may choose it.
    """

    owner: OwnerKind
    id: str
    name: str
    kind: FieldKind
    say: Say
    read: Read
    write: Write | None = None
    console_name: str = ""

    def name_on(self, owner: Owner) -> str:
        """What it is called in a device."""
        return self.console_name if self.console_name and owner.device.console else self.name


def _held(attribute: str) -> Read:
    """The attribute of the owner, none as ``MISSING``."""

    def read(owner: Owner) -> int:
        value = getattr(owner.held, attribute)
        return MISSING if value is None else int(value)

    return read


def _unless(attribute: str, usual: object) -> Read:
    """The attribute of the owner, where it is not as in a new one."""

    def read(owner: Owner) -> int | None:
        value = getattr(owner.held, attribute)
        return None if value == usual else int(value)

    return read


def _chosen(attribute: str, choice: Choice) -> Read:
    """The place of the attribute among the choices."""
    return lambda owner: choice.place(getattr(owner.held, attribute))


def _switched(value: int) -> bool:
    if value in (0, 1):
        return bool(value)
    raise EditError(f"{value} is neither off (0) nor on (1).")


def _optional(value: int) -> int | None:
    return None if value == MISSING else value


def _local(owner: Owner) -> int | None:
    """Only what has both keys and sounds has local control."""
    device = owner.device
    return int(device.local) if device.keybeds and device.parts else None


def _input_type(owner: Owner) -> int | None:
    types = owner.held.types
    return types.index(owner.held.type) if len(types) > 1 else None


def _of_hat(attribute: str) -> Read:
    """What is set only where a hi-hat's pedal is plugged in."""
    return lambda owner: getattr(owner.held, attribute) if owner.held.type == "hi-hat" else None


def _of_calibrated(attribute: str) -> Read:
    return lambda owner: getattr(owner.held, attribute) if owner.held.calibrated else None


def _sense(owner: Owner) -> int | None:
    return SENSES.place(owner.held.sense) if len(owner.held.senses) > 1 else None


def _wiper(owner: Owner) -> int | None:
    return WIPERS.place(owner.held.wiper) if len(owner.held.wipers) > 1 else None


def _outputs(owner: Owner) -> int:
    """The outputs in use as bits; 0 is all of them."""
    used = owner.held.ports
    return sum(1 << place for place, port in enumerate(owner.device.ports) if port.id in used)


def _group(attribute: str) -> Read:
    def read(owner: Owner) -> int | None:
        group = getattr(owner.held, attribute)
        return None if group is None else mute_groups(owner.device).index(group)

    return read


def _curve(owner: Owner) -> int | None:
    return CURVES.place(owner.held.curve) or None


def _page(owner: Owner) -> int | None:
    return owner.held.page if owner.held.message in SELECT else None


def _division(owner: Owner) -> int | None:
    repeat = owner.held.repeat
    return None if repeat is None else DIVISIONS.place(repeat.division)


def _swing(owner: Owner) -> int | None:
    repeat = owner.held.repeat
    return None if repeat is None else int(repeat.swing)


_feel: FieldKind = "send-feel"
FIELDS: tuple[Field, ...] = (
    Field("device", "local", "Local control", "device-switch", values.on_off, _local),
    Field("passed on", "", "Pass on", "device-switch", values.on_off, _held("on")),
    Field("input", "type", "Input type", "input", values.input_type, _input_type),
    Field("input", "linked", "Zones linked", "input", values.on_off, _unless("linked", False)),
    Field("input", "half", "Half open from", "input", values.number, _of_hat("half")),
    Field("input", "closed", "Closed from", "input", values.number, _of_hat("closed")),
    Field("jack", "sense", "Pedal at rest", "jack", SENSES.say, _sense),
    Field("jack", "wiper", "Wiper on", "jack", WIPERS.say, _wiper),
    Field("jack", "heel", "Value at the heel", "jack", values.number, _of_calibrated("heel")),
    Field("jack", "toe", "Value at the toe", "jack", values.number, _of_calibrated("toe")),
    Field(
        "jack",
        "hysteresis",
        "Moves ignored up to",
        "jack",
        values.number,
        _of_calibrated("hysteresis"),
    ),
    Field("zone", "channel", "Channel", "zone-channel", values.number, _held("channel"), int),
    Field("zone", "low", "Lowest", "zone-range", values.note, _held("low"), int),
    Field("zone", "high", "Highest", "zone-range", values.note, _held("high"), int),
    Field(
        "zone", "vel_low", "Softest velocity", "zone-range", values.number, _held("vel_low"), int
    ),
    Field(
        "zone", "vel_high", "Loudest velocity", "zone-range", values.number, _held("vel_high"), int
    ),
    Field(
        "zone",
        "transpose",
        "Transpose",
        "zone-shift",
        values.zone_shift,
        _held("transpose"),
        int,
        console_name="Lowest note",
    ),
    Field("zone", "octave", "Octave shift", "zone-shift", values.signed, _held("octave"), int),
    Field("zone", "on", "Zone", "zone-range", values.on_off, _held("on"), _switched),
    Field("zone", "outputs", "Outputs", "outputs", values.outputs, _outputs),
    Field(
        "send",
        "message",
        "Message",
        "send-mode",
        MESSAGES.say,
        _chosen("message", MESSAGES),
        MESSAGES.chosen,
    ),
    Field("send", "mode", "Mode", "send-mode", MODES.say, _chosen("mode", MODES), MODES.chosen),
    Field("send", "outputs", "Outputs", "outputs", values.outputs, _outputs),
    Field(
        "send", "channel", "Channel", "send-channel", values.channel, _held("channel"), _optional
    ),
    Field("send", "number", "Number", "send-number", values.sent_number, _held("number"), int),
    Field("send", "low", "Lowest", "send-mode", values.number, _held("low"), int),
    Field("send", "high", "Highest", "send-mode", values.number, _held("high"), int),
    Field("send", "vel_low", "Softest velocity", _feel, values.number, _unless("vel_low", 1)),
    Field("send", "vel_high", "Loudest velocity", _feel, values.number, _unless("vel_high", 127)),
    Field("send", "velocity", "Fixed velocity", _feel, values.number, _unless("fixed", None)),
    Field("send", "curve", "Velocity curve", _feel, CURVES.say, _curve),
    Field("send", "fade", "Crossfade", _feel, values.on_off, _unless("fade", False)),
    Field("send", "mutes", "Mutes the group", _feel, values.mute_group, _group("mutes")),
    Field("send", "muted_by", "Muted by the group", _feel, values.mute_group, _group("muted_by")),
    Field("send", "starts", "Travel begins at", _feel, values.number, _unless("starts", 0)),
    Field("send", "ends", "Travel ends at", _feel, values.number, _unless("ends", 127)),
    Field("send", "threshold", "At rest below", _feel, values.number, _unless("threshold", 0)),
    Field("send", "page", "Number, high part", _feel, values.number, _page),
    Field("send", "repeat", "Note repeat", _feel, DIVISIONS.say, _division),
    Field("send", "swing", "Swing", _feel, values.percent, _swing),
    Field(
        "part",
        "channel",
        "Channel",
        "part-channel",
        values.channel_heard,
        _held("channel"),
        _optional,
    ),
    Field("part", "low", "Lowest", "part-range", values.note, _held("low"), int),
    Field("part", "high", "Highest", "part-range", values.note, _held("high"), int),
    Field(
        "part",
        "transpose",
        "Transpose",
        "part-shift",
        values.signed,
        _held("transpose"),
        int,
        console_name="Lowest note",
    ),
    Field("sound", "note", "Note", "kit-notes", values.note, _held("note"), int),
    Field(
        "target",
        "controller",
        "Controller",
        "target-controller",
        values.answered,
        _held("controller"),
        _optional,
    ),
)


def by_owner(fields: tuple[Field, ...]) -> Mapping[OwnerKind, tuple[Field, ...]]:
    """Fields by what they belong to, in the order of the table."""
    found: dict[OwnerKind, list[Field]] = defaultdict(list)
    for field in fields:
        found[field.owner].append(field)
    return MappingProxyType({kind: tuple(held) for kind, held in found.items()})


_BY_OWNER = by_owner(FIELDS)


def fields_for(kind: OwnerKind) -> tuple[Field, ...]:
    """The fields that things of a kind may have."""
    return _BY_OWNER.get(kind, ())
