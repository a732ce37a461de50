"""Rules of the house that a command can check."""

from __future__ import annotations

import ast
import json
import os
import re
import sys
from pathlib import Path

from yawning_lantern.desktop import measured

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


def test_plain_data_are_structs_and_nothing_else_is_replaced() -> None:
    # the other library's `replace` refuses a struct, and the types do not tell
    for path in PYTHON:
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.ImportFrom) and node.module == "dataclasses":
                assert "replace" not in {name.name for name in node.names}, path
            if isinstance(node, ast.Import):
                assert "dataclasses" not in {name.name for name in node.names}, path
        assert path not in SOURCES or "@dataclass(frozen" not in path.read_text(encoding="utf-8"), path


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


def test_the_first_window_is_measured_against_one_with_the_same_names_of_qt() -> None:
    import subprocess

    code = """if True:
        import ast, json, sys
        import yawning_lantern.desktop.__main__
        known = [m for m in tuple(sys.modules.values()) if m.__name__.startswith("yawning_lantern")]
        names = {}
        for module in known:
            for line in ast.parse(open(module.__file__, encoding="utf-8").read()).body:
                if isinstance(line, ast.ImportFrom) and (line.module or "").startswith("PySide6"):
                    names.setdefault(line.module, set()).update(a.name for a in line.names)
        print(json.dumps({"names": {m: sorted(n) for m, n in names.items()}, "heavy": sorted(
            m for m in ("numpy", "sqlite3", "email", "yawning_lantern.study", "msgspec") if m in sys.modules)}))"""
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    told = json.loads(found.stdout)
    assert told["heavy"] == []
    assert told["names"] == {module: sorted(names.split()) for module, names in measured.SAME.items()}


def test_the_form_page_with_the_demo_needs_no_arrays() -> None:
    import subprocess

    code = """if True:
        import sys, tempfile
        from pathlib import Path
        from yawning_lantern.desktop.shell.application import bench_of, make_application, make_program, new_window
        from yawning_lantern.desktop.shell.pages import LATE
        from yawning_lantern.desktop.shot import settle
        app = make_application()
        window = new_window(make_program(Path(tempfile.mkdtemp())))
        window.ready.connect(lambda: bench_of(window).files.open_demo())
        window.show()
        assert settle(app, window)
        bench_of(window).form.fill_shelf()
        assert settle(app, window)
        assert bench_of(window).session.study.checks and bench_of(window).form.shelf.count() > 60
        pages = bench_of(window).pages
        pages._read_on()
        while pages._runner.is_busy:
            app.processEvents()
        assert pages.made == () and all(f"yawning_lantern.desktop.{n}.page" in sys.modules for n in LATE)
        print(sorted(m for m in ("numpy", "scipy", "shapely", "sqlite3", "email", "fcl") if m in sys.modules))"""
    found = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=True,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )  # fmt: skip
    assert found.stdout.strip() == "[]"
