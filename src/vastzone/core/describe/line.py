"""A device told in one line: «Plover 61: 61 keys from C2, 8 pads on channel 1, 9 faders, 8 slots».

A name and a colon may come first.  What is between commas is one thing, or says more of the one
before; quotation marks hold names, «6 layers called "Layer {n}"».
"""

import re
from collections.abc import Callable, Mapping
from typing import Any, NamedTuple

from vastzone.core.describe.nouns import KIND_WORDS
from vastzone.core.describe.phrase import Phrase, goes_on, read_phrase
from vastzone.core.errors import EditError
from vastzone.core.plan.model.bodies import AudioBuffer, Polarity, Size, Supply
from vastzone.core.plan.model.limits import Answers, CountLimit, Limit, Reserved, ScopeLimit
from vastzone.core.plan.model.values import DeviceKind, Receiving
from vastzone.core.say import say
from vastzone.core.text import quoted

LONGEST = 4000
ENDS = r"(?=\s+(?:with|channel|own|on|notes?|controllers?|from|in \d+)\b|[,;\n]|$)"
"""Where names without quotation marks end."""
CALLED = re.compile(
    rf'\bcalled\s+(?:"([^"]*)"|“([^”]*)”|«([^»]*)»|([^,;\n]+?){ENDS})', re.IGNORECASE
)
_NAME = re.compile(r"\s*([^:,;\n]{1,80}?)\s*:\s*(.+)", re.DOTALL)


class Whole(NamedTuple):
    """Something that is said of the device as a whole: fields that it has, limits, storage.

    ``receives`` is how all that sounds or moves in it comes to its channel and number,
    ``encoder`` what scans its contacts.
    """

    fields: Mapping[str, Any] = {}
    limits: tuple[Limit, ...] = ()
    storage: Mapping[str, Any] = {}
    receives: Receiving | None = None
    encoder: Mapping[str, Any] = {}


class Line(NamedTuple):
    """What a line says: a name and kind, where it says so, things, and the device as a whole."""

    name: str = ""
    kind: DeviceKind | None = None
    phrases: tuple[Phrase, ...] = ()
    wholes: tuple[Whole, ...] = ()
    octaves: int = 4


def _decimal(text: str) -> float:
    return float(text.replace(",", "."))


def _numbers(text: str) -> tuple[int, ...]:
    numbers = tuple(int(number) for number in re.findall(r"\d+", text))
    if any(number > 127 for number in numbers):
        raise EditError(say("Controllers end at 127: correct “{text}”.", text=quoted(text)))
    return numbers


def _reserved(found: "re.Match[str]") -> Whole:
    numbers = _numbers(found[1])
    purpose = (found[2] or "its own use").strip()
    return Whole(limits=(Reserved(purpose=purpose, controllers=numbers),))


def _answers(found: "re.Match[str]") -> Whole:
    low, high = int(found[1]), int(found[2])
    if not low <= high <= 127:
        raise EditError(
            say("“{found}” is no range of notes: write such as 35–59.", found=quoted(found[0]))
        )
    return Whole(limits=(Answers(low=low, high=high),))


def _adapter(found: "re.Match[str]") -> Whole:
    polarity: Polarity = ""
    if found[3]:
        polarity = "centre plus" if found[3] == "plus" else "centre minus"
    supply = Supply(
        kind="adapter",
        volts=_decimal(found[1]),
        milliamps=int(found[2] or 0),
        polarity=polarity,
    )
    return Whole({"supply": supply})


def _frames(found: "re.Match[str]") -> Whole:
    frames = int(found[1])
    if not 1 <= frames <= 16_384:
        raise EditError(
            say("A buffer of {frames} frames is none: write from 1 to 16384.", frames=frames)
        )
    return Whole({"buffer": AudioBuffer(frames=frames)})


def _size(found: "re.Match[str]") -> Whole:
    return Whole({"size": Size(wide=float(found[1]), deep=float(found[2]))})


def _count(what: str) -> Callable[["re.Match[str]"], Whole]:
    return lambda found: Whole(limits=(CountLimit(what=what, most=int(found[1])),))  # type: ignore[arg-type]


