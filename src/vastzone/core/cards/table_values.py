"""Settings as cells of a table: written in words, and read back from them."""

import re
from typing import Any

from vastzone.core.errors import EditError
from vastzone.core.midi import pitch
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.values import NamedChoice
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.text import quoted, whole_number

YES = frozenset(("yes", "y", "on", "true", "1", "x"))
NO = frozenset(("", "no", "n", "off", "false", "0"))
NUMBER = re.compile(r"-?\d+")
NOTHING, EVERYTHING = "none", "all"


def written(field: Field, owner: Owner) -> str:
    """The value of a field as it stands in a table."""
    held = field.held(owner)
    form = field.values.form(owner)
    if form.kind == "check":
        return "yes" if held else "no"
    if form.kind == "note":
        return pitch.name(held, owner.device.octaves)
    if form.kind == "choice":
        for words, value in form.choices:
            if value == held:
                return _plainly(field, owner, words, value)
        return field.values.words(owner, field.values.stored(owner, held))
    if form.kind == "text":
        return str(field.values.stored(owner, held))
    shown = field.values.shown(owner, held)
    return "" if shown is None else str(shown)


def _plainly(field: Field, owner: Owner, words: str, value: Any) -> str:
    """A choice as it stands in a table: numbers, ids and names are the same in every language."""
    if isinstance(field.values, NamedChoice) or value == "":
        return str(value)
    if value is None:
        return NOTHING
    if isinstance(value, tuple):
        names = lookup.names_of(owner.device.ports)
        return " + ".join(names[ident] for ident in value) or EVERYTHING
    number = NUMBER.match(words) if isinstance(value, int) else None
    return number[0] if number else words


def read(field: Field, owner: Owner, words: str) -> Any:
    """A cell as the value that it stands for in the plan.  Raises EditError or PitchError."""
    plain = words.strip()
    if plain == written(field, owner):
        return field.held(owner)
    form = field.values.form(owner)
    if form.kind == "check":
        return yes_or_no(plain)
    if form.kind == "note":
        return pitch.parse(plain, owner.device.octaves)
    if form.kind == "choice":
        for words_of, value in form.choices:
            if plain.lower() in (words_of.lower(), _plainly(field, owner, words_of, value).lower()):
                return value
        known = ", ".join(words_of for words_of, _ in form.choices[:6])
        raise EditError(
            say(
                "“{plain}” cannot be chosen: it is one of {known}.",
                plain=quoted(plain),
                known=known,
            )
        )
    if form.kind == "number":
        number = whole_number(plain)
        if number is None or not form.low <= number <= form.high:
            raise EditError(
                say(
                    "“{plain}” is no number from {low} to {high}: write one.",
                    plain=quoted(plain),
                    low=form.low,
                    high=form.high,
                )
            )
        return field.values.entered(owner, number)
    return field.values.entered(owner, plain)


def yes_or_no(words: str) -> bool:
    """Whether a cell says yes.  Raises EditError for neither."""
    plain = words.strip().lower()
    if plain in YES:
        return True
    if plain in NO:
        return False
    raise EditError(say("“{words}” is neither yes nor no: write one of them.", words=quoted(words)))
