"""Cautions that protect people and gear, said where the work is and on the sheets for it."""

from collections.abc import Mapping

from vastzone.core.say import say

TURN_DOWN = say("Turn down before the first test: a knob can jump, a full-level pad is loud.")
HEARING = say("Protect your hearing.")
PHANTOM = say("Phantom power stays off on lines that come from outputs.")
RATING = say("Never connect a voltage above what an input is rated for.")
MAINS = say(
    "Mains inside old consoles and amplifiers can kill, and capacitors stay charged: unplug, wait, "
    "measure. Mains work is for a licensed electrician under the local code."
)
MAGNETS = say(
    "Old key and stop magnets draw heavy current at 12 to 28 V: never join them to logic inputs, "
    "and fuse them."
)
DUST = say("Solder fumes, old lead and the dust of old insulation are poisonous: air the room.")
CARRYING = say("A console needs two people to carry. Leads across the floor trip: tape them down.")
PLANNING = say("Nothing on this sheet has been sent to a device: each tick is yours.")

FOR: Mapping[str, tuple[str, ...]] = {
    "cards": (TURN_DOWN, PLANNING),
    "desk": (PHANTOM, TURN_DOWN),
    "delay": (TURN_DOWN,),
    "power": (MAINS, RATING),
    "packing": (CARRYING, PHANTOM, TURN_DOWN),
    "plugging": (RATING, TURN_DOWN, HEARING),
    "wires": (MAINS, MAGNETS, DUST, CARRYING),
    "test": (TURN_DOWN, HEARING),
    "trouble": (TURN_DOWN, RATING, MAINS),
    "set list": (TURN_DOWN,),
}
"""What is said on each kind of sheet, the gravest first."""


def cautions_for(kind: str) -> tuple[str, ...]:
    """The cautions of a kind of sheet; that of any sheet where none is its own."""
    return FOR.get(kind, (TURN_DOWN,))
