"""Make the pictures in ``docs/screenshots`` from the demo data, without a screen.

python tools/screenshots.py [FOLDER]
"""

import os
import sys
import tempfile
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QPointF
from PySide6.QtGui import QColor, QPainter, QPixmap
from PySide6.QtWidgets import QApplication, QScrollArea, QWidget

from vastzone import demo
from vastzone.app.clock import now_ms
from vastzone.app.frame.work_out import WorkOut
from vastzone.app.theme.current import THEME
from vastzone.app.views.scenes.stage import Stage
from vastzone.app.window import Window
from vastzone.core.cards.setlist import rows_of
from vastzone.core.plan.edits.consoles import set_block, set_console
from vastzone.core.plan.model.checked import changed
from vastzone.core.plan.queries import lookup
from vastzone.core.sheets.book import NAMES
from vastzone.core.solve.clash import work_out
from vastzone.core.solve.numbers import Solution

OUT = Path(__file__).parents[1] / "docs" / "screenshots"
DAY = "2026-01-02"
HALF_DOWN = 86
SECOND_PAGE = 790
MORE_PADS = "4 rubber pads model R"


class Camera:
    """The window, and taking its picture."""

    def __init__(self, app: QApplication, window: Window, folder: Path) -> None:
        self.app, self.window, self.folder = app, window, folder

    def settle(self) -> None:
        for _ in range(8):
            self.app.processEvents()

    def take(self, name: str) -> None:
        self.settle()
        self.window.grab().save(str(self.folder / f"{name}.png"))

    def take_dialog(self, dialog: QWidget, name: str) -> None:
        self.settle()
        dialog.grab().save(str(self.folder / f"{name}.png"))
        dialog.close()
        self.settle()

    def open(self, path: Path, theme: str = "day") -> None:
        THEME.use(theme)
        self.window.desk.stage.panic()
        self.window.desk.load(self.window.desk.plan, None)
        self.window.documents.open_path(path, untitled=True)
        self.settle()

    def show(self, view: str, scene: str, ref: str = "") -> None:
        self.window.show_view(view)
        self.window.desk.go_to_scene(scene)
        self.window.desk.select(ref)
        self.settle()

    def strike(self, *notes: int, bed: str = "heron:keys") -> None:
        for note in notes:
            self.window.desk.stage.press(bed, note, 92, now_ms())
        self.settle()


def keys(
    camera: Camera, name: str, theme: str, scene: str, ref: str, notes: tuple[int, ...]
) -> None:
    camera.open(demo.AS_FOUND, theme)
    camera.show("keys", scene, ref)
    camera.strike(*notes)
    canvas = camera.window.keys.canvas
    x = canvas.picture.axis.x(notes[0]) + 3
    hit = canvas.hit(QPointF(x, canvas.picture.beds[0].keys.bottom() - 5))
    camera.window.keys.pointer.show_hit(hit)
    camera.take(name)


def rig(camera: Camera) -> None:
    camera.open(demo.AS_FOUND)
    cable = "cable heron:din-out weir:in-1"
    camera.show("rig", "herring-market", cable)
    camera.take("rig-day")
    workshop(camera)


def workshop(camera: Camera) -> None:
    """A device laid open."""
    camera.open(demo.READY)
    camera.show("rig", "dusk", "dipper")
    view: Any = camera.window.view("rig")
    view.show_page(1)
    camera.show("rig", "dusk", "dipper:knob-1")
    camera.take("device-day")
    view.show_page(0)


def plays(camera: Camera) -> None:
    camera.open(demo.AS_FOUND)
    camera.show("plays", "squall", "wish squall-brass")
    camera.take("plays-day")


def pads(camera: Camera) -> None:
    """The hat with its pedal half down, seventeen pads at their jacks."""
    camera.open(demo.READY)
    camera.show("pads", "squall", "curlew:hat-closed")
    view: Any = camera.window.view("pads")
    view.hat.track.trodden.emit(HALF_DOWN)
    camera.take("pads-day")
    camera.open(demo.AS_FOUND, "stage")
    camera.show("pads", "dusk", "pad ride")
    view.show_page(1)
    view.fit.line.setText(MORE_PADS)
    view.fit.line.returnPressed.emit()
    view.fit.start()
    while view.fit.found is None or not view.fit.found.choices:
        camera.app.processEvents()
    camera.take("inputs-stage")
    view.show_page(0)


def pedals(camera: Camera) -> None:
    camera.open(demo.AS_FOUND)
    camera.show("pedals", "squall", "dipper:knob-2")
    view: Any = camera.window.view("pedals")
    canvas = view.canvas
    for value in (*range(0, 90, 3), *range(90, 70, -2)):
        canvas.set_value(canvas.chosen, value)
        camera.settle()
    camera.take("pedals-day")


def console(camera: Camera) -> None:
    """Two keys held in a console of both schools, then a fault hunted by its reasons."""
    camera.open(demo.READY)
    camera.show("console", "dusk")
    view: Any = camera.window.view("console")
    both_schools(camera)
    for number in (4, 16):
        view.bench.press(view.bench.circuit.contact(0, number))
    camera.take("console-day")
    view.bench.release_all()
    camera.open(demo.AS_FOUND, "stage")
    camera.show("console", "dusk")
    view.show_page(3)
    while view.faults.hunt.busy:
        camera.app.processEvents()
    camera.take("faults-stage")
    view.show_page(0)


