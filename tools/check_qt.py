"""What Qt code must not do, as a lint: python tools/check_qt.py [FILES]; exit status 1 on a find.

- Layout items in Python: their wrappers outlive the items, and the program crashes later.
- Items of lists and tables, which Qt owns and deletes while Python holds them: lists have models.
- Labels, buttons, tool tips, titles and menus that would read a person's words as markup or
  shortcuts: ``vastzone.app.frame.text`` has plain ones.
- Filters over every event of the application.
"""

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

APP = Path("src/vastzone/app")
PLAIN = APP / "frame" / "text.py"
LAYOUT = ("itemAt", "takeAt", "replaceWidget")
WORDS = {"setToolTip": "set_tip", "setWindowTitle": "set_title"}
ITEMS = (
    "QListWidget",
    "QListWidgetItem",
    "QTableWidget",
    "QTableWidgetItem",
    "QStandardItem",
    "QStandardItemModel",
    "QGraphicsScene",
    "QGraphicsItem",
    "QLayoutItem",
    "QWidgetItem",
)
OWN_CLASSES = {
    "QLabel": "Label (frame/text.py): it reads no markup",
    "QPushButton": "Button (frame/text.py): it reads no shortcuts",
    "QDialog": "Dialog (frame/dialog.py): it is deleted once it is closed",
}
ONE_PLACE = {
    "QFileDialog": APP / "dialogs.py",
    "QMessageBox": APP / "dialogs.py",
}


def finds(path: Path) -> Iterator[tuple[int, str]]:
    """What is wrong in a file, with its lines."""
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("PySide6"):
            for name in node.names:
                yield from _imported(path, node.lineno, name.name)
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
            yield from _called(path, node, node.func.attr)


def _imported(path: Path, line: int, name: str) -> Iterator[tuple[int, str]]:
    if name in ITEMS:
        yield line, f"{name}: Qt owns its items; use a model (frame/rows.py)"
    if name in OWN_CLASSES and path.parent != APP / "frame":
        yield line, f"{name}: use {OWN_CLASSES[name]}"
    if name in ONE_PLACE and path != ONE_PLACE[name]:
        yield line, f"{name} belongs into {ONE_PLACE[name]}"


def _called(path: Path, node: ast.Call, name: str) -> Iterator[tuple[int, str]]:
    if name in LAYOUT:
        yield node.lineno, f"{name}: a layout item in Python outlives the item itself"
    ours = len(node.args) == 1 and isinstance(node.args[0], ast.Constant)
    if name in WORDS and not ours and path not in (PLAIN, APP / "frame" / "menu.py"):
        yield node.lineno, f"{name} reads words as markup; use {WORDS[name]} (frame/text.py)"
    if name == "addAction" and path != PLAIN:
        yield node.lineno, "addAction reads «&» as a shortcut; use add_action (frame/text.py)"
    if name == "installEventFilter" and "instance()" in ast.unparse(node.func):
        yield node.lineno, "a filter over every event of the application"


def main() -> int:
    """Look through the window's files, or those given."""
    paths = [Path(p) for p in sys.argv[1:]] or sorted(APP.rglob("*.py"))
    found = [(path, line, why) for path in paths for line, why in finds(path)]
    for path, line, why in found:
        print(f"{path}:{line}: {why}")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
