"""Recorded strikes as comma-separated values: time in ms, pad, peak."""

from pathlib import Path

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.errors import DamagedFile
from vastzone.core.response.strikes import Hit
from vastzone.core.say import say
from vastzone.files.columns import rows_of
from vastzone.files.midi_file import read_song

COLUMNS = ("time_ms", "pad", "peak")


def read_strikes(path: Path) -> tuple[Hit, ...]:
    """Read strikes; the first line names the columns ``time_ms``, ``pad`` and ``peak``.

    Raises ReadError when it cannot be opened and DamagedFile, with the line, when it is no such
    table.
    """
    return tuple(sorted(_hit(path, number, row) for number, row in rows_of(path, COLUMNS)))


def _hit(path: Path, number: int, row: dict[str, str]) -> Hit:
    try:
        at, peak = float(row["time_ms"]), float(row["peak"])
    except (TypeError, ValueError):
        at = peak = -1.0
    if at < 0 or not 0 < peak <= 127 or not row["pad"]:
        raise DamagedFile(
            say(
                "{path}, line {number}: a strike is a time in ms, a pad and a peak of 1–127.",
                path=path.name,
                number=number,
            )
        )
    return Hit(at, row["pad"], peak)


def to_csv(hits: tuple[Hit, ...]) -> str:
    """Strikes as such a table."""
    return csv_text(COLUMNS, ((f"{hit.at_ms:.2f}", hit.pad, f"{hit.peak:.1f}") for hit in hits))


def read_velocities(path: Path) -> tuple[tuple[int | str, int], ...]:
    """What was struck how hard, from a MIDI file (by note) or a table of strikes (by pad’s name).

    Raises ReadError and DamagedFile.
    """
    if path.suffix.lower() in (".mid", ".midi"):
        strikes: list[tuple[int | str, int]] = []
        for _, message in read_song(path).events:
            if message.kind == "note_on":
                strikes.append((message.first, message.second))
        return tuple(strikes)
    return tuple((hit.pad, max(1, round(hit.peak))) for hit in read_strikes(path))
