"""A way into a design: a picture, a few lengths, and a button. Three of them stand on the Idea page."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from yawning_lantern.design import Design, Value
from yawning_lantern.desktop.theme import DAY, Theme
from yawning_lantern.errors import LanternError
from yawning_lantern.measure import Units
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import family, parameter, read_setting, start_design
from yawning_lantern.study import Study


@dataclass(frozen=True, slots=True)
class Start:
    """One way in: its id, words, and the parameters it asks for with what stands there at first, by units."""

    id: str
    title: str
    about: str
    fields: tuple[tuple[str, str, dict[str, str]], ...]


STARTS = (
    Start("contents", "What must it hold?", "Measure the thing. Walls, layers and lid follow from it.", (
        ("content-width", "Wide", {"in": "2 3/8", "mm": "60"}), ("content-depth", "Deep", {"in": "2 3/8", "mm": "60"}),
        ("content-height", "Tall", {"in": "1 3/4", "mm": "45"}),
    )),
    Start("size", "What size shall it be?", "Give base and wall. Layers and lid are fitted to them.", (
        ("base", "Base", {"in": "4", "mm": "100"}), ("wall", "Wall", {"in": "4", "mm": "100"}),
    )),
    Start("sheet", "What sheet is at hand?", "The largest box the sheet gives. The wall may be left open.", (
        ("sheet", "Sheet side", {"in": "12", "mm": "300"}), ("wall", "Wall", {"in": "", "mm": ""}),
    )),
)  # fmt: skip


class StartPicture(QWidget):
    """A small drawing of what is known and what is sought."""

    def __init__(self, kind: str) -> None:
        super().__init__()
        self._kind = kind
        self.theme: Theme = DAY
        self.setFixedHeight(136)

    def paintEvent(self, event: QPaintEvent) -> None:
        t = self.theme
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = QPointF(self.width() / 2, self.height() / 2)
        known, sought = QPen(t.colour("lamp"), 2.4), QPen(t.colour("fence"), 1.6, Qt.PenStyle.DashLine)
        if self._kind == "contents":
            self._box(painter, middle + QPointF(0, 12), 92, 66, sought, QColor(0, 0, 0, 0))
            self._box(painter, middle + QPointF(0, 16), 54, 40, known, t.colour("field"))
        elif self._kind == "size":
            self._box(painter, middle + QPointF(-4, 12), 86, 62, known, t.colour("field"))
            painter.drawLine(middle + QPointF(-48, 58), middle + QPointF(40, 58))
            painter.drawLine(middle + QPointF(54, 43), middle + QPointF(54, -20))
        else:
            painter.setPen(known)
            painter.setBrush(t.colour("field"))
            painter.drawRect(QRectF(middle.x() - 60, middle.y() - 60, 120, 120))
            painter.setPen(sought)
            for k in (-20, 20):
                painter.drawLine(middle + QPointF(k, -60), middle + QPointF(k, 60))
                painter.drawLine(middle + QPointF(-60, k), middle + QPointF(60, k))

    @staticmethod
    def _box(painter: QPainter, at: QPointF, width: float, height: float, pen: QPen, fill: QColor) -> None:
        """An open box seen from above the front edge."""
        w, h, skew = width / 2, height / 2, width * 0.2
        front = [QPointF(-w, h), QPointF(w, h), QPointF(w, -h + skew), QPointF(-w, -h + skew)]
        mouth = [
            QPointF(-w, -h + skew),
            QPointF(w, -h + skew),
            QPointF(w - skew * 0.6, -h),
            QPointF(-w + skew * 0.6, -h),
        ]
        painter.setPen(pen)
        painter.setBrush(fill)
        painter.drawPolygon(QPolygonF([at + p for p in front]))
        painter.drawPolygon(QPolygonF([at + p for p in mouth]))


class StartCard(QFrame):
    """One way in. `started` carries the new design."""

    started = Signal(object)

    def __init__(self, start: Start, units: Units) -> None:
        super().__init__()
        self.setObjectName("card")
        self._start = start
        self._units: Units = units
        self.picture = StartPicture(start.id)
        title = QLabel(start.title)
        font = title.font()
        font.setPointSizeF(font.pointSizeF() * 1.25)
        font.setBold(True)
        title.setFont(font)
        about = QLabel(start.about)
        about.setWordWrap(True)
        about.setObjectName("faint")
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        self.fields: dict[str, QLineEdit] = {}
        for row, (name, label, firsts) in enumerate(start.fields):
            field = QLineEdit(firsts[units])
            field.setAccessibleName(f"{start.title} {label}")
            field.setPlaceholderText("as it comes")
            field.returnPressed.connect(self.begin)
            self.fields[name] = field
            grid.addWidget(QLabel(label), row, 0)
            grid.addWidget(field, row, 1)
        self.layers = QSpinBox()
        self.layers.setRange(1, 6)
        self.layers.setValue(3)
        self.layers.setAccessibleName("Layers")
        self.lid = QComboBox()
        self.lid.addItems(["easy", "snug", "loose", "none"])
        self.lid.setAccessibleName("Lid")
        self.stock = QComboBox()
        self.stock.setAccessibleName("Stock")
        self.stock.setMinimumContentsLength(12)
        for paper in builtin_catalogue().papers:
            self.stock.addItem(paper.name, paper.id)
        row = len(start.fields)
        for label, widget in (("Layers", self.layers), ("Lid", self.lid), ("Stock", self.stock)):
            grid.addWidget(QLabel(label), row, 0)
            grid.addWidget(widget, row, 1)
            row += 1
        grid.setColumnStretch(1, 1)
        self.trouble = QLabel()
        self.trouble.setObjectName("trouble")
        self.trouble.setWordWrap(True)
        self.trouble.hide()
        self.go = QPushButton("Work it out")
        self.go.setObjectName("go")
        self.go.clicked.connect(self.begin)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(16, 14, 16, 14)
        layout.setSpacing(8)
        for widget in (self.picture, title, about):
            layout.addWidget(widget)
        layout.addLayout(grid)
        layout.addWidget(self.trouble)
        layout.addStretch(1)
        layout.addWidget(self.go)

    def set_units(self, units: Units) -> None:
        """Read lengths in other units; fields nobody touched change to that unit's usual figures."""
        for name, _, firsts in self._start.fields:
            if self.fields[name].text() == firsts[self._units]:
                self.fields[name].setText(firsts[units])
        self._units = units

    def begin(self) -> None:
        """Make the design, or say what stands in the way."""
        try:
            design = self.design()
        except LanternError as error:
            self.trouble.setText(f"✕ {error.sentence()}")
            self.trouble.show()
            return
        self.trouble.hide()
        self.started.emit(design)

    def design(self) -> Design:
        """The design as asked for. Raises LanternError."""
        kind = family("explosion-box")
        settings: dict[str, Value] = {"layers": self.layers.value(), "lid": self.lid.currentText()}
        for name, field in self.fields.items():
            if field.text().strip():
                settings[name] = read_setting(parameter(kind, name), field.text(), self._units)
        metric = self._units == "mm"
        design = start_design(
            kind.id, settings, name="Untitled box", stock=str(self.stock.currentData()), units=self._units,
            score_tool="scorer-mm" if metric else "board-8", cut_tool="trimmer-mm" if metric else "trimmer-16",
        )  # fmt: skip
        Study(design)
        return design
