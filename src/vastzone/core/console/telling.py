"""Trials and their results in words, as they are typed, and as they stand in the log."""

import json
import re

from vastzone.core.console.built import COMMON, Built
from vastzone.core.console.faults import pin_name, wire_words
from vastzone.core.console.scan import Hit
from vastzone.core.console.trials import Evidence, PinTest, Probe, Result, Strike, Trial
from vastzone.core.console.wires import contact_name
from vastzone.core.errors import EditError, PitchError
from vastzone.core.midi import pitch
from vastzone.core.plan.console import Console, Seen
from vastzone.core.plan.model import Device

PROBED = {"one way": "conducts one way, as built", "other way": "conducts the other way",
          "both ways": "conducts both ways", "open": "open", "closed": "closed"}  # fmt: skip


def trial_words(owner: Device, console: Console, made: Built, trial: Trial) -> str:
    """What to do, in a sentence."""
    if isinstance(trial, PinTest):
        return "Run the encoder’s own pin test."
    if isinstance(trial, Strike):
        if not trial.contacts:
            return "Touch nothing, and listen."
        names = _together([_named(owner, console, made, n) for n in trial.contacts])
        return f"Strike {names}." if len(trial.contacts) == 1 else f"Hold {names} together."
    if trial.kind == "pins":
        here, there = pin_name(console, trial.a), pin_name(console, trial.b)
        return f"Meter, unplugged: between pins {here} and {there} of the encoder."
    if trial.kind == "wire":
        part = made.parts[trial.a]
        bus = trial.b - COMMON if trial.b >= COMMON else trial.b
        wire = wire_words(console, part.block.id, trial.b)
        pin = pin_name(console, COMMON + part.commons[bus]) if trial.b >= COMMON else f"L{bus + 1}"
        return (f"Meter, unplugged: {wire[0].lower()}{wire[1:]}, from pin {pin} to its far end in "
                f"{part.block.name}.")  # fmt: skip
    held = "while it is held" if trial.kind == "diode" else "while nothing touches it"
    name = _named(owner, console, made, trial.a)
    return f"Meter, diode range: across the contact and diode of {name}, {held}."


def _named(owner: Device, console: Console, made: Built, index: int) -> str:
    contact = made.contacts[index]
    return contact_name(owner, console, made.parts[contact.block].block.id, contact.number)


def result_words(owner: Device, console: Console, made: Built, result: Result) -> str:
    """What came of it: what was heard, a reading, joined pins."""
    if isinstance(result, str):
        return PROBED[result]
    if not result:
        return "nothing"
    hits = sorted(result)
    if any(a >= len(made.parts) for a, _ in hits) or any(b >= COMMON for _, b in hits):
        return ", ".join(f"{pin_name(console, a)}–{pin_name(console, b)}" for a, b in hits)
    names = [contact_name(owner, console, made.parts[b].block.id, n) for b, n in hits]
    return _together(names[:6]) + (f" and {len(names) - 6} more" if len(names) > 6 else "")


def pins_words(console: Console, result: frozenset[tuple[int, int]]) -> str:
    """Joined pins in words."""
    pairs = ", ".join(f"{pin_name(console, a)}–{pin_name(console, b)}" for a, b in sorted(result))
    return pairs or "none joined"


def _together(names: list[str]) -> str:
    """Names with «and»; a keyboard that all of them lie on is said once."""
    ends = {n.rpartition(" of ")[2] for n in names}
    if len(names) > 1 and len(ends) == 1 and " of " in names[0]:
        first = [n.rpartition(" of ")[0] for n in names]
        return f"{', '.join(first[:-1])} and {first[-1]} of {ends.pop()}"
    return ", ".join(names[:-1]) + (f" and {names[-1]}" if len(names) > 1 else names[0])


def read_contacts(
    owner: Device, console: Console, made: Built, words: str, block: int
) -> tuple[Hit, ...]:
    """Keys and stops as they are typed: ``C4, E4 of Swell``, ``nothing``; see ``block`` for those
    that name no keyboard.  Notes may lie beyond a keyboard.  Raises EditError.
    """
    found = []
    for piece in (p.strip() for p in re.split(r"[,;]| and ", words) if p.strip()):
        if piece.casefold() in ("nothing", "silence", "-", "–"):
            continue
        found.append(_hit(owner, console, made, piece, block))
    return tuple(found)


def _hit(owner: Device, console: Console, made: Built, piece: str, block: int) -> Hit:
    names = {c.id: c.name.casefold() for c in owner.controls}
    for n, part in enumerate(made.parts):
        for k, control in enumerate(part.block.controls):
            if names.get(control) == piece.casefold():
                return n, k
    key, _, where = piece.partition(" of ")
    if where:
        chosen = [n for n, p in enumerate(made.parts)
                  if p.block.name.casefold() == where.strip().casefold()]  # fmt: skip
        if not chosen:
            raise EditError(f"“{where}” is no keyboard of this console: write its name as here.")
        block = chosen[0]
    try:
        note = pitch.parse(key, owner.octaves)
    except PitchError as error:
        raise EditError(str(error)) from None
    return block, note - made.parts[block].low


def note_of(one: Evidence) -> Seen:
    """An observation as it stands in the log."""
    trial, result = one
    kind = type(trial).__name__
    told = result if isinstance(result, str) else sorted(map(list, result))
    return Seen(trial=json.dumps([kind, *trial]), result=json.dumps(told))


def evidence_of(seen: Seen, made: Built) -> Evidence | None:
    """An observation from the log; None when the console has changed so that it means nothing."""
    try:
        kind, *fields = json.loads(seen.trial)
        told = json.loads(seen.result)
        result: Result = told if isinstance(told, str) else frozenset((a, b) for a, b in told)
        trial: Trial
        if kind == "Strike":
            trial = Strike(tuple(int(n) for n in fields[0]))
            if any(not 0 <= n < len(made.contacts) for n in trial.contacts):
                return None
        elif kind == "Probe":
            trial = Probe(*fields)
            if trial.kind in ("diode", "rest") and not 0 <= trial.a < len(made.contacts):
                return None
            if trial.kind == "wire" and all(
                (w.block, w.place) != (trial.a, trial.b) for w in made.wires
            ):
                return None
        else:
            trial = PinTest()
    except (ValueError, TypeError, KeyError, IndexError):
        return None
    return Evidence(trial, result)
