"""The catalogue: it holds all that is said, and nothing is said without it."""

import json
import os
import subprocess
import sys

import pytest
from babel.messages.pofile import read_po
from tools import messages

from vastzone import demo


def test_the_template_holds_all_that_is_said(catalog):
    """Run “make messages” after a change of what is said."""
    with messages.TEMPLATE.open("rb") as file:
        kept = {message.id for message in read_po(file)}
    assert {message.id for message in catalog} == kept


def test_nothing_is_said_that_no_catalogue_could_hold():
    found = []
    for path in sorted(messages.SOURCE.rglob("*.py")):
        found += [f"{path}:{line}: {words}" for line, words in messages.unsaid(path)]
    assert found == []


def test_sentences_without_say_are_found(tmp_path):
    path = tmp_path / "told.py"
    path.write_text(
        '"""Words of a document are none."""\n'
        'told = f"{name} plays {count} of them"\n'
        'said = say("{name} plays {count} of them", name=name, count=count)\n'
        'label = "Press it again to hear it."\n'
        'ident = f"zone-{name}"\n'
    )
    assert [line for line, _ in messages.unsaid(path)] == [2, 4]


def test_the_trial_language_leaves_places_and_letters_countable():
    assert messages.accented("{count} keys of {name:.1f}") == "{count} ķéýšš óf {name:.1f}"
    assert messages.accented("Open (*.csv)") == "Ópéññ (*.csv)"


@pytest.fixture(scope="module")
def catalog():
    return messages.gathered()


@pytest.fixture(scope="module")
def trial(catalog, tmp_path_factory):
    """The environment in which a program speaks the trial language."""
    folder = tmp_path_factory.mktemp("languages")
    messages.write_trial(catalog, folder)
    return {
        **os.environ,
        "LANGUAGE": messages.TRIAL,
        "VASTZONE_LANGUAGES": str(folder),
        "QT_QPA_PLATFORM": "offscreen",
    }


def run(environment, *words):
    done = subprocess.run(
        [sys.executable, *words], env=environment, capture_output=True, text=True, check=False
    )
    assert done.returncode in (0, 1), done.stderr[-2000:]
    return done.stdout


def test_every_view_and_page_is_said_and_nothing_of_it_is_cut(trial):
    """A window of its own walks them all in accented letters, a sixth longer than English."""
    assert run(trial, "-m", "tests.app.foreign") == ""


def test_files_are_the_same_in_every_language(trial, tmp_path):
    """Tables and plans that are written in one language are read in another without a difference."""
    english = {**os.environ, "LANGUAGE": "en"}
    made = {}
    for name, environment in (("one", english), ("other", trial)):
        folder = tmp_path / name
        run(environment, "-m", "vastzone", "tables", str(demo.READY), "-o", str(folder))
        made[name] = {path.name: path.read_bytes() for path in folder.iterdir()}
        plan = str(tmp_path / f"{name}.vastzone")
        run(environment, "-m", "vastzone", "numbers", str(demo.AS_FOUND), "-o", plan)
    assert len(made["one"]) > 4 and made["one"].keys() == made["other"].keys()
    for name, data in made["other"].items():
        assert data.splitlines()[0] == made["one"][name].splitlines()[0]
        words = ("tables", str(demo.READY), "--read", str(tmp_path / "other" / name), "--json")
        told = json.loads(run(english, "-m", "vastzone", *words))
        assert told["changes"] == told["mistakes"] == [], name
    plans = [str(tmp_path / f"{name}.vastzone") for name in made]
    assert json.loads(run(english, "-m", "vastzone", "diff", *plans, "--json"))["differences"] == []
