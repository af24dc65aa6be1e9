"""Sender and receiver modes in pairs."""

PAIRS = {
    ("toggle", "toggle"): "It acts only on every second press: sender and receiver both toggle.",
    ("toggle", "one-shot"): "It fires only on every second press: the sender toggles.",
    ("toggle", "trigger"): "It fires only on every second press: the sender toggles.",
    ("trigger", "momentary"): "It switches on and never off: the sender sends nothing at release.",
    ("trigger", "gate"): "It begins and never ends: the sender sends nothing at release.",
}


def pair_remark(sender: str, receiver: str) -> str:
    """What is wrong with a pair of modes, in a sentence; nothing when it works."""
    return PAIRS.get((sender, receiver), "")
