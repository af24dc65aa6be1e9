"""How fast one sample plays that is repitched from its root."""

from vastzone.core.plan.model.parts import Part
from vastzone.core.say import say

OCTAVE = 12


def repitching(note: int, root: int) -> float:
    """How many times as fast a sample plays at a note as at its root: 2 ^ ((note − root) / 12)."""
    return float(2 ** ((note - root) / OCTAVE))


def ratio_words(part: Part, note: int) -> str:
    """The speed at which a part that is one sample plays a note: «1.5 ×»; nothing for others."""
    if part.repitch is None:
        return ""
    return say("{repitching:.3g} ×", repitching=repitching(note, part.root))


def strays(part: Part, note: int) -> bool:
    """Whether a note is farther from the root of a sample than is taken for right."""
    return part.repitch is not None and abs(note - part.root) > part.repitch
