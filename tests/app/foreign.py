"""Walk the window in the language it is started in; print what stands there in English, or cut.

    LANGUAGE=en_XA VASTZONE_LANGUAGES=FOLDER python -m tests.app.foreign

The words of the plan are Cyrillic, so that Latin letters without an accent are ours, and forgotten.
"""

import os
import re
import sys
import tempfile
from pathlib import Path

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication

from tests.plan_of_names import renamed
from vastzone import demo
from vastzone.core.plan.refs import ref_to
from vastzone.desk.session import EMPTY
from vastzone.files import native

from . import seen
from .test_seen import pages, settle

NAMES = [f"Жук{number}" for number in range(2000)]
KEPT = {"MIDI", "USB", "DIN", "TRS", "PDF", "CSV", "SVG", "RPN", "NRPN", "XLR", "Bluetooth"}
KEPT |= {"Ctrl", "Alt", "Shift", "Left", "Right", "PgDown", "PgUp", "Return", "Del", "Esc", "Space"}
KEPT |= {"Vast", "Zone", "omni", "bpm"}
"""Names of standards, of keys and of the program, which are the same in every language."""
PERSONS = {"Keys", "Pads", "Organ", "none", "soldering", "solderi", "joinery", "carrying", "patch"}
PERSONS |= {"and", "down", "black", "brown", "red"}
"""Words of the demo plan that are no names: of players, skills, colours and kept controllers."""
EXAMPLES = ("9 faders, 8 pads", "61 keys from C2", "Macro {n}", "Layer {n}")
"""What stands in a field as an example of the language that is typed there."""
APART = re.compile(r"[\s/·,()“”«»:;–—+.…|→=]+")
MARKS = re.compile(r"<[^>]*>|(?:(?:Ctrl|Alt|Shift)\+)+\S+")
PLAIN = re.compile(r"[A-Za-z']{3,}")
ACCENTED = re.compile(r"[AaCcDdEeGgHhIiJjKkLlNnOoRrSsTtUuWwYyZz]")


def english(words: str) -> list[str]:
    """The words of a text that are English still."""
    if any(example in words for example in EXAMPLES):
        return []
    pieces = APART.split(MARKS.sub(" ", words))
    left = " ".join(piece for piece in pieces if piece.isascii())
    found = PLAIN.findall(left)
    return [word for word in found if word not in KEPT | PERSONS and ACCENTED.search(word)]


def told(widgets) -> list[str]:
    """Everything that some widgets paint, hint at or have read out."""
    said = []
    for widget in widgets:
        said += [line.words for line in seen.own_lines(widget)]
        said += [widget.toolTip(), widget.accessibleName(), widget.accessibleDescription()]
        for element in getattr(widget, "elements", list)():
            said += [element.name, element.value]
    return said


def facts(window):
    """Select something of every kind, one after the other."""
    window.show_view("keys")
    done = set()
    for device in window.desk.plan.devices:
        for group in (
            "ports",
            "keybeds",
            "controls",
            "parts",
            "targets",
            "inputs",
            "jacks",
            "kits",
        ):
            for thing in getattr(device, group):
                kind = (group, device.kind, getattr(thing, "kind", ""))
                if kind not in done:
                    done.add(kind)
                    window.desk.select(ref_to(device.id, thing.id))
                    settle(window)
                    yield f"facts of {kind}"


def walk(window, with_troubles: bool) -> list[str]:
    """What is wrong, page by page."""
    found = {}
    for page in pages(window):
        with seen.still():
            troubles = [*seen.troubles(window), *seen.faint(window)] if with_troubles else []
            found |= dict.fromkeys(told(seen.shown_in(window)), page)
        found |= {str(trouble): f"{page}, in trouble" for trouble in troubles}
    for thing in facts(window):
        shown = [widget for widget in seen.shown_in(window) if window.facts.isAncestorOf(widget)]
        found |= dict.fromkeys(told(shown), thing)
    found |= {action.text(): "an action" for action in window.findChildren(QAction)}
    return [f"{where}: {words}" for words, where in found.items() if _is_wrong(where, words)]


def _is_wrong(where: str, words: str) -> bool:
    return where.endswith("in trouble") or bool(english(words))


def main() -> None:
    """Walk a full plan and an empty one."""
    QApplication.setStyle("Fusion")
    QApplication([])
    from vastzone.app.window import Window

    window = Window(Path(tempfile.mkdtemp()))
    window.fill()
    window.resize(1280, 800)
    window.show()
    found = []
    for plan in (renamed(native.read(demo.AS_FOUND), NAMES), EMPTY):
        window.desk.load(plan, None)
        settle(window)
        window.desk.wake()
        if plan is not EMPTY:
            bed = window.keys.canvas.picture.beds[0]
            window.desk.stage.press(bed.ref, bed.bed.low + 24, 96, 0.0)
        window.ring.setMaximumSize(0, 0)
        found += walk(window, plan is not EMPTY)
    print("\n".join(found), end="")
    sys.stdout.flush()
    os._exit(0)


if __name__ == "__main__":
    main()
