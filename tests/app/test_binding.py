import sys

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPixmap


def test_the_qt_binding_keeps_count_of_nothing(qapp):
    """One release of the binding let go of None at every call, and crashed after a while."""
    image = QPixmap(8, 8)
    painter = QPainter(image)
    before = sys.getrefcount(None)
    for _ in range(500):
        painter.drawText(QRectF(0, 0, 8, 8), 0, "x")
        qapp.processEvents()
    painter.end()
    assert sys.getrefcount(None) > before - 100
