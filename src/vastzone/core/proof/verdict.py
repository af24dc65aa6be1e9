"""What a strike was meant to do against what it does."""

from collections import Counter
from collections.abc import Iterable
from typing import Literal, NamedTuple

Verdict = Literal["as meant", "silent", "wrong", "extra", "double", "not known"]
VERDICTS: tuple[Verdict, ...] = ("as meant", "silent", "wrong", "extra", "double")
"""What a proof of the plan can say; of what is dialled, something may be *not known*."""


class Effect(NamedTuple):
    """A part and how far its sounding note lies from the key (for a control: the note itself)."""

    ref: str
    shift: int


class Mark(NamedTuple):
    """The verdict on keys ``low``–``high`` of a keybed, or on a control in ``bank``.

    It holds at velocities ``vel_low``–``vel_high``; ``remark`` is a sentence where the sounds
    alone do not say it.
    """

    source: str
    bank: int
    low: int
    high: int
    vel_low: int
    vel_high: int
    verdict: Verdict
    meant: tuple[Effect, ...]
    missing: tuple[Effect, ...]
    extra: tuple[Effect, ...]
    wishes: tuple[str, ...]
    remark: str = ""


Marks = tuple[Mark, ...]


def worst(marks: Iterable[Mark]) -> Mark | None:
    """The mark that tells of one thing: the first that is not as meant, else the first of all."""
    listed = list(marks)
    wrong = (mark for mark in listed if mark.verdict != "as meant")
    return next(wrong, listed[0] if listed else None)


def judge(
    meant: Iterable[Effect], heard: Iterable[Effect]
) -> tuple[Verdict, tuple[Effect, ...], tuple[Effect, ...]]:
    """The verdict, what is missing and what is too much.

    Something heard twice is *double*, whatever else sounds as well; something missing while
    something else sounds is *wrong*.
    """
    wanted, got = set(meant), Counter(heard)
    missing = tuple(sorted(wanted - set(got)))
    twice = tuple(sorted(hit for hit, count in got.items() if count > 1 and hit in wanted))
    extra = tuple(sorted(set(got) - wanted))
    too_much = (*extra, *twice)
    if missing:
        return ("wrong" if too_much else "silent"), missing, too_much
    if twice:
        return "double", (), too_much
    return ("extra", (), extra) if extra else ("as meant", (), ())
