"""Fields of a device as a whole: switches, trigger inputs, jacks, what a console is told."""

from typing import Any, Final, get_args

from vastzone.core.midi import pitch
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.values import (
    Listed,
    Measure,
    NamedChoice,
    OnOff,
    Typed,
    Whole,
    optional_text,
    optional_words,
    read_optional,
    read_volts,
    volts_text,
    volts_words,
)
from vastzone.core.plan.model.console import EncoderSchool, Facing, School
from vastzone.core.plan.model.pedals import Sense, Wiper
from vastzone.core.plan.model.setlists import Banked, Clock, Way
from vastzone.core.plan.model.triggers import InputType
from vastzone.core.say import say

SENSES = NamedChoice(get_args(Sense), only=lambda owner: owner.thing.senses)
WIPERS = NamedChoice(get_args(Wiper), only=lambda owner: owner.thing.wipers)
INPUT_TYPES = NamedChoice(get_args(InputType), only=lambda owner: owner.thing.types)
SCHOOLS = NamedChoice(get_args(School), {"lowest key": say("its lowest key")})
ENCODER_SCHOOLS = NamedChoice(
    get_args(EncoderSchool),
    {
        "lowest key": say("counted from the lowest key"),
        "note names": say("fixed note names"),
        "either": say("either, as it is told"),
    },
)
FACINGS = NamedChoice(
    get_args(Facing),
    {
        "common to line": say("away from the commons"),
        "line to common": say("towards the commons"),
    },
)
ASKS = NamedChoice(("octave and index", "note number"))
TRACKS = NamedChoice(("whole", "reversed", "worn"))
WAYS = NamedChoice(
    get_args(Way),
    {
        "own buttons": say("up and down"),
        "by number": say("by typing a number"),
        "by hand": say("through its panel"),
        "by message": say("by a message"),
        "host list": say("by a host’s list"),
    },
)
BANKED = NamedChoice(get_args(Banked))
CLOCK_WORDS = {"none": say("not used"), "sends": say("is sent"), "follows": say("is followed")}
CLOCKS = NamedChoice(get_args(Clock), CLOCK_WORDS)
CLOSED_ENDS = NamedChoice(("high", "low"), {"high": say("up, to 127"), "low": say("down, to 0")})
VOLTS = Typed(volts_text, read_volts, volts_words)
SWITCH: Final = "device-switch"
INPUT: Final = "input"
JACK: Final = "jack"


def _local(owner: Owner) -> bool:
    """Only what has both keys and sounds has local control."""
    return bool(owner.device.keybeds and owner.device.parts)


def _programs(owner: Owner) -> bool:
    return bool(owner.device.programs)


def _choices(owner: Owner) -> tuple[tuple[str, Any], ...]:
    choices = []
    for place, words in enumerate(owner.thing.choices):
        choices.append((words, place))
    return tuple(choices)


def _namings(_owner: Owner) -> tuple[tuple[str, Any], ...]:
    choices = []
    for naming in pitch.NAMINGS:
        choices.append((f"C{naming}", naming))
    return tuple(choices)


def _zero_or_one(_owner: Owner) -> tuple[tuple[str, Any], ...]:
    return (("0", 0), ("1", 1))


def _is_hat(owner: Owner) -> bool:
    return bool(owner.thing.type == "hi-hat")


def _zoned(owner: Owner) -> bool:
    return owner.thing.type not in ("hi-hat", "mono", "kick")


def _calibrated(owner: Owner) -> bool:
    return bool(owner.thing.calibrated)


def _of_keys(owner: Owner) -> bool:
    return owner.thing.keybed is not None


def _analogue(owner: Owner) -> tuple[tuple[str, Any], ...]:
    console = owner.device.console
    count = console.encoder.analogue if console else 0
    choices = []
    for number in range(1, count + 1):
        choices.append((say("input {number}", number=number), number))
    return tuple(choices)


def _clocked(owner: Owner) -> bool:
    return bool(owner.device.clock != "none")


