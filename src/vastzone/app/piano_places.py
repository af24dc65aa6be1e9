"""The computer's keys as piano keys: by where they lie, whatever is printed on them.

Places are the key codes of X11 and Wayland, which are those of evdev plus 8 (the «keycodes» of the
X Keyboard Extension).  Where none is told, as from a remote hand, the letter counts.
"""

from PySide6.QtCore import QLocale, Qt

LOWER, UPPER = "ZSXDCVGBHNJM", "Q2W3ER5T6Y7UI9O0P"
"""Two rows of a keyboard as an English one prints them: an octave from C, and one and a half."""
_ROWS = {10: "1234567890", 24: "QWERTYUIOP", 38: "ASDFGHJKL", 52: "ZXCVBNM"}
PLACES: dict[str, int] = {}
for _first, _letters in _ROWS.items():
    for _number, _letter in enumerate(_letters):
        PLACES[_letter] = _first + _number
STEPS: dict[int, int] = {PLACES[letter]: step for step, letter in enumerate(LOWER)}
STEPS |= {PLACES[letter]: 12 + step for step, letter in enumerate(UPPER)}
PRINTED_THERE: dict[int, str] = {place: letter for letter, place in PLACES.items()}
PRINTED_THERE |= {59: ",", 60: "."}
"""What an English keyboard prints at a place."""
BY_LETTER: dict[int, int] = {ord(letter): place for letter, place in PLACES.items()}
LAST_LATIN = 0x24F
"""The end of the Latin letters with their extensions."""
DIGITS: dict[int, int] = {PLACES[digit]: int(digit) for digit in "1234567890"}
"""The digit that an English keyboard prints at a place."""


def _paired(ours: str, theirs: str) -> dict[str, str]:
    return dict(zip(ours, theirs, strict=True))


_PRINTED: dict[QLocale.Language, dict[str, str]] = {
    QLocale.Language.German: {"Z": "Y", "Y": "Z"},
    QLocale.Language.French: {
        "Q": "A",
        "W": "Z",
        "Z": "W",
        "A": "Q",
        "2": "É",
        "3": '"',
        "5": "(",
        "6": "-",
        "7": "È",
        "9": "Ç",
        "0": "À",
    },
    QLocale.Language.Russian: _paired("QWERTYUIOPASDFGHJKLZXCVBNM", "ЙЦУКЕНГШЩЗФЫВАПРОЛДЯЧСМИТЬ"),
    QLocale.Language.Greek: _paired("WERTYUIOPASDFGHJKLZXCVBNM", "ΣΕΡΤΥΘΙΟΠΑΣΔΦΓΗΞΚΛΖΧΨΩΒΝΜ"),
}
"""What other layouts print where an English one prints these."""


def place_of(scan: int, key: int) -> int:
    """The place of a key that was pressed; 0 where it is none of these rows."""
    return scan if scan in STEPS or scan in DIGITS else 0 if scan else BY_LETTER.get(key, 0)


def latin_of(scan: int, key: int) -> str:
    """The letter of a shortcut where a layout writes others, by the place of the key; else nothing.

    Qt takes a shortcut by what its key writes, and finds it nowhere on a Russian or Greek keyboard.
    """
    writes_others = LAST_LATIN < key < Qt.Key.Key_Escape.value
    return PRINTED_THERE.get(scan, "") if writes_others else ""


def printed(language: QLocale.Language) -> dict[int, str]:
    """What is printed at each place, as far as a language tells."""
    other = _PRINTED.get(language, {})
    return {place: other.get(letter, letter) for letter, place in PLACES.items()}


def digit_of(scan: int, key: int) -> int:
    """The digit whose place was pressed, whatever is printed there; −1 for none."""
    if Qt.Key.Key_0.value <= key <= Qt.Key.Key_9.value:
        return key - Qt.Key.Key_0.value
    return DIGITS.get(scan, -1)
