"""What is drawn: by hand, by pistons and by the crescendo, in the console or in the organ.

What a console’s encoder holds, it does itself: a piston sends what each stop would send, a shoe
likewise stage by stage.  What the organ holds moves its own targets.  A stop sounds while a hand or
a piston has drawn it, or the crescendo has.
"""

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.tables import Hearing
from vastzone.core.engine.voice import Voice
from vastzone.core.plan.model.organ import Combination, Crescendo, stages_at
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.queries.organ import couples, governed
from vastzone.core.plan.refs import ref_to

HALF = 0.5
"""From here on a target is on (MIDI 1.0: 64–127 is on)."""


class Piston(NamedTuple):
    """A combination with everything named as ``device:thing``."""

    draws: frozenset[str]
    governs: tuple[str, ...]


class Organ(NamedTuple):
    """Everything of a plan that draws, by what sets it off; ``tabs`` stay where they are put."""

    pistons: Mapping[str, tuple[Piston, ...]]
    shoes: Mapping[str, tuple[tuple[str, Crescendo], ...]]
    stops: frozenset[str]
    tabs: frozenset[str]


NO_ORGAN = Organ(MappingProxyType({}), MappingProxyType({}), frozenset(), frozenset())


@derived(16)
def organ_of(plan: Plan) -> Organ:
    """What draws what in a plan."""
    pistons: dict[str, list[Piston]] = {}
    shoes: dict[str, list[tuple[str, Crescendo]]] = {}
    stops: set[str] = set()
    tabs: set[str] = set()
    for device in plan.devices:
        if not couples(device):
            continue
        for one in device.combinations:
            pistons.setdefault(ref_to(device.id, one.by), []).append(_piston(device, one))
        for shoe in device.crescendos:
            shoes.setdefault(ref_to(device.id, shoe.by), []).append((device.id, shoe))
        stops.update(ref_to(device.id, ident) for ident in _draws(device))
        for control in device.controls:
            if control_ability(control).stays:
                tabs.add(ref_to(device.id, control.id))
    if not (pistons or shoes or stops):
        return NO_ORGAN
    by_piston = {ref: tuple(found) for ref, found in pistons.items()}
    by_shoe = {ref: tuple(found) for ref, found in shoes.items()}
    return Organ(
        MappingProxyType(by_piston), MappingProxyType(by_shoe), frozenset(stops), frozenset(tabs)
    )


def _piston(device: Device, one: Combination) -> Piston:
    draws = frozenset(ref_to(device.id, ident) for ident in one.draws)
    return Piston(draws, tuple(ref_to(device.id, ident) for ident in governed(device, one)))


def _draws(device: Device) -> Iterable[str]:
    """Everything that is drawn, by hand or by something else: its state is kept."""
    for one in device.combinations:
        yield from (*one.draws, *one.governs)
    for shoe in device.crescendos:
        for stage in shoe.stages:
            yield from stage
    for coupler in device.couplers:
        if coupler.target is not None:
            yield coupler.target
    for program in device.programs:
        for zone in program.zones:
            if zone.drawn_by is not None:
                yield zone.drawn_by


class Registration:
    """What is drawn now, of the controls and targets that anything can draw.

    ``hand`` is drawn by hands and pistons, ``swell`` by each shoe.
    """

    def __init__(self) -> None:
        self.hand: set[str] = set()
        self.swell: dict[tuple[str, str], frozenset[str]] = {}

    def clear(self) -> None:
        """Everything is pushed in."""
        self.hand.clear()
        self.swell.clear()

    def keep(self, organ: Organ) -> None:
        """Forget what is not there any more."""
        self.hand &= organ.stops
        for shoe in [shoe for shoe in self.swell if shoe[0] not in organ.shoes]:
            del self.swell[shoe]

    @property
    def drawn(self) -> frozenset[str]:
        """Everything that is drawn, as ``device:control`` or ``device:target``."""
        return frozenset(self.hand).union(*self.swell.values())

    def move(self, organ: Organ, ref: str, value: float, pressed: bool) -> list[tuple[str, bool]]:
        """A control is moved: which stops have to be sent on or off because of it."""
        if ref in organ.stops:
            self._by_hand(ref, ref in organ.tabs, value, pressed)
        return self._follow(organ, ref, value, pressed)

    def put(self, organ: Organ, ref: str, drawn: bool) -> None:
        """A song begins with a target on or off, if it is one that can be drawn."""
        if ref in organ.stops:
            self._by_hand(ref, True, 127.0 if drawn else 0.0, drawn)

    def hear(self, organ: Organ, done: Iterable[Voice | Movement]) -> None:
        """Targets that were moved are on or off, and draw what they draw."""
        for one in done:
            if not isinstance(one, Movement):
                continue
            for hearing in one.motion.hearings:
                if hearing.target is not None:
                    self._target(organ, hearing, one)

    def _target(self, organ: Organ, hearing: Hearing, moved: Movement) -> None:
        ref, target = hearing.ref, hearing.target
        share = moved.share_of(ref, hearing.reads)
        on = share >= HALF or (target is not None and target.answers == "program")
        flips = target is not None and target.mode == "toggle"
        if ref in organ.stops:
            self._by_hand(ref, not flips, 127.0 if on else 0.0, on)
        # What an organ draws itself needs no message: its states are all there is.
        self._follow(organ, ref, 127 * share, on)

    def _by_hand(self, ref: str, stays: bool, value: float, pressed: bool) -> None:
        """What stays is drawn while it is down; a press of anything else draws or pushes it."""
        if stays:
            drawn = value > 0
        elif pressed:
            drawn = ref not in self.hand
        else:
            return
        if drawn:
            self.hand.add(ref)
        else:
            self.hand.discard(ref)

    def _follow(
        self, organ: Organ, ref: str, value: float, pressed: bool
    ) -> list[tuple[str, bool]]:
        before = self.drawn
        for piston in organ.pistons.get(ref, ()) if pressed else ():
            self.hand.difference_update(piston.governs)
            self.hand |= piston.draws
        for device, shoe in organ.shoes.get(ref, ()):
            stages = shoe.stages[: stages_at(shoe, value)]
            added = [ref_to(device, ident) for stage in stages for ident in stage]
            self.swell[ref, shoe.id] = frozenset(added)
        after = self.drawn
        changes = [(stop, False) for stop in sorted(before - after)]
        return changes + [(stop, True) for stop in sorted(after - before)]
