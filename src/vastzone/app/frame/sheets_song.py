"""Facts of a song: how it sounds, what players have to think of, how devices get there."""

from functools import partial
from typing import Any

from vastzone.app.frame.sheet import FactRow, Make, Press, Sheet
from vastzone.core.cards.setlist import step_words
from vastzone.core.errors import EditError
from vastzone.core.plan.edits import setlists
from vastzone.core.plan.edits.edit import Edit
from vastzone.core.plan.edits.scenes import copy_scene, remove_scene, rename_scene
from vastzone.core.plan.model.plan import Device, Plan, Scene
from vastzone.core.plan.model.setlists import Way
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import number, say
from vastzone.core.setlist.changes import song_change
from vastzone.core.setlist.goes_on import goes_on
from vastzone.core.text import decimal, listed_numbers, quoted
from vastzone.desk.session import Desk

SONG = "song "
SHOWN = 4
"""So much of what goes on over a change is told in the facts."""
WAYS: tuple[tuple[str, Way | None], ...] = (
    (say("as usual"), None),
    (say("up and down"), "own buttons"),
    (say("by typing a number"), "by number"),
    (say("through its panel"), "by hand"),
    (say("by a message"), "by message"),
    (say("by a host’s list"), "host list"),
)


def song_sheet(desk: Desk, ref: str) -> Sheet:
    """A song: name, key, tempo, transposition, notes; then each device that changes for it."""
    plan, ident = desk.plan, ref.removeprefix(SONG)
    scene = lookup.find(plan.scenes, ident)
    if scene is None:
        return Sheet("", say("Song"), say("Song"), (), remark=say("This song has been removed."))

    def setter(words: str, field: str) -> Make:
        return lambda v: setlists.set_scene(ident, words, **{field: v})

    begin = partial(_set_starts, plan, ident)
    rows = [
        FactRow(say("Name"), "text", scene.name, lambda v: rename_scene(ident, v)),
        FactRow(say("Key"), "text", scene.key, setter(say("Change key"), "key")),
        FactRow(say("Tempo"), "text", _tempo(scene), lambda v: _set_tempo(ident, v)),
        FactRow(
            say("Transposed"),
            "number",
            scene.transpose,
            setter(say("Transpose"), "transpose"),
            -24,
            24,
        ),
        FactRow(say("Notes"), "text", scene.notes, setter(say("Change notes"), "notes")),
        FactRow(say("Begins with"), "text", starts_words(plan, scene), begin),
        *_players(plan, scene),
        *_arrivals(plan, scene),
    ]
    presses = (
        Press(say("Copy"), "plus", lambda: copy_scene(ident)),
        Press(say("Remove"), "trash-2", lambda: remove_scene(ident)),
    )
    return Sheet(ref, scene.name, say("Song"), tuple(rows), presses, _remark(plan, scene))


def _tempo(scene: Scene) -> str:
    return number(scene.tempo, "g") if scene.tempo else ""


def _set_tempo(scene: str, words: str) -> Edit:
    """Another tempo; that of the plan where nothing is typed.  Raises EditError."""
    tempo = decimal(words.strip()) if words.strip() else None
    if words.strip() and (tempo is None or not 30 <= tempo <= 300):
        raise EditError(
            say("“{words}” is no tempo: write one from 30 to 300.", words=quoted(words))
        )
    return setlists.set_scene(scene, say("Change tempo"), tempo=tempo)


def starts_words(plan: Plan, scene: Scene) -> str:
    """What a song puts targets to at its beginning: «Reverb 0, Volume 80»."""
    said = []
    for start in scene.starts:
        said.append(
            say(
                "{target} {start:g}",
                target=lookup.target(plan, start.target).name,
                start=start.value,
            )
        )
    return ", ".join(said)


def _set_starts(plan: Plan, scene: str, words: str) -> Edit:
    """Targets and values as they are typed.  Raises EditError for what is none."""
    starts = []
    for piece in listed_numbers(words):
        name, _, number = piece.rpartition(" ")
        value = decimal(number)
        named = _targets_called(plan, name)
        if value is None or len(named) != 1:
            raise EditError(
                say(
                    "“{piece}” is no beginning: write a target and its value, “Volume 80”.",
                    piece=quoted(piece),
                )
            )
        starts.append(setlists.begins_at(plan, named[0], value))
    return setlists.set_scene(scene, say("Change what a song begins with"), starts=tuple(starts))


def _targets_called(plan: Plan, name: str) -> list[str]:
    """The targets of a name; with their device's after «of» where several have it."""
    wanted = name.strip().lower()
    found = []
    for device in plan.devices:
        for target in device.targets:
            full = say("{target} of {device}", target=target.name, device=device.name).lower()
            if wanted in (target.name.lower(), full):
                found.append(ref_to(device.id, target.id))
    return found


def _players(plan: Plan, scene: Scene) -> list[FactRow]:
    """What each player has to think of and hears, and whose hands are busy at the beginning."""
    notes = {note.player: note for note in scene.players}
    names = dict.fromkeys([*(d.player for d in plan.devices if d.player), *notes])
    rows = []
    for name in names:
        note = notes.get(name)
        noter = partial(_noter, scene.id, name)
        said = note.notes if note is not None else ""
        busy, click = note is not None and note.busy, note is not None and note.click
        rows += [
            FactRow(say("{name}: notes", name=name), "text", said, noter("notes")),
            FactRow(say("{name}: holds keys", name=name), "check", busy, noter("busy")),
            FactRow(say("{name}: hears the click", name=name), "check", click, noter("click")),
        ]
    return rows


def _noter(scene: str, player: str, field: str) -> Make:
    return lambda value: setlists.set_note(scene, player, **{field: value})


def _arrivals(plan: Plan, scene: Scene) -> list[FactRow]:
    """How each device that has several programs gets to its own."""
    ways = {arrival.device: arrival.way for arrival in scene.arrivals}
    choices: tuple[tuple[str, Any], ...] = tuple(WAYS)
    rows = []
    for device in plan.devices:
        if len(device.programs) > 1:
            now = ways.get(device.id)
            rows.append(
                FactRow(
                    say("{device} gets there", device=device.name),
                    "choice",
                    now,
                    _arriver(scene, device),
                    choices=choices,
                )
            )
    return rows


def _arriver(scene: Scene, device: Device) -> Make:
    return lambda way: setlists.set_arrival(scene.id, device.id, way)


def _remark(plan: Plan, scene: Scene) -> str:
    """What changes from the song before it, in the order of the plan."""
    place = plan.scenes.index(scene)
    if place == 0:
        return ""
    change = song_change(plan, plan.scenes[place - 1], scene)
    steps = "; ".join(step_words(plan, step) for step in change.steps)
    before = plan.scenes[place - 1].name
    said = (
        say("After {before}: {steps}.", before=before, steps=steps)
        if steps
        else say("After {before} nothing changes.", before=before)
    )
    over = goes_on(plan, plan.scenes[place - 1], scene)
    told = [
        (
            say("{why}: {mend}.", why=one.why, mend=one.mend)
            if one.mend
            else say("{why}.", why=one.why)
        )
        for one in over[:SHOWN]
    ]
    if len(over) > SHOWN:
        told.append(say("And {count} more.", count=len(over) - SHOWN))
    return " ".join((said, *told))
