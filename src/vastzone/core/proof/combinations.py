"""Rules about pistons and crescendos: pressed and swept in the simulation, and what that draws.

A piston is pressed with nothing drawn, and with everything drawn that it governs; a shoe goes to
its toe and back, with nothing drawn and with its first stage drawn by hand.
"""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from vastzone.core.engine.compile import Compiled
from vastzone.core.engine.movement import Movement
from vastzone.core.engine.performance import Performance
from vastzone.core.engine.registration import HALF, organ_of
from vastzone.core.plan.edits.edit import Edit, set_thing
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.queries.organ import governed
from vastzone.core.plan.refs import read_ref, ref_to
from vastzone.core.proof.finding import Remark
from vastzone.core.proof.words import end_name
from vastzone.core.say import say
from vastzone.core.text import ALL, listed


class Player:
    """Hands on the stops of a scene, and the targets that are on because of them."""

    def __init__(self, scene: Compiled) -> None:
        self._hands = Performance(scene)
        self._kept = organ_of(scene.plan).stops
        self._on: dict[str, bool] = {}

    def move(self, control: str, value: float) -> None:
        """Move a control ``device:control``."""
        for one in self._hands.move((control, 1), value):
            if isinstance(one, Movement):
                self._take(one)

    def _take(self, moved: Movement) -> None:
        for hearing in moved.motion.hearings:
            target = hearing.target
            if target is None:
                continue
            share = moved.share_of(hearing.ref, hearing.reads)
            on = share >= HALF or target.answers == "program"
            if target.mode == "toggle":
                on = self._on.get(hearing.ref, False) != on
            self._on[hearing.ref] = on

    def is_on(self, target: str) -> bool:
        """Whether a target ``device:target`` is on: by what was sent, or by what its organ drew."""
        if target in self._kept:
            return target in self._hands.registration.drawn
        return self._on.get(target, False)


class Stops(NamedTuple):
    """What each stop of a device is wished to move, by itself or by the organ: targets, by ref."""

    moved: dict[str, tuple[str, ...]]

    def of(self, refs: Iterable[str]) -> set[str]:
        """The targets of some stops."""
        found: set[str] = set()
        for ref in refs:
            found.update(self.moved.get(ref, ()))
        return found


def stops_of(plan: Plan, scene: Compiled, device: Device) -> Stops:
    """What every control of a device is wished to move; a target stands for itself."""
    here = scene.scene.id if scene.scene else ""
    moved: dict[str, list[str]] = {}
    for wish in plan.wishes:
        if wish.moves is None or (wish.scenes and here not in wish.scenes):
            continue
        for source in wish.sources:
            moved.setdefault(source, []).append(wish.moves)
    for target in device.targets:
        moved[ref_to(device.id, target.id)] = [ref_to(device.id, target.id)]
    return Stops({ref: tuple(targets) for ref, targets in moved.items()})


def _movers(plan: Plan, device: Device, by: str) -> list[str]:
    """The controls that set something off: itself, or what is wished to move such a target."""
    ref = ref_to(device.id, by)
    if by in lookup.controls_by_id(device):
        return [ref]
    sources: list[str] = []
    for wish in plan.wishes:
        if wish.moves == ref:
            sources.extend(wish.sources)
    return sources


