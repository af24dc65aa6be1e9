"""Fitting a velocity curve to a player: quantile matching along a monotone cubic.

The strikes of one player fill a narrow part of 1–127; the curve spreads that part over the range
that the receiver needs.
"""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from vastzone.core.errors import EditError
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.sends import edit_sends
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.model.controls import Curve, Program, Send
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import has_field
from vastzone.core.response.velocity import POWERS, drawn, shaped
from vastzone.core.say import say

LEVELS = (0.05, 0.25, 0.5, 0.75, 0.95)
FEWEST = 8


class Fitted(NamedTuple):
    """A table of 128 sent velocities, and the named curve of a device that comes nearest to it.

    ``error`` is the mean distance of that curve from the table over the strikes that were played,
    ``curve`` its 128 velocities.  ``points`` draw the fitted curve itself, as devices take them,
    ``drawn_error`` as far from it on average.
    """

    table: bytes
    nearest: str
    error: float
    curve: bytes
    points: tuple[tuple[int, int], ...] = ()
    drawn_error: float = 0.0


def fit_velocity(
    strikes: Sequence[int],
    wanted: Sequence[float] = (20, 50, 75, 98, 120),
    offered: Mapping[str, bytes] | None = None,
) -> Fitted:
    """The monotone curve that gives recorded strikes the wanted quantiles (5, 25, 50, 75, 95 %).

    ``offered`` are the curves that a device has by name, the program’s own when there are none.
    Raises EditError for too few strikes, or when they are all the same.
    """
    import numpy as np

    played = np.asarray([strike for strike in strikes if 1 <= strike <= 127], dtype=float)
    if played.size < FEWEST or played.min() == played.max():
        raise EditError(
            say(
                "{size} strikes of one strength tell nothing: record soft, medium and hard "
                "ones, at "
                "least {fewest}.",
                size=played.size,
                fewest=FEWEST,
            )
        )
    knots = np.quantile(played, LEVELS)
    table = _through(knots, np.asarray(wanted, dtype=float))
    named = _nearest(table, played, offered or own_curves())
    points = _points(table, knots)
    through = bytes(max(1, round(value)) for value in drawn(points))
    return Fitted(table, *named, points, _distance(through, table, played))


def _points(table: bytes, knots: Any) -> tuple[tuple[int, int], ...]:
    """A few points that draw the curve: its ends and where the quantiles of the strikes lie."""
    xs = {0, 127, *(round(float(knot)) for knot in knots)}
    points: list[tuple[int, int]] = []
    for x in sorted(x for x in xs if 0 <= x <= 127):
        points.append((x, table[x] if x else 0))
    return tuple(points)


def _distance(curve: bytes, table: bytes, played: Any) -> float:
    """How far a curve is from the table on average, over what was played."""
    return float(sum(abs(curve[int(v)] - table[int(v)]) for v in played) / len(played))


def _through(knots: Any, wanted: Any) -> bytes:
    """A monotone cubic through the quantiles and both ends, in whole steps."""
    import numpy as np
    from scipy.interpolate import PchipInterpolator

    xs, ys = [0.0], [1.0]
    for x, y in zip(knots, wanted, strict=True):
        if x > xs[-1] + 1e-9:
            xs.append(float(x))
            ys.append(float(max(y, ys[-1])))
        else:  # two quantiles are one strike: it is to give the middle of what both want
            ys[-1] = (ys[-1] + float(y)) / 2 if len(ys) > 1 else ys[-1]
    if xs[-1] < 127:
        xs.append(127.0)
        ys.append(127.0)
    ys = [min(y, 127.0) for y in np.maximum.accumulate(ys)]
    values = PchipInterpolator(xs, ys)(np.arange(128))
    return bytes(int(v) for v in np.clip(np.round(values), 1, 127))


def own_curves() -> dict[str, bytes]:
    """The program’s own named curves as tables of 128 velocities."""
    names: tuple[Curve, ...] = (*POWERS, "s-shaped")
    curves: dict[str, bytes] = {}
    for name in names:
        curves[name] = bytes(max(1, round(127 * shaped(name, value / 127))) for value in range(128))
    return curves


def curves_of(device: Device) -> dict[str, bytes]:
    """The named curves of a device as tables of 128 velocities, the program’s own without any."""
    tables = {}
    for curve in device.curves:
        tables[curve.name] = bytes(max(1, round(v)) for v in drawn(curve.points))
    return tables or own_curves()


def _nearest(table: bytes, played: Any, offered: Mapping[str, bytes]) -> tuple[str, float, bytes]:
    """The named curve whose velocities are nearest, over what was played; the first of equals."""

    name = min(offered, key=lambda n: _distance(offered[n], table, played))
    return name, _distance(offered[name], table, played), offered[name]


def takes_points(device: Device) -> bool:
    """Whether a curve can be drawn in a device point by point: one that offers none by name."""
    return not device.curves and has_field(device, "send/points")


def with_fit(owner: Device, fits: Mapping[str, Fitted]) -> Edit:
    """The fitted curves on the notes of some controls, as a device takes them.

    The curve itself where it takes points, else the nearest that it has by name.
    """

    def change(send: Send) -> Send:
        found = fits.get(send.control)
        if found is None or send.message != "note":
            return send
        if takes_points(owner):
            return changed(send, points=found.points, fixed=None)
        named = lookup_points(owner, found.nearest)
        if named:
            return changed(send, points=named, fixed=None)
        return changed(send, curve=found.nearest, points=(), fixed=None)

    return edit_sends(owner.id, say("Fit velocity curves"), change)


def lookup_points(owner: Device, name: str) -> tuple[tuple[int, int], ...]:
    """The points of a curve that a device offers by name; none where it is the program’s own."""
    for curve in owner.curves:
        if curve.name == name:
            return curve.points
    return ()


def remains(owner: Device, found: Fitted) -> float:
    """How many steps off the curve that a device takes is, on average over what was played."""
    return found.drawn_error if takes_points(owner) else found.error


def by_control(
    owner: Device, program: Program, strikes: Iterable[tuple[int | str, int]]
) -> dict[str, list[int]]:
    """Recorded velocities by the pad that was struck: by the note that it sends, or its name.

    Strikes of notes and names that no pad has are under «».
    """
    notes: dict[int, str] = {}
    names: dict[str, str] = {}
    for control in owner.controls:
        names.setdefault(control.name.lower(), control.id)
    for send in program.sends:
        if send.message == "note":
            notes.setdefault(send.number, send.control)
    found: dict[str, list[int]] = {}
    for what, velocity in strikes:
        pad = notes.get(what, "") if isinstance(what, int) else names.get(what.lower(), "")
        found.setdefault(pad, []).append(velocity)
    return found


def table_csv(table: bytes) -> str:
    """The table as CSV: struck, sent."""
    return "struck,sent\n" + "".join(f"{n},{v}\n" for n, v in enumerate(table))


def simulated_player(kind: str, count: int, seed: int) -> list[int]:
    """Strikes of a player who is «heavy», «light» or «narrow»."""
    import numpy as np

    middle, spread = {"heavy": (98, 14), "light": (42, 13), "narrow": (70, 6)}[kind]
    drawn = np.random.default_rng(seed).normal(middle, spread, count)
    return [int(v) for v in np.clip(np.round(drawn), 1, 127)]
