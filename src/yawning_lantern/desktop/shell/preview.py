"""Print preview: the template pages as they will come out, at any zoom, with print and PDF."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QMarginsF, QPointF, QRectF, QSize, QSizeF
from PySide6.QtGui import (
    QColor,
    QFont,
    QFontMetricsF,
    QPagedPaintDevice,
    QPageLayout,
    QPageSize,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.desktop.shared.spoken import GRAPHIC
from yawning_lantern.desktop.shared.theme import FAMILY
from yawning_lantern.errors import LanternError
from yawning_lantern.exchange.pages import PAPERS, template_pages
from yawning_lantern.exchange.pdf import write_templates
from yawning_lantern.exchange.shapes import DASHES, GREY, WIDTHS, Page, Pen, Stroke
from yawning_lantern.study import Study

PAPER_NAMES = {"letter": "Letter", "a4": "A4", "a3": "A3", "12x12": "12 × 12 in"}


def _ink(pen: Pen) -> QColor:
    return QColor.fromRgbF(*[max(GREY.get(pen, 0.0), 0.067)] * 3)


def paint_page(painter: QPainter, page: Page, scale: float) -> None:
    """A page at `scale` pixels a mm, its upper left at the painter's origin. The same shapes as in the PDF."""
    for shape in page.shapes:
        if isinstance(shape, Stroke):
            pen = QPen(_ink(shape.pen), max(WIDTHS[shape.pen] * scale, 0.6))
            if DASHES[shape.pen]:
                pen.setDashPattern([max(d * scale, 0.5) / pen.widthF() for d in DASHES[shape.pen]])
            painter.setPen(pen)
            painter.drawLine(*(QPointF(x * scale, (page.height - y) * scale) for x, y in (shape.start, shape.end)))
        else:
            font = QFont(FAMILY)
            font.setPixelSize(max(1, round(shape.size * scale)))
            font.setBold(shape.bold)
            painter.setFont(font)
            painter.setPen(QColor("#111111"))
            wide = QFontMetricsF(font).horizontalAdvance(shape.text)
            left = shape.at[0] * scale - {"left": 0.0, "middle": wide / 2, "right": wide}[shape.anchor]
            painter.drawText(QPointF(left, (page.height - shape.at[1]) * scale), shape.text)


class PageSheet(QWidget):
    """All pages one below the other."""

    spoken_role = GRAPHIC

    def __init__(self) -> None:
        super().__init__()
        self.pages: list[Page] = []
        self.scale = 2.0
        self.setAccessibleName("Template pages")

    def show_pages(self, pages: list[Page]) -> None:
        """Show other pages."""
        self.pages = pages
        self.setMinimumSize(self.sizeHint())
        self.update()

    def sizeHint(self) -> QSize:
        if not self.pages:
            return QSize(400, 300)
        wide = max(p.width for p in self.pages) * self.scale + 40
        return QSize(int(wide), int(sum(p.height * self.scale + 16 for p in self.pages)) + 16)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        y = 16.0
        for page in self.pages:
            width, height = page.width * self.scale, page.height * self.scale
            x = (self.width() - width) / 2
            if y + height >= event.rect().top() and y <= event.rect().bottom():
                painter.fillRect(QRectF(x + 3, y + 3, width, height), QColor(0, 0, 0, 60))
                painter.fillRect(QRectF(x, y, width, height), QColor("#ffffff"))
                painter.save()
                painter.translate(x, y)
                paint_page(painter, page, self.scale)
                painter.restore()
            y += height + 16


class Preview(QDialog):
    """Not modal: the design may be changed meanwhile, and the pages follow."""

    def __init__(self, study: Study, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Templates at 1:1")
        self.resize(900, 760)
        self._study = study
        self.paper = QComboBox()
        for key in PAPERS:
            self.paper.addItem(PAPER_NAMES[key], key)
        self.paper.setCurrentIndex(0 if study.design.units == "in" else 1)
        self.paper.setAccessibleName("Paper")
        self.paper.currentIndexChanged.connect(self.refresh)
        self.count = QLabel()
        self.told = QLabel()
        self.told.setWordWrap(True)
        smaller, larger = QPushButton("Smaller"), QPushButton("Larger")
        smaller.clicked.connect(lambda: self._zoom(1 / 1.25))
        larger.clicked.connect(lambda: self._zoom(1.25))
        self.save = QPushButton("Save as PDF …")
        self.save.setObjectName("go")
        self.save.clicked.connect(self._save)
        self.print_button = QPushButton("Print …")
        self.print_button.clicked.connect(self._print)
        row = QHBoxLayout()
        for widget in (QLabel("Paper"), self.paper, self.count, smaller, larger, self.print_button, self.save):
            row.addWidget(widget)
        row.insertStretch(3, 1)
        self.sheet = PageSheet()
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(self.sheet)
        layout = QVBoxLayout(self)
        layout.addLayout(row)
        layout.addWidget(self.told)
        layout.addWidget(area, 1)
        self.refresh()

    def show_study(self, study: Study) -> None:
        """Follow the design."""
        self._study = study
        self.refresh()

    def refresh(self) -> None:
        """Lay the pages out anew."""
        pages = template_pages(self._study, str(self.paper.currentData()), self._study.design.units)
        self.sheet.show_pages(pages)
        self.count.setText(f"{len(pages)} page{'s' if len(pages) != 1 else ''}")
        self.told.setText("Print at 100 %, never “fit to page”, and measure the bar before you cut.")

    def _zoom(self, factor: float) -> None:
        self.sheet.scale = max(0.8, min(8.0, self.sheet.scale * factor))
        self.sheet.show_pages(self.sheet.pages)

    def _save(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Save templates", f"{self._study.design.name}.pdf", "PDF (*.pdf)")
        if name:
            self.save_to(Path(name))

    def save_to(self, path: Path) -> None:
        """Write the PDF; what goes wrong is told above the pages."""
        try:
            count = write_templates(self._study, path, str(self.paper.currentData()), self._study.design.units)
        except LanternError as error:
            self.told.setText(f"✕ {error.sentence()}")
            return
        self.told.setText(f"Saved {count} pages to {path}.")

    def _print(self) -> None:
        from PySide6.QtPrintSupport import QPrintDialog, QPrinter  # loads the print system: only when asked for

        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        if QPrintDialog(printer, self).exec() == QDialog.DialogCode.Accepted:
            self.print_to(printer)

    def print_to(self, printer: QPagedPaintDevice) -> None:
        """Every page on a printer, 1:1."""
        first = self.sheet.pages[0]
        size = QPageSize(QSizeF(first.width, first.height), QPageSize.Unit.Millimeter)
        layout = QPageLayout(size, QPageLayout.Orientation.Portrait, QMarginsF(0, 0, 0, 0))
        layout.setMode(QPageLayout.Mode.FullPageMode)
        printer.setPageLayout(layout)
        painter = QPainter(printer)
        scale = printer.logicalDpiX() / 25.4
        for index, page in enumerate(self.sheet.pages):
            if index:
                printer.newPage()
            paint_page(painter, page, scale)
        painter.end()
