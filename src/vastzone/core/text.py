"""A person's words made safe for the places where they are shown.

Names are anybody's text: they may hold control characters, marks that turn the direction of
writing, or what a spreadsheet takes for a formula.  They are kept as they are in the plan; each
medium asks here for a form that does no harm in it.
"""

import re
import unicodedata
from collections.abc import Iterable

from vastzone.core.say import decimal_mark, say, say_many

ALL = 1000
"""Names that are listed where none is to be left out."""
LONGEST = 200
"""Letters of a value that are quoted in a message; a longer one is cut."""
LONG_WORD, BREAK = 22, "\u200b"
"""Letters of a word that no narrow column can show, and the mark where it may be broken."""
LONG_RUN = re.compile(r"\S{11}(?=\S)")
MOST_DIGITS, LONGEST_DECIMAL, TOO_LARGE = 9, 40, 1e12
GROUP, PAIR = 3, 2
"""Digits between two marks of thousands."""
PICTURES = 0x2400
"""Unicode's block of pictures for the control characters 0–31, at the same places."""
DELETE, PICTURE_OF_DELETE = 0x7F, "␡"
TURNING = frozenset("\u202a\u202b\u202d\u202e\u202c\u2066\u2067\u2068\u2069\u200e\u200f\u061c")
"""Marks that change the direction of what follows them."""
FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""What begins a formula in a spreadsheet (OWASP, «CSV injection»)."""


def printable(text: str, keep: str = "") -> str:
    """Words with nothing in them that acts: control characters are shown as pictures of them.

    Marks that turn the direction of writing are left out; ``keep`` are characters left alone.
    """
    if text.isascii() and text.isprintable():
        return text
    return "".join(letter if letter in keep else _shown(letter) for letter in text)


def _shown(char: str) -> str:
    code = ord(char)
    if code < 32:
        return chr(PICTURES + code)
    if code == DELETE:
        return PICTURE_OF_DELETE
    if char in TURNING:
        return ""
    if unicodedata.category(char) in ("Cc", "Cs", "Zl", "Zp"):
        return "�"
    return char


def one_line(text: str) -> str:
    """Words for a single line: breaks and tabs are spaces in it."""
    if text.isprintable():
        return printable(text)
    return printable(" ".join(text.splitlines()).replace("\t", " "))


def breakable(text: str) -> str:
    """Words that can be broken at the end of a line, also inside those that are very long."""
    if max(map(len, text.split(" ")), default=0) <= LONG_WORD:
        return text
    return LONG_RUN.sub(lambda run: f"{run[0]}{BREAK}", text)


def quoted(value: object, longest: int = LONGEST) -> str:
    """A value for a message: printable, and cut where it is too long to read."""
    text = printable(str(value)[: longest + 1])
    return f"{text[:longest]}…" if len(text) > longest else text


def whole_number(text: str) -> int | None:
    """A whole number as people type it, with either minus; None for anything else.

    More than nine digits are no number that is wanted anywhere here.
    """
    plain = text.strip().replace("−", "-")
    digits = plain.removeprefix("-")
    if not (digits.isascii() and digits.isdigit()) or len(digits) > MOST_DIGITS:
        return None
    return int(plain)


def decimal(text: str) -> float | None:
    """A finite number as people type it, with point or comma; None for anything else."""
    plain = text.strip().replace("−", "-").replace(",", ".")
    if not plain.isascii() or len(plain) > LONGEST_DECIMAL or "_" in plain:
        return None
    try:
        value = float(plain)
    except ValueError:
        return None
    return value if abs(value) < TOO_LARGE else None


def listed_numbers(text: str) -> list[str]:
    """The pieces of a typed list: a comma between two digits belongs to a number, others part."""
    pieces = re.split(r"[;\n]|,(?!\d)|(?<!\d),", text)
    return [piece.strip() for piece in pieces if piece.strip()]


def listed_pairs(text: str) -> list[str]:
    """The pieces of a typed list of pairs, also where no space follows its commas: «0 0,100 9»."""
    pieces = [piece.strip() for piece in re.split(r"[,;\n]", text) if piece.strip()]
    are_pairs = all(len(piece.split()) == PAIR for piece in pieces)
    return pieces if are_pairs else listed_numbers(text)


def amount(text: str) -> float | None:
    """A price or length as people type it; None for anything else.

    Point and comma both part the whole from the rest: of two kinds the last one does, and what
    parts groups of three digits only (7.800.000, or 7,800 where numbers have a decimal point) parts
    nothing else.
    """
    plain = text.strip().replace(" ", "").replace("’", "")
    last = max(plain.rfind("."), plain.rfind(","))
    if last < 0:
        return decimal(plain)
    mark, other = (".", ",") if plain[last] == "." else (",", ".")
    whole, rest = plain[:last], plain[last + 1 :]
    if other in whole:
        return decimal(f"{whole.replace(other, '')}.{rest}")
    begin = whole.lstrip("-−")
    grouped = len(rest) == GROUP and 0 < len(begin.rpartition(mark)[2]) <= GROUP
    grouped = grouped and not begin.startswith("0")
    if grouped and (mark != decimal_mark() or mark in whole):
        return decimal(whole.replace(mark, "") + rest)
    return None if mark in whole else decimal(f"{whole}.{rest}")


def table_cell(value: object) -> str:
    """A value for a cell of a spreadsheet: words that would be read as a formula are quoted."""
    text = str(value)
    is_number = isinstance(value, int | float)
    return f"'{text}" if text.startswith(FORMULA) and not is_number else text


def capital(words: str) -> str:
    """Words with a capital letter in front."""
    return words[:1].upper() + words[1:]


def uncapital(words: str) -> str:
    """Words with a small letter in front, to go on in a sentence."""
    return words[:1].lower() + words[1:]


def listed(names: Iterable[str], most: int = 3) -> str:
    """Names one after another: ``A, B and C``, ``A, B, C and 4 more``."""
    different = list(dict.fromkeys(names))
    if len(different) > most + 1:
        first, left = ", ".join(different[:most]), len(different) - most
        return say_many("{names} and {count} more", "{names} and {count} more", left, names=first)
    if len(different) > 1:
        return say("{names} and {last}", names=", ".join(different[:-1]), last=different[-1])
    return different[0] if different else ""


def in_none(names: Iterable[str], place: str) -> str:
    """What is in no place of a kind: «A is in no jack», «A and B are in no jack»."""
    different = list(dict.fromkeys(names))
    told = listed(different)
    return say_many(
        "{names} is in no {place}",
        "{names} are in no {place}",
        len(different),
        names=told,
        place=say(place),
    )


def first_to_last(names: Iterable[str], most: int = 4) -> str:
    """Names in a row: all of a few, of many the first and the last with their number."""
    each = list(names)
    if len(each) <= most:
        return listed(each, most)
    return f"{each[0]} … {each[-1]} ({len(each)})"
