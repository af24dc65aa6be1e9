"""Fields of what sounds and what moves: parts, sounds of kits, targets."""

from typing import Any, get_args

from vastzone.core.errors import EditError
from vastzone.core.midi.controllers import label
from vastzone.core.midi.turns import Turning
from vastzone.core.midi.wide import SELECT, UNNUMBERED, Moving, name
from vastzone.core.plan.fields.field import Field, ports_field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.send_fields import (
    MESSAGE_WORDS,
    TURNING_WORDS,
    controller_choices,
    parameter_words,
    read_parameter,
)
from vastzone.core.plan.fields.values import (
    MISSING,
    EntryForm,
    Listed,
    Measure,
    NamedChoice,
    Note,
    OnOff,
    Ports,
    Stored,
    Typed,
    Whole,
    as_number,
    optional_text,
    optional_words,
    read_optional,
    signed,
)
from vastzone.core.plan.model.parts import Trigger
from vastzone.core.plan.model.values import Mode, Receiving
from vastzone.core.plan.queries.capabilities import can_be_limited
from vastzone.core.say import say
from vastzone.core.text import decimal, listed_pairs, quoted, whole_number

TRIGGERS = NamedChoice(get_args(Trigger))
RECEIVING = NamedChoice(
    get_args(Receiving),
    {
        "set": say("can be set"),
        "fixed": say("cannot be changed"),
        "learns": say("is learned"),
        "takes all": say("takes everything"),
    },
)
ANSWERS = NamedChoice(get_args(Moving), MESSAGE_WORDS)
ANSWERING = NamedChoice(("continuous", *get_args(Mode)))
TARGET_TURNINGS = NamedChoice(get_args(Turning), TURNING_WORDS | {"absolute": say("where to go")})
TAKEOVER = NamedChoice(
    ("jump", "pick-up"), {"jump": say("jumps"), "pick-up": say("waits for pick-up")}
)


def _programs(owner: Owner) -> tuple[tuple[str, Any], ...]:
    """All programs by number, as the device counts them."""
    first = owner.device.first_program
    return tuple((str(number + first), number) for number in range(128))


def _reads_turns(owner: Owner) -> bool:
    """Whether it reads steps; what goes where it is told to has no such setting."""
    return bool(owner.thing.turning != "absolute")


class AnsweredNumber:
    """The controller or parameter that moves a target, with its 14 bits; or none."""

    def stored(self, _owner: Owner, value: Any) -> int:
        """The number on the wire."""
        return MISSING if value is None else int(value)

    def held(self, owner: Owner, stored: Stored) -> int | None:
        """The number.  Raises EditError where there is none so large."""
        number, most = as_number(stored), 16383 if owner.thing.answers in SELECT else 127
        if number == MISSING:
            return None
        if not 0 <= number <= most:
            raise EditError(
                say("{number} is outside 0–{most}: choose one inside.", number=number, most=most)
            )
        return number

    def words(self, owner: Owner, stored: Stored) -> str:
        """A controller by meaning, a parameter by its halves."""
        number, answers = as_number(stored), owner.thing.answers
        if number == MISSING:
            return say("none")
        if answers == "program":
            return str(number + owner.device.first_program)
        return label(number & 0x7F) if answers == "controller" else name(answers, number)

    def form(self, owner: Owner) -> EntryForm:
        """By meaning, or by typing."""
        answers = owner.thing.answers
        if answers in SELECT:
            return EntryForm("text")
        if answers == "program":
            return EntryForm("choice", choices=(("none", None), *_programs(owner)))
        return EntryForm("choice", choices=(("none", None), *controller_choices(answers)))

    def shown(self, owner: Owner, value: Any) -> Any:
        """A parameter as its halves."""
        if owner.thing.answers not in SELECT:
            return value
        return "" if value is None else parameter_words(value)

    def entered(self, owner: Owner, shown: Any) -> int | None:
        """As it is on the wire."""
        if owner.thing.answers not in SELECT:
            return None if shown is None else int(shown)
        return read_parameter(shown) if shown.strip() else None