WHOLES: tuple[tuple[str, Callable[["re.Match[str]"], Whole]], ...] = (
    (
        r"(?:programs|they) (?:are )?(?:counted )?from ([01])",
        lambda found: Whole({"first_program": int(found[1])}),
    ),
    (r"local (on|off)", lambda found: Whole({"local": found[1] == "on"})),
    (r"running status", lambda _: Whole({"running_status": True})),
    (r"(?:a )?delay (?:of )?([\d.]+) ?ms", lambda found: Whole({"delay_ms": _decimal(found[1])})),
    (
        r"sens(?:ing|es)(?: in)? ([\d.]+) ?ms",
        lambda found: Whole({"sensing_ms": _decimal(found[1])}),
    ),
    (r"(?:a )?buffer (?:of )?(\d+)(?: frames)?", _frames),
    (
        r"one channel(?: at a time| for all)?",
        lambda _: Whole(
            limits=(
                ScopeLimit(setting="zone-channel", scope="global"),
                ScopeLimit(setting="send-channel", scope="global"),
            )
        ),
    ),
    (
        r"(?:one channel|a channel) (?:for|per) (?:a|each) program",
        lambda _: Whole(limits=(ScopeLimit(setting="send-channel", scope="program"),)),
    ),
    (r"(\d+) channels at once", _count("channels")),
    (r"(\d+) messages at once", _count("messages")),
    (r"(?:keeps|reserves) (?:controllers? )?([\d ,and/+&]+?)(?: for (.+))?", _reserved),
    (r"answers (?:notes )?(\d+) ?(?:–|-|to) ?(\d+)(?: only)?", _answers),
    (r"adapter ([\d.]+) ?v(?: (\d+) ?ma)?(?: centre (plus|minus))?", _adapter),
    (r"(?:powered by |on )?(?:the )?mains", lambda _: Whole({"supply": Supply(kind="mains")})),
    (r"powered by (?:the )?usb", lambda _: Whole({"supply": Supply(kind="usb")})),
    (
        r"(?:powered by |on )?(?:a )?batter(?:y|ies)",
        lambda _: Whole({"supply": Supply(kind="battery")}),
    ),
    (r"([\d.]+) ?kg", lambda found: Whole({"weight_kg": _decimal(found[1])})),
    (r"(\d+) ?(?:×|x|by) ?(\d+) ?mm", _size),
    (r"(?:it |everything )?(?:learns|is learned)", lambda _: Whole(receives="learns")),
    (r"(?:it |everything )?takes (?:all|everything)", lambda _: Whole(receives="takes all")),
    (r"(?:it |everything )?(?:is fixed|cannot be changed)", lambda _: Whole(receives="fixed")),
    (r"(\d+) (?:note )?lines", lambda found: Whole(encoder={"lines": int(found[1])})),
    (r"(\d+) commons?(?: pins)?", lambda found: Whole(encoder={"commons": int(found[1])})),
    (r"(\d+) analogue inputs?", lambda found: Whole(encoder={"analogue": int(found[1])})),
    (
        r"(?:by |its |the )?lowest[ -]key(?: school| wiring)?|lines from (?:the|its) lowest key",
        lambda _: Whole(encoder={"school": "lowest key"}),
    ),
    (
        r"(?:by |its )?note[ -]names?(?: school| wiring)?|lines (?:by|have) note names",
        lambda _: Whole(encoder={"school": "note names"}),
    ),
    (r"either (?:school|wiring)", lambda _: Whole(encoder={"school": "either"})),
    (r"(?:index )?1 is c", lambda _: Whole(encoder={"first_index": 1})),
    (r"(?:index )?0 is c", lambda _: Whole(encoder={"first_index": 0})),
    (r"asks for note numbers?", lambda _: Whole(encoder={"asks": "note number"})),
    (r"no (?:edit )?buffer", lambda _: Whole(storage={"buffer": False})),
    (
        r"(?:up and down|up/down) (?:buttons )?go(?:es)? round",
        lambda _: Whole(storage={"step": "goes round"}),
    ),
    (
        r"(?:up and down|up/down)(?: buttons)?(?: stops?)?",
        lambda _: Whole(storage={"step": "stops"}),
    ),
    (r"programs in letters of (\d+)", lambda found: Whole(storage={"letters": int(found[1])})),
)
"""What is said of the device as a whole, as patterns over small letters."""
_WHOLES = tuple((re.compile(pattern), read) for pattern, read in WHOLES)
_MIDDLE = re.compile(r"(?:middle c is|its middle c is|middle c) c?([345])|c([345]) is middle c")


