"""Shoes: from volts to values, and what their calibration makes of them."""

from vastzone.core.plan.model.console import Encoder, Shoe
from vastzone.core.response.travel import Sweep


def shoe_value(shoe: Shoe, volts: float) -> int:
    """round(127 · (v − heel) / (toe − heel)), clamped to 0–127; reversed shoes come out right."""
    if shoe.toe == shoe.heel:
        return 0
    share = (volts - shoe.heel) / (shoe.toe - shoe.heel)
    return round(127 * min(1.0, max(0.0, share)))


WORN = (0.42, 0.58)
"""Where a worn track has no contact, as shares of the travel: the input then falls to 0 V."""


def volts_at(shoe: Shoe, travel: float) -> float:
    """The voltage at travel 0–1 from heel to toe, as its track is."""
    if shoe.track == "worn" and WORN[0] < travel < WORN[1]:
        return 0.0
    share = 1 - travel if shoe.track == "reversed" else travel
    return shoe.heel + (shoe.toe - shoe.heel) * share


def sweep(shoe: Shoe, count: int = 200) -> list[Sweep]:
    """What a slow move from heel to toe and back sends, to be examined as a pedal’s."""
    places = []
    for n in range(count):
        places.append(1 - abs(1 - 2 * n / (count - 1)))
    swept = []
    for place in places:
        swept.append(Sweep(place, shoe_value(shoe, volts_at(shoe, place))))
    return swept


def steps_of(shoe: Shoe, encoder: Encoder) -> int:
    """How many of the input’s 128 steps the shoe moves over before it is calibrated."""
    whole = encoder.high - encoder.low
    return round(127 * abs(shoe.toe - shoe.heel) / whole) if whole > 0 else 0
