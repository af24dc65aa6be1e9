"""Fields of what a control sends, in one bank and layer of a program."""

from collections.abc import Callable
from typing import Any, Final, get_args

from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.midi.controllers import label
from vastzone.core.midi.turns import Turning
from vastzone.core.midi.wide import (
    FINE,
    FINE_SENT,
    SELECT,
    UNNUMBERED,
    WIDE,
    fine_of,
    name,
    value_of,
)
from vastzone.core.plan.fields.field import Field, ports_field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.values import (
    EntryForm,
    Listed,
    NamedChoice,
    OnOff,
    Ports,
    Stored,
    Typed,
    Whole,
    as_number,
    percent,
    points_words,
    read_points,
    read_values,
    values_words,
)
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Curve, Division, Drive, Repeat
from vastzone.core.plan.model.values import Mode, Sending
from vastzone.core.plan.queries.capabilities import ControlAbility, control_ability, messages_of
from vastzone.core.plan.queries.functions import offered
from vastzone.core.plan.queries.lookup import mute_groups
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number

GROUPS = 8
MESSAGE_WORDS = {
    "none": say("nothing"),
    "pair": say("14-bit pair"),
    "rpn": say("registered parameter"),
    "nrpn": say("unregistered parameter"),
}
CURVE_WORDS = {
    "linear": say("straight"),
    "easy": say("easy, loud early"),
    "hard": say("hard, loud late"),
    "s-shaped": say("S-shaped"),
}
CURVES = NamedChoice(get_args(Curve), CURVE_WORDS)
DIVISIONS = NamedChoice(get_args(Division))
MODES = NamedChoice(get_args(Mode))
TURNING_WORDS = {
    "absolute": say("where it stands"),
    "1 or 127": say("steps, 1 and 127"),
    "65 or 63": say("steps, 65 and 63"),
    "1 or 65": say("steps, 1 and 65"),
}
TURNINGS = NamedChoice(get_args(Turning), TURNING_WORDS)


def _offered(owner: Owner) -> tuple[str, ...]:
    """The messages that a control can send, and what it sends now."""
    control, now = owner.control, str(owner.thing.message)
    offered: tuple[str, ...] = messages_of(control) if control else ()
    return offered if now in offered else (*offered, now)


MESSAGES = NamedChoice(get_args(Sending), MESSAGE_WORDS, _offered)


def parameter_words(number: int) -> str:
    """The number of a parameter, its high and low 7 bits: «2/5»."""
    return f"{number >> 7}/{number & 0x7F}"


def read_parameter(words: str) -> int:
    """The number of a parameter, 0–16383, or its two halves.  Raises EditError."""
    high, slash, low = words.partition("/")
    halves = (whole_number(high), whole_number(low)) if slash else (0, whole_number(high))
    if None in halves:
        raise EditError(
            say("“{words}” is no number: write one, or two such as “2/5”.", words=quoted(words))
        )
    number = (halves[0] or 0) * 128 + (halves[1] or 0)
    most = 127 if slash else 16383
    if not (0 <= (halves[0] or 0) <= 127 and 0 <= (halves[1] or 0) <= most):
        raise EditError(
            say("“{words}” is too large: parameters go to 16383, or 127/127.", words=quoted(words))
        )
    return number


def controller_choices(kind: str) -> tuple[tuple[str, Any], ...]:
    """The controllers to choose from, or the pairs of them."""
    if kind == "pair":
        choices = []
        for number in range(FINE):
            choices.append(
                (say("{label}, with {number}", label=label(number), number=number + FINE), number)
            )
        return tuple(choices)
    choices = []
    for number in range(120):
        choices.append((label(number), number))
    return tuple(choices)


