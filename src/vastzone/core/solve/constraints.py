"""Searching with CP-SAT, the constraint solver of OR-Tools: one way for every problem here.

One worker and a fixed seed break ties the same way every time.
"""

import threading
from functools import cache
from typing import TYPE_CHECKING, Any, NamedTuple, Self

from vastzone.core.courtesy import give_way
from vastzone.core.progress import Cancelled, Progress, go_on

if TYPE_CHECKING:
    from ortools.sat.python.cp_model import CpModel

LOOK_SECONDS = 0.05


class SearchResult(NamedTuple):
    """The best values that a search found, and how far from the best they may still be.

    ``gap`` is a share of what was aimed at: 0 where it is proved that nothing is better.
    """

    solver: Any
    gap: float

    def true(self, literal: Any) -> bool:
        """Whether a Boolean is true in what was found."""
        return bool(self.solver.boolean_value(literal))

    @property
    def aim(self) -> int:
        """The value of what was made as large, or as small, as can be."""
        return round(float(self.solver.objective_value))


def new_model() -> "CpModel":
    """A ``CpModel`` with nothing in it.

    Stating a large one takes as long as to search it: where that is done beside the window, it
    gives way.
    """
    return _model_class()()


@cache
def _model_class() -> "type[CpModel]":
    from ortools.sat.python import cp_model

    class Model(cp_model.CpModel):
        def new_bool_var(self, name: str) -> Any:
            give_way()
            return super().new_bool_var(name)

        def add_bool_or(self, *literals: Any) -> Any:
            give_way()
            return super().add_bool_or(*literals)

        def add_hint(self, variable: Any, value: Any) -> None:
            give_way()
            super().add_hint(variable, value)

    return Model


def search(
    model: Any,
    seconds: float,
    progress: Progress | None = None,
    what: str = "",
    share: float = 0.0,
    **parameters: Any,
) -> SearchResult | None:
    """Search a ``CpModel`` for so long at most; None when nothing was found.  Raises Cancelled.

    ``parameters`` are set in the solver besides; ``what`` and ``share`` are told to ``progress``.
    """
    from ortools.sat.python import cp_model

    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.linearization_level = 2
    solver.parameters.max_time_in_seconds = seconds
    for name, value in parameters.items():
        setattr(solver.parameters, name, value)
    with _Watch(solver, progress, what, share) as watch:
        status = solver.solve(model)
    if watch.stopped:
        raise Cancelled
    if status == cp_model.OPTIMAL:
        return SearchResult(solver, 0.0)
    if status != cp_model.FEASIBLE:
        return None
    short = abs(solver.objective_value - solver.best_objective_bound)
    return SearchResult(solver, short / max(1.0, abs(solver.objective_value)))


class _Watch:
    """Asks beside a search whether to go on, and stops it if not."""

    def __init__(self, solver: Any, progress: Progress | None, what: str, share: float) -> None:
        self._solver, self._progress, self._what, self._share = solver, progress, what, share
        self._done = threading.Event()
        self._thread: threading.Thread | None = None
        self.stopped = False

    def __enter__(self) -> Self:
        if self._progress is not None:
            go_on(self._progress, self._what, self._share)
            self._thread = threading.Thread(target=self._look, daemon=True)
            self._thread.start()
        return self

    def _look(self) -> None:
        while not self._done.wait(LOOK_SECONDS):
            if self._progress is not None and not self._progress(self._what, self._share):
                self.stopped = True
                self._solver.stop_search()

    def __exit__(self, *error: object) -> None:
        self._done.set()
        if self._thread is not None:
            self._thread.join()