def both_schools(camera: Camera) -> None:
    """The counter manual soldered by note names, at an encoder that counts from the lowest key."""
    owner = lookup.device(camera.window.desk.plan, "bittern")
    assert owner.console is not None
    encoder = changed(owner.console.encoder, school="lowest key")
    camera.window.perform(set_console("bittern", "Another encoder", encoder=encoder))
    camera.window.perform(
        set_block("bittern", "counter", "As wired", school="note names", soldered=True)
    )
    camera.settle()


def prove(camera: Camera) -> None:
    view: Any = camera.window.view("prove")
    camera.open(demo.AS_FOUND)
    camera.show("prove", "wreck-bell")
    view.show_page(0)
    view.causes.open_at(0)
    while view.causes.weighing:
        camera.app.processEvents()
    camera.take("prove-day")


def outputs(camera: Camera) -> None:
    """What goes to the desk, how late it is, and what is left without a device."""
    view: Any = camera.window.view("outputs")
    camera.open(demo.READY)
    camera.show("outputs", "squall", "")
    view.show_page(view.page_names.index("Sounds"))
    camera.take("outputs-day")
    camera.open(demo.AS_FOUND)
    camera.show("outputs", "squall", "")
    view.show_page(view.page_names.index("Delay"))
    while len(view.delay.tries) < 2:
        camera.app.processEvents()
    camera.take("delay-day")
    camera.open(demo.READY)
    camera.show("outputs", "squall", "")
    view.show_page(view.page_names.index("Without"))
    devices = len(camera.window.desk.plan.devices)
    while len(view.without.told) < devices:
        camera.app.processEvents()
    view.without.table.selectRow(1)
    camera.take("without-day")
    view.show_page(0)


def cards(camera: Camera) -> None:
    camera.open(demo.AS_FOUND)
    found = work_out(camera.window.desk.plan)
    assert isinstance(found, Solution)
    camera.window.perform(found.edit())
    camera.window.desk.mark_unseen(n.ref for n in found.numbers)
    camera.show("cards", "dusk")
    view: Any = camera.window.view("cards")
    page = view.page
    for row in range(6):
        page.tick(row)
    page.tick(page.at)
    camera.take("cards-day")
    dialled(camera)
    on_paper(camera)


def on_paper(camera: Camera) -> None:
    """Label strips, previewed."""
    view: Any = camera.window.view("cards")
    camera.open(demo.READY)
    camera.show("cards", "dusk")
    view.show_page(3)
    view.sheets.list.go_to(list(NAMES).index("labels"))
    camera.settle()
    while not view.sheets.save.isEnabled():
        camera.app.processEvents()
    (area,) = view.sheets.findChildren(QScrollArea)
    camera.settle()
    area.verticalScrollBar().setValue(SECOND_PAGE)
    camera.take("sheets-day")
    view.show_page(0)


def dialled(camera: Camera) -> None:
    """One line at a time with the simulated panel, on stage."""
    view: Any = camera.window.view("cards")
    THEME.use("stage")
    view.show_device("dipper")
    view.show_page(1)
    view.dial.practise.setChecked(True)
    for _ in range(7):
        view.dial.do()
    camera.take("dial-it-stage")
    view.dial.practise.setChecked(False)
    view.show_page(0)
    THEME.use("day")


def scenes(camera: Camera) -> None:
    """The evening, and the song that is played from afar."""
    camera.open(demo.AS_FOUND)
    camera.show("scenes", "squall", "song squall")
    view: Any = camera.window.view("scenes")
    camera.take("scenes-day")
    stage = Stage(
        camera.window.desk, lambda: rows_of(camera.window.desk.plan, view.evening.setlist)
    )
    stage.resize(1280, 800)
    camera.take_dialog(stage, "stage")


def numbers(camera: Camera) -> None:
    camera.open(demo.AS_FOUND)
    camera.show("keys", "herring-market")
    window = camera.window
    window.work_out()
    dialog = window.findChildren(WorkOut)[-1]
    while not hasattr(dialog, "apply_button"):
        camera.app.processEvents()
    dialog.resize(1240, 720)
    camera.settle()
    shot = QPixmap(1280, 800)
    window.render(shot)
    painter = QPainter(shot)
    painter.fillRect(shot.rect(), QColor(42, 36, 28, 110))
    painter.drawPixmap(20, 40, dialog.grab())
    painter.end()
    shot.save(str(camera.folder / "work-out-numbers.png"))
    dialog.close()


def main(folder: Path) -> None:
    app = QApplication(sys.argv[:1])
    app.setStyle("Fusion")
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as state:
        window = Window(Path(state))
        window.fill()
        window.resize(1280, 800)
        window.show()
        window.desk.wake()
        camera = Camera(app, window, folder)
        keys(camera, "keys-day", "day", "the-keepers-stair", "heron:strings", (64, 67, 76))
        for shoot in (rig, plays, pads, pedals, console, scenes, outputs, prove, cards, numbers):
            shoot(camera)
        window.desk.load(window.desk.plan, None)
        window.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else OUT)
