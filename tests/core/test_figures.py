"""The page of the trade's figures is what the code goes by."""

from __future__ import annotations

import importlib.util
from pathlib import Path
from types import ModuleType

DOCS = Path(__file__).parent.parent.parent / "docs"


def figures() -> ModuleType:
    spec = importlib.util.spec_from_file_location("figures", DOCS / "figures.py")
    assert spec is not None and spec.loader is not None
    made = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(made)
    return made


def test_the_page_of_figures_is_current() -> None:
    # printed with `.venv/bin/python docs/figures.py > docs/figures.md`; read what has changed before it is kept
    assert figures().page() == (DOCS / "figures.md").read_text(encoding="utf-8")


def test_every_figure_says_what_it_is() -> None:
    made = figures()
    found = [(file.name, one) for file in made.modules() for one in made.figures(file)]
    assert len(found) > 500
    assert [(name, values) for name, (values, words) in found if len(words.split()) < 2] == []
