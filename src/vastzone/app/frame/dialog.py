"""What every dialog of the window is: gone once it is closed."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QWidget


class Dialog(QDialog):
    """A dialog that Qt deletes as it is closed; those left behind would all be styled again."""

    def __init__(
        self, parent: QWidget, kind: Qt.WindowType = Qt.WindowType.Dialog, *, kept: bool = False
    ) -> None:
        super().__init__(parent, kind)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose, not kept)
