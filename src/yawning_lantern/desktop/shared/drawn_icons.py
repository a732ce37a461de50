"""The few icons that Qt's own dialogs show, drawn in the lines and colours of the program instead of stock pictures."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QIcon, QPainter, QPalette, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QApplication, QProxyStyle, QStyle, QStyleOption, QWidget

GRID = 16.0
"""Icons are drawn on so many units each way."""
SIZES = (16, 24, 32, 48, 64)
_Draw = Callable[[QPainter], None]
_Kind = QStyle.StandardPixmap


def _lines(*runs: tuple[tuple[float, float], ...], filled: bool = False) -> _Draw:
    """Polylines; `filled` those are closed and filled with the colour of paper."""

    def draw(painter: QPainter) -> None:
        for run in runs:
            shape = QPolygonF([QPointF(x, y) for x, y in run])
            if filled:
                painter.drawPolygon(shape)
            else:
                painter.drawPolyline(shape)

    return draw


def _both(*parts: _Draw) -> _Draw:
    def draw(painter: QPainter) -> None:
        for part in parts:
            part(painter)

    return draw


def _ring(painter: QPainter) -> None:
    painter.drawEllipse(QPointF(GRID / 2, GRID / 2), 6.8, 6.8)


def _told(letter: str, shape: _Draw) -> _Draw:
    """A sign with a letter in its middle."""

    def draw(painter: QPainter) -> None:
        shape(painter)
        font = QFont(painter.font())
        font.setPixelSize(8)
        font.setBold(True)
        painter.setFont(font)
        painter.drawText(QRectF(0.0, 2.2, GRID, GRID - 3.0), Qt.AlignmentFlag.AlignCenter, letter)

    return draw


_FOLDER = _lines(((1.5, 13.5), (1.5, 3), (6, 3), (7.5, 5), (14.5, 5), (14.5, 13.5)), ((1.5, 7), (14.5, 7)))
_FOLDER_BODY = _lines(((1.5, 13.5), (1.5, 3), (6, 3), (7.5, 5), (14.5, 5), (14.5, 13.5)), filled=True)
_SHEET = _both(
    _lines(((3, 1.5), (10, 1.5), (13, 4.5), (13, 14.5), (3, 14.5)), filled=True),
    _lines(((10, 1.5), (10, 4.5), (13, 4.5))),
)
_BOX = _lines(((2, 4), (14, 4), (14, 13), (2, 13)), filled=True)
_WEDGE = _lines(((8, 1.2), (15.2, 14.4), (0.8, 14.4)), filled=True)
_FOLDER_ICON = _both(_FOLDER_BODY, _FOLDER)
_DRIVE = _both(_BOX, _lines(((2, 9.5), (14, 9.5)), ((10.5, 11.3), (12.3, 11.3))))
_PLAIN: dict[QStyle.StandardPixmap, _Draw] = {
    _Kind.SP_DirIcon: _FOLDER_ICON, _Kind.SP_DirClosedIcon: _FOLDER_ICON, _Kind.SP_DirOpenIcon: _FOLDER_ICON,
    _Kind.SP_DirLinkIcon: _FOLDER_ICON, _Kind.SP_DirHomeIcon: _FOLDER_ICON,
    _Kind.SP_FileIcon: _SHEET, _Kind.SP_FileLinkIcon: _SHEET,
    _Kind.SP_ComputerIcon: _both(_BOX, _lines(((5, 15), (11, 15)), ((8, 13), (8, 15)))),
    _Kind.SP_DesktopIcon: _BOX, _Kind.SP_DriveHDIcon: _DRIVE, _Kind.SP_DriveNetIcon: _DRIVE,
    _Kind.SP_FileDialogBack: _lines(((11, 1.5), (4.5, 8), (11, 14.5))),
    _Kind.SP_ArrowBack: _lines(((11, 1.5), (4.5, 8), (11, 14.5))),
    _Kind.SP_ArrowForward: _lines(((5, 1.5), (11.5, 8), (5, 14.5))),
    _Kind.SP_FileDialogToParent: _lines(((1.5, 11), (8, 4.5), (14.5, 11))),
    _Kind.SP_FileDialogNewFolder: _both(_FOLDER_ICON, _lines(((8, 8.5), (8, 12.5)), ((6, 10.5), (10, 10.5)))),
    _Kind.SP_FileDialogListView: _lines(*(((x, y), (x + 5, y)) for x in (1.5, 9.5) for y in (3.0, 8.0, 13.0))),
    _Kind.SP_FileDialogDetailedView: _lines(*(((1.5, y), (14.5, y)) for y in (3.0, 8.0, 13.0))),
    _Kind.SP_MessageBoxQuestion: _told("?", _ring), _Kind.SP_MessageBoxInformation: _told("i", _ring),
    _Kind.SP_MessageBoxWarning: _told("!", _WEDGE), _Kind.SP_MessageBoxCritical: _told("!", _WEDGE),
}  # fmt: skip
_MARKED = {_Kind.SP_MessageBoxQuestion, _Kind.SP_MessageBoxWarning, _Kind.SP_MessageBoxCritical}


def drawn(kind: QStyle.StandardPixmap, size: int, ink: QColor, paper: QColor) -> QPixmap:
    """One icon, so many pixels each way."""
    pixmap = QPixmap(size, size)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.scale(size / GRID, size / GRID)
    pen = QPen(ink, 1.1)
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    painter.setPen(pen)
    painter.setBrush(paper)
    _PLAIN[kind](painter)
    painter.end()
    return pixmap


class PlainStyle(QProxyStyle):
    """The plain style of Qt, with our icons."""

    def __init__(self) -> None:
        super().__init__("Fusion")

    def standardIcon(
        self, kind: QStyle.StandardPixmap, option: QStyleOption | None = None, widget: QWidget | None = None
    ) -> QIcon:
        if kind not in _PLAIN:
            return super().standardIcon(kind, option, widget)
        palette, icon = QApplication.palette(), QIcon()
        role = QPalette.ColorRole.Highlight if kind in _MARKED else QPalette.ColorRole.WindowText
        faint = palette.color(QPalette.ColorGroup.Disabled, QPalette.ColorRole.WindowText)
        for size in SIZES:
            icon.addPixmap(drawn(kind, size, palette.color(role), palette.color(QPalette.ColorRole.Base)))
            icon.addPixmap(drawn(kind, size, faint, palette.color(QPalette.ColorRole.Base)), QIcon.Mode.Disabled)
        return icon

    def standardPixmap(
        self, kind: QStyle.StandardPixmap, option: QStyleOption | None = None, widget: QWidget | None = None
    ) -> QPixmap:
        if kind not in _PLAIN:
            return super().standardPixmap(kind, option or QStyleOption(), widget)
        return self.standardIcon(kind, option, widget).pixmap(16)
