"""Trigger pads told in one line: «kick, snare, 4 toms, 2 crashes, ride, hat, hat pedal».

What a drum is called says which sensor it usually has; said otherwise, «snare single», that counts.
Before a comma may also stand how much it matters and its model: «2 rubber pads model R, spare».
"""

import re
from collections.abc import Iterable
from typing import get_args

import msgspec

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.triggers import Importance, Sensor, TriggerPad
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.core.text import quoted

MOST = 64
USUAL: tuple[tuple[str, Sensor], ...] = (
    ("pedal", "hi-hat"),
    ("kick", "kick"),
    ("bass drum", "kick"),
    ("snare", "dual"),
    ("tom", "dual"),
    ("ride", "two switches"),
    ("crash", "switch"),
    ("splash", "switch"),
    ("china", "switch"),
    ("cymbal", "switch"),
    ("hat", "switch"),
)
"""The sensor that a drum usually has, by a word in its name; the first that fits."""
SAID: dict[str, Sensor] = {
    "two switches": "two switches",
    "three zones": "two switches",
    "piezo-switch": "switch",
    "piezo and switch": "switch",
    "dual piezo": "dual",
    "dual": "dual",
    "single piezo": "single",
    "single": "single",
    "switch": "switch",
}
_MODEL = re.compile(r"\b(?:of )?model (\S+)", re.IGNORECASE)
_COUNT = re.compile(r"(?:and |a |an |the )?(?:(\d+) )?(.+)", re.DOTALL)


def read_pads(line: str) -> tuple[TriggerPad, ...]:
    """The pads that a line tells of.  Raises EditError: which piece is not understood."""
    pads: list[TriggerPad] = []
    for piece in _pieces(line):
        pads.extend(_pads(piece, pads))
    if not pads:
        raise EditError(say("Say which pads, such as “kick, snare, 2 toms”."))
    if len(pads) > MOST:
        raise EditError(
            say("That are {count} pads: say {most} at most at once.", count=len(pads), most=MOST)
        )
    return tuple(pads)


def _pieces(line: str) -> list[str]:
    """What stands between commas; how much a pad matters may follow after one."""
    pieces: list[str] = []
    for piece in (piece.strip() for piece in re.split(r"[,;\n]", line)):
        if piece.lower() in get_args(Importance) and pieces:
            pieces[-1] += f" {piece}"
        elif piece:
            pieces.append(piece)
    return pieces


def _pads(piece: str, before: Iterable[TriggerPad]) -> list[TriggerPad]:
    words, importance = _without(piece, get_args(Importance))
    model = _MODEL.search(words)
    words = _MODEL.sub(" ", words)
    words, sensor = _without(words, SAID)
    counted = _COUNT.fullmatch(" ".join(words.split()))
    if counted is None:
        raise EditError(
            say("“{piece}” names no pad: write such as “snare” or “2 toms”.", piece=quoted(piece))
        )
    count, name = int(counted[1] or 1), counted[2]
    if not 1 <= count <= MOST:
        raise EditError(
            say("“{piece}”: choose from 1 to {most} pads.", piece=quoted(piece), most=MOST)
        )
    if count > 1:
        name = _singular(name)
    pads: list[TriggerPad] = []
    taken = {pad.name for pad in before}
    for number in range(1, count + 1):
        own = f"{name[0].upper()}{name[1:]}" + (f" {number}" if count > 1 else "")
        if own in taken:
            raise EditError(
                say("“{own}” is there twice: give each pad a name of its own.", own=quoted(own))
            )
        taken.add(own)
        pads.append(
            TriggerPad(
                id=lookup.free_id((pad.id for pad in (*before, *pads)), own),
                name=own,
                sensor=SAID[sensor] if sensor else _usual(own),
                model=model[1] if model else "",
                importance=importance or "wanted",  # type: ignore[arg-type]
            )
        )
    return pads


def _without(text: str, words: Iterable[str]) -> tuple[str, str]:
    """A text without the first of some words that is in it, and that word."""
    for word in words:
        pattern = rf"(?<!\S){re.escape(word)}(?!\S)"
        if re.search(pattern, text, re.IGNORECASE):
            return re.sub(pattern, " ", text, flags=re.IGNORECASE), word
    return text, ""


def _singular(name: str) -> str:
    """«toms» as «tom», «crashes» as «crash»."""
    if re.search(r"(?:sh|ch|x)es$", name):
        return name[:-2]
    return name[:-1] if name.endswith("s") and not name.endswith("ss") else name


def _usual(name: str) -> Sensor:
    for word, sensor in USUAL:
        if word in name.lower():
            return sensor
    return "single"


def add_pads(pads: tuple[TriggerPad, ...]) -> Edit:
    """Add pads under ids of their own, as one step."""

    def apply(plan: Plan) -> Plan:
        taken = lookup.ids_of(plan.pads)
        added = []
        for pad in pads:
            ident = lookup.free_id(taken, pad.id)
            taken.add(ident)
            added.append(msgspec.structs.replace(pad, id=ident))
        return msgspec.structs.replace(plan, pads=(*plan.pads, *added))

    return Edit(say("Add {pads}", pads=say_many("{count} pad", "{count} pads", len(pads))), apply)
