"""Where the settings of one thing stand on their way into its device, in words."""

from collections.abc import Iterator

from vastzone.core.cards.card import CardLine, card
from vastzone.core.memory.keys import keeps
from vastzone.core.memory.model import Memory
from vastzone.core.memory.states import STATES
from vastzone.core.plan.fields.dials import owner_dials, whole_dials
from vastzone.core.plan.fields.owners import owners_in
from vastzone.core.plan.model.controls import Program
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.refs import read_setting_ref
from vastzone.core.say import say


def settings_of(device: Device, program: Program | None, thing: str) -> frozenset[str]:
    """The settings of ``device:thing``, outside programs and in one of them."""
    refs = set()
    for dial in whole_dials(device):
        if keeps(dial) and read_setting_ref(dial.ref).thing == thing:
            refs.add(dial.ref)
    for owner in owners_in(device, program) if program is not None else ():
        for dial in owner_dials(owner):
            if keeps(dial) and read_setting_ref(dial.ref).thing == thing:
                refs.add(dial.ref)
    return frozenset(refs)


def standing(
    plan: Plan, memory: Memory, device: Device, program: Program | None, thing: str
) -> tuple[CardLine, ...]:
    """The lines of a card that are about one thing, done or not."""
    refs = settings_of(device, program, thing)
    if not refs:
        return ()
    lines = []
    for line in card(plan, memory, device, also=refs).lines:
        if refs.intersection(line.operation.refs):
            lines.append(line)
    return tuple(lines)


def standing_in_short(lines: tuple[CardLine, ...]) -> str:
    """Where the lowest of some lines stands: «left to dial», «stored 2026-05-02 by ro»."""
    if not lines:
        return ""
    lowest = min(lines, key=lambda line: STATES.index(line.state))
    words = {"planned": say("left to dial"), "sent": say("sent, not stored")}.get(lowest.state)
    words = words or say(lowest.state)
    return words + _told(lowest)


def standing_words(lines: tuple[CardLine, ...]) -> Iterator[str]:
    """Each line as a sentence: left to dial, sent, stored or checked, since when, by whom, why."""
    for line in lines:
        if line.waits:
            yield say("Left to dial: {line}.", line=line.words)
        elif line.state == "sent":
            yield say("Sent{told}, not stored: {after}.", told=_told(line), after=line.after)
        else:
            yield say(
                "The device holds it, {state}{told}: {after}.",
                state=say(line.state),
                told=_told(line),
                after=line.after,
            )
        for reason in line.why:
            yield say("Why: {reason}", reason=reason)


def _told(line: CardLine) -> str:
    known = line.known
    if known is None:
        return ""
    pieces = (known.on, say("by {by}", by=known.by) if known.by else "")
    how = "" if known.how == "dialled" else f" ({say(known.how)})"
    words = " ".join(filter(None, pieces))
    return (f" {words}" if words else "") + how
