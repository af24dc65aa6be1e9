"""The catalogue of everything that people read: python tools/messages.py [--trial FOLDER].

Gathers all sentences of ``say`` and ``say_many`` into the template for translators, together with
the words of the ``Literal`` types, which are said where they are shown, and compiles every
translation that stands beside the template.  ``--trial`` writes a language of accented letters
instead: whatever stands on a screen without accents was forgotten.
"""

import argparse
import ast
import re
from collections.abc import Iterator
from datetime import UTC, datetime
from functools import cache
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from vastzone.languages import DOMAIN, FOLDER

SOURCE = Path("src/vastzone")
TEMPLATE = FOLDER / f"{DOMAIN}.pot"
KEYWORDS = {
    "say": None,
    "noted": None,
    "say_many": (1, 2),
    "noted_many": (1, 2),
    "Rule": (1,),
}
"""What is called with messages, and which of its arguments they are (the first where not said)."""
WORDS = re.compile(r"[A-Za-z][A-Za-z0-9 –/'’-]*")
SAYING = (*KEYWORDS, "typed", "compile", "Literal", "by_id", "cast", "TypeError", "ValueError")
"""Calls whose words are said, or are none."""
SEVERAL = re.compile(r"[A-Za-z’]{2,} [a-z]{2,}")
SENTENCE = re.compile(r"[A-Z“][a-z]*(?: \S+){2,}")
TYPED = re.compile(r"[<\\]|\(\?| → |^vastzone|such as")
"""What is no sentence: marks of HTML, patterns."""
TRIAL = "en_XA"
"""The locale that CLDR keeps for a language of accented letters."""
MADE = datetime(2026, 1, 1, tzinfo=UTC)
"""The same date in every template: only a change of what is said changes the file."""
PLACE = re.compile(r"\{[^{}]*\}|<[^<>]*>|&\w+;|%\(\w+\)s|\*\.\w+")
"""What a translation leaves as it is: named places, marks of HTML, suffixes of files."""
LONGER = re.compile(r"(?<=[A-Za-z]{3})([a-z])\b")
ACCENTS = str.maketrans(
    "AaCcDdEeGgHhIiJjKkLlNnOoRrSsTtUuWwYyZz",
    "ÁáÇçĎďÉéĜĝĤĥÍíĴĵĶķĹĺÑñÓóŘřŠšŤťÚúŴŵÝýŽž",
)


def gathered() -> Catalog:
    """All messages in the source, with the places where they are said."""
    catalog = Catalog(
        header_comment="# What Vast Zone says, for translators. This file is made by “make messages”.",
        creation_date=MADE,
    )
    found = extract_from_dir(SOURCE, [("**.py", "python")], {}, KEYWORDS)
    for file, line, message, comments, context in found:
        catalog.add(message, None, [(f"{SOURCE}/{file}", line)], (), comments, context=context)
    for path in sorted(SOURCE.rglob("*.py")):
        for line, words in literals(path):
            catalog.add(words, None, [(str(path), line)])
    return catalog


@cache
def _parsed(path: Path) -> ast.Module:
    return ast.parse(path.read_text(encoding="utf-8"))


def literals(path: Path) -> Iterator[tuple[int, str]]:
    """The words of the Literal types of a module, with their lines."""
    for node in ast.walk(_parsed(path)):
        if not isinstance(node, ast.Subscript) or _last_name(node.value) != "Literal":
            continue
        for each in ast.walk(node.slice):
            words = _text(each)
            if WORDS.fullmatch(words):
                yield node.lineno, words
                yield node.lineno, words.replace("-", " ")


def accented(message: str) -> str:
    """A message in the trial language: letters have accents, and longer words one letter more.

    So it is about a sixth longer than English, as many languages are.
    """
    pieces, at = [], 0
    for place in PLACE.finditer(message):
        pieces += [_foreign(message[at : place.start()]), place[0]]
        at = place.end()
    return "".join((*pieces, _foreign(message[at:])))


