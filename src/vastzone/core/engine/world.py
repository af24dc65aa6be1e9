"""What messages can run into in a scene: the network, and everything that listens."""

from typing import NamedTuple

from vastzone.core.engine.listen import Ears, ears
from vastzone.core.engine.network import Network, network
from vastzone.core.engine.wired import reports
from vastzone.core.plan import lookup
from vastzone.core.plan.cache import alike, derived
from vastzone.core.plan.drums import strokes_as
from vastzone.core.plan.model import Plan, Port, Scene
from vastzone.core.plan.touch import KitChoice, Program


class Sources(NamedTuple):
    """The outside of a sending device: what its messages need to know about it."""

    id: str
    ports: tuple[Port, ...]
    local: bool


class World(NamedTuple):
    """Everything a message can run into in one scene.

    ``heard`` has for each channel 0–15 all that can hear it: the same value while none of that
    changed, however much else did.
    """

    network: Network
    ears: dict[str, Ears]
    heard: tuple[tuple[object, ...], ...]

    def of(self, device: str) -> Ears:
        """The listeners of a device."""
        return self.ears[device]


@derived(16)
def outsides(plan: Plan) -> tuple[object, ...]:
    """Everything but programs that decides what happens; the same value while it stays."""
    shells = [
        (
            d.id,
            d.ports,
            d.local,
            d.delay_ms,
            d.keybeds,
            d.controls,
            d.parts,
            d.kits,
            d.targets,
            reports(d),
        )
        for d in plan.devices
    ]
    strokes = [strokes_as(plan, d) for d in plan.devices if d.inputs]
    return alike((network(plan), *strokes, *map(alike, shells)))


@derived(320)
def programs_at(plan: Plan, scene: Scene | None) -> tuple[Program | None, ...]:
    """The program that each device is on in a scene."""
    chosen = {c.device: c.program for c in scene.programs} if scene else {}
    return tuple(
        [
            held.get(number) or lookup.program(lookup.device(plan, ident), number) if held else None
            for ident, first, held in _by_number(plan)
            for number in (chosen.get(ident, first),)
        ]
    )


@derived(16)
def _by_number(plan: Plan) -> tuple[tuple[str, int, dict[int, Program]], ...]:
    return tuple(
        (d.id, d.programs[0].number if d.programs else -1, {p.number: p for p in d.programs})
        for d in plan.devices
    )


def world_of(plan: Plan, scene: Scene | None) -> World:
    """The network and the listeners of a scene; the same value while none of them changed."""
    programs = programs_at(plan, scene)
    kits = tuple([p.kits if p is not None else () for p in programs])
    return _world_with(outsides(plan), kits, plan, programs)


@derived(512, hidden=2)
def _world_with(
    surroundings: tuple[object, ...],
    kits: tuple[tuple[KitChoice, ...], ...],
    plan: Plan,
    programs: tuple[Program | None, ...],
) -> World:
    """A program tells its listeners nothing but the kits."""
    held = zip(plan.devices, programs, strict=True)
    return _world(network(plan), tuple(ears(device, program) for device, program in held))


@derived(256)
def _world(net: Network, every: tuple[Ears, ...]) -> World:
    heard = tuple(
        alike(
            tuple(
                item
                for e in every
                if e.by_channel[channel]
                for item in (e.delay_ms, e.by_channel[channel])
            )
        )
        for channel in range(16)
    )
    return World(net, {e.device: e for e in every}, heard)
