"""Sheets for the evening: the set list with a card for each song, the test list, plugging."""

from vastzone.core.cards.plugging import plugging
from vastzone.core.cards.setlist import (
    SongRow,
    begins_words,
    by_player,
    click_words,
    rows_of,
    step_words,
)
from vastzone.core.midi import pitch
from vastzone.core.plan.model.plan import Plan
from vastzone.core.plan.model.setlists import SetList
from vastzone.core.plan.queries import lookup
from vastzone.core.plan.refs import device_of, thing_of
from vastzone.core.proof.marking import prove
from vastzone.core.proof.walk import Ask, asks
from vastzone.core.say import number, say, say_many
from vastzone.core.sheets.layout import (
    WIDTH,
    Block,
    Heading,
    Page,
    Paragraph,
    Rows,
    Sheet,
    Text,
    Tick,
)

LIST = (34.0, 190.0, 90.0, 185.0)
"""Widths of number, title, key with tempo, and presses."""
STEP = (26.0, 473.0)
TEST = (34.0, 210.0, WIDTH - 244.0)


def setlist_sheet(plan: Plan, one: SetList) -> Sheet:
    """The evening in order with presses per person, then what each song needs."""
    rows = rows_of(plan, one)
    listed_songs = Rows(tuple(_line(row) for row in rows), LIST)
    pages = [
        Page(one.name, say_many("{count} song", "{count} songs", len(one.played)), (listed_songs,))
    ]
    for row in rows:
        if row.scene is not None:
            pages.append(_song(plan, row))
    return Sheet("setlist", one.name, tuple(pages))


def _line(row: SongRow) -> tuple[Text, ...]:
    pressed = ", ".join(by_player(row))
    number = str(row.number) if row.number else (say("spare") if row.spare else "")
    return (
        Text(number, "Bold", 12),
        Text(row.title, "Bold" if row.scene else "Regular", 14),
        Text(_sounding(row), size=11),
        Text(pressed or (say("nothing to press") if row.scene else ""), size=11),
    )


def _sounding(row: SongRow) -> str:
    scene = row.scene
    if scene is None:
        return ""
    tempo = number(scene.tempo, "g") if scene.tempo else ""
    turned = f"{scene.transpose:+}" if scene.transpose else ""
    return ", ".join(filter(None, (scene.key, tempo, turned)))


def _song(plan: Plan, row: SongRow) -> Page:
    """What one song needs, for everybody."""
    blocks: list[Block] = []
    if row.change is not None and row.change.steps:
        blocks.append(Heading(say("To get here")))
        steps = tuple((Tick(), Text(step_words(plan, s), size=13)) for s in row.change.steps)
        blocks.append(Rows(steps, STEP))
    scene = row.scene
    for note in scene.players if scene is not None else ():
        if note.notes:
            blocks.append(Heading(note.player))
            blocks.append(Paragraph(note.notes, size=13))
    if scene is not None and (click := click_words(plan, scene)):
        blocks.append(Paragraph(f"{click}.", size=13))
    if begins := begins_words(plan, row):
        blocks.append(Paragraph(say("It {begins}.", begins=begins), size=13))
    if scene is not None and scene.notes:
        blocks.append(Heading(say("Notes")))
        blocks.append(Paragraph(scene.notes, size=13))
    heard = [one for one in row.heard if one.is_heard]
    if heard:
        blocks.append(Heading(say("Over the change")))
        blocks += [Paragraph(f"{one.why}.") for one in heard]
    return Page(row.title, _sounding(row) or " ", tuple(blocks))


def test_sheet(plan: Plan) -> Sheet:
    """Everything to strike, scene by scene, and what is to be heard; told once where it stays."""
    proof = prove(plan)
    names = lookup.names_of(plan.scenes)
    together: dict[tuple[str, str], list[str]] = {}
    for ask in asks(plan, proof, ()):
        together.setdefault((_place(plan, ask), ask.expected), []).append(ask.scene)
    by_scenes: dict[tuple[str, ...], list[tuple[str, str]]] = {}
    for line, scenes in together.items():
        by_scenes.setdefault(tuple(scenes), []).append(line)
    blocks: list[Block] = []
    for where, lines in by_scenes.items():
        everywhere = len(where) == max(1, len(plan.scenes))
        told = ", ".join(names.get(scene, "") for scene in where)
        blocks.append(Heading(say("In every scene") if everywhere else told))
        rows = []
        for place, expected in lines:
            rows.append((Tick(), Text(place, "SemiBold", 12), Text(expected, size=12)))
        blocks.append(Rows(tuple(rows), TEST))
    count = say_many("{count} thing", "{count} things", len(together))
    return Sheet(
        "test",
        say("Test list"),
        (Page(say("Test list"), say("{count} to strike", count=count), tuple(blocks)),),
    )


def _place(plan: Plan, ask: Ask) -> str:
    """What is to be struck, by name."""
    device = lookup.device(plan, device_of(ask.place.source))
    thing = thing_of(ask.place.source)
    bed = lookup.find(device.keybeds, thing)
    if bed is not None:
        keys = pitch.span(ask.place.low, ask.place.high, device.octaves)
        return f"{device.name}, {bed.name.lower()} {keys}"
    control = lookup.controls_by_id(device)[thing]
    bank = say(", bank {bank}", bank=ask.place.bank) if control.banks > 1 else ""
    return f"{device.name}, {control.name}{bank}"


def plugging_sheet(plan: Plan) -> Sheet:
    """Jack by jack what goes in, as one stands behind each device."""
    pages = []
    for device in plan.devices:
        lines = plugging(plan, device)
        if lines:
            rows = tuple((Tick(), Text(line, size=13)) for line in lines)
            block = Rows(rows, (34.0, WIDTH - 34.0))
            told = say("jack by jack, as one stands behind it")
            pages.append(Page(say("{device}: plugging", device=device.name), told, (block,)))
    return Sheet("plugging", say("Plugging"), tuple(pages))
