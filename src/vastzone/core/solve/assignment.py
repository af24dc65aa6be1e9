"""Giving each row a column of its own, for the most worth together."""

from collections.abc import Sequence


def assigned(worth: Sequence[Sequence[float]]) -> list[int]:
    """The column of each row; there are at least as many columns as rows.

    Where the best columns of all rows are different, they are it; else the Hungarian method decides
    (SciPy's ``linear_sum_assignment``), which is slow to load and seldom needed.
    """
    best = []
    for row in worth:
        best.append(max(range(len(row)), key=row.__getitem__))
    if len(set(best)) == len(best):
        return best
    from scipy.optimize import linear_sum_assignment

    _, columns = linear_sum_assignment(worth, maximize=True)
    return [int(column) for column in columns]
