"""What is aimed at, one level after the other: a later one never costs anything of an earlier.

First the fewest numbers that a device does not hold, then the fewest that the plan has otherwise;
then the schools; then numbers in the order of the controls; then rhythm on 10, with nothing else
there; then the lowest.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from typing import NamedTuple

from vastzone.core.midi.controllers import LAST_CONTROLLER
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.wishes import OwnSchool, Schools
from vastzone.core.solve.model import Costs, Counted, Model, Values
from vastzone.core.solve.runs import is_liked, liked

DIALLED = 100_000
"""What a number counts that the device does not hold, beside one that only the plan has."""
RHYTHM = 1_000
"""What rhythm on 10 counts beside a lower channel."""
EQUAL = 10_000
"""What a step upwards counts beside a number that is another than now."""
LOWEST_NOTE = 36
"""From where notes are given that nobody wished."""


class Level(NamedTuple):
    """One level: what it is called while it is searched, and what each literal costs."""

    name: str
    costs: Costs


def change_costs(model: Model) -> Costs:
    """What each value adds to the count of changed numbers."""
    costs: Costs = defaultdict(int)
    chosen = _chosen_anew(model)
    for index, variable in enumerate(model.problem.variables):
        group = model.groups.of[index]
        counts = bool(variable.refs) and group not in chosen
        for value in model.groups.domains[group] if counts else ():
            if variable.held is not None and value != variable.held:
                costs[group, value] += DIALLED
            if variable.before is not None and value != variable.before:
                costs[group, value] += 1
    for ref, cost in model.problem.tight_costs.items():
        costs[ref] += DIALLED * cost
    return costs


def _chosen_anew(model: Model) -> Mapping[int, OwnSchool]:
    """The groups whose numbers the person wants chosen in a certain way, and in which."""
    chosen = {}
    for index, school in model.problem.own.items():
        chosen[model.groups.of[index]] = school
    return chosen


def _schools_of(model: Model, schools: Schools) -> Mapping[int, Schools]:
    """How the controllers of those groups are chosen."""
    found = {}
    for group, own in _chosen_anew(model).items():
        found[group] = changed(schools, controllers=own.controllers, run_from=own.run_from, own=())
    return found


def school_costs(model: Model, schools: Schools) -> Costs:
    """Channels by sound, device or program; controllers by their meaning, undefined or in a run."""
    costs: Costs = defaultdict(int)
    of = model.groups.of
    alike: Counter[tuple[str, frozenset[int]]] = Counter()
    for taste in model.problem.tastes:
        alike[taste.kind, frozenset(of[member] for member in taste.members)] += 1
    for (kind, members), times in alike.items():
        if len(members) > 1 or kind == "sound":
            _channels(model, kind, members, times, costs)
    own = _schools_of(model, schools)
    for group in sorted(model.groups.domains):
        if _takes_a_controller(model, group):
            _meaning(model, own.get(group, schools), group, costs)
    return costs


def _channels(model: Model, kind: str, members: frozenset[int], weight: int, costs: Costs) -> None:
    """A channel counts once however many parts are on it: the fewest or the most are sought.

    Of one channel for each sound, what is not used counts; else what is used.
    """
    values = set().union(*(model.groups.domains[member] for member in members))
    for value in sorted(values):
        there = tuple(m for m in sorted(members) if value in model.groups.domains[m])
        costs[model.count(Counted(value, there, unused=kind == "sound"))] += weight


def _takes_a_controller(model: Model, group: int) -> bool:
    """Whether a group is one of the controllers that everyone shares; parameters keep their own."""
    domain = model.groups.domains[group]
    is_controller = model.problem.variables[group].family == "controller"
    return is_controller and min(domain) <= LAST_CONTROLLER


def _meaning(model: Model, schools: Schools, group: int, costs: Costs) -> None:
    """The standard number where a target has a role and that is liked; else one of the school."""
    roles = model.problem.roles.get(group, frozenset())
    standard = schools.controllers == "standard" and bool(roles)
    for value in model.groups.domains[group]:
        if standard and value in roles:
            continue
        cost = 0 if is_liked(schools, value) else 2
        if cost + standard:
            costs[group, value] += cost + standard


def order_costs(model: Model, schools: Schools, best: Values) -> Costs:
    """Controllers and notes that move ascend as the controls lie.

    Each has a place among those that must differ from it; how far its number is from that place
    counts squared: of all ways to give out the same numbers the ascending one costs least.
    """
    costs: Costs = defaultdict(int)
    own = _schools_of(model, schools)
    for groups in _rows(model, schools, best):
        rank = _ranks(own.get(groups[0], schools))
        for place, group in enumerate(groups):
            is_note = model.problem.variables[group].family == "note"
            for value in model.groups.domains[group]:
                there = value - LOWEST_NOTE if is_note else rank.get(value, value + 128)
                if there != place:
                    costs[group, value] += (there - place) ** 2
    return costs


def _ranks(schools: Schools) -> Mapping[int, int]:
    """The place of each controller among those that are liked."""
    return {number: place for place, number in enumerate(liked(schools))}


def _rows(model: Model, schools: Schools, best: Values) -> Iterable[list[int]]:
    """Groups that move and must differ from each other, together, in the order they lie."""
    settled, own = _at_home(model, best), _schools_of(model, schools)
    rows: dict[tuple[str, int, Schools], list[int]] = {}
    for group in _in_order(model):
        family = model.problem.variables[group].family
        if len(model.groups.domains[group]) < 2 or family == "channel" or group in settled:
            continue
        if family == "controller":
            roles = model.problem.roles.get(group, frozenset())
            if not _takes_a_controller(model, group):
                continue
            school = own.get(group, schools).controllers
            if school == "standard" and roles & model.groups.domains[group]:
                continue
        row = (family, model.neighbourhood[group], own.get(group, schools))
        rows.setdefault(row, []).append(group)
    return rows.values()


def _at_home(model: Model, best: Values) -> set[int]:
    """Groups of which some number stays as the device holds it, or the plan has it."""
    settled, chosen = set(), _chosen_anew(model)
    for index, variable in enumerate(model.problem.variables):
        group = model.groups.of[index]
        if group in chosen:
            continue
        if best.of_group[group] in (variable.held, variable.before):
            settled.add(group)
    return settled


def _in_order(model: Model) -> list[int]:
    """Groups as the controls lie that send their numbers; what no control sends comes after."""
    first: dict[int, tuple[int, ...]] = {}
    for index, group in enumerate(model.groups.of):
        lie = model.problem.lies.get(index)
        if lie is not None:
            first[group] = min(lie, first.get(group, lie))
    return sorted(model.groups.domains, key=lambda group: (first.get(group, (1 << 20,)), group))


def lowest_costs(model: Model, schools: Schools) -> Costs:
    """Rhythm on 10 and nothing else there; the lowest channels; of equals what is there now."""
    costs: Costs = defaultdict(int)
    drums = {model.groups.of[index] for index in model.problem.rhythm}
    for group in sorted(model.groups.domains):
        if model.problem.variables[group].family != "channel":
            continue
        for value in model.groups.domains[group]:
            astray = schools.rhythm_on_10 and (value == 10) is not (group in drums)
            cost = value - 1 + RHYTHM * astray
            if cost:
                costs[group, value] += EQUAL * cost
    for index, variable in enumerate(model.problem.variables):
        group = model.groups.of[index]
        for value in model.groups.domains[group] if variable.refs else ():
            if value != variable.value:
                costs[group, value] += 1
    return costs


def lower_bound(model: Model, costs: Costs) -> int:
    """What the costs of the values come to at least, each group by itself."""
    least = 0
    for group, values in model.groups.domains.items():
        least += min(costs.get((group, value), 0) for value in values)
    return least
