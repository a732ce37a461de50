"""Parts of the window on their own: camera, runner, themes, marks."""

from __future__ import annotations

import math
import threading
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QPointF
from PySide6.QtGui import QColor, QFontDatabase, QFontMetricsF, QImage, QPainter
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.shared.marks import draw_verdict
from yawning_lantern.desktop.shared.notice import Notice
from yawning_lantern.desktop.shared.runner import Runner
from yawning_lantern.desktop.shared.theme import DAY, FAMILY, NIGHT, Theme
from yawning_lantern.fold.camera import Camera, Projection

VERDICTS = ("clash", "tight", "snug", "easy", "loose")


def luminance(colour: QColor) -> float:
    def linear(part: float) -> float:
        return part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4

    return 0.2126 * linear(colour.redF()) + 0.7152 * linear(colour.greenF()) + 0.0722 * linear(colour.blueF())


def contrast(a: QColor, b: QColor) -> float:
    light, dark = sorted((luminance(a), luminance(b)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("theme", [DAY, NIGHT], ids=["day", "night"])
def test_text_can_be_read(theme: Theme) -> None:
    # WCAG 2.1, success criterion 1.4.3: 4.5 to 1 for text
    for ink in ("ink", "faint", "worked", *VERDICTS):
        for ground in ("card", "field"):
            assert contrast(theme.colour(ink), theme.colour(ground)) >= 4.5, (ink, ground)
    assert contrast(theme.colour("ink"), theme.colour("ground")) >= 4.5
    assert contrast(theme.colour("lamp_ink"), theme.colour("lamp")) >= 4.5


def test_the_shipped_face_draws_fractions(qapp: QApplication) -> None:
    assert FAMILY in QFontDatabase.families()
    font = qapp.font()
    font.setFamily(FAMILY)
    for glyph in "⅛¼⅜½⅝¾⅞″×−≈":
        assert QFontMetricsF(font).inFontUcs4(ord(glyph)), glyph


def test_verdicts_differ_in_shape_not_only_in_colour(qapp: QApplication) -> None:
    def shape(verdict: str) -> frozenset[tuple[int, int]]:
        image = QImage(32, 32, QImage.Format.Format_RGB32)
        image.fill(QColor(DAY.card))
        painter = QPainter(image)
        draw_verdict(painter, verdict, QPointF(16, 16), 20, DAY)
        painter.end()
        card = QColor(DAY.card)
        return frozenset((x, y) for x in range(32) for y in range(32) if contrast(image.pixelColor(x, y), card) > 1.8)

    shapes = {v: shape(v) for v in VERDICTS}
    for a in VERDICTS:
        assert len(shapes[a]) > 30
        for b in VERDICTS:
            if a < b:
                assert len(shapes[a] ^ shapes[b]) > 40, (a, b)


@given(st.floats(-math.pi, math.pi), st.floats(-1.4, 1.4), st.tuples(*[st.floats(-50, 50)] * 3))
def test_what_is_nearer_is_larger_and_the_middle_is_in_the_middle(
    turn: float, tilt: float, middle: tuple[float, float, float]
) -> None:
    view = Projection.of(Camera(turn, tilt), middle, 60.0, (400.0, 300.0))
    assert view.point(middle) == pytest.approx((200.0, 150.0))
    assert math.dist(view.eye, middle) == pytest.approx(view.distance)
    sizes = []
    for depth in (-30.0, 0.0, 30.0):
        at = tuple(m + a * depth for m, a in zip(middle, view.ahead, strict=True))
        side = tuple(p + r for p, r in zip(at, view.right, strict=True))
        sizes.append(view.point(side)[0] - view.point(at)[0])  # type: ignore[arg-type]  # points of a row
    assert sizes[0] > sizes[1] > sizes[2] > 0
    for k in range(24):  # a ball of that radius stays within the picture
        p = tuple(
            m + 60.0 * (math.cos(k) * r + math.sin(k) * u) for m, r, u in zip(middle, view.right, view.up, strict=True)
        )
        x, y = view.point(p)  # type: ignore[arg-type]  # points of a row
        assert -1 <= x <= 401 and -1 <= y <= 301


def test_camera_stays_above_and_below() -> None:
    camera = Camera().turned(1.0, 99.0)
    assert camera.tilt < math.pi / 2
    assert Camera().zoomed(1e9).zoom == 12.0 and Camera().zoomed(0.0).zoom == 0.3
    assert Camera().shifted(3, 4).shift == (3, 4)


def test_runner_drops_stale_answers(qtbot: QtBot) -> None:
    runner = Runner()
    answers: list[object] = []
    runner.answered.connect(answers.append)
    gate = threading.Event()

    def slow() -> str:
        gate.wait(5)
        return "slow"

    skipped: list[str] = []
    runner.submit(slow)
    runner.submit(lambda: skipped.append("middle"))
    runner.submit(lambda: "newest")
    assert runner.is_busy
    gate.set()
    qtbot.waitUntil(lambda: not runner.is_busy, timeout=5000)
    assert answers == ["newest"] and skipped == []


def test_runner_carries_errors_and_stops(qtbot: QtBot) -> None:
    runner = Runner()
    answers: list[object] = []
    runner.answered.connect(answers.append)

    def broken() -> None:
        raise ValueError("no such paper")

    runner.submit(broken)
    qtbot.waitUntil(lambda: not runner.is_busy, timeout=5000)
    assert isinstance(answers[0], ValueError)
    runner.submit(lambda: time.sleep(0.05))
    runner.stop()
    qtbot.wait(20)
    assert len(answers) == 1


def test_a_notice_goes_when_its_deed_is_done(qtbot: QtBot) -> None:
    done: list[str] = []
    notice = Notice("Something was left.", {"Take it": lambda: done.append("took"), "Leave it": lambda: None})
    notice.show()
    button = notice.buttons["Take it"]
    assert isinstance(button, QPushButton)
    button.click()
    assert done == ["took"] and notice.isHidden()


def test_a_caption_gives_way_and_tells_the_whole(qtbot: QtBot) -> None:
    from yawning_lantern.desktop.shared.caption import Caption

    caption = Caption()
    qtbot.addWidget(caption)
    caption.resize(60, 20)
    before = caption.sizeHint()
    caption.setText("A very long name of a piece · 12 × 12″ · cut 2")
    assert caption.sizeHint() == before and caption.toolTip() == caption.text() == caption.accessibleName()
    image = caption.grab().toImage()
    assert len({image.pixel(x, y) for x in range(image.width()) for y in range(image.height())}) > 2
