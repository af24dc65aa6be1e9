"""The evening in words: what changes from song to song, who presses, what is heard."""

from collections.abc import Iterator
from typing import NamedTuple

from vastzone.core.cards.csv_text import csv_text
from vastzone.core.plan.model.plan import Plan, Scene
from vastzone.core.plan.model.setlists import SetList
from vastzone.core.plan.queries import lookup
from vastzone.core.say import say, say_many
from vastzone.core.setlist.changes import DeviceChange, SongChange, song_change
from vastzone.core.setlist.goes_on import GoesOn, goes_on
from vastzone.core.text import listed

COLUMNS = ("number", "title", "key", "tempo", "minutes", "spare", "presses", "seconds", "changes")


class SongRow(NamedTuple):
    """One step of a set list: a song or a break, what it takes to get there, what is heard.

    ``number`` counts the songs that are played; it is 0 for breaks and spare songs.
    """

    place: int
    number: int
    scene: Scene | None
    minutes: int
    spare: bool
    change: SongChange | None
    heard: tuple[GoesOn, ...]

    @property
    def title(self) -> str:
        """Its name, or that it is a break."""
        return (
            self.scene.name
            if self.scene is not None
            else say("Break, {minutes} min", minutes=self.minutes)
        )


def rows_of(plan: Plan, one: SetList) -> tuple[SongRow, ...]:
    """A set list step by step; spare songs are told from the song before them."""
    known = lookup.by_ids(plan.scenes)
    rows, number = [], 0
    before: Scene | None = None
    for place, step in enumerate(one.steps):
        scene = known.get(step.scene) if step.scene is not None else None
        if scene is None:
            rows.append(SongRow(place, 0, None, step.minutes, False, None, ()))
            continue
        number += not step.spare
        heard = goes_on(plan, before, scene) if before is not None else ()
        change = song_change(plan, before, scene)
        shown = 0 if step.spare else number
        rows.append(SongRow(place, shown, scene, 0, step.spare, change, heard))
        if not step.spare:
            before = scene
    return tuple(rows)


def step_words(plan: Plan, step: DeviceChange) -> str:
    """What happens at one device: «Heron 73: 3 Tide, 2 presses up or down»."""
    name = lookup.device(plan, step.device).name
    if step.way == "by message" and step.leader:
        leader = lookup.device(plan, step.leader).name
        sent = ", ".join(step.messages)
        channel = say("on channel {channel}", channel=step.channel)
        return say(
            "{name}: {what}, by {leader} ({sent} {channel}) after {ms:.1f} ms",
            name=name,
            what=step.what,
            leader=leader,
            sent=sent,
            channel=channel,
            ms=step.ms,
        )
    if step.way == "by hand" or (step.way == "by message" and not step.leader):
        return say("{name}: {what}, in its panel", name=name, what=step.what)
    how = {
        "own buttons": say("up or down"),
        "by number": say("by number"),
        "host list": say("in the list"),
    }
    presses = say_many("{count} press", "{count} presses", step.presses)
    if step.by_foot:
        return say(
            "{name}: {what}, {presses} of the foot", name=name, what=step.what, presses=presses
        )
    return f"{name}: {step.what}, {presses} {how.get(step.way or '', '')}".rstrip()


def begins_words(plan: Plan, row: SongRow) -> str:
    """What a song puts targets to at its beginning; nothing where it leaves all as it is."""
    said = []
    for start in row.scene.starts if row.scene is not None else ():
        said.append(
            say(
                "{target} {start:g}",
                target=lookup.target(plan, start.target).name,
                start=start.value,
            )
        )
    return say("begins with {said}", said=", ".join(said)) if said else ""


def click_words(plan: Plan, scene: Scene) -> str:
    """Whose ears the click goes to, and how fast it is; nothing where nobody hears it."""
    ears = [note.player for note in scene.players if note.click]
    if not ears:
        return ""
    tempo = scene.tempo if scene.tempo is not None else plan.tempo
    return say("Click {tempo:g} to {ears}", tempo=tempo, ears=listed(ears))


def by_player(row: SongRow) -> Iterator[str]:
    """Who presses how often: «Ro 2»."""
    for player, presses in row.change.by_player.items() if row.change else ():
        yield f"{player} {presses}"


def setlist_csv(plan: Plan, one: SetList) -> str:
    """A set list as comma-separated values."""
    lines: list[tuple[object, ...]] = []
    for row in rows_of(plan, one):
        change, scene = row.change, row.scene
        lines.append(
            (
                row.number or "",
                row.title,
                scene.key if scene else "",
                f"{scene.tempo:g}" if scene and scene.tempo else "",
                row.minutes or "",
                "yes" if row.spare else "",
                change.presses if change else "",
                f"{change.seconds:.1f}" if change else "",
                "; ".join(step_words(plan, step) for step in change.steps) if change else "",
            )
        )
    return csv_text(COLUMNS, lines)


def setlist_text(plan: Plan, one: SetList) -> str:
    """A set list as plain text, a title a line."""
    titles = []
    for row in rows_of(plan, one):
        titles.append(row.title)
    return "\n".join(titles) + "\n"
