"""Every figure of the trade that the program goes by, with what it is and where it is from:
`.venv/bin/python docs/figures.py > docs/figures.md`."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from importlib import import_module
from itertools import pairwise
from pathlib import Path

from msgspec import structs

import yawning_lantern
from yawning_lantern.bench.hands import Tool

ROOT = Path(yawning_lantern.__file__).parent
WAYS = ("along", "off", "across")
SOURCES = ("common practice", "from memory")


def _is_figure(value: object) -> bool:
    """Whether a value is a number, or holds numbers and nothing that is told elsewhere (parameters, fits)."""
    if isinstance(value, tuple | list | set | frozenset):
        return all(map(_is_figure, value))
    if isinstance(value, dict):
        return all(map(_is_figure, value.values()))
    if isinstance(value, Tool):
        return True
    return isinstance(value, int | float) and not isinstance(value, bool)


def _shown(value: object) -> str:
    if isinstance(value, float):
        return f"{value:.4g}"
    if isinstance(value, tuple | list | set | frozenset):
        ordered = value if isinstance(value, tuple | list) else sorted(value)
        return ("<br>" if ordered and isinstance(ordered[0], Tool) else ", ").join(map(_shown, ordered))
    if isinstance(value, dict):
        return "; ".join(f"{_shown(name)}: {_shown(one)}" for name, one in value.items())
    if isinstance(value, Tool):
        boxes = [zip(structs.astuple(box), WAYS, strict=True) for box in value.boxes]
        parts = ("; ".join(f"{a + 0.0:.4g} to {b:.4g} {way}" for (a, b), way in box) for box in boxes)
        return f"{value.name}, {'flat' if value.flat else 'tip'} first: {' · '.join(parts)}"
    return str(value)


def _figures(file: Path, of_trade: bool) -> Iterator[tuple[str, str]]:
    """Value and words of every constant of a module that is told in words: those whose words tell a source, or the
    others."""
    body = ast.parse(file.read_text(encoding="utf-8")).body
    module = import_module(".".join(("yawning_lantern", *file.relative_to(ROOT).with_suffix("").parts)))
    for node, after in pairwise(body):
        if not (isinstance(after, ast.Expr) and isinstance(after.value, ast.Constant)):
            continue
        told = " ".join(str(after.value.value).split())
        if not isinstance(node, ast.Assign | ast.AnnAssign):
            continue
        if any(source in told.lower() for source in SOURCES) != of_trade:
            continue
        target = node.targets[0] if isinstance(node, ast.Assign) else node.target
        names = [part.id for part in ast.walk(target) if isinstance(part, ast.Name)]
        values = [getattr(module, name) for name in names]
        if all(map(_is_figure, values)):
            yield ", ".join(map(_shown, values)), told


def _tables(of_trade: bool) -> list[str]:
    lines = []
    for file in sorted(ROOT.rglob("*.py")):
        found = [] if "desktop" in file.parts else list(_figures(file, of_trade))
        if found:
            name = file.relative_to(ROOT).with_suffix("")
            lines += ["", f"### {name}", "", "| figure | what it is |", "| --- | --- |"]
            lines += [f"| {value.replace('|', '/')} | {words.replace('|', '/')} |" for value, words in found]
    return lines


def page() -> str:
    """The whole page as Markdown."""
    return "\n".join([
        "# Figures the program goes by",
        "",
        "Made from the code with `.venv/bin/python docs/figures.py > docs/figures.md`. Lengths in mm.",
        "",
        "## Of the trade",
        "",
        "Figures that no publication was at hand for: common practice, or told from memory. What a maker measures,",
        "and the label of what is bought, go before them.",
        *_tables(True),
        "",
        "## Of the computation",
        "",
        "Bounds of what can be made, and how finely and up to where the program looks. They follow from the model;",
        "none of them is a figure of the trade.",
        *_tables(False),
        "",
    ])  # fmt: skip


if __name__ == "__main__":
    print(page(), end="")
