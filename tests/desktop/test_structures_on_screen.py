"""Every structure through the real window: begun from the gallery, folded all the way, shown flat, cut and by night."""

from __future__ import annotations

import itertools

import pytest
from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QImage
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.form.cutaway_view import FLAT, TALLEST, CutawayView
from yawning_lantern.desktop.shared.scene import ScenePainter
from yawning_lantern.desktop.shared.theme import DAY, NIGHT
from yawning_lantern.desktop.shared.thumbs import SIZE, picture
from yawning_lantern.desktop.shell.workbench import Workbench
from yawning_lantern.fold.camera import Camera
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

from .test_form import rest
from .test_views import key

LEFT = Qt.MouseButton.LeftButton
BY_SHELF = {
    shelf: [k for k, f in families().items() if f.shelf == shelf]
    for shelf in dict.fromkeys(f.shelf for f in families().values())
}


def ink(image: QImage, every: int = 5) -> int:
    """How many different colours a picture has, looked at every few pixels."""
    return len({image.pixel(x, y) for x in range(0, image.width(), every) for y in range(0, image.height(), every)})


def begin(bench: Workbench, kind: str) -> None:
    """Open a design of one structure; what was open is let go unasked."""
    bench.session.start(start_design(kind, {}))
    bench.show_page("form")


@pytest.mark.parametrize("shelf", sorted(BY_SHELF))
def test_structures_are_shown_whole(bench: Workbench, shelf: str) -> None:
    for kind in BY_SHELF[shelf]:
        begin(bench, kind)
        rest(bench)
        session, form = bench.session, bench.form
        assert session.design.root.family == kind and not session.trouble and session.study is not None
        assert "fits are as asked" in form.fits.summary.text(), (kind, form.fits.summary.text())
        for position in (-1.0, 0.0, 0.6, 1.0):
            session.move_to(position)
            rest(bench)
            assert ink(form.standing.grab().toImage()) > 3, (kind, position)
            drawn = form.standing._drawn
            assert {sheet.element for sheet in drawn} == {session.design.root.id}
            view = form.standing.rect().adjusted(-4, -4, 4, 4)
            for sheet in drawn:
                box = sheet.polygon.boundingRect().toRect()
                assert view.contains(box), (kind, position)  # nothing hangs out of the picture
        pieces = session.study.resolved[session.design.root.id].part.pieces
        names = set()
        for _ in pieces:
            piece = form.flat.piece()
            assert piece is not None
            names.add(piece.id)
            assert ink(form.flat.grab().toImage()) > 2
            if len(pieces) > 1:
                assert form.pieces.isVisible() and form.pieces.pieces[form.pieces.at].id == piece.id
                assert ink(form.pieces.grab().toImage()) > 2
                cells = [form.pieces.cell(k) for k in range(len(pieces))]
                assert form.pieces.rect().adjusted(-1, 0, 1, 0).contains(cells[form.pieces.at].toRect())
                assert not any(a.intersects(b) for a, b in itertools.combinations(cells, 2))
            key(form.flat, Qt.Key.Key_PageDown)
        assert names == {piece.id for piece in pieces}
        for axis in (0, 1):
            form.cutaway.look_along(axis)
            assert ink(form.cutaway.grab().toImage(), 2) > 1


def test_nest_tells_counts_and_faces_in_words(bench: Workbench) -> None:
    bench.files.open_demo()
    rest(bench)
    told = bench.form.nest._told
    assert told["tiers"][0].endswith("3 trays") and told["moon"][0].endswith("4 flaps")
    faces = bench.form.nest._faces
    assert faces["moon"] == "right, in" and faces["new-moon"] == "flap 1, front" and faces["layer-2"] == ""
    assert faces["star"] == "on the medallion" and faces["rosette"] == "top"