class SentNumber:
    """What a control sends: a note, a controller, a program, or a parameter with its 14 bits."""

    def stored(self, _owner: Owner, value: Any) -> int:
        """The number on the wire."""
        return int(value)

    def held(self, owner: Owner, stored: Stored) -> int:
        """The number.  Raises EditError where a message has none so large."""
        number, most = as_number(stored), 16383 if owner.thing.message in SELECT else 127
        if not 0 <= number <= most:
            raise EditError(
                say("{number} is outside 0–{most}: choose one inside.", number=number, most=most)
            )
        return number

    def words(self, owner: Owner, stored: Stored) -> str:
        """A note by name, a controller by meaning, a program as the device counts."""
        device, message, number = owner.device, owner.thing.message, as_number(stored)
        if message == "controller":
            return label(number & 0x7F)
        if message in WIDE:
            return name(message, number)
        if message == "program":
            return str(number + device.first_program)
        return pitch.label(number & 0x7F, device.octaves)

    def form(self, owner: Owner) -> EntryForm:
        """By name, or by typing."""
        message = owner.thing.message
        if message in SELECT:
            return EntryForm("text")
        if message in WIDE:
            return EntryForm("choice", choices=controller_choices(message))
        if message == "program":
            return EntryForm("number", owner.device.first_program, 127 + owner.device.first_program)
        return EntryForm("note")

    def shown(self, owner: Owner, value: Any) -> Any:
        """As the device counts."""
        message = owner.thing.message
        if message in SELECT:
            return parameter_words(value)
        return value + owner.device.first_program if message == "program" else value

    def entered(self, owner: Owner, shown: Any) -> int:
        """As it is on the wire."""
        message = owner.thing.message
        if message in SELECT:
            return read_parameter(shown)
        return int(shown) - (owner.device.first_program if message == "program" else 0)


def _get_number(owner: Owner) -> int:
    return int(owner.thing.wide)


def _put_number(owner: Owner, number: int) -> dict[str, Any]:
    if owner.thing.message in SELECT:
        return {"page": number >> 7, "number": number & 0x7F}
    return {"number": number}


class SentLevel:
    """A value sent: of 7 bits, or of 14 where the message has so many."""

    def stored(self, owner: Owner, value: Any) -> int:
        """The value on the wire."""
        return fine_of(value) if owner.thing.message in FINE_SENT else int(value)

    def held(self, owner: Owner, stored: Stored) -> float:
        """As it stands in the plan, 0–127.  Raises EditError beyond what can be sent."""
        value, fine = as_number(stored), owner.thing.message in FINE_SENT
        most = 16383 if fine else 127
        if not 0 <= value <= most:
            raise EditError(
                say("{value} is outside 0–{most}: choose one inside.", value=value, most=most)
            )
        level = value_of(value) if fine else value
        return int(level) if level == int(level) else level

    def words(self, _owner: Owner, stored: Stored) -> str:
        """The number."""
        return str(stored)

    def form(self, owner: Owner) -> EntryForm:
        """A number to type."""
        return EntryForm("number", 0, 16383 if owner.thing.message in FINE_SENT else 127)

    def shown(self, owner: Owner, value: Any) -> int:
        """The value on the wire."""
        return self.stored(owner, value)

    def entered(self, owner: Owner, shown: Any) -> float:
        """As it stands in the plan."""
        return self.held(owner, shown)


def _can(owner: Owner) -> ControlAbility:
    return control_ability(owner.control) if owner.control else ControlAbility()


def sends(owner: Owner) -> bool:
    """Whether anything is sent."""
    return bool(owner.thing.message != "none")


def _numbered(owner: Owner) -> bool:
    return owner.thing.message not in ("none", *UNNUMBERED)


def strikes(owner: Owner) -> bool:
    """Whether it sends notes as hard as it is struck."""
    return owner.thing.message == "note" and _can(owner).hard


def _curved(owner: Owner) -> bool:
    return _shaped(owner) and owner.thing.fixed is None


def _shaped(owner: Owner) -> bool:
    """Whether what is sent follows a hand: how hard, or how far."""
    return strikes(owner) or (travels(owner) and _can(owner).swept)


def travels(owner: Owner) -> bool:
    """Whether values are sent, and no notes or programs."""
    return owner.thing.message not in ("none", "note", "program")


def _levels(owner: Owner) -> bool:
    """Whether there are two ends: values at rest and pressed, or softest and loudest."""
    return sends(owner) and owner.thing.message != "program"


def _swept(owner: Owner) -> bool:
    return travels(owner) and _can(owner).swept


def _notes(owner: Owner) -> bool:
    return bool(owner.thing.message == "note")


def _windowed(owner: Owner) -> bool:
    return sends(owner) and _can(owner).hard


