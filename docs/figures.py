"""Every figure of the trade that the program goes by, with what it is and where it is from:
`.venv/bin/python docs/figures.py > docs/figures.md`."""

from __future__ import annotations

import ast
import io
import tokenize
from collections.abc import Iterator
from importlib import import_module
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


def _comments(source: str) -> dict[int, str]:
    """What is said behind a line's code, by its number."""
    tokens = tokenize.generate_tokens(io.StringIO(source).readline)
    return {one.start[0]: one.string.lstrip("# ") for one in tokens if one.type == tokenize.COMMENT}


def names_of(node: ast.Assign | ast.AnnAssign) -> list[str]:
    """The names that an assignment gives."""
    targets = node.targets if isinstance(node, ast.Assign) else [node.target]
    return [part.id for target in targets for part in ast.walk(target) if isinstance(part, ast.Name)]


def told(source: str) -> Iterator[tuple[list[ast.Assign | ast.AnnAssign], str]]:
    """Assignments of a module, those that stand together with the words that follow them; one that has words behind it
    by itself. Where nothing is said the words are empty."""
    behind = _comments(source)
    together: list[ast.Assign | ast.AnnAssign] = []
    for node in [*ast.parse(source).body, ast.Pass(lineno=0)]:
        if together and node.lineno != (together[-1].end_lineno or 0) + 1:
            yield together, ""
            together = []
        if isinstance(node, ast.Assign | ast.AnnAssign):
            words = behind.get(node.end_lineno or 0, "")
            if words and words != "fmt: skip":
                yield [node], words
            else:
                together.append(node)
        elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant) and together:
            yield together, " ".join(str(node.value.value).split())
            together = []


def figures(file: Path) -> Iterator[tuple[list[object], str]]:
    """Constants of a module that are figures, those that stand together, and their words."""
    module = import_module(".".join(("yawning_lantern", *file.relative_to(ROOT).with_suffix("").parts)))
    for nodes, words in told(file.read_text(encoding="utf-8")):
        values = [getattr(module, name) for node in nodes for name in names_of(node)]
        if found := [value for value in values if _is_figure(value) and value not in ((), {})]:
            yield found, words


def modules() -> list[Path]:
    """Every module but those of the window."""
    return [file for file in sorted(ROOT.rglob("*.py")) if "desktop" not in file.parts]


def _tables(of_trade: bool) -> list[str]:
    """Those whose words tell a source, or the others."""
    lines = []
    for file in modules():
        found = [one for one in figures(file) if any(name in one[1].lower() for name in SOURCES) == of_trade]
        if found:
            name = file.relative_to(ROOT).with_suffix("")
            lines += ["", f"### {name}", "", "| figure | what it is |", "| --- | --- |"]
            rows = [(", ".join(map(_shown, values)), words) for values, words in found]
            lines += [f"| {value.replace('|', '/')} | {words.replace('|', '/')} |" for value, words in rows]
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
