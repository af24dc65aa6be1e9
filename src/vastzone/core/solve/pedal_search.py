"""The search for a plugging of pedals: an integer program, solved exactly where time allows."""

from collections import Counter
from typing import Any, NamedTuple

from vastzone.core.plan.model.pedals import FootWish, Meeting, Pedal, PedalPlug, serves, suited
from vastzone.core.progress import Progress
from vastzone.core.say import say
from vastzone.core.solve.constraints import SearchResult, new_model, search
from vastzone.core.solve.pedal_fit import (
    CARE,
    GIVEN_AWAY,
    HALF,
    MOVE,
    WORKS,
    DeviceJack,
    Done,
    PedalFit,
    Service,
)

SECONDS = 5.0
"""The longest that one search may take; ten pedals with two wishes each take a tenth of it."""
WHAT = say("Trying every pedal in every jack")
Triple = tuple[int, int, int]
"""A wish, a pedal and a jack, by their places."""


class _Wanted(NamedTuple):
    """A wish with the places of the pedals that have it: as often as it is there."""

    wish: FootWish
    owners: tuple[int, ...]


class _Left(NamedTuple):
    """A wish that is not done, with the place of the pedal that it belongs to."""

    wish: FootWish
    owner: int


class PedalSearch:
    """Which wish each pedal could do in each jack, and what that is worth."""

    def __init__(
        self,
        pedals: tuple[Pedal, ...],
        sockets: tuple[DeviceJack, ...],
        now: tuple[PedalPlug, ...],
        progress: Progress | None = None,
    ) -> None:
        self.pedals, self.sockets, self.progress = pedals, sockets, progress
        self.now = {(plug.pedal, plug.jack) for plug in now}
        self.wanted = _alike(pedals)
        self.could: dict[Triple, Meeting] = {}
        for row, pedal in enumerate(pedals):
            for column, socket in enumerate(sockets):
                self._meet(row, pedal, column, socket)

    def _meet(self, row: int, pedal: Pedal, column: int, socket: DeviceJack) -> None:
        jack = suited(pedal, socket.jack)
        for place, wanted in enumerate(self.wanted):
            if wanted.wish.tied and row not in wanted.owners:
                continue
            service = serves(wanted.wish, pedal, jack, socket.device)
            if service.works in ("works", "half"):
                self.could[place, row, column] = service

    def worth(self, triple: Triple) -> float:
        """What it is worth that a wish is done there."""
        importance = self.wanted[triple[0]].wish.importance
        return CARE[importance] * (WORKS if self.could[triple].works == "works" else HALF)

    def fit(self, at_most: tuple[Service, int] | None = None) -> PedalFit:
        """The best plugging; with ``at_most`` so many of one kind of service."""
        if not self.could:
            return self._fit_of([], proved=True)
        task = _Task(self, at_most)
        task.best_worth()
        task.least_effort()
        return self._fit_of(task.chosen, task.proved)

    def kind(self, triple: Triple) -> Service:
        """The kind of service that a wish done there is."""
        wish, device = self.wanted[triple[0]].wish, self.sockets[triple[2]].device
        return (wish.function, wish.importance, device, self.could[triple].works)

    def stays(self, row: int, column: int) -> bool:
        """Whether a pedal is in a jack already."""
        return (self.pedals[row].id, self.sockets[column].ref) in self.now

    def given_away(self, triple: Triple) -> bool:
        """Whether another pedal does a wish than the one that it belongs to."""
        return triple[1] not in self.wanted[triple[0]].owners

    def loose(self) -> Counter[int]:
        """How many wishes of each pedal may be given to another."""
        loose: Counter[int] = Counter()
        for wanted in self.wanted:
            if not wanted.wish.tied:
                loose.update(wanted.owners)
        return loose

    def _fit_of(self, chosen: list[Triple], proved: bool) -> PedalFit:
        plugs = []
        for row, column in sorted({triple[1:] for triple in chosen}):
            plugs.append(PedalPlug(pedal=self.pedals[row].id, jack=self.sockets[column].ref))
        done, left = self._owned(chosen)
        undone, given = self._dealt(chosen, left)
        worth = sum(self.worth(triple) for triple in chosen)
        moves = sum((plug.pedal, plug.jack) not in self.now for plug in plugs)
        return PedalFit(tuple(plugs), done, undone, given, worth, moves, proved)

    def _owned(self, chosen: list[Triple]) -> tuple[tuple[Done, ...], list[_Left]]:
        """Whose each wish was that is done, its own pedal's first, and those that are left."""
        free = {number: list(wanted.owners) for number, wanted in enumerate(self.wanted)}
        done = []
        for triple in sorted(chosen, key=self.given_away):
            number, row, column = triple
            owner = row if row in free[number] else free[number][0]
            free[number].remove(owner)
            names = (self.pedals[owner].id, self.pedals[row].id, self.sockets[column].ref)
            done.append(Done(self.wanted[number].wish, *names, self.could[triple]))
        left = []
        for number, owners in free.items():
            left += [_Left(self.wanted[number].wish, owner) for owner in owners]
        return tuple(done), left

    def _dealt(
        self, chosen: list[Triple], left: list[_Left]
    ) -> tuple[tuple[tuple[str, FootWish], ...], dict[str, tuple[FootWish, ...]]]:
        """Wishes not done with the pedals that end with them, and pedals that get other wishes."""
        hands: dict[int, list[FootWish]] = {row: [] for row in range(len(self.pedals))}
        for number, row, _ in chosen:
            hands[row].append(self.wanted[number].wish)
        pushed_out = []
        undone = []
        for one in sorted(left, key=lambda one: not one.wish.tied):
            if len(hands[one.owner]) < len(self.pedals[one.owner].wishes):
                hands[one.owner].append(one.wish)
                undone.append((self.pedals[one.owner].id, one.wish))
            else:
                pushed_out.append(one.wish)
        for wish in pushed_out:
            row = next(
                n for n, pedal in enumerate(self.pedals) if len(hands[n]) < len(pedal.wishes)
            )
            hands[row].append(wish)
            undone.append((self.pedals[row].id, wish))
        given = {}
        for row, pedal in enumerate(self.pedals):
            if Counter(hands[row]) != Counter(pedal.wishes):
                given[pedal.id] = tuple(hands[row])
        return tuple(undone), given