def _answer_asked(owner: Owner) -> str:
    if owner.thing.answers == "program":
        return say("Program")
    return say("Number") if owner.thing.answers in SELECT else say("Controller")


def _put_answered(owner: Owner, number: int | None) -> dict[str, Any]:
    if number is not None and owner.thing.answers in SELECT:
        return {"page": number >> 7, "controller": number & 0x7F}
    return {"controller": number}


def louder_words(louder: tuple[tuple[int, float], ...]) -> str:
    """How much louder a target makes it: «0 0, 127 9», value and dB."""
    return ", ".join(
        say("{value} {decibels:g}", value=value, decibels=decibels) for value, decibels in louder
    )


def read_louder(words: str) -> tuple[tuple[int, float], ...]:
    """Values with dB as they are typed.  Raises EditError where one is missing."""
    louder: dict[int, float] = {}
    for piece in listed_pairs(words):
        first, _, second = piece.partition(" ")
        value, decibels = whole_number(first), decimal(second)
        good = value is not None and decibels is not None
        if not good or not 0 <= (value or 0) <= 127 or abs(decibels or 0) > 60:
            raise EditError(
                say(
                    "“{piece}” is no value with its dB: write such as “127 9”.", piece=quoted(piece)
                )
            )
        louder[value or 0] = decibels or 0.0
    return tuple(sorted(louder.items()))


def _part_groups(owner: Owner) -> tuple[tuple[str, Any], ...]:
    known = set()
    for part in owner.device.parts:
        if part.mute_group:
            known.add(part.mute_group)
    fresh = set()
    for number in range(1, 5):
        fresh.add(f"group-{number}")
    choices = []
    for group in sorted(known | fresh):
        choices.append((group.replace("group-", ""), group))
    return tuple(choices)


def kit_choices(owner: Owner) -> tuple[tuple[str, Any], ...]:
    """The kits of a device by name."""
    choices = []
    for kit in owner.device.kits:
        choices.append((kit.name, kit.id))
    return tuple(choices)


def _repitchings(_owner: Owner) -> tuple[tuple[str, Any], ...]:
    """How far one sample may be played from its root."""
    choices = []
    for semitones in range(61):
        choices.append((say("{semitones} semitones", semitones=semitones), semitones))
    return tuple(choices)


def _has_kits(owner: Owner) -> bool:
    return bool(owner.device.kits)


def _several_inputs(owner: Owner) -> bool:
    return len(owner.device.ports) > 1


def _of_no_part(owner: Owner) -> bool:
    return owner.thing.part is None


def _has_a_number(owner: Owner) -> bool:
    return owner.thing.answers not in UNNUMBERED


def _limited(owner: Owner) -> bool:
    """Whether a receiver can be told how far it moves, or has been."""
    target = owner.thing
    return can_be_limited(owner.device, target) or (target.least, target.most) != (None, None)