def _get_division(owner: Owner) -> str | None:
    return owner.thing.repeat.division if owner.thing.repeat else None


def _put_division(owner: Owner, division: str | None) -> dict[str, Any]:
    swing = owner.thing.repeat.swing if owner.thing.repeat else 50
    new = None if division is None else Repeat(division=division, swing=swing)  # type: ignore[arg-type]
    return {"repeat": new}


def _put_swing(owner: Owner, swing: int) -> dict[str, Any]:
    return {"repeat": Repeat(division=owner.thing.repeat.division, swing=swing)}


def _groups(owner: Owner) -> tuple[tuple[str, Any], ...]:
    """The mute groups of a device's pads, and eight more to begin."""
    fresh = (f"group-{number + 1}" for number in range(GROUPS))
    known = dict.fromkeys((*mute_groups(owner.device), *fresh))
    choices = []
    for group in known:
        choices.append((group.replace("group-", ""), group))
    return tuple(choices)


def _divisions(_owner: Owner) -> tuple[tuple[str, Any], ...]:
    choices = []
    for each in DIVISIONS.names:
        choices.append((each.replace("t", " triplet"), each))
    return tuple(choices)


NUMBERED = {
    "note": say("Note"),
    "program": say("Program"),
    "controller": say("Controller"),
    "pair": say("Controller"),
}


def _number_asked(owner: Owner) -> str:
    return NUMBERED.get(owner.thing.message, say("Number"))


def _low_asked(owner: Owner) -> str:
    if _notes(owner):
        return say("Softest sends")
    return say("Rest sends") if _can(owner).swept else say("Released sends")


def _high_asked(owner: Owner) -> str:
    if _notes(owner):
        return say("Hardest sends")
    return say("Full sends") if _can(owner).swept else say("Pressed sends")


def _functions(owner: Owner) -> tuple[tuple[str, Any], ...]:
    """What the control can be told to do in its own device, and what it is told now."""
    can = list(offered(owner.device, owner.control)) if owner.control else []
    if owner.thing.does is not None and owner.thing.does not in can:
        can.append(owner.thing.does)
    return tuple((say(each), each) for each in can)


def _can_be_told(owner: Owner) -> bool:
    return bool(_functions(owner))


def _endless(owner: Owner) -> bool:
    return bool(owner.control and owner.control.endless and owner.thing.message == "controller")


def _pressed_values(owner: Owner) -> bool:
    """Whether single strokes send values."""
    return travels(owner) and _can(owner).pressed


def _pressed_sends(owner: Owner) -> bool:
    return sends(owner) and _can(owner).pressed


def _driven(owner: Owner) -> bool:
    return _pressed_values(owner) and owner.thing.drive is not None


def _get_driven(owner: Owner) -> str:
    return owner.thing.drive.kind if owner.thing.drive else "set"


def _put_driven(owner: Owner, kind: str) -> dict[str, Any]:
    if kind == "set":
        return {"drive": None}
    return {"drive": changed(owner.thing.drive or Drive(), kind=kind)}


def _in_steps(owner: Owner) -> bool:
    return _driven(owner) and owner.thing.drive.kind == "steps"


def _by_throw(owner: Owner) -> bool:
    return _driven(owner) and owner.thing.drive.kind == "random"


def _put_values(owner: Owner, values: tuple[int, ...]) -> dict[str, Any]:
    return {"drive": changed(owner.thing.drive, values=values)}


def _put_seed(owner: Owner, seed: int) -> dict[str, Any]:
    return {"drive": changed(owner.thing.drive, seed=seed)}


FEEL: Final = "send-feel"
BY_STROKE = NamedChoice(
    ("set", "steps", "random"),
    {"set": say("the same"), "steps": say("the next of a row"), "random": say("one by chance")},
)


def _level(end: str, name: str, asked: Callable[[Owner], str]) -> Field:
    return Field("send", end, name, "send-mode", SentLevel(), _levels, solved=True, asked=asked)


