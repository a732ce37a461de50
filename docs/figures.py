"""Every figure of the trade that the program goes by, with what it is and where it is from:
`.venv/bin/python docs/figures.py > docs/figures.md`."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from importlib import import_module
from itertools import pairwise
from pathlib import Path

import yawning_lantern

ROOT = Path(yawning_lantern.__file__).parent
SOURCES = ("common practice", "from memory")


def _shown(value: object) -> str:
    if isinstance(value, float):
        return f"{value:.4g}"
    if isinstance(value, tuple | list | set | frozenset):
        return ", ".join(_shown(one) for one in (value if isinstance(value, tuple | list) else sorted(value)))
    if isinstance(value, dict):
        return "; ".join(f"{_shown(name)}: {_shown(one)}" for name, one in value.items())
    return str(value)


def _figures(file: Path) -> Iterator[tuple[str, str]]:
    """Value and words of every constant of a module whose words tell its source."""
    body = ast.parse(file.read_text(encoding="utf-8")).body
    module = import_module(".".join(("yawning_lantern", *file.relative_to(ROOT).with_suffix("").parts)))
    for node, after in pairwise(body):
        if not (isinstance(after, ast.Expr) and isinstance(after.value, ast.Constant)):
            continue
        told = " ".join(str(after.value.value).split())
        if not isinstance(node, ast.Assign | ast.AnnAssign) or not any(source in told.lower() for source in SOURCES):
            continue
        target = node.targets[0] if isinstance(node, ast.Assign) else node.target
        names = [part.id for part in ast.walk(target) if isinstance(part, ast.Name)]
        values = [getattr(module, name) for name in names]
        if all(isinstance(value, int | float | tuple | list | dict | set | frozenset) for value in values):
            yield ", ".join(map(_shown, values)), told


def page() -> str:
    """The whole page as Markdown."""
    lines = [
        "# Figures the program goes by",
        "",
        "Made from the code with `.venv/bin/python docs/figures.py > docs/figures.md`. Figures of the trade that no",
        "publication was at hand for: common practice, or told from memory. Lengths in mm. What a maker measures, and",
        "the label of what is bought, go before them.",
    ]
    for file in sorted(ROOT.rglob("*.py")):
        if "desktop" in file.parts:
            continue
        found = list(_figures(file))
        if found:
            lines += [
                "",
                f"## {file.relative_to(ROOT).with_suffix('')}",
                "",
                "| figure | what it is |",
                "| --- | --- |",
            ]
            lines += [f"| {value.replace('|', '/')} | {words.replace('|', '/')} |" for value, words in found]
    return "\n".join([*lines, ""])


if __name__ == "__main__":
    print(page(), end="")
