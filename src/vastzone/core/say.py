"""What people read, in their language: every sentence and every number goes through here.

A sentence is written in English where it is needed, with named places, and is looked up by its
English form (GNU gettext).  ``make messages`` gathers all of them into the catalogue's template.
The language is chosen once, before anything else is loaded, by ``vastzone.languages``.
"""

from collections.abc import Iterable
from gettext import NullTranslations

POINT, COMMA = ".", ","
SWAPPED = str.maketrans({POINT: COMMA, COMMA: POINT})
"""Where a comma parts the whole from its fraction, a point parts the thousands."""


class _Speech:
    """The language that is spoken, and its decimal mark."""

    __slots__ = ("mark", "translations")

    def __init__(self) -> None:
        self.translations = NullTranslations()
        self.mark = POINT


_SPEECH = _Speech()


class _Marked(float):
    """A number that formats itself with the language's decimal mark."""

    __slots__ = ()

    def __format__(self, specification: str) -> str:
        return number(float(self), specification)

    def __str__(self) -> str:
        return number(float(self))


def speak(translations: NullTranslations, mark: str = POINT) -> None:
    """Say everything from here on in a language, its numbers with a decimal mark."""
    _SPEECH.translations, _SPEECH.mark = translations, mark


def language() -> str:
    """The language spoken, as its catalogue calls it; nothing for the program's own English."""
    return _SPEECH.translations.info().get("language", "")


def decimal_mark() -> str:
    """What parts the whole from its fraction in the language spoken: a point or a comma."""
    return _SPEECH.mark


def say(sentence: str, /, **places: object) -> str:
    """A sentence in the language spoken, its named places filled: ``say("{key} ends", key=k)``.

    A translation that names a place that is not there is not used.
    """
    if not sentence:
        return ""
    return _filled(_SPEECH.translations.gettext(sentence), sentence, places)


def say_each(words: Iterable[str]) -> list[str]:
    """Words of ours, such as those of a ``Literal``, each in the language spoken."""
    return [say(word) for word in words]


def say_many(one: str, more: str, count: int, /, **places: object) -> str:
    """A sentence with a count, ``{count}`` in it, in the plural form that the language wants."""
    words = _SPEECH.translations.ngettext(one, more, count)
    return _filled(words, one if count == 1 else more, {"count": count, **places})


def noted(sentence: str) -> str:
    """The sentence itself, noted for the catalogue: it is said later, where it is shown."""
    return sentence


def typed(words: str) -> str:
    """Words of the language that lines are typed in, or of a file: the same for everybody."""
    return words


def noted_many(one: str, more: str) -> tuple[str, str]:
    """A sentence with a count, noted for the catalogue: ``say_many`` says it later."""
    return one, more


def number(value: float, specification: str = "") -> str:
    """A number as the language writes it; ``specification`` is that of ``format``."""
    words = format(value, specification)
    return words if _SPEECH.mark == POINT else words.translate(SWAPPED)


def _filled(words: str, sentence: str, places: dict[str, object]) -> str:
    if not places:
        return words
    if _SPEECH.mark != POINT:
        places = {name: _marked(value) for name, value in places.items()}
    try:
        return words.format_map(places)
    except (KeyError, IndexError, ValueError):
        return sentence.format_map(places)


def _marked(value: object) -> object:
    return _Marked(value) if isinstance(value, float) else value
