"""Rules of the house that a command can check."""

from __future__ import annotations

import ast
import re
import sys
from pathlib import Path

TOP = Path(__file__).parent.parent
SOURCES = sorted((TOP / "src").rglob("*.py"))
PYTHON = [*SOURCES, *sorted((TOP / "tests").rglob("*.py")), *sorted((TOP / "benchmarks").rglob("*.py"))]
LONGEST_MODULE, MOST_METHODS = 500, 24


def test_modules_and_classes_stay_small() -> None:
    for path in PYTHON:
        text = path.read_text(encoding="utf-8")
        assert text.count("\n") <= LONGEST_MODULE, path
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.ClassDef):
                methods = [n for n in node.body if isinstance(n, ast.FunctionDef)]
                assert len(methods) <= MOST_METHODS, f"{path}: {node.name} has {len(methods)} methods"


def test_public_things_are_documented() -> None:
    for path in SOURCES:
        tree = ast.parse(path.read_text(encoding="utf-8"))
        assert ast.get_docstring(tree), path
        if "desktop" in path.parts:
            continue
        for node in tree.body:
            if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                assert ast.get_docstring(node), f"{path}: {node.name}"


def test_no_catch_all_modules() -> None:
    assert not [p for p in SOURCES if re.search(r"util|helper|manager|misc|common", p.stem)]


def test_tests_are_a_quarter_to_a_third_of_the_code() -> None:
    def lines(paths: list[Path]) -> int:
        return sum(
            1
            for p in paths
            for ln in p.read_text(encoding="utf-8").splitlines()
            if ln.strip() and not ln.lstrip().startswith("#")
        )

    code, tests = lines(SOURCES), lines(sorted((TOP / "tests").rglob("*.py")))
    assert 0.23 <= tests / (code + tests) <= 0.36


def test_screenshots_are_few_and_linked() -> None:
    shots = sorted((TOP / "docs" / "screenshots").glob("*"))
    readme = (TOP / "README.md").read_text(encoding="utf-8")
    assert 0 < len(shots) < 20
    for shot in shots:
        assert shot.suffix == ".png" and f"docs/screenshots/{shot.name}" in readme


def test_the_core_imports_without_qt_or_heavy_libraries() -> None:
    import subprocess

    code = (
        "import sys, yawning_lantern.study, yawning_lantern.exchange.plan, yawning_lantern.structures as s;"
        "s.families();"
        "print([m for m in ('PySide6', 'numpy', 'shapely', 'reportlab', 'scipy') if m in sys.modules])"
    )
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert found.stdout.strip() == "[]"