def pistons_as_set(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Pistons that do not leave exactly drawn what they are set to, of what they govern."""
    for device in plan.devices:
        for one in device.combinations:
            movers = _movers(plan, device, one.by)
            draws = [ref_to(device.id, ident) for ident in one.draws]
            governs = [ref_to(device.id, ident) for ident in governed(device, one)]
            for scene in compiled:
                stops = stops_of(plan, scene, device)
                wanted, all_of_them = stops.of(draws), stops.of(governs)
                wrong = _after_piston(scene, movers, governs, wanted, all_of_them)
                if wrong is not None:
                    yield _piston_remark(plan, device, one.name, one.by, wrong, scene)


class Wrong(NamedTuple):
    """Targets that are off and should be on, and those that are on and should be off."""

    off: tuple[str, ...]
    on: tuple[str, ...]
    before: str


def _after_piston(
    scene: Compiled,
    movers: list[str],
    governs: list[str],
    wanted: set[str],
    all_of_them: set[str],
) -> Wrong | None:
    for before, drawn in ((say("with nothing drawn"), ()), (say("with everything drawn"), governs)):
        player = Player(scene)
        for stop in drawn:
            player.move(stop, 127)
        for mover in movers[:1]:
            player.move(mover, 127)
            player.move(mover, 0)
        off = tuple(sorted(ref for ref in wanted if not player.is_on(ref)))
        on = tuple(sorted(ref for ref in all_of_them - wanted if player.is_on(ref)))
        if off or on:
            return Wrong(off, on, before)
    return None


def _piston_remark(
    plan: Plan, device: Device, name: str, by: str, wrong: Wrong, scene: Compiled
) -> Remark:
    return Remark(
        "piston draws otherwise",
        (ref_to(device.id, by), device.id),
        say(
            "{name} of {device}, pressed {before}: {left}.",
            name=name,
            device=device.name,
            before=wrong.before,
            left=_left(plan, wrong),
        ),
        tuple(_mends(plan, (*wrong.off, *wrong.on))),
        (scene.scene.id,) if scene.scene and len(plan.scenes) > 1 else (),
    )


def _left(plan: Plan, wrong: Wrong) -> str:
    said = []
    if wrong.off:
        said.append(say("{names} stays off", names=_names(plan, wrong.off)))
    if wrong.on:
        said.append(say("{names} stays on", names=_names(plan, wrong.on)))
    return listed(said, ALL)


def _names(plan: Plan, refs: Iterable[str]) -> str:
    return listed((end_name(plan, ref) for ref in refs), 4)


def _mends(plan: Plan, refs: Iterable[str]) -> Iterator[Edit]:
    """Targets that flip at each message are told to be on or off as they are sent."""
    for ref in refs:
        target = lookup.target(plan, ref)
        if target.mode == "toggle":
            device, ident = read_ref(ref)
            label = say("Let {target} be on or off as it is sent", target=target.name)
            yield set_thing(device, "targets", ident, "target", label, mode="momentary")


def crescendos_as_set(plan: Plan, compiled: tuple[Compiled, ...]) -> Iterator[Remark]:
    """Shoes that do not add their stages one after the other, and take them off again."""
    for device in plan.devices:
        for shoe in device.crescendos:
            movers = _movers(plan, device, shoe.by)
            stages = [[ref_to(device.id, ident) for ident in stage] for stage in shoe.stages]
            thresholds = [_first_value(len(stages), n) for n in range(1, len(stages) + 1)]
            for scene in compiled if movers and stages else ():
                stops = stops_of(plan, scene, device)
                wrong = _after_sweep(scene, movers[0], stages, thresholds, stops)
                if wrong is not None:
                    yield Remark(
                        "crescendo draws otherwise",
                        (ref_to(device.id, shoe.by), device.id),
                        say(
                            "{shoe} of {device}, {before}: {left}.",
                            shoe=shoe.name,
                            device=device.name,
                            before=wrong.before,
                            left=_left(plan, wrong),
                        ),
                        tuple(_mends(plan, (*wrong.off, *wrong.on))),
                        (scene.scene.id,) if scene.scene and len(plan.scenes) > 1 else (),
                    )


def _first_value(count: int, stage: int) -> int:
    """The lowest value 0–127 at which a stage of so many is drawn (see ``stages_at``)."""
    return -(-128 * stage // (count + 1))


def _after_sweep(
    scene: Compiled,
    mover: str,
    stages: list[list[str]],
    thresholds: list[int],
    stops: Stops,
) -> Wrong | None:
    every = stops.of(ref for stage in stages for ref in stage)
    for by_hand in ([], stages[0]):
        player = Player(scene)
        for stop in by_hand:
            player.move(stop, 127)
        drawn = stops.of(by_hand)
        for number, value in enumerate(thresholds):
            player.move(mover, value)
            drawn |= stops.of(stages[number])
            wrong = _other(player, drawn, every, say("at stage {number}", number=number + 1))
            if wrong is not None:
                return wrong
        player.move(mover, 0)
        wrong = _other(player, stops.of(by_hand), every, say("back at its heel"))
        if wrong is not None:
            return wrong
    return None


def _other(player: Player, wanted: set[str], every: set[str], before: str) -> Wrong | None:
    off = tuple(sorted(ref for ref in wanted if not player.is_on(ref)))
    on = tuple(sorted(ref for ref in every - wanted if player.is_on(ref)))
    return Wrong(off, on, before) if off or on else None
