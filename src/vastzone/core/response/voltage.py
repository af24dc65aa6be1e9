"""Control voltages at inputs that may not take them: attenuation, offset, resistors to buy."""

import math
from itertools import product
from typing import NamedTuple

from vastzone.core.say import say

E24 = (
    1.0,
    1.1,
    1.2,
    1.3,
    1.5,
    1.6,
    1.8,
    2.0,
    2.2,
    2.4,
    2.7,
    3.0,
    3.3,
    3.6,
    3.9,
    4.3,
    4.7,
    5.1,
    5.6,
    6.2,
    6.8,
    7.5,
    8.2,
    9.1,
)
"""The preferred numbers of the E24 series (IEC 60063)."""

LOAD_OHM = 10_000.0
"""The resistance that a source should see at least."""


class Level(NamedTuple):
    """A range of voltages, lowest and highest."""

    low: float
    high: float

    @property
    def span(self) -> float:
        """Highest minus lowest."""
        return self.high - self.low


class Divider(NamedTuple):
    """What brings a source into an input’s range.

    The input sees ``gain`` · source + ``offset``.  ``series`` is from the source to the input,
    ``shunt`` from the input to ground, ``lift`` from the input to the reference of
    ``reference`` volts (0 ohms where none is needed).  ``result`` is what the input then sees;
    with real values it never leaves its rating.
    """

    gain: float
    offset: float
    series: float
    shunt: float
    lift: float
    reference: float
    result: Level


def fits(source: Level, rating: Level) -> bool:
    """Whether a source may be connected as it is."""
    return rating.low <= source.low and source.high <= rating.high


def divider(source: Level, rating: Level) -> Divider | None:
    """The resistors that bring a source within a rating; None where it may be connected as it is.

    One resistor in series and one to ground divide: v = s · R₂ / (R₁ + R₂).  A source that goes
    below the rating needs a third, to a reference at the rating’s top, which lifts it (Millman:
    v = (s/R₁ + r/R₃) / (1/R₁ + 1/R₂ + 1/R₃)).  Of the values in the series those are taken that
    use most of the range and never leave it.
    """
    if fits(source, rating):
        return None
    lifted = source.low < rating.low
    best: Divider | None = None
    series = nearest(LOAD_OHM)
    shunts = _around(series)
    for shunt, lift in product((*shunts, math.inf), shunts if lifted else (math.inf,)):
        built = _made(source, rating, series, shunt, lift)
        if built is None or (math.isinf(shunt) and not lifted):
            continue
        if best is None or built.result.span > best.result.span + 1e-9:
            best = built
    return best


def _made(source: Level, rating: Level, series: float, shunt: float, lift: float) -> Divider | None:
    conduct = 1 / series + 1 / shunt + 1 / lift
    gain = (1 / series) / conduct
    offset = 0.0 if math.isinf(lift) else (rating.high / lift) / conduct
    result = Level(gain * source.low + offset, gain * source.high + offset)
    if not fits(result, Level(rating.low - 1e-9, rating.high + 1e-9)):
        return None
    return Divider(
        gain,
        offset,
        series,
        0.0 if math.isinf(shunt) else shunt,
        0.0 if math.isinf(lift) else lift,
        rating.high,
        result,
    )


def nearest(ohms: float) -> float:
    """The value of the series next to so many ohms."""
    top = 10.0 ** math.floor(math.log10(ohms))
    return min((v * top for v in (*E24, 10.0)), key=lambda v: abs(v - ohms))


def _around(ohms: float) -> tuple[float, ...]:
    """The values of the series from a decade below so many ohms to two above."""
    bottom = math.floor(math.log10(ohms)) - 1
    values = []
    for n in range(4):
        for v in E24:
            values.append(v * 10.0 ** (bottom + n))
    return tuple(values)


def ohms_words(ohms: float) -> str:
    """A resistance as it is printed: 4.7 kΩ, 560 Ω."""
    for unit, name in ((1e6, "MΩ"), (1e3, "kΩ")):
        if ohms >= unit:
            return say("{ohms:.3g} {name}", ohms=ohms / unit, name=name)
    return say("{ohms:.3g} Ω", ohms=ohms)
