"""Random rigs of ordinary size, the same ones at every run."""

from hypothesis import HealthCheck, Phase, given, seed, settings
from tests.solver_rigs import solver_rigs

from vastzone.core.memory.model import Memory
from vastzone.core.plan.model.plan import Plan


def ordinary_rigs(count: int) -> list[tuple[Plan, Memory]]:
    """So many plans, each with the memory of its devices."""
    drawn: list[tuple[Plan, Memory]] = []

    @seed(1)
    @settings(
        max_examples=count,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(solver_rigs())
    def draw(rig: tuple[Plan, Memory]) -> None:
        drawn.append(rig)

    draw()
    return drawn