def _alike(pedals: tuple[Pedal, ...]) -> tuple[_Wanted, ...]:
    """The wishes of all pedals; those that are the same, and may go anywhere, as one."""
    owners: dict[tuple[FootWish, int | None], list[int]] = {}
    for place, pedal in enumerate(pedals):
        for wish in pedal.wishes:
            key = (wish, place if wish.tied else None)
            owners.setdefault(key, []).append(place)
    return tuple(_Wanted(wish, tuple(places)) for (wish, _), places in owners.items())


class _Task:
    """The integer program: a variable for each plug, one for each wish that it does."""

    def __init__(self, fits: PedalSearch, at_most: tuple[Service, int] | None) -> None:
        self.fits = fits
        self.model = new_model()
        self.chosen: list[Triple] = []
        self.proved = True
        self.does: dict[Triple, Any] = {}
        self.plugged: dict[tuple[int, int], Any] = {}
        for triple in fits.could:
            self.does[triple] = self.model.new_bool_var("")
            plug = triple[1:]
            if plug not in self.plugged:
                self.plugged[plug] = self.model.new_bool_var("")
        self._limits()
        if at_most is not None:
            kind, most = at_most
            denied = [one for triple, one in self.does.items() if fits.kind(triple) == kind]
            self.model.add(sum(denied) <= most)

    def _limits(self) -> None:
        """Wishes as often as they are, pedals and jacks once; a function once, where plugged.

        What is plugged does something.
        """
        once: dict[tuple[str, int], list[Any]] = {}
        often: dict[int, list[Any]] = {}
        held: dict[int, list[Any]] = {}
        used: dict[tuple[int, int], list[Any]] = {}
        together: dict[tuple[int, int, str], list[Any]] = {}
        for (number, row, column), one in self.does.items():
            wish = self.fits.wanted[number].wish
            often.setdefault(number, []).append(one)
            used.setdefault((row, column), []).append(one)
            together.setdefault((row, column, wish.function), []).append(one)
            if not wish.tied:
                held.setdefault(row, []).append(one)
        for (row, column), one in self.plugged.items():
            once.setdefault(("pedal", row), []).append(one)
            once.setdefault(("jack", column), []).append(one)
        for ones in once.values():
            self.model.add_at_most_one(ones)
        for number, ones in often.items():
            self.model.add(sum(ones) <= len(self.fits.wanted[number].owners))
        loose = self.fits.loose()
        for row, ones in held.items():
            self.model.add(sum(ones) <= loose[row])
        for (row, column, _), ones in together.items():
            self.model.add(sum(ones) <= self.plugged[row, column])
        for plug, ones in used.items():
            self.model.add(self.plugged[plug] <= sum(ones))

    def best_worth(self) -> None:
        """Keep to what is worth most."""
        worth = sum(round(self.fits.worth(triple)) * one for triple, one in self.does.items())
        self.model.maximize(worth)
        found = search(self.model, SECONDS, self.fits.progress, WHAT)
        self._keep(found)
        if found is not None:
            self.model.add(worth >= found.aim)

    def least_effort(self) -> None:
        """Of what is left the least effort: plugs stay, and wishes with their pedals."""
        efforts = []
        for (row, column), one in self.plugged.items():
            if self.fits.stays(row, column):
                efforts.append(-round(2 * MOVE) * one)
        for triple, one in self.does.items():
            if self.fits.given_away(triple):
                efforts.append(round(2 * GIVEN_AWAY) * one)
        self.model.minimize(sum(efforts))
        self._keep(search(self.model, SECONDS, self.fits.progress, WHAT))

    def _keep(self, found: SearchResult | None) -> None:
        """Remember what was found, and begin the next search there."""
        self.proved = self.proved and found is not None and found.gap == 0
        if found is None:
            return
        self.chosen = [triple for triple, one in self.does.items() if found.true(one)]
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for triple, one in self.does.items():
            self.model.add_hint(one, triple in self.chosen)