def read_line(text: str, octaves: int = 4) -> Line:
    """What a line says of a device.  Raises EditError: which words are not understood.

    Notes are named with middle C in the octave that the line says, else in ``octaves``.
    """
    if len(text) > LONGEST:
        raise EditError(
            say("That line is longer than {longest} letters: say it in several.", longest=LONGEST)
        )
    name, rest = _named(text)
    pieces = _pieces(rest)
    naming, pieces = _naming(pieces, octaves)
    line = Line(name, octaves=naming)
    for said, names in _joined(pieces):
        line = _with(line, said, names)
    return line


def _named(text: str) -> tuple[str, str]:
    """A device's name before a colon, and the rest."""
    found = _NAME.match(text)
    return ("", text) if found is None else (found[1], found[2])


DECIMAL_COMMA = re.compile(r"(\d),(\d+)(?= ?(?:ms|kg|mm|m|v|db)\b)", re.IGNORECASE)
"""A comma within a number, which a unit follows; other commas stand between things."""


def _pieces(text: str) -> list[tuple[str, str]]:
    """What stands between commas, with the names that each piece gives."""
    names: list[str] = []

    def kept(found: "re.Match[str]") -> str:
        given = [group for group in found.groups() if group is not None]
        names.append(given[0].strip())
        return f"\0{len(names) - 1}\0"

    marked = CALLED.sub(kept, DECIMAL_COMMA.sub(r"\1.\2", text))
    pieces = []
    for piece in re.split(r"[,;\n]", marked):
        found = re.search(r"\0(\d+)\0", piece)
        given = names[int(found[1])] if found is not None else ""
        plain = re.sub(r"\0\d+\0", " ", piece).strip()
        if plain or given:
            pieces.append((plain, given))
    return pieces


def _naming(pieces: list[tuple[str, str]], octaves: int) -> tuple[int, list[tuple[str, str]]]:
    """The octave of middle C, which must be known before any note is read."""
    left = []
    for piece, names in pieces:
        found = _MIDDLE.fullmatch(piece.lower())
        if found is None:
            left.append((piece, names))
        else:
            octaves = int(found[1] or found[2])
    return octaves, left


def _joined(pieces: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """Pieces that say more of the one before it, together with that."""
    joined: list[tuple[str, str]] = []
    for piece, names in pieces:
        if joined and goes_on(piece) and not _of_the_whole(piece):
            before, given = joined[-1]
            joined[-1] = (f"{before} {piece}".strip(), given or names)
        else:
            joined.append((piece, names))
    return joined


def _of_the_whole(piece: str) -> Whole | None:
    text = " ".join(piece.lower().split())
    for pattern, read in _WHOLES:
        found = pattern.fullmatch(text)
        if found is not None:
            return read(found)
    return None


def _with(line: Line, said: str, names: str) -> Line:
    words = " ".join(said.lower().split())
    what, _, quality = words.removeprefix("a ").removeprefix("an ").partition(" that ")
    kind = KIND_WORDS.get(what)
    if kind is not None:
        line = line._replace(kind=kind)
        return _with(line, quality, "") if quality else line
    whole = _of_the_whole(said)
    if whole is not None:
        return line._replace(
            wholes=(*line.wholes, whole), octaves=whole.fields.get("octaves", line.octaves)
        )
    phrase = read_phrase(said, names, line.octaves)
    return line._replace(phrases=(*line.phrases, phrase))
