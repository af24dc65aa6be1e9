"""One entry in the table of fields is enough: it is found everywhere that fields are read."""

import csv
import json

import pytest

from tests.rigs import keyboard, module, part, rig, zone
from vastzone.app.frame.field_rows import field_rows
from vastzone.app.frame.work_out import preview_row
from vastzone.cli import main
from vastzone.core import cache
from vastzone.core.cards.card import card
from vastzone.core.cards.diff import differences
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.plan.edits.settings import set_numbers
from vastzone.core.plan.fields import table
from vastzone.core.plan.fields.dials import dials, open_dials
from vastzone.core.plan.fields.field import Field
from vastzone.core.plan.fields.owners import part_owner
from vastzone.core.plan.fields.values import Whole
from vastzone.core.plan.queries import lookup
from vastzone.core.solve.numbers import Number
from vastzone.files import native
from vastzone.files.plan_schema import schema
from vastzone.files.sheets import to_csv

REF = "box/part.piano/colour"


@pytest.fixture
def invented(monkeypatch):
    """A field that the table has not got: one entry, and nothing else."""
    field = Field("part", "colour", "Shade", "part-mode", Whole(0, 7), solved=True)
    monkeypatch.setattr(table, "_BY_OWNER", table.by_owner((*table.FIELDS, field)))
    cache.forget_all()
    yield field
    monkeypatch.undo()
    cache.forget_all()


def plans():
    before = rig(keyboard(zone()), module(part()))
    return before, set_numbers({REF: 3}, "Set")(before)


def test_an_invented_field_is_read_and_set_by_its_reference(invented):
    before, after = plans()
    assert dials(before)[REF].value == 0 and dials(after)[REF].value == 3
    assert lookup.part(lookup.device(after, "box"), "piano").colour == 3
    assert REF in open_dials(after)


def test_an_invented_field_stands_on_the_card_and_in_its_files(invented):
    before, after = plans()
    sheet = card(after, of_plan(before), lookup.device(after, "box"))
    assert [(line.thing, line.before, line.after) for line in sheet.lines] == [
        ("Part Piano", "0", "shade 3")
    ]
    assert any("shade 3" in row for row in csv.reader(to_csv((sheet,)).splitlines()))


def test_an_invented_field_is_told_as_a_difference_and_in_the_preview(invented):
    before, after = plans()
    told = [each.whole for each in differences(before, after)]
    assert told == ["Box: Part Piano, shade from 0 to 3."]
    row = preview_row(after, Number(REF, 0, 3, "It was asked for."))
    assert "Shade" in row and "It was asked for." in row


def test_an_invented_field_is_entered_in_the_facts(invented):
    before, _ = plans()
    owner = lookup.device(before, "box")
    row = {r.label: r for r in field_rows(part_owner(owner, owner.parts[0]))}["Shade"]
    assert (row.kind, row.value, row.low, row.high) == ("number", 0, 0, 7)
    assert dials(row.make(5)(before))[REF].value == 5


def test_an_invented_field_is_in_the_schema_and_on_the_command_line(invented, tmp_path, capsys):
    before, after = plans()
    assert schema()["$defs"]["Part"]["properties"]["colour"]["title"] == "Shade"
    assert "part/colour" in {told["field"] for told in schema()["x-fields"]}
    old, new = tmp_path / "old.vastzone", tmp_path / "new.vastzone"
    native.write(before, old)
    native.write(after, new)
    main(["diff", str(old), str(new)])
    assert "shade from 0 to 3" in capsys.readouterr().out
    main(["cards", "--all", "--json", str(new)])
    refs = []
    for one in json.loads(capsys.readouterr().out)["cards"]:
        for section in one["sections"]:
            for line in section["lines"]:
                refs.extend(line["refs"])
    assert REF in refs