PART_FIELDS: tuple[Field, ...] = (
    Field("part", "name", say("Name"), "part-mode", Typed(), kept="nowhere"),
    Field("part", "tag", say("Tag"), "part-mode", Typed(), kept="nowhere"),
    Field("part", "channel", say("Channel"), "part-channel", Whole(1, 16, "all"), solved=True),
    Field(
        "part", "low", say("Lowest"), "part-range", Note(), solved=True, asked=say("Lowest note")
    ),
    Field(
        "part", "high", say("Highest"), "part-range", Note(), solved=True, asked=say("Highest note")
    ),
    Field(
        "part",
        "vel_low",
        say("Softest velocity"),
        "part-mode",
        Whole(1),
        usual=1,
        asked=say("Softest"),
    ),
    Field(
        "part",
        "vel_high",
        say("Loudest velocity"),
        "part-mode",
        Whole(1),
        usual=127,
        asked=say("Loudest"),
    ),
    Field(
        "part",
        "transpose",
        say("Transpose"),
        "part-shift",
        Whole(-60, 60, say=signed),
        solved=True,
        console_name=say("Lowest note"),
    ),
    Field("part", "root", say("Root key"), "part-mode", Note(), kept="nowhere"),
    Field(
        "part",
        "repitch",
        say("Repitched up to"),
        "part-mode",
        Listed(_repitchings, say("not at all")),
        kept="nowhere",
    ),
    Field("part", "trigger", say("Trigger"), "part-mode", TRIGGERS, usual="gate"),
    Field("part", "mono", say("Mono"), "part-mode", OnOff(), usual=False),
    Field(
        "part",
        "mute_group",
        say("Mute group"),
        "part-mode",
        Listed(_part_groups, say("none")),
        usual=None,
    ),
    Field(
        "part", "kit", say("Kit"), "part-mode", Listed(kit_choices, say("none")), _has_kits, None
    ),
    ports_field(
        "part",
        "inputs",
        say("Inputs heard"),
        "part-mode",
        Ports("in"),
        has=_several_inputs,
        usual=(),
    ),
    Field("part", "layer", say("Part of a layer"), "part-mode", OnOff(), kept="nowhere"),
    Field("part", "bend", say("Bends by, semitones"), "part-mode", Whole(0, 48), usual=2),
    Field("part", "loud", say("Loud or risky"), "part-mode", OnOff(), kept="nowhere"),
    Field("part", "receives", say("Its channel"), "part-mode", RECEIVING, kept="nowhere"),
    Field("sound", "note", say("Note"), "kit-notes", Note(), solved=True),
    Field("target", "name", say("Name"), "target-mode", Typed(), kept="nowhere"),
    Field(
        "target", "channel", say("Channel"), "target-mode", Whole(1, 16, "all"), _of_no_part, None
    ),
    Field("target", "answers", say("Goes by"), "target-mode", ANSWERS, usual="controller"),
    Field(
        "target",
        "controller",
        say("Controller"),
        "target-controller",
        AnsweredNumber(),
        _has_a_number,
        solved=True,
        asked=_answer_asked,
        get=lambda owner: owner.thing.wide,
        put=_put_answered,
    ),
    Field("target", "unit", say("Unit"), "target-mode", Typed(), kept="nowhere"),
    Field("target", "low", say("Lowest"), "target-mode", Measure(-20_000, 20_000), kept="nowhere"),
    Field(
        "target", "high", say("Highest"), "target-mode", Measure(-20_000, 20_000), kept="nowhere"
    ),
    Field("target", "mode", say("Answers as"), "target-mode", ANSWERING, usual="continuous"),
    Field(
        "target",
        "least",
        say("Moves from"),
        "target-mode",
        Typed(optional_text, read_optional, optional_words),
        _limited,
        None,
        solved=True,
    ),
    Field(
        "target",
        "most",
        say("Moves to"),
        "target-mode",
        Typed(optional_text, read_optional, optional_words),
        _limited,
        None,
        solved=True,
    ),
    Field("target", "together", say("Several may move it"), "target-mode", OnOff(), kept="nowhere"),
    Field("target", "rise_ms", say("Rises in, ms"), "target-mode", Measure(0, 10_000), usual=0.0),
    Field("target", "fall_ms", say("Falls in, ms"), "target-mode", Measure(0, 10_000), usual=0.0),
    Field(
        "target", "turning", say("Reads"), "target-mode", TARGET_TURNINGS, _reads_turns, "absolute"
    ),
    Field("target", "takeover", say("When met elsewhere"), "target-mode", TAKEOVER, usual="jump"),
    Field(
        "target",
        "ceiling",
        say("Ceiling"),
        "target-mode",
        Typed(optional_text, read_optional, optional_words),
        kept="nowhere",
    ),
    Field(
        "target",
        "louder",
        say("Louder by dB at"),
        "target-mode",
        Typed(louder_words, read_louder),
        kept="nowhere",
    ),
    Field("target", "receives", say("Its number"), "target-mode", RECEIVING, kept="nowhere"),
)