UNKNOWN = say("not known")
DEVICE_FIELDS: tuple[Field, ...] = (
    Field("device", "name", say("Name"), SWITCH, Typed(), kept="nowhere"),
    Field("device", "octaves", say("Middle C is"), SWITCH, Listed(_namings), kept="fixed"),
    Field(
        "device",
        "first_program",
        say("Programs from"),
        SWITCH,
        Listed(_zero_or_one),
        _programs,
        kept="fixed",
    ),
    Field("device", "local", say("Local control"), SWITCH, OnOff(), _local, solved=True),
    Field("device", "player", say("Played by"), SWITCH, Typed(), kept="nowhere"),
    Field("device", "changes_by", say("Changes programs"), SWITCH, WAYS, _programs, kept="nowhere"),
    Field("device", "rings_on", say("Rings on"), SWITCH, OnOff(), _programs, kept="nowhere"),
    Field(
        "device",
        "program_ms",
        say("Program takes, ms"),
        SWITCH,
        Measure(0, 1000),
        _programs,
        kept="nowhere",
    ),
    Field(
        "device",
        "hears_programs",
        say("Hears program changes on"),
        SWITCH,
        Whole(1, 16, say("no channel")),
        lambda owner: owner.device.hears_programs is not None,
        None,
    ),
    Field(
        "device",
        "bank_select",
        say("Bank select"),
        SWITCH,
        BANKED,
        lambda owner: owner.device.hears_programs is not None,
        kept="nowhere",
    ),
    Field("device", "clock", say("Clock"), SWITCH, CLOCKS, _clocked, "none"),
    Field("switch", "choice", say("Set to"), SWITCH, Listed(_choices)),
    Field("passed on", "on", say("Pass on"), SWITCH, OnOff(), solved=True),
    Field(
        "input",
        "type",
        say("Input type"),
        INPUT,
        INPUT_TYPES,
        lambda owner: len(owner.thing.types) > 1,
        asked=say("Type"),
    ),
    Field(
        "input",
        "linked",
        say("Zones linked"),
        INPUT,
        OnOff(),
        _zoned,
        False,
        asked=say("All zones as one"),
    ),
    Field(
        "input", "closed_end", say("Pedal down counts"), INPUT, CLOSED_ENDS, _is_hat, usual="high"
    ),
    Field("input", "half", say("Half open from"), INPUT, Whole(), _is_hat),
    Field("input", "closed", say("Closed from"), INPUT, Whole(), _is_hat),
    Field("input", "sensitivity", say("Sensitivity"), INPUT, Whole(0, 127, UNKNOWN), usual=None),
    Field("input", "threshold", say("Threshold"), INPUT, Whole(0, 127, UNKNOWN), usual=None),
    Field(
        "input",
        "mask_ms",
        say("Mask time, ms"),
        INPUT,
        Typed(optional_text, read_optional, optional_words),
        usual=None,
    ),
    Field(
        "input", "crosstalk", say("Crosstalk taken away"), INPUT, Whole(0, 127, UNKNOWN), usual=None
    ),
    Field(
        "jack",
        "sense",
        say("Pedal at rest"),
        JACK,
        SENSES,
        lambda owner: len(owner.thing.senses) > 1,
        asked=say("Expects at rest"),
    ),
    Field(
        "jack", "wiper", say("Wiper on"), JACK, WIPERS, lambda owner: len(owner.thing.wipers) > 1
    ),
    Field("jack", "heel", say("Value at the heel"), JACK, Whole(), _calibrated),
    Field("jack", "toe", say("Value at the toe"), JACK, Whole(), _calibrated),
    Field("jack", "hysteresis", say("Moves ignored up to"), JACK, Whole(), _calibrated),
)


def _made(what: str, name: str, low: int, high: int) -> Field:
    """What an encoder is made with."""
    return Field("encoder", what, name, SWITCH, Whole(low, high), kept="fixed")


CONSOLE_FIELDS: tuple[Field, ...] = (
    _made("lines", say("Note lines"), 1, 64),
    _made("commons", say("Common pins"), 1, 256),
    _made("analogue", say("Analogue inputs"), 0, 64),
    _made("keyboards", say("Keyboards at most"), 1, 32),
    Field(
        "encoder", "settle_us", say("Lines settle, µs"), SWITCH, Measure(0, 10_000), kept="fixed"
    ),
    Field(
        "encoder",
        "debounce_ms",
        say("Contact bounce, 0.1 ms"),
        SWITCH,
        Measure(0, 1000, 10.0),
        kept="fixed",
    ),
    Field("encoder", "high", say("Input limit, V"), SWITCH, VOLTS, kept="fixed"),
    Field("encoder", "school", say("Its lines are"), SWITCH, ENCODER_SCHOOLS, kept="fixed"),
    Field("encoder", "asks", say("Lowest notes by"), SWITCH, ASKS, kept="fixed"),
    Field(
        "encoder", "first_index", say("Its index for C"), SWITCH, Listed(_zero_or_one), kept="fixed"
    ),
    Field("encoder", "erases", say("Erased by setting up"), SWITCH, OnOff(), kept="fixed"),
    Field("block", "name", say("Name"), SWITCH, Typed(), kept="nowhere"),
    Field("block", "soldered", say("Soldered"), SWITCH, OnOff(), kept="nowhere"),
    Field("block", "school", say("Lines count from"), SWITCH, SCHOOLS, _of_keys, kept="nowhere"),
    Field("block", "diodes", say("Diodes"), SWITCH, OnOff(), kept="nowhere"),
    Field("block", "facing", say("Diodes lead"), SWITCH, FACINGS, kept="nowhere"),
    Field("block", "declared", say("Encoder is told"), SWITCH, FACINGS, usual="common to line"),
    Field(
        "block",
        "distance",
        say("To the encoder, cm"),
        SWITCH,
        Measure(0, 5000, 100.0),
        kept="nowhere",
    ),
    Field(
        "block", "pitch", say("Contacts apart, mm"), SWITCH, Measure(0, 500, 1000.0), kept="nowhere"
    ),
    Field(
        "shoe",
        "input",
        say("Analogue input"),
        SWITCH,
        Listed(_analogue, say("none")),
        kept="nowhere",
    ),
    Field("shoe", "heel", say("At the heel, V"), SWITCH, VOLTS, kept="nowhere"),
    Field("shoe", "toe", say("At the toe, V"), SWITCH, VOLTS, kept="nowhere"),
    Field("shoe", "track", say("Track"), SWITCH, TRACKS, kept="nowhere"),
    Field(
        "shoe", "noise", say("Jitters by, 0.1 step"), SWITCH, Measure(0, 640, 10.0), kept="nowhere"
    ),
    Field("shoe", "hysteresis", say("Ignores moves up to"), SWITCH, Whole(), usual=1),
)
