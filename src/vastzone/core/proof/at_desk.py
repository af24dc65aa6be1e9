"""What of each sound arrives at the desk: once, twice, by half, not at all."""

from collections.abc import Iterator, Mapping
from typing import Literal, NamedTuple

from vastzone.core.cache import derived
from vastzone.core.engine.audio import Arrival, arrivals, channel_words, has_desk
from vastzone.core.engine.compile import compile_scene
from vastzone.core.engine.sounds_played import sounds_played
from vastzone.core.plan.model.audio import OutputWish
from vastzone.core.plan.model.plan import Device, Plan
from vastzone.core.plan.queries.sounds import SoundUnit, covers, sounds_of
from vastzone.core.say import say
from vastzone.core.text import listed

DeskVerdict = Literal["once", "nowhere", "twice", "half", "elsewhere"]


class AtDesk(NamedTuple):
    """What arrives of one sound, and in which scenes it is played."""

    unit: SoundUnit
    device: str
    verdict: DeskVerdict
    arrived: tuple[Arrival, ...]
    scenes: tuple[str, ...]

    @property
    def channels(self) -> tuple[str, ...]:
        """The channels that it arrives on, each once, in the order of its sides."""
        return tuple(dict.fromkeys(one.channel for one in self.arrived))

    @property
    def is_stereo(self) -> bool:
        """Whether its sides arrive apart from each other."""
        ends = {(one.channel, one.into) for one in self.arrived}
        return len({one.carries for one in self.arrived}) == 2 and len(ends) == 2


@derived(16)
def played_in(plan: Plan) -> Mapping[str, tuple[str, ...]]:
    """The scenes in which each sound is played; the only one of a plan without scenes is «»."""
    scenes: dict[str, list[str]] = {}
    for scene in plan.scenes or (None,):
        for ref in sounds_played(compile_scene(plan, scene)):
            scenes.setdefault(ref, []).append(scene.id if scene is not None else "")
    return {ref: tuple(names) for ref, names in scenes.items()}


@derived(16)
def at_desk(plan: Plan) -> tuple[AtDesk, ...]:
    """Every sound that is played in some scene, as it arrives; nothing in a plan without a desk."""
    return tuple(_every(plan)) if has_desk(plan) else ()


def _every(plan: Plan) -> Iterator[AtDesk]:
    scenes = played_in(plan)
    for device in plan.devices:
        reached: dict[str, tuple[Arrival, ...]] = {}
        for unit in sounds_of(device):
            if unit.ref not in scenes:
                continue
            if unit.output not in reached:
                reached[unit.output] = arrivals(plan, device, unit.output)
            arrived = reached[unit.output]
            verdict = _verdict(plan, unit, arrived)
            yield AtDesk(unit, device.id, verdict, arrived, scenes[unit.ref])


def _verdict(plan: Plan, unit: SoundUnit, arrived: tuple[Arrival, ...]) -> DeskVerdict:
    if not arrived:
        return "nowhere"
    by_side: dict[str, set[str]] = {}
    ways: dict[str, int] = {}
    for one in arrived:
        by_side.setdefault(one.carries, set()).add(one.channel)
        key = f"{one.carries} {one.channel} {one.into}"
        ways[key] = ways.get(key, 0) + 1
    if any(len(channels) > 1 for channels in by_side.values()) or max(ways.values()) > 1:
        return "twice"
    if "mono" not in by_side and len(by_side) == 1:
        return "half"
    for wish in plan.output_wishes:
        if wish.channel is not None and any(covers(ref, unit) for ref in wish.of):
            first = by_side.get("left") or by_side.get("mono") or set()
            if wish.channel not in first:
                return "elsewhere"
    return "once"


class WishKept(NamedTuple):
    """A wish for outputs, whether it is kept, and why not."""

    wish: OutputWish
    kept: bool
    why: str


@derived(16)
def wishes_kept(plan: Plan) -> tuple[WishKept, ...]:
    """Every wish for outputs against what arrives on the desk, in the plan's order."""
    every = at_desk(plan)
    told = []
    for wish in plan.output_wishes:
        why = _broken(plan, wish, every)
        told.append(WishKept(wish, not why, why))
    return tuple(told)


def _broken(plan: Plan, wish: OutputWish, every: tuple[AtDesk, ...]) -> str:
    """Why a wish is not kept; nothing where it is."""
    mine = [one for one in every if _is_named(wish.of, one.unit)]
    if wish.want == "stereo":
        flat = [one.unit.name for one in mine if not one.is_stereo]
        return say("{flat} arrives in mono", flat=listed(flat, 4)) if flat else ""
    if wish.want == "channel":
        off = [one.unit.name for one in mine if one.verdict == "elsewhere"]
        return say("{off} arrives on another channel", off=listed(off, 4)) if off else ""
    others = [one for one in every if one not in mine]
    if wish.want == "apart":
        others = [one for one in every if _is_named(wish.apart, one.unit)]
    channels = {ref for one in mine for ref in one.channels}
    beside = [one for one in others if channels & set(one.channels)]
    if not beside:
        return ""
    shared = {ref for one in beside for ref in one.channels if ref in channels}
    where = channel_words(plan, tuple(sorted(shared)))
    return say(
        "{unit} comes on {where} too",
        unit=listed((one.unit.name for one in beside), 4),
        where=where,
    )


def _is_named(refs: tuple[str, ...], unit: SoundUnit) -> bool:
    return any(covers(ref, unit) for ref in refs)


def sounding_devices(plan: Plan) -> tuple[Device, ...]:
    """The devices whose sounds can be given outputs."""
    return tuple(device for device in plan.devices if device.outputs and sounds_of(device))
