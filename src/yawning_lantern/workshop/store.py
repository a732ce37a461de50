"""One SQLite file: counts of sheets, off-cuts, and what was cut, so that it can be taken back.

Every change is one transaction in write-ahead mode: a program that is killed loses nothing that it had told as done,
and two windows may use the file at once."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Any

from msgspec import Struct

from yawning_lantern.errors import ParameterError, WriteError
from yawning_lantern.on_use import Late
from yawning_lantern.stock import Catalogue, Item, builtin_catalogue, catalogue_of, check_item
from yawning_lantern.workshop.records import read, written

if TYPE_CHECKING:
    import sqlite3
else:
    sqlite3 = Late("sqlite3")

PATIENCE = 5.0
"""How long one window waits for another that is writing, s."""
LARGEST = 5000.0
"""No sheet is larger, mm."""
MOST = 100_000  # sheets of one stock in the drawer
_STEPS = (
    """CREATE TABLE sheets (stock TEXT PRIMARY KEY, count INTEGER NOT NULL CHECK (count >= 0));
    CREATE TABLE offcuts (id INTEGER PRIMARY KEY AUTOINCREMENT, stock TEXT NOT NULL, name TEXT NOT NULL,
        width REAL NOT NULL CHECK (width > 0), height REAL NOT NULL CHECK (height > 0));
    CREATE TABLE jobs (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, record TEXT NOT NULL,
        undone INTEGER NOT NULL DEFAULT 0);""",
    """CREATE TABLE items (rank INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, id TEXT NOT NULL,
        record TEXT NOT NULL, UNIQUE (kind, id));""",
    """CREATE TABLE benches (design TEXT PRIMARY KEY, record TEXT NOT NULL);""",
)
"""Each step takes the file from one version to the next."""
_PUT = """INSERT INTO items (kind, id, record) VALUES (?, ?, ?)
    ON CONFLICT (kind, id) DO UPDATE SET record = excluded.record"""
_FILLED = 1
"""With the step of this rank the things that ship with the program are put in: once, so that what is taken out stays
out."""


class OffCut(Struct, frozen=True):
    """A piece of stock that is kept, mm."""

    id: int
    stock: str
    name: str
    width: float
    height: float


class Job(Struct, frozen=True):
    """What is cut: whole sheets by stock, off-cuts used (by id), and what is left and kept (stock, name, width, height,
    mm)."""

    name: str
    sheets: Mapping[str, int]
    used: Sequence[int] = ()
    left: Sequence[tuple[str, str, float, float]] = ()


class Workshop:
    """The drawer in a file, made where it is not there yet.

    Raises:
        WriteError: the file cannot be made or written, is damaged, or is of a newer program.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        with self._told():
            path.parent.mkdir(parents=True, exist_ok=True)
            self._base = sqlite3.connect(path, timeout=PATIENCE, isolation_level=None)
            self._base.execute("PRAGMA journal_mode = WAL")
            self._base.execute("PRAGMA synchronous = FULL")
            self._migrate()

    @contextmanager
    def _told(self) -> Iterator[None]:
        """What SQLite says, in words of ours."""
        try:
            yield
        except sqlite3.OperationalError as error:
            remedy = "See that its folder can be written, and that no other program holds it."
            raise WriteError(f"The drawer cannot be used ({error}).", str(self.path), remedy) from error
        except sqlite3.DatabaseError as error:
            remedy = "Move the file aside: a new one is made. What `./lantern stock export` wrote can be read in again."
            raise WriteError(f"The drawer is damaged ({error}).", str(self.path), remedy) from error
        except OSError as error:
            remedy = "See that its folder can be written."
            raise WriteError(f"The drawer cannot be made ({error.strerror}).", str(self.path), remedy) from error

    @contextmanager
    def _change(self) -> Iterator[sqlite3.Connection]:
        """One change, whole or not at all."""
        with self._told():
            self._base.execute("BEGIN IMMEDIATE")
            try:
                yield self._base
            except BaseException:
                self._base.execute("ROLLBACK")
                raise
            self._base.execute("COMMIT")

    def _version(self) -> int:
        return int(self._base.execute("PRAGMA user_version").fetchone()[0])

    def _migrate(self) -> None:
        if self._version() > len(_STEPS):
            raise WriteError("The drawer is of a newer program.", str(self.path), "Use that program, or another file.")
        while self._version() < len(_STEPS):
            with self._change() as base:
                version = self._version()  # another window may have been first
                if version < len(_STEPS):
                    for command in _STEPS[version].split(";"):
                        if command.strip():
                            base.execute(command)
                    if version == _FILLED:
                        base.executemany(_PUT, [written(item) for item in builtin_catalogue().items])
                    base.execute(f"PRAGMA user_version = {version + 1}")

    def close(self) -> None:
        """Let go of the file."""
        self._base.close()

    # -- things

    def catalogue(self) -> Catalogue:
        """Everything that the drawer knows, in the order it was put in, with the sheet formats of the program.

        Raises:
            WriteError: a thing in it is damaged.
        """
        with self._told():
            rows = self._base.execute("SELECT kind, record FROM items ORDER BY rank").fetchall()
        return catalogue_of([read(kind, record, str(self.path)) for kind, record in rows], builtin_catalogue().sheets)

    def put(self, *items: Item) -> None:
        """Put things in, in the place of those of the same kind and id; all or none. Raises ParameterError for what
        cannot be."""
        self.fill({}, (), items)

    def remove(self, item: Item) -> None:
        """Take a thing out, and with it what was counted and kept of it.

        Raises:
            ParameterError: it is not there.
        """
        with self._change() as base:
            kind, name, _ = written(item)
            if not base.execute("DELETE FROM items WHERE kind = ? AND id = ?", (kind, name)).rowcount:
                raise ParameterError("That is not in the drawer any more.", item.name, "Look at what is in it now.")
            base.execute("DELETE FROM sheets WHERE stock = ?", (name,))
            base.execute("DELETE FROM offcuts WHERE stock = ?", (name,))

    # -- sheets

    def counts(self) -> dict[str, int]:
        """How many sheets there are, by stock; what was never counted is not in it."""
        with self._told():
            return dict(self._base.execute("SELECT stock, count FROM sheets ORDER BY stock"))

    def count(self, stock: str, sheets: int) -> None:
        """Say how many sheets of a stock there are. Raises ParameterError for what is no count."""
        self.fill({stock: sheets}, ())

    def fill(
        self, counts: Mapping[str, int], off_cuts: Sequence[tuple[str, str, float, float]], items: Sequence[Item] = ()
    ) -> tuple[OffCut, ...]:
        """Put things in, set counts by stock and keep off-cuts (stock, name, width, height in mm), all or none of it;
        gives the off-cuts as they are kept. Raises ParameterError for what cannot be, is no count or has no size."""
        for item in items:
            check_item(item)
        for stock, sheets in counts.items():
            if not 0 <= sheets <= MOST:
                raise ParameterError(
                    f"{sheets} is no count of sheets.", stock, f"Give a whole number from 0 to {MOST}."
                )
        _check_sizes(off_cuts)
        with self._change() as base:
            base.executemany(_PUT, [written(item) for item in items])
            base.executemany(
                "INSERT INTO sheets VALUES (?, ?) ON CONFLICT (stock) DO UPDATE SET count = excluded.count",
                list(counts.items()),
            )
            return tuple(OffCut(_kept(base, one), *one) for one in off_cuts)

    # -- off-cuts

    def off_cuts(self) -> tuple[OffCut, ...]:
        """Every off-cut, the oldest first."""
        with self._told():
            rows = self._base.execute("SELECT id, stock, name, width, height FROM offcuts ORDER BY id")
            return tuple(OffCut(*row) for row in rows)

    def keep(self, stock: str, width: float, height: float, name: str = "") -> OffCut:
        """Put an off-cut into the drawer, mm. Raises ParameterError for what has no size."""
        return self.fill({}, ((stock, name, width, height),))[0]

    def take(self, off_cut: int) -> OffCut:
        """Take an off-cut out of the drawer. Raises ParameterError where it is not there."""
        with self._change() as base:
            return _taken(base, off_cut)

    # -- where one is at the bench

    def progress(self, design: str) -> dict[str, Any]:
        """What was kept of how far a design is made, by its name or file; nothing where nothing was."""
        with self._told():
            row = self._base.execute("SELECT record FROM benches WHERE design = ?", (design,)).fetchone()
        try:
            record = json.loads(row[0]) if row is not None else {}
        except ValueError:
            return {}
        return record if isinstance(record, dict) else {}

    def keep_progress(self, design: str, record: Mapping[str, Any]) -> None:
        """Keep how far a design is made."""
        with self._change() as base:
            base.execute(
                "INSERT INTO benches VALUES (?, ?) ON CONFLICT (design) DO UPDATE SET record = excluded.record",
                (design, json.dumps(record)),
            )

    # -- what is cut

    def cut(self, job: Job) -> int:
        """Mark something as cut: counts go down (not below none), used off-cuts go, what is left is kept; all of it or
        nothing. Gives the job's number. Raises ParameterError where an off-cut is gone."""
        _check_sizes(job.left)
        with self._change() as base:
            sheets: dict[str, int] = {}
            for stock, number in job.sheets.items():
                row = base.execute("SELECT count FROM sheets WHERE stock = ?", (stock,)).fetchone()
                if row is not None:
                    sheets[stock] = min(number, int(row[0]))
                    base.execute("UPDATE sheets SET count = count - ? WHERE stock = ?", (sheets[stock], stock))
            used = [_taken(base, one) for one in job.used]
            made = [_kept(base, one) for one in job.left]
            record = {
                "sheets": sheets,
                "used": [[one.id, one.stock, one.name, one.width, one.height] for one in used],
                "made": made,
            }
            row = base.execute("INSERT INTO jobs (name, record) VALUES (?, ?)", (job.name, json.dumps(record)))
            return int(row.lastrowid or 0)

    def take_back(self, job: int) -> None:
        """Undo what was marked as cut. Raises ParameterError where that is done already, or what was left is gone."""
        with self._change() as base:
            row = base.execute("SELECT name, record, undone FROM jobs WHERE id = ?", (job,)).fetchone()
            if row is None or row[2]:
                raise ParameterError("That is not marked as cut any more.", row[0] if row else f"job {job}")
            record = json.loads(row[1])
            for one in record["made"]:
                if not base.execute("DELETE FROM offcuts WHERE id = ?", (one,)).rowcount:
                    raise ParameterError(
                        "What was left of it has been used since.", row[0], "Take that back first, or count anew."
                    )
            for values in record["used"]:
                base.execute("INSERT INTO offcuts (id, stock, name, width, height) VALUES (?, ?, ?, ?, ?)", values)
            for stock, number in record["sheets"].items():
                base.execute("UPDATE sheets SET count = count + ? WHERE stock = ?", (number, stock))
            base.execute("UPDATE jobs SET undone = 1 WHERE id = ?", (job,))


def _check_sizes(off_cuts: Sequence[tuple[str, str, float, float]]) -> None:
    for stock, name, width, height in off_cuts:
        if not (0 < width <= LARGEST and 0 < height <= LARGEST):
            remedy = f"Give a width and a height up to {LARGEST:g} mm."
            raise ParameterError("That is no size of an off-cut.", name or stock, remedy)


def _kept(base: sqlite3.Connection, off_cut: tuple[str, str, float, float]) -> int:
    """Put an off-cut (stock, name, width, height) in; gives its number."""
    row = base.execute("INSERT INTO offcuts (stock, name, width, height) VALUES (?, ?, ?, ?)", off_cut)
    return int(row.lastrowid or 0)


def _taken(base: sqlite3.Connection, off_cut: int) -> OffCut:
    row = base.execute("SELECT id, stock, name, width, height FROM offcuts WHERE id = ?", (off_cut,)).fetchone()
    if row is None:
        raise ParameterError(
            "That off-cut is not in the drawer any more.", f"off-cut {off_cut}", "Look at what is in the drawer now."
        )
    base.execute("DELETE FROM offcuts WHERE id = ?", (off_cut,))
    return OffCut(*row)
