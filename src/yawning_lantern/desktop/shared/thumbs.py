"""Small pictures of every structure, half open, drawn by the program itself off the GUI thread."""

from __future__ import annotations

from PySide6.QtCore import QObject, QSize, Qt, Signal
from PySide6.QtGui import QGuiApplication, QImage, QPainter, QPixmap

from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.scene import ScenePainter
from yawning_lantern.desktop.shared.theme import DAY, Theme
from yawning_lantern.fold.camera import Camera
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

HALF_OPEN = 0.5
SIZE = QSize(132, 92)
"""A third larger than the largest place they are shown in."""
_drawn: dict[tuple[str, bool], QImage] = {}  # one set for all windows of a process


class Thumbs(QObject):
    """Draws the pictures one after the other; `drawn` carries the id of a family whose picture is there."""

    drawn = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.theme: Theme = DAY
        self.pictures: dict[str, QPixmap] = {}
        self._left: list[str] = []
        self._under_way: tuple[str, Theme] | None = None
        self._runner = Runner(self)
        self._runner.answered.connect(self._answered)

    @property
    def is_idle(self) -> bool:
        """Whether every picture that was asked for is there."""
        return not self._left and not self._runner.is_busy

    def draw_all(self) -> None:
        """Draw what is missing."""
        for name in families():
            self.want(name)

    def want(self, name: str) -> None:
        """Draw the picture of a family, if it is not there and not on its way."""
        image = _drawn.get((name, self.theme.dark))
        if name in self.pictures or name in self._left or (name, self.theme) == self._under_way:
            return
        if image is not None:
            self._keep(name, image)
            return
        self._left.append(name)
        self._next()

    def set_theme(self, theme: Theme) -> None:
        """Other colours: draw again what was drawn."""
        if theme.dark != self.theme.dark:
            self.theme = theme
            known = [*self.pictures, *self._left, *([self._under_way[0]] if self._under_way is not None else [])]
            self.pictures.clear()
            self._left.clear()
            for name in known:
                self.want(name)

    def stop(self) -> None:
        """Draw no more."""
        self._left.clear()
        self._runner.stop()

    def _next(self) -> None:
        if not self._left or self._runner.is_busy:
            return
        name, theme = self._under_way = self._left.pop(0), self.theme
        screen = QGuiApplication.primaryScreen()
        fine = screen.devicePixelRatio() if screen is not None else 1.0

        def work() -> tuple[str, Theme, QImage]:
            return name, theme, picture(Study(start_design(name, {})), HALF_OPEN, theme, SIZE, fine)

        self._runner.submit(work)

    def _answered(self, answer: object) -> None:
        if isinstance(answer, BaseException):
            raise answer
        assert isinstance(answer, tuple)
        name, theme, image = answer
        self._under_way = None
        _drawn[name, theme.dark] = image
        if theme.dark == self.theme.dark:
            self._keep(name, image)
        self._next()

    def _keep(self, name: str, image: QImage) -> None:
        self.pictures[name] = QPixmap.fromImage(image)
        self.drawn.emit(name)


def picture(study: Study, position: float, theme: Theme, size: QSize, fine: float = 1.0) -> QImage:
    """A picture of a study at a place between flat and open, with `fine` pixels of the screen for each of its size."""
    image = QImage(size * fine, QImage.Format.Format_ARGB32_Premultiplied)
    image.setDevicePixelRatio(fine)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    ScenePainter(study, position, Camera(), (float(size.width()), float(size.height())), theme).paint(painter)
    painter.end()
    return image
