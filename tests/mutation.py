"""Do the tests see it when the core is changed? Mutants of a random sample of places, each held against the tests that
reach the changed line. `python -m tests.mutation --count 40` tells the share that is killed and names those that live.
Which tests reach what takes longest; with `--reach FOLDER` it is kept there and taken from there the next time, which
is good as long as no line has moved.

What no test sees is held against mypy, as the test command does: it knows tuples' lengths and which numbers may stand.
Mutants are made by cosmic-ray, reach is told by coverage with a context for every test. Not asked are annotations,
decorators, options of classes, what is only ever a tolerance (numbers below 1e-3), lengths that are longer than
anything (500 mm and more), the −1 that leaves a size to numpy, whether a zip sees that lengths are the same (a check by
itself), whether what is multiplied by a side (1 or −1) is divided by it, and whether a comparison of lengths takes in
its very end: changed, they change nothing that was promised. Of whole numbers ends are asked.
"""

from __future__ import annotations

import argparse
import ast
import random
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import SimpleQueue
from xml.etree import ElementTree

from cosmic_ray.ast import ast_nodes, get_ast
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names
from coverage import CoverageData

ROOT = Path(__file__).parent.parent
CORE = (
    "measure", "stock", "pattern", "design", "assembly", "structures", "fit", "fold", "opening", "study", "bench",
    "machine", "flatfold",
)  # fmt: skip
KINDS = (
    "NumberReplacer", "AddNot", "ReplaceAndWithOr", "ReplaceOrWithAnd", "ReplaceTrueWithFalse", "ReplaceFalseWithTrue",
    "ReplaceBreakWithContinue", "ReplaceContinueWithBreak", "ZeroIterationForLoop",
    *(f"ReplaceBinaryOperator_{pair}" for pair in ("Add_Sub", "Sub_Add", "Mul_Div", "Div_Mul", "FloorDiv_Mul")),
    *(f"ReplaceComparisonOperator_{pair}" for pair in (
        "Lt_LtE", "LtE_Lt", "Gt_GtE", "GtE_Gt", "Lt_Gt", "Gt_Lt", "Eq_NotEq", "NotEq_Eq")),
    *(f"ReplaceUnaryOperator_{pair}" for pair in ("USub_UAdd", "Delete_USub", "Delete_Not")),
)  # fmt: skip
LONGEST = 120
"""One test is given so long, s: a mutant that makes it hang is as good as killed. All of them are given what they take:
a mutant that outlives a clock is not killed by it."""
TINY, HUGE = 1e-3, 500.0
FIGURES = "tests/core/test_figures.py"
ENDS = ("Lt_LtE", "LtE_Lt", "Gt_GtE", "GtE_Gt")
Place = tuple[int, int]


@dataclass(frozen=True)
class Mutant:
    """One change at one place: which operator, which of its places in the module, and where that is."""

    module: Path
    operator: str
    occurrence: int
    line: int

    def __str__(self) -> str:
        return f"{self.module.relative_to(ROOT)}:{self.line} {self.operator.split('/')[-1]}"


def _is_tiny(node: ast.AST) -> bool:
    return isinstance(node, ast.Constant) and isinstance(node.value, float) and 0 < abs(node.value) < TINY


def _is_huge(node: ast.AST) -> bool:
    return isinstance(node, ast.Constant) and isinstance(node.value, float) and abs(node.value) >= HUGE


def _left_open(node: ast.AST) -> list[ast.AST | None]:
    """The sizes that a call leaves to numpy: `points.reshape(-1, 3)`."""
    if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == "reshape"):
        return []
    return [size for size in node.args if isinstance(size, ast.UnaryOp)]


def _is_whole(node: ast.AST, names: set[str]) -> bool:
    """Whether something is told as a whole number: a constant, the module's name for one, a length of a list."""
    if isinstance(node, ast.Constant):
        return isinstance(node.value, int)
    if isinstance(node, ast.Call):
        return isinstance(node.func, ast.Name) and node.func.id in ("len", "int")
    return isinstance(node, ast.Name) and node.id in names


def _added(node: ast.AST) -> Iterator[ast.AST]:
    """What is added up or taken away in a term: of `n - 2 * a` it is n and the product. By how much a length is
    multiplied is no whole number that is compared."""
    if isinstance(node, ast.BinOp) and isinstance(node.op, ast.Add | ast.Sub):
        yield from (*_added(node.left), *_added(node.right))
    elif isinstance(node, ast.UnaryOp):
        yield from _added(node.operand)
    else:
        yield node


def loose_ends(source: str) -> list[tuple[Place, Place]]:
    """Spans (line, column) of comparisons in which no whole number is told, or a tolerance beside one."""
    tree = ast.parse(source)
    names = {
        target.id for node in tree.body if isinstance(node, ast.Assign) and _is_whole(node.value, set())
        for target in node.targets if isinstance(target, ast.Name)
    }  # fmt: skip
    return [
        ((node.lineno, node.col_offset), (node.end_lineno or 0, node.end_col_offset or 0))
        for node in ast.walk(tree) if isinstance(node, ast.Compare) and (
            any(_is_tiny(part) for part in ast.walk(node))
            or not any(_is_whole(part, names) for side in (node.left, *node.comparators) for part in _added(side)))
    ]  # fmt: skip


