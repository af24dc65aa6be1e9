"""The style sheet of a theme."""

import re
from pathlib import Path
from string import Template

from vastzone.app.theme.colours import Colours

_ICONS = (Path(__file__).parents[1] / "assets" / "icons").as_posix()
_SHEET = Template("""
QMainWindow, QDialog, QMessageBox { background: $paper; }
QDialog { border: 1px solid $muted; }
QTabWidget::pane { border: 1px solid $line; border-radius: 8px; background: $panel; top: -1px; }
QTabWidget > QStackedWidget > QScrollArea > QWidget > QWidget { background: $panel; }
QTabBar::tab { background: transparent; color: $muted; padding: 7px 13px; margin-right: 2px;
  border: 1px solid transparent; border-bottom: 2px solid transparent; }
QTabBar::tab:selected { color: $ink; font-weight: 600; border-bottom: 2px solid $action; }
QTabBar::tab:hover { background: $action_soft; border-radius: 6px; }
QTabBar::tab:focus { border: 2px solid $action; border-radius: 6px; }
#header { background: $panel; border-bottom: 1px solid $line; }
#rail { background: $panel; border-right: 1px solid $line; }
#facts, #factsBody, #factsScroll { background: $panel; }
#facts { border-left: 1px solid $line; }
#strip { background: $panel; border-top: 1px solid $line; }
#finderCard { background: $raised; border: 1px solid $line; border-radius: 9px; }
#canvasScroll, #viewBody, #viewScroll { background: $paper; border: none; }
#canvasScroll { min-height: 150px; }
QToolButton[role="handle"] { border: none; border-left: 1px solid $line; border-radius: 0;
  background: $panel; padding: 12px 3px; }
Label { background: transparent; }
Label[role="title"] { font-size: ${title}px; font-weight: 600; }
Label[role="scene"] { font-size: ${scene}px; font-weight: 700; }
Label[role="heading"] { font-weight: 600; color: $muted; font-size: ${small}px; }
Label[role="muted"] { color: $muted; font-size: ${small}px; }
Label[role="small"] { font-size: ${small}px; }
Label[role="fault"], Label[severity="fault"] { color: $fault; }
Label[severity="caution"] { color: $caution; }
Label[role="warning"] { color: $caution; font-weight: 700; border: 1px solid $caution;
    border-radius: 6px; padding: 8px 10px; }
Label[severity="hint"] { color: $muted; }
QPushButton, QToolButton {
  background: $raised; border: 1px solid $line; border-radius: 7px; padding: 5px 11px;
}
QToolButton { padding: 5px; }
QToolButton::menu-indicator { image: none; }
QPushButton:hover, QToolButton:hover { background: $action_soft; border-color: $action; }
QPushButton:pressed, QToolButton:pressed, QToolButton:checked { background: $action_soft; }
QPushButton:disabled, QToolButton:disabled { color: $muted; background: transparent; }
QPushButton:focus, QToolButton:focus, QLineEdit:focus, QSpinBox:focus, QComboBox:focus,
QListView:focus, QTableView:focus { border: 2px solid $action; }
QPushButton[role="primary"] { background: $action; color: $on_action; border-color: $action;
  font-weight: 600; }
QPushButton[role="primary"]:disabled { background: $sunken; color: $muted; border-color: $line; }
QPushButton[role="panic"] { background: $fault_soft; color: $fault; border: 1px solid $fault;
  font-weight: 700; padding: 6px 14px; }
QPushButton[role="panic"]:hover { background: $fault; color: $paper; }
QPushButton[role="fix"] { text-align: left; padding: 4px 9px; color: $action;
  background: transparent; border: 1px solid $line; }
QPushButton[role="fix"]:hover { background: $action_soft; }
QPushButton[role="link"] { text-align: left; background: transparent; border: none;
  padding: 1px 4px; color: $muted; }
QPushButton[role="link"]:hover { color: $action; text-decoration: underline; }
QPushButton[role="link"]:focus { border: 2px solid $action; border-radius: 4px; }
QLineEdit, QSpinBox, QDoubleSpinBox, QComboBox, QPlainTextEdit {
  background: $raised; border: 1px solid $edge; border-radius: 6px; padding: 3px 7px;
  selection-background-color: $action; selection-color: $on_action;
}
QLineEdit[bad="true"] { border: 2px solid $fault; background: $fault_soft; }
QComboBox QAbstractItemView, QMenu, QListView, QTableView, QTreeView {
  background: $raised; border: 1px solid $line; selection-background-color: $action_soft;
  selection-color: $ink; outline: none;
}
QMenu { padding: 5px; }
QMenu::item { padding: 6px 26px 6px 12px; border-radius: 5px; }
QMenu::item:selected { background: $action_soft; }
QMenu::item:disabled { color: $muted; }
QMenu::separator { height: 1px; background: $line; margin: 5px 8px; }
QComboBox { padding-right: 4px; }
QComboBox::drop-down { border: none; width: 24px; }
QComboBox::down-arrow { image: url("$icons/drop-$name.svg"); width: 16px; height: 16px; }
QCheckBox { spacing: 8px; padding: 3px 0; }
QCheckBox::indicator, QTableView::indicator, QListView::indicator { width: 18px; height: 18px;
  border: 1px solid $muted; border-radius: 4px; background: $raised; }
QCheckBox::indicator:checked, QTableView::indicator:checked, QListView::indicator:checked {
  background: $action; border-color: $action; image: url("$icons/tick-$name.svg"); }
QCheckBox::indicator:focus { border: 2px solid $action; }
QToolButton[role="lock"] { padding: 2px; border: none; background: transparent; }
QToolButton[role="lock"]:checked { background: $sunken; border-radius: 5px; }
QToolButton[role="lock"]:hover { background: $action_soft; border-radius: 5px; }
QToolButton[role="lock"]:focus { border: 2px solid $action; border-radius: 5px; }
QToolButton[role="step"] { padding: 1px; min-width: 26px; font-weight: 700; }
QScrollArea { border: none; background: transparent; }
QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
QScrollBar::handle { background: $line; border-radius: 5px; min-height: 30px; min-width: 30px; }
QScrollBar::handle:hover { background: $muted; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QSlider::groove:horizontal { height: 4px; background: $line; border-radius: 2px; }
QSlider::sub-page:horizontal { background: $action; border-radius: 2px; }
QSlider::handle:horizontal { background: $action; width: 14px; margin: -5px 0; border-radius: 7px; }
QToolTip { background: $ink; color: $paper; border: none; padding: 4px 7px; }
QFrame[role="card"][chosen="true"] { border: 2px solid $action; }
Label[role="good"] { color: $good; font-weight: 600; }
Label[role="body"] { font-size: ${text}px; }
QPushButton[role="bestfix"] { text-align: left; padding: 5px 10px; background: $action;
  color: $on_action; border-color: $action; font-weight: 600; }
QPushButton[role="bestfix"]:hover { border-color: $ink; }
QPushButton[role="page"] { background: transparent; border: 1px solid transparent;
  padding: 5px 8px; color: $muted; }
QPushButton[role="page"]:checked { background: $action_soft; color: $ink; font-weight: 600; }
QPushButton[narrow="true"] { padding-left: 3px; padding-right: 3px; }
QPushButton:checked { background: $action_soft; border-color: $action; font-weight: 600; }
QPushButton[role="lens"]:checked { background: $caution_soft; border-color: $caution;
  color: $ink; }
#header[lens="dialled"] { border-bottom: 3px solid $caution; }
#guide { background: $action_soft; border-bottom: 1px solid $line; }
QPushButton[role="hintstep"] { background: transparent; border: 1px solid transparent;
  padding: 4px 9px; color: $muted; }
QPushButton[role="hintstep"][state="next"] { background: $raised; border-color: $action;
  color: $ink; font-weight: 600; }
QPushButton[role="hintstep"][state="done"] { color: $ink; }
#guide QToolButton { border: none; background: transparent; }
RowList { border-radius: 7px; }
RowList::item { padding: 6px 8px; border-radius: 5px; }
RowList::item:selected { background: $action_soft; color: $ink; }
QProgressBar { background: $sunken; border: none; border-radius: 4px; }
QProgressBar::chunk { background: $action; border-radius: 4px; }
QFrame[role="card"] { background: $raised; border: 1px solid $line; border-radius: 9px; }
QFrame[role="fault"] { background: $fault_soft; border: none; border-left: 4px solid $fault;
  border-radius: 5px; }
QFrame[role="caution"] { background: $caution_soft; border: none; border-left: 4px solid $caution;
  border-radius: 5px; }
QFrame[role="hint"] { background: $sunken; border: none; border-left: 4px solid $muted;
  border-radius: 5px; }
QHeaderView::section { background: $panel; border: none; border-bottom: 1px solid $line;
  padding: 5px 9px; font-weight: 600; color: $muted; }
QTableView::item { padding: 2px 9px; }
QProgressBar { background: $sunken; border: none; border-radius: 4px; height: 8px; }
QProgressBar::chunk { background: $action; border-radius: 4px; }
QPushButton:focus, QPushButton[role]:focus, QPushButton[role]:checked:focus, QToolButton:focus,
QToolButton[role]:focus, QToolButton[role]:checked:focus, #guide QToolButton:focus,
QLineEdit:focus, QSpinBox:focus, QDoubleSpinBox:focus, QComboBox:focus, QPlainTextEdit:focus,
QListView:focus, QTableView:focus, QTreeView:focus { border: 2px solid $action; }
QPushButton[role="panic"]:focus { border: 3px solid $ink; }
QPushButton[role="primary"]:focus, QPushButton[role="bestfix"]:focus {
  background: $raised; color: $action; border: 2px solid $action; }
QCheckBox:focus { border: 2px solid $action; border-radius: 5px; }
QSlider::handle:horizontal:focus { background: $ink; }
""")


_LENGTH = re.compile(r"(\d+)px")
HAIR = 2
"""Lines up to so many pixels stay as thin when everything else grows."""


def _grown(length: re.Match[str], zoom: float) -> str:
    pixels = int(length[1])
    return length[0] if pixels <= HAIR else f"{round(pixels * zoom)}px"


def sheet(colours: Colours, name: str, zoom: float = 1.0) -> str:
    """The style sheet, its lengths and letters ``zoom`` times as large as at 100 %."""
    values = {}
    for k, v in colours._asdict().items():
        if isinstance(v, str):
            values[k] = v
    text = colours.text_px
    filled = _SHEET.substitute(
        values,
        name=name,
        icons=_ICONS,
        text=text,
        small=text - 1,
        title=text + 3,
        scene=text + 10,
    )
    return _LENGTH.sub(lambda length: _grown(length, zoom), filled)
