"""A device laid open: everything on it is chosen, struck, moved and named where it lies."""

from collections.abc import Callable, Iterable

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QLineEdit, QSizePolicy

from vastzone.app.applying import Performer
from vastzone.app.clock import now_ms
from vastzone.app.drawn import grown, with_words
from vastzone.app.frame.sized import bound
from vastzone.app.holding import Holding
from vastzone.app.key_filter import keeps, key_of
from vastzone.app.reader import Element
from vastzone.app.views.rig.workshop import paint
from vastzone.app.views.rig.workshop.elements import elements as workshop_elements
from vastzone.app.views.rig.workshop.geometry import EMPTY, Bench, Tile, lay_out
from vastzone.core.describe.arranging import duplicate, move_things, paste, reorder
from vastzone.core.describe.numbering import name_things
from vastzone.core.describe.removing import remove_things
from vastzone.core.describe.things import Thing, choice_of, chosen_in, item_of
from vastzone.core.describe.words import thing_words
from vastzone.core.plan.model.plan import Device
from vastzone.core.plan.queries.capabilities import control_ability
from vastzone.core.plan.refs import ref_to
from vastzone.core.say import say
from vastzone.desk.session import Desk

FAR = 5.0
"""Pixels that the mouse has to go before something is moved."""
STEP, FINE = 5.0, 1.0
"""Millimetres that an arrow key moves by."""
HARD = 96
ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class WorkshopCanvas(Holding):
    """Paints one device.  What is chosen in it is what the desk has selected.

    ``told`` carries a sentence about what is pointed at.
    """

    told = Signal(str)

    def __init__(self, desk: Desk, describe: Performer) -> None:
        super().__init__()
        self._desk, self._describe = desk, describe
        self._device: Device | None = None
        self.bench: Bench = EMPTY
        self._pressed: Tile | None = None
        self._from = QPointF()
        self._to = QPointF()
        self._moving = self._drawing = False
        self._struck: Callable[[], object] | None = None
        self._copied: tuple[Device, tuple[Thing, ...]] | None = None
        self._naming: QLineEdit | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(say("The device: its face, its back and what is inside"))

    def show_device(self, device: Device | None) -> None:
        """Lay a device open, or none."""
        self._device = device
        self.bench = EMPTY if device is None else lay_out(device, float(self.width()))
        bound(self, "MinimumHeight", round(self.bench.height))
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Follow the window."""
        self.show_device(self._device)

    @property
    def chosen(self) -> tuple[Thing, ...]:
        """The things that are selected."""
        return () if self._device is None else chosen_in(self._device, self._desk.selection)

    def choose(self, things: Iterable[Thing]) -> None:
        """Select things of the device; the device itself where there are none."""
        if self._device is not None:
            self._desk.select(choice_of(self._device.id, tuple(dict.fromkeys(things))))

    def elements(self) -> list[Element]:
        """Every thing of the device."""
        if self._device is None:
            return []
        chosen = frozenset(self.chosen)
        bank = self._desk.bank
        told = workshop_elements(self._device, self.bench, bank, chosen, self.choose)
        return with_words(told, self.said)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The device, and what is being done to it."""
        if self._device is None:
            return
        painter = self.painter()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = frozenset(self.chosen)
        paint.paint_bench(painter, self.bench, self._device, chosen, self._desk.bank)
        if self._moving:
            shift = self._to - self._from
            for thing in chosen:
                tile = self.bench.tile(thing)
                if tile is not None:
                    paint.paint_choice(painter, tile.rect.translated(shift))
        if self._drawing:
            paint.paint_lasso(painter, QRectF(self._from, self._to).normalized())
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose and strike what is pressed, or begin to draw around things."""
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        self.setFocus()
        point = event.position()
        self._from = self._to = point
        tile = self._pressed = self.bench.at(point)
        adding = bool(event.modifiers() & (CTRL | SHIFT))
        if tile is None:
            self._drawing = True
            if not adding:
                self.choose(())
        elif adding:
            kept = [thing for thing in self.chosen if thing != tile.thing]
            self.choose(kept if tile.thing in self.chosen else [*kept, tile.thing])
        else:
            if tile.thing not in self.chosen:
                self.choose((tile.thing,))
            self._strike(tile, point)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move what is held, or draw on; else tell what is pointed at."""
        self._to = event.position()
        held = bool(event.buttons() & Qt.MouseButton.LeftButton)
        if held and self._pressed is not None and not self._moving:
            self._moving = (self._to - self._from).manhattanLength() > FAR
            if self._moving:
                self.let_go()
        if self._moving or self._drawing:
            self.update()
        elif not held and self._device is not None:
            tile = self.bench.at(self._to)
            words = "" if tile is None else thing_words(self._device, tile.thing, self._desk.bank)
            self.told.emit(words)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Put down what was moved, choose what was drawn around."""
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        self.let_go()
        moving, drawing = self._moving, self._drawing
        pressed, self._pressed = self._pressed, None
        self._moving = self._drawing = False
        if moving and pressed is not None and self._device is not None:
            self._put_down(self._device.id, pressed, event.position())
        elif drawing:
            inside = self.bench.within(QRectF(self._from, event.position()).normalized())
            adding = event.modifiers() & (CTRL | SHIFT)
            self.choose((*self.chosen, *inside) if adding else inside)
        elif pressed is not None and not event.modifiers() and len(self.chosen) > 1:
            self.choose((pressed.thing,))
        self.update()

    def _put_down(self, device: str, pressed: Tile, at: QPointF) -> None:
        """On the face by millimetres; elsewhere before the one that it is dropped on."""
        if pressed.thing.group in ("controls", "keybeds"):
            shift = (at - self._from) / self.bench.scale
            self._describe(move_things(device, self.chosen, shift.x(), shift.y()))
            return
        under = self.bench.at(at)
        if under is not None and under.thing.group == pressed.thing.group:
            self._describe(reorder(device, self.chosen, under.thing))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Name what is pressed twice."""
        tile = self.bench.at(event.position())
        if tile is not None:
            self.choose((tile.thing,))
            self.begin_to_name()

    def _strike(self, tile: Tile, point: QPointF) -> None:
        """A key, pad or button that is pressed is struck too."""
        item = None if self._device is None else item_of(self._device, tile.thing)
        if item is None or self._device is None:
            return
        ref, stage = ref_to(self._device.id, tile.thing.id), self._desk.stage
        if tile.thing.group == "keybeds":
            share = (point.x() - tile.rect.left()) / max(1.0, tile.rect.width())
            key = min(item.high, item.low + int(share * item.keys))
            stage.press(ref, key, HARD, now_ms())
            self._struck = lambda: stage.release(ref, key, now_ms())
        elif tile.thing.group == "controls" and control_ability(item).pressed:
            touched = ref, min(self._desk.bank, item.banks)
            stage.move(touched, HARD, now_ms())
            self._struck = lambda: stage.move(touched, 0, now_ms())

    def let_go(self) -> None:
        """Release what is struck."""
        struck, self._struck = self._struck, None
        if struck is not None:
            struck()

    def heard(self, event: QEvent) -> bool:
        """Keep keys that mean something here from the window's shortcuts."""
        mine = [Qt.Key.Key_Delete, Qt.Key.Key_Backspace, Qt.Key.Key_F2]
        if isinstance(event, QKeyEvent) and event.modifiers() & CTRL:
            mine += [Qt.Key.Key_A, Qt.Key.Key_C, Qt.Key.Key_V, Qt.Key.Key_J]
        return keeps(event, mine) or super().heard(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows go from thing to thing, Ctrl moves them; names, copies and removal by keys."""
        key, ctrl = key_of(event), bool(event.modifiers() & CTRL)
        shift = bool(event.modifiers() & SHIFT)
        if key in ARROWS and ctrl:
            self._nudge(*ARROWS[key], FINE if shift else STEP)
        elif key in ARROWS:
            self._step(*ARROWS[key], adding=shift)
        elif key in (Qt.Key.Key_F2, Qt.Key.Key_Return, Qt.Key.Key_Enter) and not ctrl:
            self.begin_to_name()
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.remove()
        elif ctrl and key in self._shortcuts():
            self._shortcuts()[key]()
        else:
            super().keyPressEvent(event)

    def _shortcuts(self) -> dict[Qt.Key, Callable[[], object]]:
        return {
            Qt.Key.Key_A: self.choose_alike,
            Qt.Key.Key_C: self.copy,
            Qt.Key.Key_V: self.paste,
            Qt.Key.Key_J: self.duplicate,
        }

    def _nudge(self, right: int, down: int, step: float) -> None:
        if self._device is not None and self.chosen:
            edit = move_things(self._device.id, self.chosen, right * step, down * step)
            self._describe(edit)

    def _step(self, right: int, down: int, *, adding: bool) -> None:
        """Choose the next thing in a direction, or one more."""
        tiles = [tile for section in self.bench.sections for tile in section.tiles]
        here = self.bench.tile(self.chosen[-1]) if self.chosen else None
        if here is None:
            best: Tile | None = tiles[0] if tiles else None
        else:
            best = _nearest(here, tiles, right, down)
        if best is not None:
            self.choose((*self.chosen, best.thing) if adding else (best.thing,))
            if self._device is not None:
                self.told.emit(thing_words(self._device, best.thing, self._desk.bank))

    def choose_alike(self) -> None:
        """Choose everything of the kinds that are chosen; all that lies on the face without any."""
        if self._device is None:
            return
        kinds = {_kind(self._device, thing) for thing in self.chosen}
        alike = []
        for section in self.bench.sections:
            for tile in section.tiles:
                if not kinds or _kind(self._device, tile.thing) in kinds:
                    alike.append(tile.thing)
        self.choose(alike)

    def copy(self) -> None:
        """Keep what is chosen, to be pasted."""
        if self._device is not None and self.chosen:
            self._copied = self._device, self.chosen

    def paste(self) -> None:
        """Put what was copied into this device."""
        if self._device is not None and self._copied is not None:
            self._describe(paste(self._device, *self._copied))

    def duplicate(self) -> None:
        """Put a copy of what is chosen beside it."""
        if self._device is not None and self.chosen:
            self._describe(duplicate(self._device, self.chosen))

    def remove(self) -> None:
        """Take what is chosen out of the device."""
        if self._device is not None and self.chosen:
            self._describe(remove_things(self._device.id, self.chosen))

    def begin_to_name(self) -> None:
        """Let the chosen things be named, where they lie; several by a pattern."""
        tile = self.bench.tile(self.chosen[0]) if self.chosen else None
        if tile is None or self._device is None:
            return
        field = self._naming or QLineEdit(self)
        if self._naming is None:
            field.setAccessibleName(say("Name of what is chosen"))
            field.editingFinished.connect(self._named)
        self._naming = field
        several = len(self.chosen) > 1
        item = item_of(self._device, tile.thing)
        field.setText(f"{item.name.rstrip('0123456789 ')} {{n}}" if several else item.name)
        wide = max(140.0, tile.rect.width())
        left = min(max(4.0, tile.rect.center().x() - wide / 2), self.width() - wide - 4)
        field.setGeometry(grown(left), grown(tile.rect.center().y() - 14), grown(wide), grown(28))
        field.show()
        field.selectAll()
        field.setFocus()

    def _named(self) -> None:
        field, device = self._naming, self._device
        if field is None or field.isHidden() or device is None:
            return
        words, chosen = field.text(), self.chosen
        field.hide()
        self.setFocus()
        if chosen and words.strip():
            self._describe(name_things(device, chosen, words))


def _kind(device: Device, thing: Thing) -> str:
    item = item_of(device, thing)
    return f"{thing.group} {getattr(item, 'kind', '')}"


def _nearest(here: Tile, tiles: list[Tile], right: int, down: int) -> Tile | None:
    """The next tile in a direction."""

    def cost(tile: Tile) -> float:
        away = tile.rect.center() - here.rect.center()
        along = away.x() * right + away.y() * down
        across = abs(away.x() * down) + abs(away.y() * right)
        return along + 2.2 * across if along > 2.0 else float("inf")

    best = min(tiles, key=cost, default=None)
    return best if best is not None and cost(best) < float("inf") else None
