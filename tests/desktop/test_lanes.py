"""What the Opening page paints itself: lanes, the bulk map, and contacts written into the view."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, QRectF, Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.opening.bulk_view import BulkView
from yawning_lantern.desktop.opening.lanes import HEAD, NAMES, ROW, Lanes
from yawning_lantern.desktop.opening.view import CLOSER
from yawning_lantern.desktop.shared.theme import DAY, NIGHT
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.desktop.shot import settle
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import BulkMap
from yawning_lantern.opening import Contact, Opening, Standing, Step

from ..conftest import DEMO

LEFT = Qt.MouseButton.LeftButton


def step(motion: int, opens: bool = True, stage: int = 1, contact: Contact | None = None) -> Step:
    nothing = Standing()
    return Step(motion, opens, 90.0, 0.0, 0.0, contact is None, nothing, nothing, stage, contact)


@pytest.fixture
def lanes(qtbot: QtBot) -> Lanes:
    made = Lanes()
    qtbot.addWidget(made)
    steps = (
        step(0),
        step(1, stage=2),
        step(2, stage=2),
        step(1, False, 3),
        step(3, stage=4, contact=Contact(0, 1, 0.5, 2)),
    )
    made.show_opening(Opening(steps, ()), [("a", "Lid"), ("b", "Book"), ("c", "Walls")], ["a", "b", "c", "c"])
    made.resize(800, made.sizeHint().height())
    made.show()
    return made


def colour(lanes: Lanes, time: float, row: int, up: int = 8) -> QColor:
    return lanes.grab().toImage().pixelColor(round(lanes.x_at(time)), HEAD + (row + 1) * ROW - up)


def test_every_part_has_a_lane_and_every_step_a_place(lanes: Lanes) -> None:
    assert lanes.count == 5 and [lanes.row_of(e) for e in ("a", "b", "c", "no")] == [0, 1, 2, -1]
    assert lanes.x_at(0) == NAMES
    for time in (0.0, 0.25, 2.5, 5.0):
        assert lanes.time_at(lanes.x_at(time)) == pytest.approx(time)
    assert lanes.time_at(0) == 0.0 and lanes.time_at(10_000) == 5.0


def test_wedges_tell_opening_shutting_and_stopping_apart(lanes: Lanes) -> None:
    opened, stopped = colour(lanes, 0.9, 0), colour(lanes, 4.8, 2, 12)
    assert (opened.name(), stopped.name()) == (DAY.worked, DAY.clash)
    shutting = colour(lanes, 3.2, 1)
    assert shutting not in (opened, stopped) and shutting != colour(lanes, 4.5, 1)
    # a part that stays open has a line on; one that was shut again has none
    assert colour(lanes, 3.5, 0, 6) == DAY.colour("worked")
    assert colour(lanes, 4.5, 1, 6) != DAY.colour("worked")


def test_the_lanes_follow_the_theme_and_keep_their_picture(lanes: Lanes) -> None:
    day = lanes.grab().toImage()
    lanes.show_time(2.0)
    moved = lanes.grab().toImage()
    differ = {x for x in range(day.width()) for y in (HEAD + 3, HEAD + ROW + 4) if day.pixel(x, y) != moved.pixel(x, y)}
    at = {round(lanes.x_at(0.0)), round(lanes.x_at(2.0))}
    assert differ and all(min(abs(x - p) for p in at) <= 7 for x in differ)  # only the playhead moved
    lanes.theme = NIGHT
    assert colour(lanes, 0.9, 0) == NIGHT.colour("worked")


def test_a_lane_put_down_where_it_was_asks_nothing(lanes: Lanes, qtbot: QtBot) -> None:
    asked: list[object] = []
    lanes.reordered.connect(asked.append)
    qtbot.mousePress(lanes, LEFT, pos=QPoint(40, HEAD + 10))
    qtbot.mouseMove(lanes, QPoint(40, HEAD + 14))
    qtbot.mouseRelease(lanes, LEFT, pos=QPoint(40, HEAD + 14))
    assert asked == []
    qtbot.mousePress(lanes, LEFT, pos=QPoint(40, HEAD + 10))
    qtbot.mouseMove(lanes, QPoint(40, HEAD + 3 * ROW - 2))
    qtbot.mouseRelease(lanes, LEFT, pos=QPoint(40, HEAD + 3 * ROW - 2))
    assert asked == [["b", "c", "a"]]


def test_scrubbing_follows_the_pointer(lanes: Lanes, qtbot: QtBot) -> None:
    times: list[float] = []
    lanes.scrubbed.connect(times.append)
    qtbot.mousePress(lanes, LEFT, pos=QPoint(round(lanes.x_at(1.0)), HEAD + 5))
    qtbot.mouseMove(lanes, QPoint(round(lanes.x_at(3.0)), HEAD + 5))
    qtbot.mouseRelease(lanes, LEFT, pos=QPoint(round(lanes.x_at(3.0)), HEAD + 5))
    qtbot.mouseMove(lanes, QPoint(round(lanes.x_at(4.0)), HEAD + 5))  # let go: it stays
    assert times == pytest.approx([1.0, 3.0], abs=0.02)


def test_lanes_without_an_opening_say_what_comes(qtbot: QtBot) -> None:
    made = Lanes()
    qtbot.addWidget(made)
    made.show_opening(None, [("a", "Lid")], ["a"])
    assert made.count == 0 and made.time_at(500) == 0.0
    made.resize(700, 90)
    image = made.grab().toImage()
    assert len({image.pixel(x, y) for x in range(250, 650, 2) for y in range(30, 60)}) > 2  # words


def test_the_bulk_map_is_darker_where_more_lies_and_away_from_the_maker_above(qtbot: QtBot) -> None:
    view = BulkView()
    qtbot.addWidget(view)
    view.show_bulk(BulkMap((0.0, 0.0), 5.0, ((1, 1), (0, 8)), ((0.2, 0.2), (0.0, 1.6))))
    view.resize(204, 204)
    image = view.grab().toImage()
    near_left, far_right, far_left = (image.pixelColor(x, y) for x, y in ((20, 190), (190, 20), (20, 20)))
    assert near_left.name() == view.colour_of(1).name() and far_right.name() == DAY.colour("lamp").name()
    assert far_left not in (near_left, far_right)
    assert "At most 8 sheets" in view.accessibleDescription()


def test_words_at_contacts_do_not_lie_on_one_another(demo: Workbench) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    demo.show_page("opening")
    assert settle(app, demo.window, 60.0)
    page = demo.opening
    assert page.view.camera.zoom == CLOSER  # five steps: looked at from nearer
    fall = next(k for k, s in enumerate(page.work.current.opening.steps) if len(s.resting) > 1)  # type: ignore[union-attr]  # settled
    page.go_to(fall + 1.0)
    page.view.grab()
    assert len(page.view.annotations()) > 1 and all("rests at" in words for words in page.view.annotations())
    boxes = page.view.labels
    assert len(boxes) == len(page.view.annotations())
    inside = QRectF(page.view.rect())
    for k, box in enumerate(boxes):
        assert inside.contains(box) and not any(box.intersects(other) for other in boxes[:k])


@pytest.mark.parametrize("size", [(1280, 800), (1024, 700)])
def test_the_shut_thing_is_whole_however_near_it_is_looked_at(bench: Workbench, size: tuple[int, int]) -> None:
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    bench.window.resize(*size)
    bench.session.start(read_design(DEMO.with_name("four-lenses.lantern")))
    bench.show_page("opening")
    assert settle(app, bench.window, 60.0)
    view = bench.opening.view
    image = view.grab().toImage()
    wide, high = image.width(), image.height()
    edge = [(x, y) for y in (1, high - 2) for x in range(1, wide - 1)]
    edge += [(x, y) for x in (1, wide - 2) for y in range(1, high - 1)]
    assert len({image.pixel(x, y) for x, y in edge}) == 1  # nothing but table along all four edges
    assert 1.0 <= view.camera.zoom <= CLOSER