def _by_side(node: ast.BinOp) -> bool:
    names = [getattr(part, "id", getattr(part, "attr", "")) for part in (node.left, node.right)]
    return isinstance(node.op, ast.Mult) and "side" in names


def turned_over(source: str) -> list[tuple[Place, Place]]:
    """Spans (line, column) of the signs of products with a side: 1 or −1, by which to multiply is to divide."""
    return [
        ((node.left.end_lineno or 0, node.left.end_col_offset or 0), (node.right.lineno, node.right.col_offset))
        for node in ast.walk(ast.parse(source))
        if isinstance(node, ast.BinOp) and _by_side(node)
    ]


def _spared(source: str) -> list[tuple[Place, Place]]:
    """Spans (line, column) where a mutant would change nothing that runs, a tolerance, or what ends nothing."""
    spans = []
    for node in ast.walk(ast.parse(source)):
        parts: list[ast.AST | None] = []
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            parts += [
                node.returns,
                *node.decorator_list,
                *(a.annotation for a in ast.walk(node.args) if isinstance(a, ast.arg)),
            ]
        elif isinstance(node, ast.AnnAssign):
            parts.append(node.annotation)
        elif isinstance(node, ast.ClassDef):
            parts += [*node.decorator_list, *(option.value for option in node.keywords)]
        elif _is_tiny(node) or _is_huge(node):
            parts.append(node)
        elif isinstance(node, ast.keyword) and node.arg == "strict":
            parts.append(node.value)
        parts += _left_open(node)
        spans += [
            ((p.lineno, p.col_offset), (p.end_lineno or 0, p.end_col_offset or 0))  # type: ignore[attr-defined]  # these have places
            for p in parts
            if p is not None
        ]
    return spans


def mutants() -> Iterator[Mutant]:
    """Every mutant of the core."""
    known = set(operator_names())
    for package in CORE:
        for module in sorted((ROOT / "src/yawning_lantern" / package).rglob("*.py")):
            source = module.read_text(encoding="utf-8")
            always, tree = _spared(source), get_ast(source)
            besides = {**dict.fromkeys(ENDS, loose_ends(source)), "Mul_Div": turned_over(source)}
            for kind in KINDS:
                spared = [*always, *(span for end, spans in besides.items() if kind.endswith(end) for span in spans)]
                if f"core/{kind}" not in known:
                    raise SystemExit(f"There is no operator {kind}.")
                operator, count = get_operator(f"core/{kind}")(), 0
                for node in ast_nodes(tree):
                    names_only = getattr(node.parent, "type", "") == "parameters"  # the bare * of keyword arguments
                    for begin, end in operator.mutation_positions(node):
                        if not names_only and not any(a <= begin and end <= b for a, b in spared):
                            yield Mutant(module, f"core/{kind}", count, begin[0])
                        count += 1


def reach(work: Path, workers: int, asked: str = "tests/core") -> tuple[CoverageData, dict[str, float]]:
    """Which tests reach which line, and how long each takes, s; what a folder has of that already is not run again."""
    data, times = work / "coverage", work / "times.xml"
    work.mkdir(parents=True, exist_ok=True)
    if not (data.exists() and times.exists()):
        subprocess.run(
            [sys.executable, "-m", "pytest", asked, "-q", "-n", str(workers), "-p", "no:cacheprovider",
             "--cov=yawning_lantern", "--cov-context=test", "--cov-report=", f"--junitxml={times}"],
            cwd=ROOT, check=True, env={**_environment(ROOT), "COVERAGE_FILE": str(data)}, stdout=subprocess.DEVNULL,
        )  # fmt: skip
    found = CoverageData(str(data))
    found.read()
    taken = {
        f"{case.get('classname', '').replace('.', '/')}.py::{case.get('name')}": float(case.get("time", "0"))
        for case in ElementTree.parse(times).iter("testcase")
    }
    return found, taken


def _environment(tree: Path) -> dict[str, str]:
    import os

    return {**os.environ, "PYTHONPATH": str(tree / "src"), "PYTHONDONTWRITEBYTECODE": "1"}


