"""The set list on paper: the evening on a sheet, then a sheet for each song."""

from vastzone.core.cards.setlist import (
    SongRow,
    begins_words,
    by_player,
    click_words,
    rows_of,
    step_words,
)
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.setlists import SetList
from vastzone.files.paper import Paper, Text, Tick

FOOT = "Turn down before the first test: a knob can jump."
LIST = (34.0, 190.0, 90.0, 185.0)
"""Widths of number, title, key with tempo, and presses; together the width of a sheet."""
STEP = (26.0, 473.0)


def to_pdf(plan: Plan, one: SetList, today: str) -> bytes:
    """The evening in order with presses per person, then what each song needs."""
    paper = Paper(f"{plan.name}: {one.name}", plan.name, today, FOOT)
    rows = rows_of(plan, one)
    paper.begin(one.name, f"{len(one.played)} songs")
    paper.rows([_line(row) for row in rows], LIST)
    for row in rows:
        if row.scene is not None:
            _song(paper, plan, row)
    return paper.finished()


def _line(row: SongRow) -> tuple[Text, ...]:
    pressed = ", ".join(by_player(row))
    number = str(row.number) if row.number else ("spare" if row.spare else "")
    return (
        Text(number, "Bold", 12),
        Text(row.title, "Bold" if row.scene else "Regular", 14),
        Text(_sounding(row), size=11),
        Text(pressed or ("nothing to press" if row.scene else ""), size=11),
    )


def _sounding(row: SongRow) -> str:
    scene = row.scene
    if scene is None:
        return ""
    tempo = f"{scene.tempo:g}" if scene.tempo else ""
    turned = f"{scene.transpose:+}" if scene.transpose else ""
    return ", ".join(filter(None, (scene.key, tempo, turned)))


def _song(paper: Paper, plan: Plan, row: SongRow) -> None:
    scene = row.scene
    if scene is None:
        return
    paper.begin(row.title, _sounding(row) or " ")
    if row.change is not None and row.change.steps:
        paper.heading("To get here", 15)
        steps = [(Tick(), Text(step_words(plan, s), size=13)) for s in row.change.steps]
        paper.rows(steps, STEP)
    for note in scene.players:
        if note.notes:
            paper.heading(note.player, 15)
            paper.text(note.notes, "Regular", 13)
    if click := click_words(plan, scene):
        paper.text(f"{click}.", "Regular", 13)
    if begins := begins_words(plan, row):
        paper.text(f"It {begins}.", "Regular", 13)
    if scene.notes:
        paper.heading("Notes", 15)
        paper.text(scene.notes, "Regular", 13)
    heard = [one for one in row.heard if one.is_heard]
    if heard:
        paper.heading("Over the change", 15)
        for one in heard:
            paper.text(f"{one.why}.", "Regular", 12)
