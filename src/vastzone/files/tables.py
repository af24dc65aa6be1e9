"""Tables as comma-separated values: recorded sweeps read, lists written."""

from collections import Counter
from pathlib import Path

from vastzone.core.errors import DamagedFile
from vastzone.core.response.travel import Sweep
from vastzone.core.say import say
from vastzone.files.columns import rows_of
from vastzone.files.midi_file import read_song
from vastzone.files.whole import write_whole

COLUMNS = ("travel", "value")


def write_table(text: str, path: Path, what: str, *, replace: bool = True) -> None:
    """Write a table.  Raises WriteError, which says ``what`` could not be written."""
    write_whole(text.encode(), path, what, replace=replace)


def read_sweep(path: Path) -> tuple[Sweep, ...]:
    """Read a sweep: the columns ``travel`` (0–1 from heel to toe) and ``value`` (0–127).

    Of a MIDI file the controller that moves most is taken, as one steady sweep.  Raises ReadError
    when it cannot be opened and DamagedFile, with the line, when it is no such table.
    """
    if path.suffix.lower() in (".mid", ".midi"):
        return _played(path)
    return tuple(_sweep(path, number, row) for number, row in rows_of(path, COLUMNS))


def _played(path: Path) -> tuple[Sweep, ...]:
    """The sweep of the busiest controller of a MIDI file."""
    moves = []
    for at, m in read_song(path).events:
        if m.kind == "controller":
            moves.append((at, m))
    if not moves:
        raise DamagedFile(
            say("{path} moves no controller: record the pedal and export again.", path=path.name)
        )
    most = Counter((m.channel, m.first) for _, m in moves).most_common(1)[0][0]
    times = []
    for at, m in moves:
        if (m.channel, m.first) == most:
            times.append((at, m.second))
    begin, whole = times[0][0], max(1e-9, times[-1][0] - times[0][0])
    return tuple(Sweep((at - begin) / whole, value) for at, value in times)


def _sweep(path: Path, number: int, row: dict[str, str]) -> Sweep:
    try:
        travel, value = float(row["travel"]), int(row["value"])
    except (TypeError, ValueError):
        travel = value = -1
    if not (0 <= travel <= 1 and 0 <= value <= 127):
        raise DamagedFile(
            say(
                "{path}, line {number}: a sample is a travel of 0–1 and a value of 0–127.",
                path=path.name,
                number=number,
            )
        )
    return Sweep(travel, value)