def lives(mutant: Mutant, tests: list[str], tree: Path) -> bool:
    """Whether no test sees a mutant, told in a copy of the project."""
    target = tree / mutant.module.relative_to(ROOT)
    good = target.read_text(encoding="utf-8")
    changed = mutate_code(good, get_operator(mutant.operator)(), mutant.occurrence)
    if changed is None:
        raise RuntimeError(f"nothing to change: {mutant}")
    listed = tree / "tests.txt"
    listed.write_text("\n".join(tests), encoding="utf-8")
    target.write_text(changed, encoding="utf-8")
    command = [
        sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", "-p", "no:randomly",
        "-o", f"faulthandler_timeout={LONGEST}", "-o", "faulthandler_exit_on_timeout=true", f"@{listed}",
    ]  # fmt: skip
    try:
        done = subprocess.run(command, cwd=tree, env=_environment(tree), capture_output=True, check=False)
        if done.returncode == 0:  # types are held by the test command too: a side that is neither 1 nor -1
            types = [sys.executable, "-m", "mypy", str(target.relative_to(tree))]
            done = subprocess.run(types, cwd=tree, capture_output=True, check=False)
    finally:
        target.write_text(good, encoding="utf-8")
    return done.returncode == 0


def _names_at(source: str, line: int) -> set[str]:
    """The module's names for what a line of it says outside every function and class: a constant's."""
    for node in ast.parse(source).body:
        if isinstance(node, ast.Assign | ast.AnnAssign) and node.lineno <= line <= (node.end_lineno or 0):
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            return {part.id for target in targets for part in ast.walk(target) if isinstance(part, ast.Name)}
    return set()


def _reaching(mutant: Mutant, data: CoverageData) -> set[str]:
    """The contexts that reach a line."""
    return set(data.contexts_by_lineno(str(mutant.module)).get(mutant.line, [])) - {""}


def _near(mutant: Mutant, data: CoverageData) -> set[str]:
    """The contexts that reach any line of a mutant's module, or of one that names the constant in it: what is kept
    after it was worked out once, and what runs when a module is loaded, is told of the first test alone, or of none."""
    names = _names_at(mutant.module.read_text(encoding="utf-8"), mutant.line)
    modules = [mutant.module]
    if names:
        named = re.compile(rf"\b({'|'.join(names)})\b")
        modules += [m for m in (ROOT / "src").rglob("*.py") if named.search(m.read_text(encoding="utf-8"))]
    return {c for m in modules for reached in data.contexts_by_lineno(str(m)).values() for c in reached} - {""}


def _naming(mutant: Mutant) -> set[str]:
    """The files of tests that name something of a mutant's module: what is kept from an earlier test is reached by none
    of theirs. Of a constant the page of figures too: it reads all modules, and names none."""
    source = mutant.module.read_text(encoding="utf-8")
    body, figures = ast.parse(source).body, {FIGURES} if _names_at(source, mutant.line) else set()
    defined = {node.name for node in body if isinstance(node, ast.FunctionDef | ast.ClassDef)}
    names = {name for name in defined if not name.startswith("_") and len(name) > 3}
    if not names:
        return figures
    named = re.compile(rf"\b({'|'.join(sorted(names))})\b")
    files = (ROOT / "tests/core").glob("test_*.py")
    return {str(f.relative_to(ROOT)) for f in files if named.search(f.read_text(encoding="utf-8"))} | figures


def sample(count: int, seed: int, workers: int = 2, kept: Path | None = None) -> tuple[int, list[Mutant]]:
    """Some mutants tried: how many, and those that live. Lines that no test reaches count as living. What tests reach
    is `kept` in a folder, if one is told."""
    chosen = random.Random(seed).sample(sorted(mutants(), key=str), count)
    living: list[Mutant] = []
    with tempfile.TemporaryDirectory() as name:
        work = Path(name)
        data, times = reach(kept or work, workers)
        trees = [work / f"tree-{k}" for k in range(workers)]
        for tree in trees:
            for part in ("src", "tests", "docs"):
                shutil.copytree(ROOT / part, tree / part)
            shutil.copy(ROOT / "pyproject.toml", tree)
            shutil.copy(ROOT / "README.md", tree)

        free: SimpleQueue[Path] = SimpleQueue()
        for tree in trees:
            free.put(tree)

        def run(mutant: Mutant) -> None:
            tree, asked, alive = free.get(), set[str](), True
            files, family = _naming(mutant), mutant.module.stem.replace("_", "-")  # asked of a family first
            for tests in (
                {c.removesuffix("|run").removesuffix("|setup") for c in _reaching(mutant, data)},
                {t for t in times if t.partition("::")[0] in files},
                {c.removesuffix("|run").removesuffix("|setup") for c in _near(mutant, data)},
            ):
                more = sorted((tests & times.keys()) - asked, key=lambda t: (family not in t, times[t]))
                alive = alive and (not more or lives(mutant, more, tree))
                asked |= set(more)
            free.put(tree)
            if alive:
                living.append(mutant)
            print("lives:" if alive else "killed:", mutant, flush=True)

        with ThreadPoolExecutor(workers) as pool:
            list(pool.map(run, chosen))
    return count, living


def main() -> None:
    """Try a sample and tell."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=40)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument(
        "--reach", type=Path, metavar="FOLDER", help="keep there what tests reach, or take it from there"
    )
    given = parser.parse_args()
    count, living = sample(given.count, given.seed, kept=given.reach)
    print(f"{count - len(living)} of {count} mutants killed: {(count - len(living)) / count:.0%}")


if __name__ == "__main__":
    main()
