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
    optional_words,
    read_optional,
    read_volts,
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
SCHOOLS = NamedChoice(get_args(School), {"lowest key": "its lowest key"})
ENCODER_SCHOOLS = NamedChoice(
    get_args(EncoderSchool),
    {
        "lowest key": "counted from the lowest key",
        "note names": "fixed note names",
        "either": "either, as it is told",
    },
)
FACINGS = NamedChoice(
    get_args(Facing),
    {
        "common to line": "away from the commons",
        "line to common": "towards the commons",
    },
)
ASKS = NamedChoice(("octave and index", "note number"))
TRACKS = NamedChoice(("whole", "reversed", "worn"))
WAYS = NamedChoice(
    get_args(Way),
    {
        "own buttons": "up and down",
        "by number": "by typing a number",
        "by hand": "through its panel",
        "by message": "by a message",
        "host list": "by a host’s list",
    },
)
BANKED = NamedChoice(get_args(Banked))
CLOCK_WORDS = {"none": "not used", "sends": "is sent", "follows": "is followed"}
CLOCKS = NamedChoice(get_args(Clock), CLOCK_WORDS)
CLOSED_ENDS = NamedChoice(("high", "low"), {"high": "up, to 127", "low": "down, to 0"})
VOLTS = Typed(volts_words, read_volts)
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


UNKNOWN = "not known"
DEVICE_FIELDS: tuple[Field, ...] = (
    Field("device", "name", "Name", SWITCH, Typed(), kept="nowhere"),
    Field("device", "octaves", "Middle C is", SWITCH, Listed(_namings), kept="fixed"),
    Field(
        "device",
        "first_program",
        "Programs from",
        SWITCH,
        Listed(_zero_or_one),
        _programs,
        kept="fixed",
    ),
    Field("device", "local", "Local control", SWITCH, OnOff(), _local, solved=True),
    Field("device", "player", "Played by", SWITCH, Typed(), kept="nowhere"),
    Field("device", "changes_by", "Changes programs", SWITCH, WAYS, _programs, kept="nowhere"),
    Field("device", "rings_on", "Rings on", SWITCH, OnOff(), _programs, kept="nowhere"),
    Field(
        "device",
        "program_ms",
        "Program takes, ms",
        SWITCH,
        Measure(0, 1000),
        _programs,
        kept="nowhere",
    ),
    Field(
        "device",
        "hears_programs",
        "Hears program changes on",
        SWITCH,
        Whole(1, 16, "no channel"),
        lambda owner: owner.device.hears_programs is not None,
        None,
    ),
    Field(
        "device",
        "bank_select",
        "Bank select",
        SWITCH,
        BANKED,
        lambda owner: owner.device.hears_programs is not None,
        kept="nowhere",
    ),
    Field("device", "clock", "Clock", SWITCH, CLOCKS, _clocked, "none"),
    Field("switch", "choice", "Set to", SWITCH, Listed(_choices)),
    Field("passed on", "on", "Pass on", SWITCH, OnOff(), solved=True),
    Field(
        "input",
        "type",
        "Input type",
        INPUT,
        INPUT_TYPES,
        lambda owner: len(owner.thing.types) > 1,
        asked="Type",
    ),
    Field(
        "input", "linked", "Zones linked", INPUT, OnOff(), _zoned, False, asked="All zones as one"
    ),
    Field("input", "closed_end", "Pedal down counts", INPUT, CLOSED_ENDS, _is_hat, usual="high"),
    Field("input", "half", "Half open from", INPUT, Whole(), _is_hat),
    Field("input", "closed", "Closed from", INPUT, Whole(), _is_hat),
    Field("input", "sensitivity", "Sensitivity", INPUT, Whole(0, 127, UNKNOWN), usual=None),
    Field("input", "threshold", "Threshold", INPUT, Whole(0, 127, UNKNOWN), usual=None),
    Field(
        "input", "mask_ms", "Mask time, ms", INPUT, Typed(optional_words, read_optional), usual=None
    ),
    Field("input", "crosstalk", "Crosstalk taken away", INPUT, Whole(0, 127, UNKNOWN), usual=None),
    Field(
        "jack",
        "sense",
        "Pedal at rest",
        JACK,
        SENSES,
        lambda owner: len(owner.thing.senses) > 1,
        asked="Expects at rest",
    ),
    Field("jack", "wiper", "Wiper on", JACK, WIPERS, lambda owner: len(owner.thing.wipers) > 1),
    Field("jack", "heel", "Value at the heel", JACK, Whole(), _calibrated),
    Field("jack", "toe", "Value at the toe", JACK, Whole(), _calibrated),
    Field("jack", "hysteresis", "Moves ignored up to", JACK, Whole(), _calibrated),
)


def _made(what: str, name: str, low: int, high: int) -> Field:
    """What an encoder is made with."""
    return Field("encoder", what, name, SWITCH, Whole(low, high), kept="fixed")


CONSOLE_FIELDS: tuple[Field, ...] = (
    _made("lines", "Note lines", 1, 64),
    _made("commons", "Common pins", 1, 256),
    _made("analogue", "Analogue inputs", 0, 64),
    _made("keyboards", "Keyboards at most", 1, 32),
    Field("encoder", "settle_us", "Lines settle, µs", SWITCH, Measure(0, 10_000), kept="fixed"),
    Field(
        "encoder",
        "debounce_ms",
        "Contact bounce, 0.1 ms",
        SWITCH,
        Measure(0, 1000, 10.0),
        kept="fixed",
    ),
    Field("encoder", "high", "Input limit, V", SWITCH, VOLTS, kept="fixed"),
    Field("encoder", "school", "Its lines are", SWITCH, ENCODER_SCHOOLS, kept="fixed"),
    Field("encoder", "asks", "Lowest notes by", SWITCH, ASKS, kept="fixed"),
    Field("encoder", "first_index", "Its index for C", SWITCH, Listed(_zero_or_one), kept="fixed"),
    Field("encoder", "erases", "Erased by setting up", SWITCH, OnOff(), kept="fixed"),
    Field("block", "name", "Name", SWITCH, Typed(), kept="nowhere"),
    Field("block", "soldered", "Soldered", SWITCH, OnOff(), kept="nowhere"),
    Field("block", "school", "Lines count from", SWITCH, SCHOOLS, _of_keys, kept="nowhere"),
    Field("block", "diodes", "Diodes", SWITCH, OnOff(), kept="nowhere"),
    Field("block", "facing", "Diodes lead", SWITCH, FACINGS, kept="nowhere"),
    Field("block", "declared", "Encoder is told", SWITCH, FACINGS, usual="common to line"),
    Field(
        "block", "distance", "To the encoder, cm", SWITCH, Measure(0, 5000, 100.0), kept="nowhere"
    ),
    Field("block", "pitch", "Contacts apart, mm", SWITCH, Measure(0, 500, 1000.0), kept="nowhere"),
    Field("shoe", "input", "Analogue input", SWITCH, Listed(_analogue, "none"), kept="nowhere"),
    Field("shoe", "heel", "At the heel, V", SWITCH, VOLTS, kept="nowhere"),
    Field("shoe", "toe", "At the toe, V", SWITCH, VOLTS, kept="nowhere"),
    Field("shoe", "track", "Track", SWITCH, TRACKS, kept="nowhere"),
    Field("shoe", "noise", "Jitters by, 0.1 step", SWITCH, Measure(0, 640, 10.0), kept="nowhere"),
    Field("shoe", "hysteresis", "Ignores moves up to", SWITCH, Whole(), usual=1),
)