def test_the_set_opens_and_everything_is_as_asked(bench: Workbench) -> None:
    bench.files.open_demo()
    rest(bench)
    study = bench.session.study
    assert study is not None and not study.has_clash
    used = {r.family.id for r in study.resolved.values()}
    assert {"explosion-box", "lid", "rosette", "waterfall", "tier-wrap", "accordion-spine", "v-fold"} <= used
    assert max(r.depth for r in study.resolved.values()) >= 3
    assert "fits are as asked" in bench.form.fits.summary.text()
    for position in (0.1, 0.35, 0.7, 1.0):
        bench.session.move_to(position)
        rest(bench)
        assert len(bench.form.standing._drawn) >= len(study.assembly.nodes)


def test_flat_things_are_cut_taller(bench: Workbench) -> None:
    assert CutawayView._taller(200.0, 240.0) == 1.0
    assert 1.0 < CutawayView._taller(FLAT * 240.0 * 0.5, 240.0) <= TALLEST
    assert CutawayView._taller(0.5, 240.0) == TALLEST
    begin(bench, "waterfall")
    rest(bench)
    cutaway = bench.form.cutaway
    tall = cutaway.grab().toImage()
    rows = [y for y in range(tall.height()) if len({tall.pixel(x, y) for x in range(0, tall.width(), 7)}) > 1]
    assert max(rows) - min(rows) > 40  # five sheets of a quarter millimetre, told apart


def test_thumbs_follow_day_and_night(bench: Workbench) -> None:
    bench.show_page("idea")
    rest(bench)
    day = bench.thumbs.pictures["rosette"].toImage()
    bench.window.actions_by_id["toggle_dark"].trigger()
    rest(bench)
    night = bench.thumbs.pictures["rosette"].toImage()
    assert day.size() == night.size() == SIZE and day != night
    bench.window.actions_by_id["toggle_dark"].trigger()
    rest(bench)
    assert bench.thumbs.pictures["rosette"].toImage() == day


def test_a_thumb_is_painted_as_the_scene_is() -> None:
    study = Study(start_design("tent", {}))
    small = picture(study, 0.5, DAY, QSize(80, 60), 2.0)
    assert small.size() == QSize(160, 120) and ink(small) > 5
    assert picture(study, 0.5, NIGHT, QSize(80, 60), 2.0) != small
    scene = ScenePainter(study, 0.5, Camera(), (80.0, 60.0), DAY)
    xs = [scene._view.point(p)[0] for p in scene._points]
    assert min(xs) >= -2 and max(xs) <= 82


def test_sides_follow_the_chosen_part(bench: Workbench, qtbot: QtBot) -> None:
    bench.files.open_demo()
    rest(bench)
    qtbot.mouseClick(bench.form.sides, LEFT)
    for part in ("moon", "programme", "comet", "tiers", "rosette"):
        bench.session.select(part)
        rest(bench)
        piece = bench.form.flat.piece()
        assert piece is not None
        sides = bench.form.flat.sides.of(piece)
        assert sides and set(sides) <= {panel.name for panel in piece.panels}
        assert ink(bench.form.flat.grab().toImage()) > 3
    bench.session.give("lid", "rim", 28.0, "rim")
    rest(bench)
    assert bench.form.flat.sides.of(bench.form.flat.piece())  # type: ignore[arg-type]  # there is a piece; worked out again for the new study


def test_advice_comes_for_the_newest_design_only(bench: Workbench) -> None:
    bench.session.start(start_design("drop-cascade", {"flaps": 3, "base-length": 120.0}))
    bench.show_page("form")
    rest(bench)
    for flaps in (16, 15, 14):
        bench.session.give("cascade", "step", 12.7, "step")
        bench.session.give("cascade", "flaps", flaps, "flaps")
    rest(bench)
    advice = bench.form.advice
    assert advice.isVisible() and advice.change.isEnabled()
    advice.change.click()
    rest(bench)
    assert bench.session.study is not None and not bench.session.study.has_clash and advice.isHidden()
    assert bench.session.history.undo_words.startswith(("Set", "Let", "Take", "Put"))