def _foreign(words: str) -> str:
    return LONGER.sub(r"\1\1", words).translate(ACCENTS)


def trial(template: Catalog) -> Catalog:
    """The template, translated into the trial language."""
    catalog = Catalog(locale="en", project="Vast Zone")
    for message in template:
        if not message.id:
            continue  # the header
        if isinstance(message.id, str):
            catalog.add(message.id, accented(message.id))
        else:
            catalog.add(message.id, tuple(accented(each) for each in message.id))
    return catalog


def write_template(catalog: Catalog, path: Path = TEMPLATE) -> None:
    """The template for translators, the same for the same source."""
    with path.open("wb") as file:
        write_po(file, catalog, omit_header=False, sort_by_file=True, width=100)


def write_trial(catalog: Catalog, folder: Path) -> None:
    """The trial language as a compiled catalogue in a folder of languages."""
    place = folder / TRIAL / "LC_MESSAGES"
    place.mkdir(parents=True, exist_ok=True)
    with (place / f"{DOMAIN}.mo").open("wb") as file:
        write_mo(file, trial(catalog))


def compile_all(folder: Path = FOLDER) -> list[str]:
    """Compile every translation of a folder of languages; the languages."""
    made = []
    for source in sorted(folder.glob(f"*/LC_MESSAGES/{DOMAIN}.po")):
        with source.open("rb") as file:
            catalog = read_po(file)
        with source.with_suffix(".mo").open("wb") as file:
            write_mo(file, catalog)
        made.append(source.parts[-3])
    return made


def unsaid(path: Path) -> Iterator[tuple[int, str]]:
    """Sentences of a module that are put together without ``say``, with their lines.

    What is typed or read by a program, such as the lines that describe a device, is not meant.
    """
    tree = _parsed(path)
    apart = _apart(tree)
    names = {words for _, words in literals(path)}
    for node in ast.walk(tree):
        if not isinstance(node, ast.expr) or id(node) in apart:
            continue
        if isinstance(node, ast.JoinedStr):
            words = " ".join(filter(None, map(_text, node.values)))
        else:
            words = _text(node) if SENTENCE.match(_text(node)) else ""
        if words not in names and SEVERAL.search(words) and not TYPED.search(words):
            yield node.lineno, words


def _text(node: ast.AST) -> str:
    """The text of a constant; nothing for anything else."""
    text = node.value if isinstance(node, ast.Constant) else None
    return text if isinstance(text, str) else ""


def _last_name(node: ast.AST) -> str:
    """What is called, by its last name: «say» of «speech.say»."""
    if isinstance(node, ast.Attribute):
        return node.attr
    return node.id if isinstance(node, ast.Name) else ""


def _apart(tree: ast.Module) -> set[int]:
    """Strings that nobody reads, or that are said already: documentation, keys, calls of ours."""
    found: set[int] = set()
    for node in ast.walk(tree):
        called = _last_name(node.func) if isinstance(node, ast.Call) else ""
        if isinstance(node, ast.Expr | ast.Assert) or called in SAYING:
            quiet: ast.AST = node
        elif called == "Remark" and isinstance(node, ast.Call):
            quiet = node.args[0]
        elif isinstance(node, ast.JoinedStr):
            found.update(id(each) for each in node.values)
            continue
        else:
            continue
        if not isinstance(node, ast.Expr) or isinstance(node.value, ast.Constant):
            found.update(id(each) for each in ast.walk(quiet))
    return found


def main() -> None:
    """Write the template, and the trial language where it is asked for."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--trial", type=Path, metavar="FOLDER")
    given = options.parse_args()
    catalog = gathered()
    if given.trial is None:
        write_template(catalog)
        print(f"{len(catalog)} messages in {TEMPLATE}", *compile_all())
    else:
        write_trial(catalog, given.trial)
        print(f"LANGUAGE={TRIAL} VASTZONE_LANGUAGES={given.trial} .venv/bin/vastzone demo")


if __name__ == "__main__":
    main()
