"""Autosave: the design that is open, kept in a folder of its own until the program ends well."""

from __future__ import annotations

import json
import os
import stat
import threading
import uuid
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from msgspec import Struct

from yawning_lantern.design import Design
from yawning_lantern.errors import WriteError
from yawning_lantern.exchange.design_file import LARGEST, from_bytes, to_bytes
from yawning_lantern.exchange.files import write_atomically


class Leftover(Struct, frozen=True):
    """A design whose program ended without saving it: the autosaved file, and where the design itself lives."""

    file: Path
    path: Path | None
    design: Design


class Recovery:
    """The autosave of one running program. A thread may keep a design while another lets it go: what was asked for
    before the last `discard` is not kept any more."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.file = folder / f"{uuid.uuid4().hex}.autosave"
        self._lock = threading.Lock()
        self._turn = 0

    def keeper(self, design: Design, path: Path | None) -> Callable[[], None]:
        """What keeps a design, to be called later by another thread. It raises WriteError."""
        turn = self._turn

        def keep() -> None:
            with self._lock:
                if turn == self._turn:
                    self._write(design, path)

        return keep

    def save(self, design: Design, path: Path | None) -> None:
        """Keep the design as it is now. Raises WriteError."""
        with self._lock:
            self._write(design, path)

    def _write(self, design: Design, path: Path | None) -> None:
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise WriteError(
                f"The folder cannot be made ({error.strerror}).", str(self.folder), "Save the design to a file."
            ) from error
        record = {
            "pid": os.getpid(),
            "started": _started(os.getpid()),
            "path": str(path) if path else None,
            "design": json.loads(to_bytes(design)),
        }
        write_atomically(self.file, json.dumps(record).encode("utf-8"))

    def discard(self) -> None:
        """Nothing is left to recover: it was saved, or the maker let it go. What cannot be removed stays."""
        with self._lock, suppress(OSError):
            self._turn += 1
            self.file.unlink(missing_ok=True)

    def leftovers(self) -> list[Leftover]:
        """Designs of programs that are no longer running, newest first. What cannot be read, whatever it is, is passed
        over: a bad thing in the folder must not keep the program from starting."""
        leftovers: list[tuple[float, Leftover]] = []
        try:
            files = list(self.folder.glob("*.autosave"))
        except OSError:
            return []
        for file in files:
            with suppress(Exception):
                leftover = self._leftover(file) if file != self.file else None
                if leftover is not None:
                    leftovers.append((file.stat().st_mtime, leftover))
        return [leftover for _, leftover in sorted(leftovers, key=lambda one: -one[0])]

    @staticmethod
    def _leftover(file: Path) -> Leftover | None:
        """What one file keeps, or None where it is no file of ours or its program still runs."""
        known = file.stat()
        if not stat.S_ISREG(known.st_mode) or known.st_size > LARGEST:
            return None
        record: dict[str, Any] = json.loads(file.read_text(encoding="utf-8"))
        if _started(int(record["pid"])) == record["started"] is not None:
            return None
        design = from_bytes(json.dumps(record["design"]).encode("utf-8"), file.name)
        return Leftover(file, Path(record["path"]) if record.get("path") else None, design)


def _started(pid: int) -> str | None:
    """When a process started, as the kernel counts; None where there is no such process. Tells a pid used again."""
    try:
        return Path(f"/proc/{pid}/stat").read_text(encoding="utf-8").rpartition(")")[2].split()[19]
    except (OSError, IndexError):
        return None
