"""Notes gathered into ranges."""

from collections.abc import Iterator


def runs(keys: list[int]) -> Iterator[tuple[int, int]]:
    """Rising numbers gathered into runs without holes."""
    start = previous = None
    for key in keys:
        if previous is None or start is None:
            start = key
        elif key != previous + 1:
            yield start, previous
            start = key
        previous = key
    if start is not None and previous is not None:
        yield start, previous
