"""What is tried in turn until the wishes hold: the least of what plays without one is given up.

First all that plays today and is meant goes on, and no noise is left.  Where that cannot be, noise
that was there is let be; where it still cannot, the fewest sounds fall silent.
"""

from typing import NamedTuple

from vastzone.core.memory.model import Memory
from vastzone.core.plan.model.plan import Plan
from vastzone.core.progress import Progress
from vastzone.core.solve.numbers import Attempt, attempt
from vastzone.core.solve.search import silenced
from vastzone.core.solve.shaped import Binding, Bond, Obstacle
from vastzone.core.solve.standing import is_noise, is_standing


class Lenience(NamedTuple):
    """What is given up: sounds that may fall silent, by their stand-ins, and noise that may stay.

    With ``all_noise`` any may stay, else that of some devices into some parts and targets.
    """

    silent: frozenset[str] = frozenset()
    noise: frozenset[tuple[str, str]] = frozenset()
    all_noise: bool = False
    soft: bool = False

    def bond(self, binding: Binding) -> Bond:
        """How a sound without a wish is bound."""
        if is_noise(binding.wish.id):
            stays = self.all_noise or noise_of(binding) in self.noise
            return "free" if stays else "none"
        if binding.wish.id in self.silent:
            return "free"
        return "soft" if self.soft else "kept"


def noise_of(binding: Binding) -> tuple[str, str]:
    """Where noise comes from and what it sounds or moves."""
    return binding.device, binding.wish.plays or binding.wish.moves or ""


def best_attempt(plan: Plan, memory: Memory, progress: Progress | None = None) -> Attempt:
    """Try with as little given up as can be.  Raises Cancelled."""
    tried, lenience = _kept(plan, memory, Lenience(), progress)
    if tried.answer is not None:
        return tried
    tolerant, lenience = _kept(plan, memory, lenience._replace(all_noise=True), progress)
    if tolerant.answer is None and _stands(tolerant):
        lenience = lenience._replace(
            silent=lenience.silent | _silenced(plan, memory, lenience, progress)
        )
        tolerant, lenience = _kept(plan, memory, lenience, progress)
    if tolerant.answer is None:
        return tried
    return _quieted(plan, memory, tolerant, lenience, progress)


def _kept(
    plan: Plan, memory: Memory, lenience: Lenience, progress: Progress | None
) -> tuple[Attempt, Lenience]:
    """Try with all kept that nothing obvious hinders."""
    tried = attempt(plan, progress, memory=memory, bond_of=lenience.bond)
    while hindering := _stand_ins_among(tried.obstacles) - lenience.silent:
        lenience = lenience._replace(silent=lenience.silent | hindering)
        tried = attempt(plan, progress, memory=memory, bond_of=lenience.bond)
    return tried, lenience


def _stand_ins_among(obstacles: tuple[Obstacle, ...]) -> frozenset[str]:
    """What plays without a wish and stands in the way."""
    named: set[str] = set()
    for obstacle in obstacles:
        named.update(wish for wish in obstacle.wishes if is_standing(wish))
    return frozenset(named)


def _stands(tried: Attempt) -> bool:
    """Whether anything was to go on playing."""
    return any(binding.bond == "kept" for binding in tried.shaped.bindings)


def _silenced(
    plan: Plan, memory: Memory, lenience: Lenience, progress: Progress | None
) -> frozenset[str]:
    """The fewest sounds that have to fall silent; all where not even that helps."""
    soft = lenience._replace(soft=True)
    tried = attempt(plan, progress, memory=memory, bond_of=soft.bond)
    if tried.problem is not None and tried.groups is not None and tried.groups.clash is None:
        found = silenced(tried.problem, tried.groups, progress)
        if found is not None:
            return found
    bound = (binding.wish.id for binding in tried.shaped.bindings if not binding.is_wished)
    return frozenset(filter(is_standing, bound))


def _quieted(
    plan: Plan,
    memory: Memory,
    tried: Attempt,
    lenience: Lenience,
    progress: Progress | None,
) -> Attempt:
    """The same with no more noise left than must be: silenced one by one where that can be.

    What could not be silenced is tried once more whenever something else was.
    """
    left: dict[tuple[str, str], None] = {}
    for binding in tried.shaped.bindings:
        if is_noise(binding.wish.id):
            left[noise_of(binding)] = None
    silenced_more = True
    while silenced_more:
        silenced_more = False
        for noise in tuple(left):
            fewer = lenience._replace(all_noise=False, noise=frozenset(left) - {noise})
            quieter = attempt(plan, progress, True, memory=memory, bond_of=fewer.bond)
            if quieter.answer is not None:
                del left[noise]
                silenced_more = bool(left)
    last = lenience._replace(all_noise=False, noise=frozenset(left))
    return attempt(plan, progress, memory=memory, bond_of=last.bond)
