"""Two sets of colours: warm paper and ink by day, a dark stage by night.

Every text colour has a contrast of at least 4.5 : 1 on the surfaces it is used on (a test
measures it).  Part colours differ to every kind of eye (a test simulates them), and each part has a
tag too.
"""

from functools import cache
from typing import NamedTuple

from PySide6.QtGui import QColor


class Colours(NamedTuple):
    """The colours of one theme, as ``#rrggbb``."""

    paper: str
    panel: str
    raised: str
    sunken: str
    line: str
    edge: str
    ink: str
    muted: str
    action: str
    on_action: str
    action_soft: str
    fault: str
    fault_soft: str
    caution: str
    caution_soft: str
    good: str
    white_key: str
    black_key: str
    key_line: str
    parts: tuple[str, ...]
    text_px: int

    def part(self, index: int) -> QColor:
        """The colour of a part."""
        return QColor(self.parts[index % len(self.parts)])

    def verdict(self, name: str) -> str:
        """The colour of a verdict of the proof."""
        if name == "not known":
            return self.muted
        return {"as meant": self.good, "silent": self.fault, "wrong": self.fault}.get(
            name, self.caution
        )

    def severity(self, name: str) -> str:
        """The colour of a finding's severity."""
        return {"fault": self.fault, "caution": self.caution}.get(name, self.muted)


DAY = Colours(
    paper="#f5efe3",
    panel="#fbf7ee",
    raised="#fffdf7",
    sunken="#ebe3d3",
    line="#d8ccb6",
    edge="#857a67",
    ink="#2a241c",
    muted="#665b4b",
    action="#0d5f6b",
    on_action="#ffffff",
    action_soft="#d6e7e6",
    fault="#a61b29",
    fault_soft="#f6dcd7",
    caution="#7d5100",
    caution_soft="#f6e6c2",
    good="#146b2c",
    white_key="#fffdf8",
    black_key="#332c24",
    key_line="#b9ad97",
    parts=("#164d7c", "#d08a1c", "#237f68", "#825235", "#7d5fad", "#5aa7cc", "#c17b9c", "#6f7a26"),
    text_px=14,
)

STAGE = Colours(
    paper="#15171b",
    panel="#1d2025",
    raised="#262a31",
    sunken="#101216",
    line="#3a3f48",
    edge="#868d9a",
    ink="#f2ebdd",
    muted="#b3aa9a",
    action="#5cc3c9",
    on_action="#0b1416",
    action_soft="#1f3d42",
    fault="#ff8d85",
    fault_soft="#4a2226",
    caution="#f0bf62",
    caution_soft="#43351a",
    good="#86cf95",
    white_key="#d9d2c4",
    black_key="#0c0d10",
    key_line="#6b675f",
    parts=("#93b2e7", "#f0b04a", "#59b591", "#c0855d", "#a77eb7", "#98d8ed", "#dd9fc1", "#b6ca71"),
    text_px=16,
)


def mixed(one: str | QColor, other: str | QColor, share: float) -> QColor:
    """``share`` of one colour in another, 0–1."""
    a, b = QColor(one), QColor(other)
    return QColor.fromRgbF(
        a.redF() * share + b.redF() * (1 - share),
        a.greenF() * share + b.greenF() * (1 - share),
        a.blueF() * share + b.blueF() * (1 - share),
    )


def luminance(colour: str | QColor) -> float:
    """Relative luminance 0–1 as WCAG 2 defines it."""

    def linear(value: float) -> float:
        return value / 12.92 if value <= 0.03928 else ((value + 0.055) / 1.055) ** 2.4

    c = QColor(colour)
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF())


def contrast(one: str | QColor, other: str | QColor) -> float:
    """Contrast 1–21 of two colours as WCAG 2 defines it."""
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


def readable_on(colour: str | QColor) -> QColor:
    """Ink or white, whichever reads better on a colour."""
    return max((QColor("#1c1812"), QColor("#ffffff")), key=lambda c: contrast(c, colour))


LEGIBLE = 4.5
"""The least contrast of text with what is behind it (WCAG 2, level AA)."""


def legible(ink: str | QColor, behind: str | QColor) -> QColor:
    """An ink, or one as near to it as can be read on what is behind."""
    return _legible(QColor(ink).rgba(), QColor(behind).rgba())


@cache
def _legible(ink_argb: int, behind_argb: int) -> QColor:
    ink, behind = QColor.fromRgba(ink_argb), QColor.fromRgba(behind_argb)
    strong = readable_on(behind)
    for share in (0.0, 0.25, 0.5, 0.75):
        shade = mixed(strong, ink, share)
        if contrast(shade, behind) >= LEGIBLE:
            return shade
    return strong
