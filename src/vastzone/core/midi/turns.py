"""How controls without ends tell their turns: by steps, in one of three codes.

There is no standard for it; the three are in common use.  Two’s complement of 7 bits tells +1 as 1
and −1 as 127, an offset of 64 as 65 and 63, a sign bit as 1 and 65.
"""

from typing import Literal

Turning = Literal["absolute", "1 or 127", "65 or 63", "1 or 65"]
"""How a control without ends tells its turns: where it stands, or by how many steps it went."""

MOST_STEPS = 63
"""The most steps that every code can tell in one message."""


def code_of(turning: Turning, steps: int) -> int:
    """The value 0–127 that tells so many steps, −63 to 63.  Raises ValueError beyond."""
    if abs(steps) > MOST_STEPS:
        raise ValueError(f"{steps} steps are more than a message can tell.")
    if turning == "1 or 127":
        return steps % 128
    if turning == "65 or 63":
        return 64 + steps
    return steps if steps >= 0 else 64 - steps


def steps_of(turning: Turning, value: int) -> int:
    """The steps that a value 0–127 tells."""
    if turning == "1 or 127":
        return value if value < 64 else value - 128
    if turning == "65 or 63":
        return value - 64
    return value if value < 64 else 64 - value
