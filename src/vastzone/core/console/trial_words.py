"""Trials and their results in words, as they are typed, and as they stand in the log."""

import re
from collections.abc import Sequence

from vastzone.core.cache import derived
from vastzone.core.console.circuit import Circuit
from vastzone.core.console.faults import pin_name, wire_words
from vastzone.core.console.finder import TrialProposal
from vastzone.core.console.scan import ReportedContact
from vastzone.core.console.trials import ContactStrike, Evidence, PinTest, Probe, Result, Trial
from vastzone.core.console.wires import contact_name
from vastzone.core.errors import EditError, PitchError
from vastzone.core.midi import pitch
from vastzone.core.plan.model.console import COMMON, Console, Seen
from vastzone.core.plan.model.plan import Device
from vastzone.core.say import say
from vastzone.core.text import listed, uncapital

PROBED = {
    "one way": say("conducts one way, as built"),
    "other way": say("conducts the other way"),
    "both ways": say("conducts both ways"),
    "open": say("open"),
    "closed": say("closed"),
}


def trial_words(owner: Device, console: Console, circuit: Circuit, trial: Trial) -> str:
    """What to do, in a sentence."""
    if isinstance(trial, PinTest):
        return say("Run the encoder’s own pin test.")
    if isinstance(trial, ContactStrike):
        if not trial.contacts:
            return say("Touch nothing, and listen.")
        names = _together([_named(owner, console, circuit, n) for n in trial.contacts])
        return (
            say("Strike {names}.", names=names)
            if len(trial.contacts) == 1
            else say("Hold {names} together.", names=names)
        )
    if trial.kind == "pins":
        here, there = pin_name(trial.a), pin_name(trial.b)
        return say(
            "Meter, unplugged: between pins {here} and {there} of the encoder.",
            here=here,
            there=there,
        )
    if trial.kind == "wire":
        part = circuit.parts[trial.a]
        wire = wire_words(owner, console, part.block.id, trial.b)
        common = trial.b >= COMMON
        pin = pin_name(COMMON + part.commons[trial.b - COMMON] if common else trial.b)
        return say(
            "Meter, unplugged: {wire}, from pin {pin} to its far end in {block}.",
            wire=uncapital(wire),
            pin=pin,
            block=part.block.name,
        )
    held = say("while it is held") if trial.kind == "diode" else say("while nothing touches it")
    name = _named(owner, console, circuit, trial.a)
    return say(
        "Meter, diode range: across the contact and diode of {name}, {held}.", name=name, held=held
    )


def why_words(proposal: TrialProposal) -> str:
    """Why a trial is proposed: into which groups its answers split the causes that are left."""
    sizes = sorted((len(faults) for _, _, faults in proposal.answers), reverse=True)
    shown = [str(size) for size in sizes[:4]]
    if len(sizes) > 4:
        shown.append(
            say("{sizes} in {count} smaller groups", sizes=sum(sizes[4:]), count=len(sizes) - 4)
        )
    return say("It splits {sizes} causes into {shown}.", sizes=sum(sizes), shown=listed(shown))


def _named(owner: Device, console: Console, circuit: Circuit, index: int) -> str:
    contact = circuit.contacts[index]
    return contact_name(owner, console, circuit.parts[contact.block].block.id, contact.number)


def answer_words(
    owner: Device, console: Console, circuit: Circuit, trial: Trial, result: Result
) -> str:
    """What came of a trial: a reading, joined pins, what was heard."""
    if isinstance(result, str):
        return PROBED[result]
    if isinstance(trial, PinTest):
        pairs = (f"{pin_name(a)}–{pin_name(b)}" for a, b in sorted(result))
        return ", ".join(pairs) or say("none joined")
    return heard_words(owner, console, circuit, result)


def heard_words(
    owner: Device, console: Console, circuit: Circuit, hits: frozenset[ReportedContact]
) -> str:
    """What was heard, by key and control; at most six are named."""
    if not hits:
        return say("nothing")
    names = []
    for b, n in sorted(hits):
        names.append(contact_name(owner, console, circuit.parts[b].block.id, n))
    return _first(names)


