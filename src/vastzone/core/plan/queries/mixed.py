"""Several sources of voltage in one jack, by a mixing lead: what each of them still moves.

At the jack their voltages meet through their own resistances, V = Σ(vᵢ / Rᵢ) / (Σ(1 / Rᵢ) + 1 / R)
with R that of the input (Millman’s theorem), so that none of them has its whole range any longer.
"""

from collections.abc import Sequence
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.plan.model.pedals import TOP, Pedal, PedalJack, PedalPlug
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.queries import lookup


class Mixed(NamedTuple):
    """Sources that share a jack, in their order, and the value 0–127 with all of them lowest.

    ``reaches`` says of each how far it moves that value alone, ``whole`` what all of them make.
    """

    jack: str
    sources: tuple[Pedal, ...]
    rests: int
    reaches: tuple[int, ...]
    whole: int


def may_share(pedals: Sequence[Pedal], jack: PedalJack) -> bool:
    """Whether pedals can be in a jack together: sources of voltage, in one that takes voltage."""
    return "voltage" in jack.accepts and all(pedal.kind == "voltage" for pedal in pedals)


@derived(16)
def shared_plugs(plan: Plan) -> tuple[PedalPlug, ...]:
    """The plugs of pedals that share their jack with another."""
    by_jack: dict[str, list[PedalPlug]] = {}
    for plug in plan.pedal_plugs:
        by_jack.setdefault(plug.jack, []).append(plug)
    shared: list[PedalPlug] = []
    for plugs in by_jack.values():
        if len(plugs) > 1:
            shared.extend(plugs)
    return tuple(shared)


def mixed_in(plan: Plan, ref: str, jack: PedalJack) -> Mixed | None:
    """What the sources in a jack ``device:jack`` make together; None where there is one at most."""
    pedals = lookup.by_ids(plan.pedals)
    sources = tuple(pedals[plug.pedal] for plug in plan.pedal_plugs if plug.jack == ref)
    return mixed(ref, sources, jack) if len(sources) > 1 else None


def mixed(ref: str, sources: tuple[Pedal, ...], jack: PedalJack) -> Mixed:
    """What sources of voltage make of one input together."""
    lows = [source.low for source in sources]
    rests = _value(volts_at(lows, sources, jack), jack)
    reaches = []
    for place, source in enumerate(sources):
        volts = [*lows]
        volts[place] = source.high
        reaches.append(_value(volts_at(volts, sources, jack), jack) - rests)
    highs = [source.high for source in sources]
    whole = _value(volts_at(highs, sources, jack), jack)
    return Mixed(ref, sources, rests, tuple(reaches), whole)


def volts_at(volts: Sequence[float], sources: Sequence[Pedal], jack: PedalJack) -> float:
    """The voltage at an input while its sources stand at these."""
    through, conductance = 0.0, 1 / jack.ohms
    for here, source in zip(volts, sources, strict=True):
        through += here / source.source_ohms
        conductance += 1 / source.source_ohms
    return through / conductance


def _value(volts: float, jack: PedalJack) -> int:
    """The value 0–127 that an input makes of a voltage."""
    wide = jack.high - jack.low
    share = (volts - jack.low) / wide if wide else 0.0
    return round(TOP * min(1.0, max(0.0, share)))
