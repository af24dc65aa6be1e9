"""Set lists read from tables and plain text, and written as these or as a MIDI file of changes."""

import io
import re
from pathlib import Path
from typing import NamedTuple

from vastzone.core.cards.setlist import rows_of, setlist_csv, setlist_text
from vastzone.core.errors import DamagedFile, WriteError
from vastzone.core.plan.edits.scenes import add_scene
from vastzone.core.plan.edits.setlists import set_steps
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.setlists import SetList, SetStep
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say
from vastzone.core.text import printable
from vastzone.files.columns import rows_of as table_rows
from vastzone.files.reading import TABLE_LIMIT, read_whole, text_of
from vastzone.files.whole import write_whole

TITLES = ("title", "song", "name", "scene")
MOST = 400
NUMBERED = re.compile(r"^\d+\s*[.):]\s+")
"""A number before a title, as people write it."""
BREAK = re.compile(r"^break(?:, (\d+) min)?$", re.IGNORECASE)
BEAT, DEFAULT_TEMPO = 480, 120.0
BEATS_A_SONG = 64


class ReadSetList(NamedTuple):
    """What a file brought: the plan with it, new songs by name, titles that several songs bear."""

    plan: Plan
    new: tuple[str, ...]
    alike: tuple[str, ...]


def read_setlist(plan: Plan, ident: str, path: Path) -> ReadSetList:
    """Put the songs of a file into a set list; titles that are no songs yet become songs.

    Raises ReadError and DamagedFile.
    """
    titles = titles_in(path)
    if not titles:
        raise DamagedFile(say("{path} names no song: write a title on each line.", path=path.name))
    if len(titles) > MOST:
        raise DamagedFile(
            say(
                "{path} has {count} lines: a set list has {most} at most.",
                path=path.name,
                count=len(titles),
                most=MOST,
            )
        )
    steps, new, alike = [], [], []
    for title in titles:
        pause = BREAK.match(title)
        if pause is not None:
            steps.append(SetStep(minutes=min(600, int(pause[1] or 15))))
            continue
        named = [s for s in plan.scenes if s.name.strip().lower() == title.lower()]
        if not named:
            plan = add_scene(title).change(plan)
            new.append(title)
            named = [plan.scenes[-1]]
        elif len(named) > 1 and title not in alike:
            alike.append(title)
        steps.append(SetStep(scene=named[0].id))
    return ReadSetList(set_steps(ident, "", steps).change(plan), tuple(new), tuple(alike))


def titles_in(path: Path) -> list[str]:
    """The titles of a file: a column of a table, or a title a line."""
    if path.suffix.lower() == ".csv":
        return _of_table(path)
    titles = []
    for line in text_of(read_whole(path, TABLE_LIMIT), path.name).splitlines():
        title = NUMBERED.sub("", printable(line).strip()).strip()
        if title:
            titles.append(title[:80])
    return titles


def _of_table(path: Path) -> list[str]:
    titles = []
    for _, row in table_rows(path, ()):
        column = next((name for name in row if name.strip().lower() in TITLES), None)
        if column is None:
            raise DamagedFile(
                say("{path} has no column called title: name one so.", path=path.name)
            )
        title = printable(row[column] or "").strip()
        if title:
            titles.append(title[:80])
    return titles


def write_setlist(plan: Plan, one: SetList, path: Path, *, replace: bool = True) -> None:
    """Write a set list: as a table, a MIDI file, or plain text, as the name ends.

    Raises WriteError.
    """
    suffix = path.suffix.lower()
    if suffix == ".csv":
        data = setlist_csv(plan, one).encode()
    elif suffix in (".mid", ".midi"):
        data = as_midi(plan, one)
    elif suffix in (".txt", ""):
        data = setlist_text(plan, one).encode()
    else:
        raise WriteError(say("{path} is no set list: call it .csv, .txt or .mid.", path=path.name))
    write_whole(data, path, say("The set list"), replace=replace)


def as_midi(plan: Plan, one: SetList) -> bytes:
    """A Standard MIDI File: a marker for each song, its tempo, what its programs select."""
    import mido

    file = mido.MidiFile(ticks_per_beat=BEAT)
    track = mido.MidiTrack()
    file.tracks.append(track)
    track.append(mido.MetaMessage("track_name", name=printable(one.name)))
    wait = 0
    for row in rows_of(plan, one):
        if row.scene is None:
            continue
        tempo = mido.bpm2tempo(row.scene.tempo or plan.tempo or DEFAULT_TEMPO)
        title = printable(row.title).encode("latin-1", "replace").decode("latin-1")
        track.append(mido.MetaMessage("marker", text=title, time=wait))
        track.append(mido.MetaMessage("set_tempo", tempo=tempo))
        for device in plan.devices:
            number = lookup.program_number(row.scene, device)
            channel = device.hears_programs
            if number is not None and channel is not None:
                track.append(
                    mido.Message("program_change", channel=channel - 1, program=number, time=0)
                )
        wait = BEATS_A_SONG * BEAT
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()
