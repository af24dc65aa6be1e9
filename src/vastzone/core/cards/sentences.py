"""What a person dials, in the words of a musician: «Fader 1 → controller 28 on channel 1»."""

from collections.abc import Iterable, Mapping
from functools import cache
from typing import Any, NamedTuple

from msgspec import structs

from vastzone.core.cache import derived
from vastzone.core.memory.differences import Difference
from vastzone.core.memory.display import NOT_KNOWN, NOTHING
from vastzone.core.midi.wide import WIDE
from vastzone.core.plan.fields.dials import Dial, owner_dials
from vastzone.core.plan.fields.owners import Owner
from vastzone.core.plan.fields.words import field_words, thing_words, value_words
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.wishes import Wish
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.say import say

MAIN = ("message", "number", "channel")
"""What a control sends is told in one piece by these."""
FREE = say(" (free by the standard)")
"""What is left out where a number is only to be dialled."""
NUMBERED = {"note": say("note "), "controller": say("controller "), "program": say("program ")}


class Said(NamedTuple):
    """A thing, what it is to be, and what it is."""

    thing: str
    after: str
    before: str

    @property
    def sentence(self) -> str:
        """All of it in one line."""
        was = (
            say(" (was: {before})", before=self.before)
            if self.before and self.before != self.after
            else ""
        )
        return f"{self.thing} → {self.after}{was}"


def said(plan: Plan, differences: tuple[Difference, ...]) -> Said:
    """The settings of one thing, as they are to be and as they are."""
    first = differences[0]
    dial = first.dial
    thing = thing_words(dial)
    if first.gone:
        now = (
            say("sends nothing")
            if dial.owner.kind == "send"
            else say("take it out, or switch it off")
        )
        return Said(thing, now, _held_words(first.before or dial.owner))
    if len(dial.slot) > 1:
        more = say(" and {count} more", count=len(differences) - 1) if len(differences) > 1 else ""
        after = f"{_lower(dial)} {value_words(dial, dial.value)}"
        return Said(thing + more, after, _before(first))
    if dial.owner.kind == "send":
        return _send(plan, thing, differences)
    if first.known and first.before is None and dial.program is not None:
        return Said(thing, _of_new(differences), NOTHING)
    return Said(thing, _listed(differences), _listed_before(differences))


def _of_new(differences: tuple[Difference, ...]) -> str:
    """The settings of something that is not there yet: all that are not as anything new is."""
    telling = [each for each in differences if not _as_new(each.dial)]
    return _listed(telling or differences)


def _as_new(dial: Dial) -> bool:
    """Whether a setting stands as in something that was just made."""
    if dial.kind == "outputs":
        return dial.value == 0
    thing, name = dial.owner.thing, dial.field.id
    kind: Any = type(thing)
    defaults = _defaults(kind)
    return bool(getattr(thing, name) == defaults[name]) if name in defaults else dial.is_usual


@cache
def _defaults(kind: Any) -> Mapping[str, object]:
    """What the fields of a kind of thing are when nothing is said."""
    return {field.name: field.default for field in structs.fields(kind)}


def _before(difference: Difference) -> str:
    if not difference.known:
        return NOT_KNOWN
    if difference.held is None:
        return NOTHING
    return value_words(difference.dial, difference.held)


def _lower(dial: Dial) -> str:
    words = field_words(dial)
    return words[0].lower() + words[1:]


def _listed(differences: Iterable[Difference]) -> str:
    """Each setting with its value: «channel 3, lowest C3»."""
    pieces = []
    for difference in differences:
        dial = difference.dial
        pieces.append(f"{_lower(dial)} {value_words(dial, dial.value)}")
    return ", ".join(pieces)


def _listed_before(differences: tuple[Difference, ...]) -> str:
    if not any(difference.known for difference in differences):
        return NOT_KNOWN
    if all(difference.held is None for difference in differences):
        return NOTHING
    pieces = []
    for difference in differences:
        owner = difference.before or difference.dial.owner
        if difference.held is None:
            words = _before(difference)
        else:
            words = difference.dial.field.values.words(owner, difference.held)
        pieces.append(words)
    return ", ".join(pieces)


