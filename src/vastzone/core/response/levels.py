"""How high each target of a plan may go: said as 0–100, 0–127, in dB or in its own unit."""

import math
from collections.abc import Iterable, Mapping
from typing import Literal, NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.wishes import WishPlace, change, held_at, make
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.parts import Target
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.refs import ref_to
from vastzone.core.response.loudness import LAW, Capped, volume_db, volume_for
from vastzone.core.response.sweep import target_value
from vastzone.core.say import number, say
from vastzone.core.text import decimal, quoted

Scale = Literal["percent", "value", "dB", "unit"]
SCALES: tuple[tuple[Scale, str], ...] = (
    ("percent", "0–100"),
    ("value", "0–127"),
    ("dB", say("dB")),
    ("unit", say("its own unit")),
)


class Level(NamedTuple):
    """A target that follows a travel, and how much of its range it may use, 0–1."""

    ref: str
    target: Target
    device: str
    share: float

    @property
    def name(self) -> str:
        """What it is called."""
        return self.target.name

    @property
    def decibels(self) -> float:
        """How far below full that is."""
        return LAW * math.log10(self.share) if self.share > 0 else -math.inf


def levels_of(plan: Plan) -> tuple[Level, ...]:
    """Every target of a plan that follows a travel, with its present ceiling."""
    levels = []
    for device in plan.devices:
        for target in device.targets:
            if target.sweeps and target.answers != "bend":
                ref = ref_to(device.id, target.id)
                levels.append(Level(ref, target, device.name, _share(target)))
    return tuple(levels)


def _share(target: Target) -> float:
    wide = target.high - target.low
    if target.ceiling is None or not wide:
        return 1.0
    return max(0.0, min(1.0, (target.ceiling - target.low) / wide))


def level_words(level: Level, scale: Scale) -> str:
    """How high a target may go, on a scale."""
    if scale == "percent":
        return (
            number(level.share * 100, "g")
            if level.share in (0, 1)
            else number(level.share * 100, ".1f")
        )
    if scale == "value":
        return str(math.floor(level.share * 127 + 1e-9))
    if scale == "dB":
        return number(level.decibels, ".1f").replace("-", "−")
    wide = level.target.high - level.target.low
    unit = f" {level.target.unit}" if level.target.unit else ""
    return say("{low:g}{unit}", low=level.target.low + wide * level.share, unit=unit)


def share_in(words: str, target: Target, scale: Scale) -> float:
    """The share 0–1 of its range that words on a scale allow a target.  Raises EditError."""
    plain = words.strip().lower()
    for ending, told in (("db", "dB"), ("%", "percent")):
        if plain.endswith(ending):
            plain, scale = plain.removesuffix(ending).strip(), told  # type: ignore[assignment]
    if target.unit and scale == "unit":
        plain = plain.removesuffix(target.unit.lower()).strip()
    number = decimal(plain)
    if number is None:
        raise EditError(
            say("“{words}” is no level: write a number such as 90, or −6 dB.", words=quoted(words))
        )
    if scale == "dB":
        share = 10 ** (-abs(number) / LAW)
    elif scale == "unit":
        wide = target.high - target.low
        share = (number - target.low) / wide if wide else 1.0
    else:
        share = number / (100 if scale == "percent" else 127)
    if not 0 <= share <= 1 + 1e-9:
        raise EditError(
            say(
                "“{words}” is beyond what {target} can do: write less.",
                words=quoted(words),
                target=target.name,
            )
        )
    return min(1.0, share)


def read_ends(words: str, target: Target) -> tuple[float, float]:
    """«0 to −3 dB» as the ends of a level’s travel, in its own unit.  Raises EditError.

    A level that has no dB of its own follows the law of the standard volumes.
    """
    plain = words.strip().lower().removesuffix("db").strip().replace(" to ", " … ")
    first, _, last = plain.partition(" … ")
    begins, ends = decimal(first), decimal(last)
    if begins is None or ends is None:
        raise EditError(
            say("“{words}” is no travel of a level: write such as 0 to −3 dB.", words=quoted(words))
        )
    if target.unit != "dB":
        return target_value(target, volume_for(begins)), target_value(target, volume_for(ends))
    bottom, top = sorted((target.low, target.high))
    for end in (begins, ends):
        if not bottom <= end <= top:
            raise EditError(
                say(
                    "{target} goes from {bottom:g} to {top:g} dB: “{words}” is beyond.",
                    target=target.name,
                    bottom=bottom,
                    top=top,
                    words=quoted(words),
                )
            )
    return begins, ends


def wish_level(
    plan: Plan,
    place: WishPlace,
    level: str,
    ends: tuple[float, float],
    scenes: tuple[str, ...] = (),
) -> Edit:
    """Wish that a control moves a level between two ends in its unit, beside all else it moves.

    Where it already is wished to, the wish gets these ends.  Raises EditError.
    """
    label = say("Wish a level")
    held = held_at(plan, place, level, scenes)
    if held:
        return change(held[0].id, label, from_value=ends[0], to_value=ends[1])
    made = make(plan, place, level, scenes)

    def apply(old: Plan) -> Plan:
        new = made.change(old)
        wish = new.wishes[-1]
        ranged = changed(wish, from_value=ends[0], to_value=ends[1])
        return changed(new, wishes=(*new.wishes[:-1], ranged))

    return Edit(label, apply)


def set_levels(shares: Mapping[str, float], label: str) -> Edit:
    """Let targets, by reference, use a share 0–1 of their range; all of it is no ceiling."""

    def apply(plan: Plan) -> Plan:
        devices = []
        for device in plan.devices:
            targets = []
            for target in device.targets:
                share = shares.get(ref_to(device.id, target.id))
                if share is not None:
                    top = target.low + (target.high - target.low) * share
                    ceiling = None if share >= 1 else round(top, 6)
                    target = changed(target, ceiling=ceiling)
                targets.append(target)
            devices.append(changed(device, targets=tuple(targets)))
        return changed(plan, devices=tuple(devices))

    return Edit(label, apply)


def kept_below(levels: Iterable[Level], top: str, decibels: float) -> dict[str, float]:
    """The shares that keep all others at least so many dB below one of them, ``top``.

    What is low enough stays.  Raises EditError where nothing would be left.
    """
    known = tuple(levels)
    above = next((level for level in known if level.ref == top), None)
    if above is None:
        raise EditError(say("Choose what is to stay on top."))
    most = above.share * 10 ** (-abs(decibels) / LAW)
    if most * 127 < 1:
        raise EditError(
            say("Below {above} nothing would be left: ask for fewer dB.", above=above.name)
        )
    shares = {}
    for level in known:
        if level.ref != top and level.share > most:
            shares[level.ref] = most
    return shares


def caps_of(levels: Iterable[Level]) -> tuple[Capped, ...]:
    """The ceilings as caps in whole steps 0–127, for those that have one."""
    caps = []
    for level in levels:
        if level.share < 1:
            top = math.floor(level.share * 127 + 1e-9)
            shown = round(level.share * 100)
            caps.append(Capped(level.name, top, volume_db(top), shown, round(shown / 10, 1)))
    return tuple(caps)