SEND_FIELDS: tuple[Field, ...] = (
    Field(
        "send", "message", say("Message"), "send-mode", MESSAGES, solved=True, asked=say("Sends")
    ),
    Field("send", "mode", say("Mode"), "send-mode", MODES, _levels, solved=True),
    ports_field("send", "outputs", say("Outputs"), "outputs", Ports("out"), has=sends),
    Field(
        "send",
        "channel",
        say("Channel"),
        "send-channel",
        Whole(1, 16, say("as the zones")),
        sends,
        solved=True,
    ),
    Field(
        "send",
        "number",
        say("Number"),
        "send-number",
        SentNumber(),
        _numbered,
        solved=True,
        asked=_number_asked,
        get=_get_number,
        put=_put_number,
    ),
    _level("low", say("Lowest"), _low_asked),
    _level("high", say("Highest"), _high_asked),
    Field(
        "send",
        "vel_low",
        say("Softest velocity"),
        FEEL,
        Whole(1),
        _windowed,
        1,
        asked=say("Struck from"),
    ),
    Field(
        "send",
        "vel_high",
        say("Loudest velocity"),
        FEEL,
        Whole(1),
        _windowed,
        127,
        asked=say("Struck to"),
    ),
    Field(
        "send",
        "velocity",
        say("Fixed velocity"),
        FEEL,
        Whole(1, 127, say("as struck")),
        _notes,
        None,
        asked=say("Velocity"),
        get=lambda owner: owner.thing.fixed,
        put=lambda _, value: {"fixed": value},
    ),
    Field(
        "send", "curve", say("Velocity curve"), FEEL, CURVES, _curved, "linear", asked=say("Curve")
    ),
    Field(
        "send",
        "points",
        say("Curve drawn through"),
        FEEL,
        Typed(points_words, read_points),
        _curved,
        (),
        asked=say("Drawn through"),
    ),
    Field("send", "fade", say("Crossfade"), FEEL, OnOff(), _windowed, False, asked=say("Blends")),
    Field(
        "send",
        "mutes",
        say("Mutes the group"),
        FEEL,
        Listed(_groups, say("none")),
        _notes,
        None,
        asked=say("Mutes group"),
    ),
    Field(
        "send",
        "muted_by",
        say("Muted by the group"),
        FEEL,
        Listed(_groups, say("none")),
        _notes,
        None,
        asked=say("Muted by group"),
    ),
    Field(
        "send",
        "starts",
        say("Travel begins at"),
        FEEL,
        Whole(0, 126),
        _swept,
        0,
        asked=say("Travel from"),
    ),
    Field(
        "send",
        "ends",
        say("Travel ends at"),
        FEEL,
        Whole(1, 127),
        _swept,
        127,
        asked=say("Travel to"),
    ),
    Field("send", "threshold", say("At rest below"), FEEL, Whole(), _swept, 0),
    Field(
        "send",
        "repeat",
        say("Note repeat"),
        FEEL,
        Listed(_divisions, say("off")),
        strikes,
        None,
        get=_get_division,
        put=_put_division,
    ),
    Field(
        "send",
        "swing",
        say("Swing"),
        FEEL,
        Whole(50, 80, say=percent),
        lambda owner: owner.thing.repeat is not None,
        asked=say("Swing %"),
        get=lambda owner: owner.thing.repeat.swing,
        put=_put_swing,
    ),
    Field(
        "send",
        "chance",
        say("Strokes that send"),
        FEEL,
        Whole(1, 100, say=percent),
        _pressed_sends,
        100,
        asked=say("Strokes that send, %"),
    ),
    Field(
        "send",
        "stroke",
        say("Each stroke sends"),
        FEEL,
        BY_STROKE,
        _pressed_values,
        "set",
        get=_get_driven,
        put=_put_driven,
    ),
    Field(
        "send",
        "values",
        say("Row of values"),
        FEEL,
        Typed(values_words, read_values),
        _in_steps,
        get=lambda owner: owner.thing.drive.values,
        put=_put_values,
    ),
    Field(
        "send",
        "throw",
        say("Throw"),
        FEEL,
        Whole(0, 9999),
        _by_throw,
        kept="nowhere",
        get=lambda owner: owner.thing.drive.seed,
        put=_put_seed,
    ),
    Field("send", "turning", say("Tells turns as"), "send-mode", TURNINGS, _endless, "absolute"),
    Field(
        "send",
        "does",
        say("Function"),
        "send-function",
        Listed(_functions, say("none")),
        _can_be_told,
        None,
        asked=say("Does"),
    ),
)
