"""Nasty names on paper, in spreadsheets, in the terminal and on the command line."""

import csv
import io
import json
import subprocess
import sys

import pypdfium2
import pytest

from tests.nasty import FORMULAS, NAMES
from tests.plan_of_names import renamed
from vastzone import demo
from vastzone.cli import main
from vastzone.core.cards.card import cards
from vastzone.core.cards.csv_text import csv_text
from vastzone.core.memory.beginnings import of_plan
from vastzone.core.text import decimal, printable, quoted, whole_number
from vastzone.files import native, sheets, wires

FEW = NAMES[::8]
"""Names with which what takes long is tried too."""
COMMANDS = ("check", "prove", "numbers", "cards", "diff")


@pytest.fixture(scope="module")
def plan():
    return renamed(native.read(demo.AS_FOUND))


@pytest.fixture
def path(plan, tmp_path):
    place = tmp_path / "names.vastzone"
    native.write(plan, place)
    return place


@pytest.mark.parametrize("command", COMMANDS)
def test_every_command_prints_names_as_they_are(path, capsys, command):
    assert main([command, str(path)]) in (0, 1)
    told = capsys.readouterr()
    assert "Traceback" not in told.out + told.err
    lines = told.out.splitlines()
    assert all(printable(line) == line for line in lines), "no control character gets out"
    assert main([command, str(path), "--json"]) in (0, 1)
    json.loads(capsys.readouterr().out)


@pytest.mark.parametrize("name", NAMES)
def test_arguments_of_any_kind_are_one_sentence(name, capsys, tmp_path):
    long = f"{tmp_path}/{name}{'x' * 300}"
    for words in (
        ["check", str(tmp_path) + "/" + name],
        *([["numbers", "demo", "-o", long], ["cards", "demo", "-o", long]] if name in FEW else ()),
        ["devices", "demo", "--add", name, "-o", long],
        ["diff", "demo", long],
        ["why", str(demo.READY), f"x{name}"],
        ["why", str(demo.READY), "heron:keys", f"x{name}"],
        ["trace", str(demo.READY), "--midi", str(demo.TUNE), "--scene", name],
        ["devices", str(demo.READY), "--add", name],
    ):
        assert main(words) == 2
        told = capsys.readouterr().err
        assert told.count("\n") == 1 and printable(told[:-1]) == told[:-1] and len(told) < 2000


def test_words_that_the_command_does_not_know_do_not_act_in_the_terminal(capsys):
    for name in NAMES:
        with pytest.raises(SystemExit) as left:
            main(["check", str(demo.READY), f"--x{name}"])
        told = capsys.readouterr().err
        assert left.value.code == 2 and printable(told[:-1]) == told[:-1] and len(told) < 900


def test_numbers_of_any_length_are_answered(capsys):
    for words in ("9" * 5000, "²", "-1", "1e999", "٣"):
        for thing in ("heron:keys", "dipper:pad-1"):
            assert main(["why", str(demo.READY), thing, f" {words}"]) == 2
    assert whole_number("−12") == -12 and whole_number("²") is whole_number("9" * 20) is None
    assert decimal("1,5") == 1.5 and decimal("1e999") is decimal("nan") is decimal("inf") is None


def test_output_that_a_terminal_cannot_say_is_replaced_and_a_closed_pipe_is_quiet(path):
    command = [sys.executable, "-m", "vastzone", "check", str(path)]
    env = {"PYTHONIOENCODING": "ascii", "PATH": "/usr/bin:/bin", "HOME": "/tmp"}
    told = subprocess.run(command, capture_output=True, env=env, timeout=60)
    assert told.returncode == 1 and not told.stderr and told.stdout.isascii()
    cut = subprocess.run(
        f"'{command[0]}' -m vastzone check '{path}' | head -1",
        shell=True,
        capture_output=True,
        timeout=60,
    )
    assert cut.stdout.count(b"\n") == 1 and not cut.stderr


def test_sheets_hold_every_name_and_no_formula(plan):
    made = cards(plan, of_plan(plan), everything=True)
    pdf = sheets.to_pdf(plan.name, made, "2026-01-01")
    document = pypdfium2.PdfDocument(pdf)
    assert len(document) > 3
    document.close()
    owner = next(d for d in plan.devices if d.console is not None)
    assert wires.to_pdf(plan.name, owner, owner.console, 0, "2026-01-01").startswith(b"%PDF")
    for text in (sheets.to_csv(made), wires.to_csv(owner, owner.console)):
        for row in csv.reader(io.StringIO(text)):
            assert not [cell for cell in row if cell.startswith(("=", "+", "-", "@", "\t", "\r"))]


def test_cells_that_begin_like_a_formula_are_text():
    rows = list(csv.reader(io.StringIO(csv_text(("a",), [(name,) for name in FORMULAS]))))
    assert [row[0] for row in rows[1:]] == [
        "'=1+1",
        "'+SUM(A1)",
        "'-2",
        "'@cmd",
        '\'=HYPERLINK("file:///")',
    ]
    assert quoted("x" * 500).endswith("x…") and len(quoted("x" * 500)) == 201