def struck_words(owner: Device, console: Console, circuit: Circuit, indices: Sequence[int]) -> str:
    """Contacts: three and more in a row by their ends, ``C4 to B4 of Great``, else at most six."""
    contacts = sorted(dict.fromkeys(indices))
    names = []
    for item in contacts:
        names.append(_named(owner, console, circuit, item))
    blocks = set()
    for item in contacts:
        blocks.add(circuit.contacts[item].block)
    if len(blocks) == 1 and len(contacts) > 2 and contacts[-1] - contacts[0] == len(contacts) - 1:
        return say(
            "{rpartition} to {names}",
            rpartition=names[0].rpartition(" of ")[0] or names[0],
            names=names[-1],
        )
    return _first(names)


def _first(names: list[str]) -> str:
    """At most six names, and how many more there are."""
    return _together(names[:6]) + (
        say(" and {count} more", count=len(names) - 6) if len(names) > 6 else ""
    )


def _together(names: list[str]) -> str:
    """Names with «and»; a keyboard that all of them lie on is said once."""
    ends = set()
    for name in names:
        ends.add(name.rpartition(" of ")[2])
    if len(names) > 1 and len(ends) == 1 and " of " in names[0]:
        first = []
        for name in names:
            first.append(name.rpartition(" of ")[0])
        return say(
            "{first} and {last} of {pop}",
            first=", ".join(first[:-1]),
            last=first[-1],
            pop=ends.pop(),
        )
    return ", ".join(names[:-1]) + (
        say(" and {names}", names=names[-1]) if len(names) > 1 else names[0]
    )


def read_contacts(
    owner: Device, circuit: Circuit, words: str, block: int
) -> tuple[ReportedContact, ...]:
    """Keys and stops as they are typed: ``C4, E4 of Swell``, ``nothing``; see ``block`` for those
    that name no keyboard.  Notes may lie beyond a keyboard.  Raises EditError.
    """
    contacts = []
    for piece in (p.strip() for p in re.split(r"[,;]| and ", words) if p.strip()):
        if piece.casefold() in ("nothing", "silence", "-", "–"):
            continue
        contacts.append(_hit(owner, circuit, piece, block))
    return tuple(contacts)


def _hit(owner: Device, circuit: Circuit, piece: str, block: int) -> ReportedContact:
    names = {}
    for c in owner.controls:
        names[c.id] = c.name.casefold()
    for n, part in enumerate(circuit.parts):
        for k, control in enumerate(part.block.controls):
            if names.get(control) == piece.casefold():
                return n, k
    key, _, where = piece.partition(" of ")
    if where:
        chosen = []
        for n, p in enumerate(circuit.parts):
            if p.block.name.casefold() == where.strip().casefold():
                chosen.append(n)
        if not chosen:
            raise EditError(
                say(
                    "“{where}” is no keyboard of this console: write its name as here.", where=where
                )
            )
        block = chosen[0]
    try:
        note = pitch.parse(key, owner.octaves)
    except PitchError as error:
        raise EditError(str(error)) from None
    return block, note - circuit.parts[block].low


def note_of(evidence: Evidence) -> Seen:
    """An observation as it stands in the log."""
    trial, result = evidence
    reading = result if isinstance(result, str) else None
    heard = () if isinstance(result, str) else tuple(sorted(result))
    if isinstance(trial, Probe):
        return Seen(kind=trial.kind, at=(trial.a, trial.b), heard=heard, reading=reading)
    if isinstance(trial, ContactStrike):
        return Seen(kind="strike", at=trial.contacts, heard=heard, reading=reading)
    return Seen(kind="pin test", heard=heard, reading=reading)


@derived(256)
def evidence_of(seen: Seen, circuit: Circuit) -> Evidence | None:
    """An observation from the log; None when the console has changed so that it means nothing."""
    trial = _trial(seen, circuit)
    if trial is None or isinstance(trial, Probe) is (seen.reading is None):
        return None
    if isinstance(trial, ContactStrike) and not all(
        0 <= b < len(circuit.parts) for b, _ in seen.heard
    ):
        return None
    return Evidence(trial, seen.reading or frozenset(seen.heard))


def _trial(seen: Seen, circuit: Circuit) -> Trial | None:
    if seen.kind == "pin test":
        return PinTest()
    if seen.kind == "strike":
        there = all(0 <= n < len(circuit.contacts) for n in seen.at)
        return ContactStrike(seen.at) if there else None
    if len(seen.at) != 2:
        return None
    a, b = seen.at
    if seen.kind == "pins":
        there = circuit.has_pin(a) and circuit.has_pin(b)
    elif seen.kind == "wire":
        there = circuit.wire(a, b) is not None
    else:
        there = 0 <= a < len(circuit.contacts)
    return Probe(seen.kind, a, b) if there else None
