"""How many trials the fault finder needs on the demo’s console.

python -m bench.finder [SINGLES [DOUBLES]]

Every single fault, or so many of them, from a symptom each; then so many pairs from two symptoms.
"""

import random
import statistics
import sys
from concurrent.futures import ProcessPoolExecutor

from tests.core.console.bittern import hunt, singles

from vastzone import demo
from vastzone.core.console.circuit import built
from vastzone.files import native

OWNER = next(d for d in native.read(demo.READY).devices if d.console is not None)
assert OWNER.console is not None
MADE = built(OWNER, OWNER.console)


def one(number: int) -> tuple[int, bool]:
    """Hunt a single fault by its number."""
    return hunt(MADE, (singles(MADE)[number],), number)


def two(number: int) -> tuple[int, bool]:
    """Hunt a pair of faults."""
    pair = random.Random(number).sample(singles(MADE), 2)
    return hunt(MADE, tuple(pair), number, 12)


def sample(count: int) -> tuple[list[int], int]:
    """The trials that so many single faults took, and how many were found."""
    numbers = random.Random(0).sample(range(len(singles(MADE))), count)
    found = [one(n) for n in numbers]
    return [c for c, _ in found], sum(r for _, r in found)


def told(name: str, found: list[tuple[int, bool]]) -> None:
    """A line of figures."""
    counts, right = [c for c, _ in found], sum(r for _, r in found)
    print(
        f"{name}: {right} of {len(found)} found; trials after the symptom: median "
        f"{statistics.median(counts):g}, worst {max(counts)}"
    )


def main() -> None:
    """Hunt them on two cores."""
    every = len(singles(MADE))
    wanted = int(sys.argv[1]) if len(sys.argv) > 1 else every
    pairs = int(sys.argv[2]) if len(sys.argv) > 2 else 200
    numbers = random.Random(0).sample(range(every), min(wanted, every))
    with ProcessPoolExecutor(2) as pool:
        told("single faults", list(pool.map(one, numbers, chunksize=8)))
        told("double faults", list(pool.map(two, range(pairs), chunksize=8)))


if __name__ == "__main__":
    main()
