"""One thing that a line says of a device: «16 pads as 4 × 4 in 3 banks, notes from C1 channel 10».

After what it is about come its qualities in any order; each is one entry of a table here.
"""

import re
from collections.abc import Callable, Collection, Iterable, Mapping
from typing import Any, NamedTuple

from vastzone.core.describe.nouns import NOUNS, Noun
from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.model.values import Sending
from vastzone.core.say import say
from vastzone.core.text import quoted

MOST = 512
"""Of one thing at once."""


class Phrase(NamedTuple):
    """How many of what, and what they are like.

    ``rows`` × ``columns`` is how they lie, from the top unless ``upwards``; ``first`` the first
    number or lowest note; ``of`` how many keys each has; ``own_channels`` begin where it says;
    ``names`` are a pattern with «{n}», or names between strokes; ``each`` are targets that every
    part has; ``low``–``high`` a range in ``unit``; keys are ``split_at`` some notes; ``flags`` are
    plain words such as «one-shot».
    """

    noun: Noun
    said: str
    how_many: int = 1
    rows: int = 0
    columns: int = 0
    upwards: bool = False
    banks: int = 1
    of: int = 0
    message: Sending | None = None
    first: int | None = None
    channel: int | None = None
    own_channels: int | None = None
    names: str = ""
    each: tuple[str, ...] = ()
    low: float | None = None
    high: float | None = None
    unit: str = ""
    flags: frozenset[str] = frozenset()
    taken: int = 0
    split_at: tuple[int, ...] = ()


FLAGS = frozenset(
    (
        "one-shot",
        "gate",
        "toggle",
        "momentary",
        "trigger",
        "endless",
        "reversed",
        "mono",
        "dual",
        "piezo-switch",
        "three-way",
        "kick",
        "hi-hat",
        "round",
        "wide",
        "omni",
        "rhythm",
        "fixed",
        "learned",
        "learns",
        "takes all",
        "pick-up",
        "14 bits",
        "velocities",
        "sustain",
        "expression",
        "swell",
        "rotor",
        "control",
        "dual-switch",
        "triple",
        "breath",
        "voltage",
        "pair",
        "stereo",
        "linked",
        "layered",
        "gets everything",
    )
)
SPOKEN = {"on/off": "toggle", "takes everything": "takes all", "latching": "toggle"}
NUMBERED: dict[str, Sending] = {
    "note": "note",
    "controller": "controller",
    "cc": "controller",
    "program": "program",
}
NOTE = r"[a-g](?:#|♯|b|♭)?-?\d|\d{1,3}"
AMOUNT = r"-?\d+(?:[.]\d+)?"
Read = Callable[["re.Match[str]", int], Mapping[str, Any]]


def _grid(found: "re.Match[str]", _naming: int) -> Mapping[str, Any]:
    return {"rows": int(found[1]), "columns": int(found[2])}


def _numbers(found: "re.Match[str]", naming: int) -> Mapping[str, Any]:
    return {"message": NUMBERED[found[1]], "first": _note(found[2], naming)}


def _range(found: "re.Match[str]", _naming: int) -> Mapping[str, Any]:
    return {"low": float(found[1]), "high": float(found[2]), "unit": found[3] or ""}


def _span(found: "re.Match[str]", naming: int) -> Mapping[str, Any]:
    low, high = _note(found[1], naming), _note(found[2], naming)
    if low > high:
        raise EditError(say("“{found}” ends before it begins: swap its ends.", found=found[0]))
    return {"first": low, "low": float(low), "high": float(high)}


def _note(word: str, naming: int) -> int:
    return pitch.parse(word.replace("−", "-"), naming)  # type: ignore[arg-type]


def _channel(word: str) -> int:
    channel = int(word)
    if not 1 <= channel <= 16:
        raise EditError(say("Channel {word} is outside 1–16: choose one inside.", word=word))
    return channel


QUALITIES: tuple[tuple[str, Read], ...] = (
    (r"as (\d+) ?(?:×|x|by) ?(\d+)", _grid),
    (r"from the bottom", lambda _, __: {"upwards": True}),
    (r"in (\d+) banks?", lambda found, _: {"banks": int(found[1])}),
    (r"of (\d+) (?:keys?|notes?|frets?)", lambda found, _: {"of": int(found[1])}),
    (rf"(note|controller|cc|program)s? (?:from )?({NOTE})\b", _numbers),
    (
        r"(?:each )?(?:on )?(?:its |their )?own channels?(?: from (\d+))?",
        lambda found, _: {"own_channels": _channel(found[1] or "1")},
    ),
    (r"(?:on )?(?:channel|ch\.?) (\d+)", lambda found, _: {"channel": _channel(found[1])}),
    (
        rf"split at ({NOTE})(?: and ({NOTE}))?",
        lambda found, naming: {
            "split_at": tuple(_note(note, naming) for note in found.groups() if note)
        },
    ),
    (r"with (\w+) each", lambda found, _: {"each": (found[1],)}),
    (r"with (\w+) and (\w+) each", lambda found, _: {"each": (found[1], found[2])}),
    (r"(\d+) (?:of them )?taken", lambda found, _: {"taken": int(found[1])}),
    (
        rf"(?:on |answering |answers )?notes? ({NOTE}) ?(?:–|-|to) ?({NOTE})\b",
        _span,
    ),
    (rf"({AMOUNT}) ?(?:–|-|to) ?({AMOUNT})(?: ?(%|db|ms|hz|st|semitones))?", _range),
    (rf"from ({NOTE})\b", lambda found, naming: {"first": _note(found[1], naming)}),
)
"""How each quality is said, as a pattern over small letters, and what it says of the phrase."""
PATTERNS = tuple((re.compile(rf"(?<!\S){pattern}(?!\S)"), read) for pattern, read in QUALITIES)
BEGINNINGS = frozenset(
    (
        "as",
        "from",
        "in",
        "of",
        "note",
        "notes",
        "controllers",
        "controller",
        "cc",
        "channel",
        "ch",
        "each",
        "own",
        "on",
        "split",
        "their",
        "its",
        "with",
        "answering",
        "answers",
        "called",
    )
)
"""Words that go on with what was said before the comma."""
_BY_LENGTH = sorted(NOUNS, key=len, reverse=True)
_NOUN = re.compile(r"(?<![\w-])(" + "|".join(map(re.escape, _BY_LENGTH)) + r")(e?s)?(?![\w-])")
_HEAD = re.compile(r"(?<![\w-])(?<!audio )(jack|input)(s)?(?![\w-])")
"""Words that make something of what stands before them: a «breath jack» is a jack."""
_DESK = re.compile(r"(\d+) channels?( pairs?)?")
_COUNT = re.compile(r"(?:and |an? |the )?(?:(\d+) )?")


