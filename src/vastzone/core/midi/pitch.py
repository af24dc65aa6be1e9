"""Note numbers and their names.

Makers disagree about which octave note 60 lies in: it is called C3, C4 or C5.  A naming is that
octave number, so the octave of note ``n`` is ``n // 12 - (5 - naming)``.
"""

import re
from typing import Literal

from vastzone.core.errors import PitchError
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number

Naming = Literal[3, 4, 5]
NAMINGS: tuple[Naming, ...] = (3, 4, 5)
LOWEST, HIGHEST, MIDDLE_C = 0, 127, 60

SHARP_NAMES = ("C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B")
FLAT_NAMES = ("C", "D♭", "D", "E♭", "E", "F", "G♭", "G", "A♭", "A", "B♭", "B")
BLACK = frozenset((1, 3, 6, 8, 10))

_LETTERS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_ACCIDENTALS = {
    "": 0,
    "#": 1,
    "♯": 1,
    "b": -1,
    "♭": -1,
    "##": 2,
    "x": 2,
    "bb": -2,
    "♯♯": 2,
    "♭♭": -2,
}
_NAME = re.compile(r"\s*([A-Ga-g])\s*(##|♯♯|bb|♭♭|[#♯b♭x]?)\s*(-?\d{1,2})\s*\Z")


def is_black(note: int) -> bool:
    """Whether key ``note`` is one of the five raised keys of its octave."""
    return note % 12 in BLACK


def name(note: int, naming: Naming = 4, flats: bool = False) -> str:
    """The name of note 0–127, such as ``C♯4``, in a device's naming of middle C."""
    names = FLAT_NAMES if flats else SHARP_NAMES
    return f"{names[note % 12]}{note // 12 - (5 - naming)}"


def parse(text: str, naming: Naming = 4) -> int:
    """The note number 0–127 that ``text`` names: ``E♭3``, ``D#3``, ``Eb3``, or a plain number.

    Raises PitchError with a sentence that says what would be read.
    """
    plain = text.strip()
    number = whole_number(plain)
    if number is not None:
        return _within(number, text)
    match = _NAME.match(plain.replace("−", "-"))
    if match is None:
        raise PitchError(
            say(
                "“{text}” is not a note: write a name such as E♭3 or a number 0–127.",
                text=quoted(text),
            )
        )
    letter, accidental, octave = match.groups()
    steps = _LETTERS[letter.upper()] + _ACCIDENTALS[accidental]
    return _within((int(octave) + 5 - naming) * 12 + steps, text)


def _within(note: int, text: str) -> int:
    if LOWEST <= note <= HIGHEST:
        return note
    raise PitchError(
        say("“{text}” is outside MIDI's notes 0–127: write another octave.", text=quoted(text))
    )


def octave_and_index(note: int, naming: Naming = 4, first: int = 1) -> tuple[int, int]:
    """The octave number of a note in a naming, and its index in it, ``first`` for C."""
    return note // 12 - (5 - naming), note % 12 + first


def span(low: int, high: int, naming: Naming = 4) -> str:
    """A range of notes with names and numbers: ``E1–B3 (28–59)``."""
    return f"{name(low, naming)}–{name(high, naming)} ({low}–{high})"


def label(note: int, naming: Naming = 4) -> str:
    """A note with name and number: ``E1 (28)``."""
    return f"{name(note, naming)} ({note})"
