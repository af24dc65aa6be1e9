"""When more numbers must differ than there are: a clash that needs no search."""

from typing import NamedTuple

from vastzone.core.plan.model.plan import Plan
from vastzone.core.say import say
from vastzone.core.solve.model import Model
from vastzone.core.solve.numbers import Attempt
from vastzone.core.solve.problem import Family


class Crowd(NamedTuple):
    """Wishes that want one number more than there is room; how many want one at all."""

    wishes: tuple[str, ...]
    room: int
    wanted: int
    family: Family

    @property
    def sentence(self) -> str:
        """What is short, in words."""
        wanted = say(
            "A {family} of its own is wanted by each of {wanted} wishes",
            family=self.family,
            wanted=self.wanted,
        )
        return say(
            "{wanted}, and {room} can be chosen: leave some out, or let some listen on another "
            "channel.",
            wanted=wanted,
            room=self.room,
        )


def crowd(plan: Plan, tried: Attempt) -> Crowd | None:
    """The first wishes, in the plan's order, that are too many; None where none are."""
    if tried.problem is None or tried.groups is None or tried.groups.clash is not None:
        return None
    model = Model(tried.problem, tried.groups)
    if not model.crowded:
        return None
    order = {wish.id: place for place, wish in enumerate(plan.wishes)}
    wished: dict[int, str] = {}
    for index, wish in tried.problem.wished.items():
        wished.setdefault(tried.groups.of[index], wish)
    groups = [group for group in model.crowded if wished.get(group) in order]
    groups.sort(key=lambda group: order[wished[group]])
    values: set[int] = set()
    for count, group in enumerate(groups, start=1):
        values |= tried.groups.domains[group]
        if len(values) < count:
            names = tuple(wished[each] for each in groups[:count])
            family = tried.problem.variables[group].family
            return Crowd(names, len(values), len(groups), family)
    return None
