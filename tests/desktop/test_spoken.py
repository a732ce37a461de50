"""What a screen reader gets, asked through Qt's own accessibility interface."""

from __future__ import annotations

import pkgutil
from importlib import import_module

import pytest
from PySide6.QtGui import QAccessible, QAccessibleInterface
from PySide6.QtWidgets import QMainWindow, QWidget

import yawning_lantern.desktop as desktop
from yawning_lantern.desktop.shell.workbench import Workbench

NAME, DESCRIPTION = QAccessible.Text.Name, QAccessible.Text.Description


def asked(widget: QWidget) -> QAccessibleInterface:
    found = QAccessible.queryAccessibleInterface(widget)
    assert found is not None
    return found


def painted_classes() -> set[type[QWidget]]:
    """Every widget class of ours that paints itself by hand."""
    found: set[type[QWidget]] = set()
    for info in pkgutil.walk_packages(desktop.__path__, f"{desktop.__name__}."):
        if info.name.endswith("__main__"):
            continue
        for thing in vars(import_module(info.name)).values():
            own = isinstance(thing, type) and issubclass(thing, QWidget) and thing.__module__ == info.name
            if own and "paintEvent" in vars(thing) and not issubclass(thing, QMainWindow):
                found.add(thing)
    return found


@pytest.mark.parametrize("kind", sorted(painted_classes(), key=lambda kind: kind.__name__))
def test_every_view_that_is_painted_by_hand_says_its_role(kind: type[QWidget]) -> None:
    assert getattr(kind, "spoken_role", None) is not None


def test_names_roles_and_descriptions_of_what_is_shown(demo: Workbench) -> None:
    told = 0
    for page in ("idea", "stock", "form", "opening"):
        demo.show_page(page)
        for view in demo.window.findChildren(QWidget):
            if not isinstance(view, tuple(painted_classes())) or not view.isVisible():
                continue
            spoken = asked(view)
            assert spoken.role() not in (QAccessible.Role.Client, QAccessible.Role.NoRole)
            assert spoken.text(NAME)
            assert spoken.text(DESCRIPTION) or spoken.childCount() or not demo.form.isVisible()
            told += 1
    assert told >= 10


def test_the_nest_is_a_tree_of_parts(demo: Workbench) -> None:
    nest = asked(demo.form.nest)
    words = [nest.child(k).text(NAME) for k in range(nest.childCount())]
    assert nest.role() == QAccessible.Role.Tree and len(words) == len(demo.session.study.resolved)  # type: ignore[union-attr]  # it is studied
    for r, told in zip(demo.session.study.resolved.values(), words, strict=True):  # type: ignore[union-attr]  # it is studied
        assert told.startswith(r.final.name)
    before = [nest.child(k).state().selected for k in range(nest.childCount())]
    last = list(demo.session.study.resolved)[-1]  # type: ignore[union-attr]  # it is studied
    demo.session.select(last)
    after = [nest.child(k).state().selected for k in range(nest.childCount())]
    assert before[0] and not before[-1] and after[-1] and not after[0]
    item = nest.child(0)
    assert item.role() == QAccessible.Role.TreeItem and item.parent().text(NAME) == "Nest"
    assert item.rect().width() > 20 and nest.child(nest.childCount()) is None


def test_a_thing_is_found_where_it_is_painted(demo: Workbench) -> None:
    band = asked(demo.window.band)
    for k in range(band.childCount()):
        middle = band.child(k).rect().center()
        assert band.childAt(middle.x(), middle.y()) is band.child(k) and band.indexOfChild(band.child(k)) == k
    assert [band.child(k).text(NAME) for k in range(band.childCount()) if band.child(k).state().selected] == ["Form"]


def test_scores_gaps_and_pieces_are_read_out(demo: Workbench) -> None:
    flat, cutaway, row = (asked(view) for view in (demo.form.flat, demo.form.cutaway, demo.form.pieces))
    piece = demo.form.flat.piece()
    assert piece is not None and flat.childCount() == len(piece.flags)
    assert all("score at" in flat.child(k).text(NAME) for k in range(flat.childCount()))
    assert cutaway.childCount() > 3 and "easy" in cutaway.child(0).text(NAME)
    assert row.child(0).text(NAME).startswith(piece.name) and row.child(0).state().selected
