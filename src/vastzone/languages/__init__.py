"""Which language is spoken: the first of the person's that there is a catalogue for, else English.

It is chosen once, as the package is loaded, so that tables of words are said in it too.  The
variables of the environment that GNU gettext knows (``LANGUAGE``, ``LC_ALL``, ``LC_MESSAGES``,
``LANG``) say which; numbers are written as ``LC_NUMERIC`` has it.  ``VASTZONE_LANGUAGES`` is
another folder of catalogues, to try a translation that is being made.
"""

import gettext
import locale
import os
from pathlib import Path

from vastzone.core.say import COMMA, POINT, speak

DOMAIN = "vastzone"
FOLDER = Path(__file__).parent
"""Where catalogues stand, as ``de/LC_MESSAGES/vastzone.mo``, and their template."""


def choose() -> None:
    """Say everything in the person's language from here on."""
    folder = os.environ.get("VASTZONE_LANGUAGES") or FOLDER
    speak(gettext.translation(DOMAIN, folder, fallback=True), _mark())


def _mark() -> str:
    """The decimal mark of the person's locale; a point where the locale is not installed."""
    before = locale.setlocale(locale.LC_NUMERIC)
    try:
        locale.setlocale(locale.LC_NUMERIC, "")
        return COMMA if locale.localeconv()["decimal_point"] == COMMA else POINT
    except locale.Error:
        return POINT
    finally:
        locale.setlocale(locale.LC_NUMERIC, before)