def goes_on(piece: str) -> bool:
    """Whether a piece between commas says more of what came before it."""
    words = piece.lower().split()
    if not words:
        return True
    if words[0] in BEGINNINGS and not _stands_alone(piece):
        return True
    if re.fullmatch(r"\d+ (?:of them )?taken", piece.lower()):
        return True
    return not _without_flags(piece.lower())[0].strip()


def _stands_alone(piece: str) -> bool:
    """Whether a piece such as «in» or «out» is a jack, and no quality."""
    return piece.lower() in NOUNS


def read_phrase(said: str, names: str, naming: int) -> Phrase:
    """What a piece says, its names aside.  Raises EditError for words that are not understood."""
    text = " ".join(said.lower().split())
    if _DESK.fullmatch(text):
        text = text.replace("channel", "desk channel")
    counted = _COUNT.match(text)
    count = int(counted[1]) if counted is not None and counted[1] else 1
    rest = text[counted.end() :] if counted is not None else text
    found = _HEAD.search(rest) or _NOUN.search(rest)
    if found is None:
        raise EditError(
            say(
                "“{said}” is not understood: say how many of what, such as “9 faders” or “16 "
                "pads as "
                "4 × 4”.",
                said=quoted(said.strip()),
            )
        )
    if not 1 <= count <= MOST:
        raise EditError(
            say("“{said}”: choose from 1 to {most} at once.", said=quoted(said.strip()), most=MOST)
        )
    qualities = f"{rest[: found.start()]} {rest[found.end() :]}"
    phrase = Phrase(NOUNS[found[1]], said.strip(), count, names=names)
    return _with_qualities(phrase, qualities, naming)


def _with_qualities(phrase: Phrase, text: str, naming: int) -> Phrase:
    for pattern, read in PATTERNS:
        found = pattern.search(text)
        if found is not None:
            phrase = phrase._replace(**read(found, naming))
            text = f"{text[: found.start()]} {text[found.end() :]}"
    left, flags = _without_flags(text)
    if left.strip():
        raise EditError(
            say(
                "“{left}” in “{phrase}” is not understood: leave it out, or say it in the facts "
                "afterwards.",
                left=quoted(left.strip()),
                phrase=quoted(phrase.said),
            )
        )
    return phrase._replace(flags=flags)


def _without_flags(text: str) -> tuple[str, frozenset[str]]:
    """What is left of a text without plain words for qualities, and those."""
    for word, flag in SPOKEN.items():
        text = re.sub(rf"(?<!\S){re.escape(word)}(?!\S)", flag, text)
    flags = set()
    for flag in sorted(FLAGS, key=len, reverse=True):
        pattern = rf"(?<!\S){re.escape(flag)}(?!\S)"
        if re.search(pattern, text):
            flags.add(flag)
            text = re.sub(pattern, " ", text)
    left = [word for word in text.split() if word not in ("and", "that")]
    return " ".join(left), frozenset(flags)


def names_of(phrase: Phrase, taken: Iterable[str] = ()) -> list[str]:
    """What each of the things is called: by a pattern, by names one after another, or numbered.

    Numbers go on after those of the names that are ``taken``.
    """
    pattern = phrase.names or phrase.noun.name
    given = [name.strip() for name in pattern.split("/") if name.strip()] or [phrase.noun.name]
    known = set(taken)
    if len(given) > 1:
        names = given[: phrase.how_many] if phrase.names else given
        rest = phrase.how_many - len(names)
        return names + _numbered(phrase.noun.name.split("/")[0], rest, known)
    return numbered_names(given[0], phrase.how_many, known)


def numbered_names(pattern: str, how_many: int, taken: Collection[str] = ()) -> list[str]:
    """Names by a pattern such as «Loop {n}»; one alone is called just so, where it can be."""
    if how_many == 1 and "{n}" not in pattern and pattern not in taken:
        return [pattern]
    return _numbered(pattern, how_many, taken)


def _numbered(pattern: str, how_many: int, taken: Collection[str]) -> list[str]:
    """Names by a pattern, with numbers that go on after the last one that is taken."""
    whole = pattern if "{n}" in pattern else f"{pattern} {{n}}"
    before, _, after = whole.partition("{n}")
    begun = 0
    for name in taken:
        number = name.removeprefix(before).removesuffix(after)
        if name == f"{before}{number}{after}" and number.isascii() and number.isdigit():
            begun = max(begun, int(number[:6]))
    if not begun and pattern in taken:
        begun = 1
    return [f"{before}{number}{after}" for number in range(begun + 1, begun + how_many + 1)]