def _send(plan: Plan, thing: str, differences: tuple[Difference, ...]) -> Said:
    """What a control sends, for whom; the rest of its settings after it."""
    owner = differences[0].dial.owner
    before = differences[0].before
    main = [each for each in differences if each.dial.field.id in MAIN]
    rest = tuple(each for each in differences if _is_told(each))
    after, was = [], []
    if main:
        after.append(sent_words(owner) + for_words(plan, owner))
        if not any(each.known for each in main):
            was.append(NOT_KNOWN)
        else:
            was.append(sent_words(before) if before is not None else NOTHING)
    if rest:
        after.append(_listed(rest))
        earlier = _listed_before(rest)
        if earlier not in (*was, NOTHING) or not was:
            was.append(earlier)
    return Said(thing, ", ".join(after), ", ".join(was))


def _is_told(difference: Difference) -> bool:
    """Whether a setting is worth a word: not what only came with another message, as it comes."""
    if difference.dial.field.id in MAIN:
        return False
    came_along = difference.known and difference.held is None
    return not (came_along and _as_new(difference.dial))


def sent_words(owner: Owner) -> str:
    """What a control sends: «note C3 (48) on channel 10», «controller 28 on channel 1»."""
    send = owner.thing
    if send.message == "none":
        return say("sends nothing")
    values = {}
    for dial in owner_dials(owner):
        values[dial.field.id] = value_words(dial, dial.value)
    number = values.get("number", "").removesuffix(FREE)
    kind = values.get("message", send.message)
    if send.message in NUMBERED:
        what = NUMBERED[send.message] + number
    elif send.message in WIDE:
        what = f"{kind} {number}"
    else:
        what = kind
    channel = values.get("channel", "")
    where = (
        say(" on channel {channel}", channel=channel)
        if channel[:1].isdigit()
        else say(", on the channels of the zones")
    )
    return f"{what}{where}"


def _held_words(owner: Owner) -> str:
    if owner.kind == "send":
        return sent_words(owner)
    pieces = []
    for dial in owner_dials(owner):
        if not _as_new(dial):
            pieces.append(f"{_lower(dial)} {value_words(dial, dial.value)}")
    return ", ".join(pieces)


def for_words(plan: Plan, owner: Owner) -> str:
    """What a control is for: «, for Layer 1 volume»; nothing where nobody wished."""
    send = owner.thing
    names = []
    for wish in _wishes_of(plan.wishes).get(ref_to(owner.device.id, send.control), ()):
        end = wish.moves or wish.plays
        if end is not None and wish.bank == send.bank:
            names.append(end_name(plan, end))
    listed = ", ".join(dict.fromkeys(name for name in names if name))
    return say(", for {listed}", listed=listed) if listed else ""


@derived(8, whole=True)
def _wishes_of(wishes: tuple[Wish, ...]) -> Mapping[str, tuple[Wish, ...]]:
    """The wishes of each control or keybed."""
    by_source: dict[str, tuple[Wish, ...]] = {}
    for wish in wishes:
        for source in wish.sources:
            by_source[source] = (*by_source.get(source, ()), wish)
    return by_source


@derived(8, whole=True)
def _wishes_for(wishes: tuple[Wish, ...]) -> Mapping[str, tuple[Wish, ...]]:
    """The wishes that end at each part or target."""
    by_end: dict[str, tuple[Wish, ...]] = {}
    for wish in wishes:
        end = wish.moves or wish.plays
        if end is not None:
            by_end[end] = (*by_end.get(end, ()), wish)
    return by_end


def end_name(plan: Plan, ref: str) -> str:
    """What a part or target is called."""
    device, ident = read_ref(ref)
    found = lookup.find(plan.devices, device)
    for thing in lookup.ends(found) if found is not None else ():
        if thing.id == ident:
            return thing.name
    return ""


def learn_words(plan: Plan, dial: Dial) -> str:
    """«Learn Layer 1 volume: press it, then move Fader 1»."""
    owner = dial.owner
    ref = ref_to(owner.device.id, owner.thing.id)
    does = say("move") if owner.kind == "target" else say("play")
    source = say("what is to control it")
    for wish in _wishes_for(plan.wishes).get(ref, ()):
        source = source_name(plan, wish.sources[0])
        break
    return say(
        "Learn {thing}: press it, then {does} {source}",
        thing=owner.thing.name,
        does=does,
        source=source,
    )


def source_name(plan: Plan, ref: str) -> str:
    """What a control or keybed is called."""
    device, ident = read_ref(ref)
    found = lookup.find(plan.devices, device)
    if found is None:
        return ident
    names = lookup.names_of(found.controls) | lookup.names_of(found.keybeds)
    return names.get(ident, ident)
