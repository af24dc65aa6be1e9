"""The pages as they will be printed, looked at before they are printed or saved."""

from collections.abc import Iterator

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPixmap
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from vastzone.app import dialogs
from vastzone.app.frame.dialog import Dialog
from vastzone.app.frame.text import Button, Label, set_title
from vastzone.core.errors import PlanError
from vastzone.core.say import say
from vastzone.core.text import quoted
from vastzone.files.whole import write_whole

SCREEN_DPI, PRINT_DPI = 96, 300
MOST = 40


def page_count(pdf: bytes) -> int:
    """How many pages a PDF has."""
    import pypdfium2

    document = pypdfium2.PdfDocument(pdf)
    try:
        return len(document)
    finally:
        document.close()


def pages(pdf: bytes, dpi: int, most: int = 10_000) -> Iterator[QImage]:
    """The pages of a PDF as pictures, a point being 1/72 inch."""
    import pypdfium2

    document = pypdfium2.PdfDocument(pdf)
    try:
        for number in range(min(len(document), most)):
            drawn = document[number].render(scale=dpi / 72)
            image = drawn.to_pil().convert("RGB")
            data = image.tobytes()
            yield QImage(
                data, image.width, image.height, 3 * image.width, QImage.Format.Format_RGB888
            ).copy()
    finally:
        document.close()


def print_pages(pdf: bytes, printer: QPrinter) -> int:
    """Print a PDF, a page a sheet; how many."""
    painter = QPainter(printer)
    count = 0
    for image in pages(pdf, PRINT_DPI):
        if count:
            printer.newPage()
        count += 1
        area = QRectF(painter.viewport())
        size = image.size().scaled(area.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
        painter.drawImage(QRectF(0, 0, size.width(), size.height()), image)
    painter.end()
    return count


class Preview(Dialog):
    """The pages below each other, to be printed or saved."""

    def __init__(self, parent: QWidget, title: str, pdf: bytes) -> None:
        super().__init__(parent)
        self._pdf, self._name = pdf, title
        set_title(self, title)
        self.resize(900, 760)
        box = QVBoxLayout(self)
        box.setContentsMargins(14, 12, 14, 12)
        count = page_count(pdf)
        shown = "" if count <= MOST else say(", the first {most} shown", most=MOST)
        self.count = Label(
            say("{count} pages{shown}", count=count, shown=shown)
            if count != 1
            else say("{count} page{shown}", count=count, shown=shown)
        )
        self.count.setProperty("role", "muted")
        row = QHBoxLayout()
        row.addWidget(self.count)
        row.addStretch()
        self.print = Button(say("Print…"))
        self.print.setProperty("role", "primary")
        self.print.clicked.connect(self._print)
        close = Button(say("Close"))
        close.clicked.connect(self.reject)
        self.save = Button(say("Save as PDF…"))
        self.save.clicked.connect(self._save)
        row.addWidget(close)
        row.addWidget(self.save)
        row.addWidget(self.print)
        scroll = QScrollArea()
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setAccessibleName(say("Pages"))
        body = QWidget()
        inside = QVBoxLayout(body)
        inside.setSpacing(14)
        for image in pages(pdf, SCREEN_DPI, MOST):
            sheet = Label()
            sheet.setPixmap(QPixmap.fromImage(image))
            sheet.setFrameShape(QFrame.Shape.Box)
            inside.addWidget(sheet, 0, Qt.AlignmentFlag.AlignHCenter)
        inside.addStretch()
        scroll.setWidget(body)
        box.addWidget(scroll, 1)
        box.addLayout(row)

    def _print(self) -> None:
        printer = dialogs.ask_printer(self)
        if printer is not None:
            count = print_pages(self._pdf, printer)
            self.count.setText(
                say("{count} pages sent to the printer.", count=count)
                if count != 1
                else say("{count} page sent to the printer.", count=count)
            )

    def _save(self) -> None:
        path = dialogs.ask_save_pdf(self, self._name)
        if path is None:
            return
        try:
            write_whole(self._pdf, path, say("The sheet"), replace=True)
        except PlanError as error:
            self.count.setText(str(error))
        else:
            self.count.setText(say("Written: {path}", path=quoted(path.name)))
