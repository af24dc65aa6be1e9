"""Rules about the faults of a console: those it is known to have, and what was seen otherwise."""

from collections.abc import Iterator

from vastzone.core.console.circuit import built
from vastzone.core.console.faults import fault_words, mend_words
from vastzone.core.console.log import mended, unexplained
from vastzone.core.console.trial_words import answer_words, struck_words, trial_words
from vastzone.core.console.trials import ContactStrike, Evidence
from vastzone.core.engine.compile import Compiled
from vastzone.core.plan.edits.consoles import forget
from vastzone.core.plan.model.console import Console, Fault
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.proof.console import consoles_of, tell_sense
from vastzone.core.proof.finding import Remark
from vastzone.core.say import say, say_many
from vastzone.core.text import listed


def known_faults(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Faults that the console is known to have, and how to mend them."""
    for owner, console in consoles_of(plan):
        for fault in console.faults:
            yield fault_finding(owner, console, fault)


def seen_otherwise(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """What was seen on a console and no known fault explains: its plan is not what it is."""
    for owner, console in consoles_of(plan):
        odd = unexplained(owner, console)
        if odd:
            yield Remark(
                "seen otherwise",
                (_place_of(owner, console, odd), owner.id),
                say(
                    "{odd}, and no known fault of {owner} explains it. Console, Faults finds "
                    "the wire.",
                    odd=_odd_words(owner, console, odd),
                    owner=owner.name,
                ),
                (forget(owner.id, say("It is mended: forget what was seen")),),
            )


def _odd_words(owner: Device, console: Console, odd: tuple[Evidence, ...]) -> str:
    """Dead contacts by their ends and number, else the first observation in full."""
    circuit = built(owner, console)
    dead: list[int] = []
    rest: list[Evidence] = []
    for seen in odd:
        if isinstance(seen.trial, ContactStrike) and not seen.result:
            dead += seen.trial.contacts
        else:
            rest.append(seen)
    said = []
    if dead:
        said.append(
            say_many(
                "{struck} was struck and not heard",
                "{struck} were struck and not heard",
                len(set(dead)),
                struck=struck_words(owner, console, circuit, dead),
            )
        )
    if rest:
        told = trial_words(owner, console, circuit, rest[0].trial).rstrip(".")
        came = answer_words(owner, console, circuit, *rest[0])
        more = say(" (and {count} more)", count=len(rest) - 1) if len(rest) > 1 else ""
        said.append(say("“{told}” gave {came}{more}", told=told, came=came, more=more))
    return "; ".join(said)


def _place_of(owner: Device, console: Console, odd: tuple[Evidence, ...]) -> str:
    """The keyboard or control that the first strike was on, else the console itself."""
    circuit = built(owner, console)
    struck = (
        i for entry in odd if isinstance(entry.trial, ContactStrike) for i in entry.trial.contacts
    )
    index = next(struck, None)
    if index is None:
        return owner.id
    contact = circuit.contacts[index]
    block = circuit.parts[contact.block].block
    return ref_to(owner.id, block.keybed or block.controls[contact.number])


def fault_finding(owner: Device, console: Console, fault: Fault) -> Remark:
    """A known fault, what to do about it, and the press that says that it is done."""
    block = lookup.find(console.blocks, fault.block)
    ref = ref_to(owner.id, block.keybed or block.controls[0]) if block else owner.id
    return Remark(
        "console fault",
        (ref, owner.id),
        f"{fault_words(owner, console, fault)}. {mend_words(fault)}",
        (mended(owner, fault, say("Mark as mended")),),
    )


def wiring_finding(owner: Device, about: int) -> Remark:
    """The finding behind keys that the wiring spoils: a known fault by its place, else a sense."""
    console = owner.console or Console()
    if 0 <= about < len(console.faults):
        return fault_finding(owner, console, console.faults[about])
    wrong = []
    for block in console.blocks:
        if block.facing != block.declared:
            wrong.append(block)
    names = listed(b.name for b in wrong) or owner.name
    return Remark(
        "wrong diode sense",
        (owner.id,),
        say(
            "{owner} is told the wrong diode sense for {names}: all of it is dead.",
            owner=owner.name,
            names=names,
        ),
        tuple(tell_sense(owner, b) for b in wrong),
    )
