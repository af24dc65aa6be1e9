"""Sender and receiver modes in pairs."""

from vastzone.core.say import say

PAIRS = {
    ("toggle", "toggle"): say(
        "It acts only on every second press: sender and receiver both toggle."
    ),
    ("toggle", "one-shot"): say("It fires only on every second press: the sender toggles."),
    ("toggle", "trigger"): say("It fires only on every second press: the sender toggles."),
    ("trigger", "momentary"): say(
        "It switches on and never off: the sender sends nothing at release."
    ),
    ("trigger", "gate"): say("It begins and never ends: the sender sends nothing at release."),
}


def pair_remark(sender: str, receiver: str) -> str:
    """What is wrong with a pair of modes, in a sentence; nothing when it works."""
    return PAIRS.get((sender, receiver), "")
