"""Shoes: from volts to values, and what their calibration makes of them."""

from collections.abc import Sequence

from vastzone.core.plan.console import Encoder, Shoe


def shoe_value(shoe: Shoe, volts: float) -> int:
    """round(127 · (v − heel) / (toe − heel)), clamped to 0–127; reversed shoes come out right."""
    if shoe.toe == shoe.heel:
        return 0
    share = (volts - shoe.heel) / (shoe.toe - shoe.heel)
    return round(127 * min(1.0, max(0.0, share)))


def volts_at(shoe: Shoe, travel: float) -> float:
    """The voltage at travel 0–1 from heel to toe."""
    return shoe.heel + (shoe.toe - shoe.heel) * travel


def steps_of(shoe: Shoe, encoder: Encoder) -> int:
    """How many of the input’s 128 steps the shoe moves over before it is calibrated."""
    whole = encoder.high - encoder.low
    return round(127 * abs(shoe.toe - shoe.heel) / whole) if whole > 0 else 0


def calibrated_values(shoe: Shoe, volts: Sequence[float]) -> list[int]:
    """What is sent for voltages one after the other, moves within the hysteresis ignored."""
    sent: list[int] = []
    for one in volts:
        value = shoe_value(shoe, one)
        if not sent or abs(value - sent[-1]) > shoe.hysteresis or value in (0, 127):
            sent.append(value)
        else:
            sent.append(sent[-1])
    return sent
