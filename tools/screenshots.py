"""Make the pictures in ``docs/screenshots`` from the demo data, without a screen.

python tools/screenshots.py [FOLDER]
"""

import os
import sys
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QPointF
from PySide6.QtGui import QColor, QPainter, QPixmap
from PySide6.QtWidgets import QApplication

from vastzone import demo
from vastzone.app.frame.work_out import WorkOut
from vastzone.app.theme.current import THEME
from vastzone.app.window import Window

OUT = Path(__file__).parents[1] / "docs" / "screenshots"


def settle(app: QApplication) -> None:
    for _ in range(6):
        app.processEvents()


def keys(window: Window, app: QApplication, scene: str, ref: str, notes: tuple[int, ...]) -> None:
    window.show_view("keys")
    window.desk.go_to_scene(scene)
    window.desk.select(ref)
    settle(app)
    for note in notes:
        window.desk.stage.press("heron:keys", note, 92, 1000.0 * note)
    picture = window.keys.canvas.picture.beds[0]
    x = window.keys.canvas.picture.axis.x(notes[0]) + 3 if notes else 0
    hit = window.keys.canvas.hit(QPointF(x, picture.keys.bottom() - 5))
    window.keys.pointer.show_hit(hit)
    settle(app)


def main(folder: Path) -> None:
    app = QApplication(sys.argv[:1])
    app.setStyle("Fusion")
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as state:
        window = Window(Path(state))
        window.fill()
        window.show()
        window.documents.open_path(demo.AS_FOUND, untitled=True)
        window.desk.wake()
        shots = (
            ("keys-day", "day", "the-keepers-stair", "heron:strings", (64, 67, 76)),
            ("keys-findings", "day", "squall", "", (60,)),
            ("keys-stage", "stage", "herring-market", "heron:brass", (48, 62, 67)),
        )
        for name, theme, scene, ref, notes in shots:
            window.desk.stage.panic()
            THEME.use(theme)
            keys(window, app, scene, ref, notes)
            window.grab().save(str(folder / f"{name}.png"))
        THEME.use("day")
        window.desk.stage.panic()
        window.work_out()
        dialog = window.findChild(WorkOut)
        while not hasattr(dialog, "apply_button"):
            app.processEvents()
        settle(app)
        dialog.resize(1240, 720)
        settle(app)
        shot = QPixmap(1280, 800)
        window.render(shot)
        painter = QPainter(shot)
        painter.fillRect(shot.rect(), QColor(42, 36, 28, 110))
        painter.drawPixmap(20, 40, dialog.grab())
        painter.end()
        shot.save(str(folder / "work-out-numbers.png"))
        dialog.apply_button.click()
        keys(window, app, "the-keepers-stair", "", (64,))
        window.grab().save(str(folder / "keys-solved.png"))
        window.desk.load(window.desk.plan, None)
        window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else OUT)
