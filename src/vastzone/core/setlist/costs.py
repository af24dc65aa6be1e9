"""What every change between songs would cost: a matrix, device by device."""

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from vastzone.core.cache import derived, interned
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.queries import lookup
from vastzone.core.setlist.changes import (
    DIVE_S,
    IN_A_MENU,
    NOBODY,
    PRESS_S,
    Arriving,
    arriving,
    price_of,
    way_of,
)

Matrix = NDArray[Any]


class Costs(NamedTuple):
    """Presses and seconds from each song (row) to each other (column), n × n."""

    songs: tuple[str, ...]
    presses: Matrix
    seconds: Matrix

    def dearest(self) -> tuple[str, str] | None:
        """The two songs between which a change takes longest; None for fewer than two."""
        if len(self.songs) < 2:
            return None
        row, column = np.unravel_index(int(self.seconds.argmax()), self.seconds.shape)
        return self.songs[int(row)], self.songs[int(column)]


class OfDevice(NamedTuple):
    """The same of one device alone."""

    presses: Matrix
    seconds: Matrix


def cost_matrix(plan: Plan, songs: tuple[str, ...] | None = None) -> Costs:
    """What every change between songs costs; of all scenes where none are named.

    Raises EditError for a song that is not there.
    """
    names = tuple(scene.id for scene in plan.scenes) if songs is None else songs
    scenes = tuple(lookup.scene(plan, ident) for ident in names)
    count = len(scenes)
    presses = np.zeros((count, count), dtype=np.int64)
    by_player: dict[str, Matrix] = {}
    turned = _turned(scenes)
    for device in plan.devices:
        if not device.programs:
            continue
        one = _of_device(plan, device, scenes)
        presses = presses + one.presses
        seconds = one.seconds
        if device.keybeds:
            presses = presses + IN_A_MENU * turned
            seconds = seconds + (IN_A_MENU * PRESS_S + DIVE_S) * turned
        player = device.player or NOBODY
        by_player[player] = by_player.get(player, np.zeros((count, count))) + seconds
    every = list(by_player.values())
    longest = np.maximum.reduce(every) if every else np.zeros((count, count))
    return Costs(names, presses, longest)


def _turned(scenes: tuple[Scene, ...]) -> Matrix:
    """1 where a transposition changes."""
    by = np.array([scene.transpose for scene in scenes], dtype=np.int64)
    differs: Matrix = (by[:, None] != by[None, :]).astype(np.int64)
    return differs


def _of_device(plan: Plan, device: Device, scenes: tuple[Scene, ...]) -> OfDevice:
    """One device: its programs meet only so often, whatever the number of songs."""
    found = []
    for scene in scenes:
        # Plain tuples, so that what stays is known again after an edit.
        if scene.arrivals or device.changes_by == "by message":
            one = arriving(plan, scene, device)
            found.append(interned(() if one is None else tuple(one)))
        else:
            found.append(_as_usual(scene, device))
    return _matrices(device, interned(tuple(found)))


@derived(8192)
def _as_usual(scene: Scene, device: Device) -> tuple[Any, ...]:
    """How a device gets to its program in a song as usual; empty for one without programs."""
    number = lookup.program_number(scene, device)
    return () if number is None else interned(tuple(Arriving(number, way_of(scene, device))))


@derived(256)
def _matrices(device: Device, found: tuple[tuple[Any, ...], ...]) -> OfDevice:
    places: dict[tuple[Any, ...], int] = {}
    for one in found:
        places.setdefault(one, len(places))
    place = np.array([places[one] for one in found], dtype=np.int64)
    ways = [Arriving(*one) if one else None for one in places]
    numbers = np.array([-1 if one is None else one.number for one in ways], dtype=np.int64)
    presses = np.zeros((len(ways), len(ways)), dtype=np.int64)
    seconds = np.zeros((len(ways), len(ways)))
    for column, new in enumerate(ways):
        if new is None:
            continue
        others = (numbers >= 0) & (numbers != new.number)
        if new.way == "own buttons":
            for row in np.flatnonzero(others):
                price = price_of(device, int(numbers[row]), new)
                presses[row, column], seconds[row, column] = price.presses, price.seconds
        elif others.any():
            # Only by up and down does it matter where one comes from.
            price = price_of(device, int(numbers[others][0]), new)
            presses[others, column], seconds[others, column] = price.presses, price.seconds
    return OfDevice(presses[np.ix_(place, place)], seconds[np.ix_(place, place)])
