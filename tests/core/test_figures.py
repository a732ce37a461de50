"""The page of the trade's figures is what the code goes by."""

from __future__ import annotations

import importlib.util
from pathlib import Path

DOCS = Path(__file__).parent.parent.parent / "docs"


def test_the_page_of_figures_is_current() -> None:
    # printed with `.venv/bin/python docs/figures.py > docs/figures.md`; read what has changed before it is kept
    spec = importlib.util.spec_from_file_location("figures", DOCS / "figures.py")
    assert spec is not None and spec.loader is not None
    made = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(made)
    assert made.page() == (DOCS / "figures.md").read_text(encoding="utf-8")
