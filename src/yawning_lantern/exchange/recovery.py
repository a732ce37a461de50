"""Autosave: the design that is open, kept in a folder of its own until the program ends well."""

from __future__ import annotations

import json
import os
import uuid
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from yawning_lantern.design import Design
from yawning_lantern.errors import DesignFileError
from yawning_lantern.exchange.design_file import from_bytes, to_bytes
from yawning_lantern.exchange.files import write_atomically


@dataclass(frozen=True, slots=True)
class Leftover:
    """A design whose program ended without saving it: the autosaved file, and where the design itself lives."""

    file: Path
    path: Path | None
    design: Design


class Recovery:
    """The autosave of one running program."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.file = folder / f"{uuid.uuid4().hex}.autosave"

    def save(self, design: Design, path: Path | None) -> None:
        """Keep the design as it is now. Raises WriteError."""
        self.folder.mkdir(parents=True, exist_ok=True)
        record = {
            "pid": os.getpid(),
            "started": _started(os.getpid()),
            "path": str(path) if path else None,
            "design": json.loads(to_bytes(design)),
        }
        write_atomically(self.file, json.dumps(record).encode("utf-8"))

    def discard(self) -> None:
        """Nothing is left to recover: it was saved, or the maker let it go."""
        self.file.unlink(missing_ok=True)

    def leftovers(self) -> list[Leftover]:
        """Designs of programs that are no longer running, newest first. What cannot be read is passed over."""
        found = []
        for file in sorted(self.folder.glob("*.autosave"), key=lambda f: f.stat().st_mtime, reverse=True):
            if file == self.file:
                continue
            try:
                record: dict[str, Any] = json.loads(file.read_text(encoding="utf-8"))
                if _started(int(record["pid"])) == record["started"] is not None:
                    continue
                design = from_bytes(json.dumps(record["design"]).encode("utf-8"), file.name)
            except (OSError, ValueError, KeyError, TypeError, DesignFileError):
                continue
            found.append(Leftover(file, Path(record["path"]) if record.get("path") else None, design))
        return found


def _started(pid: int) -> str | None:
    """When a process started, as the kernel counts; None where there is no such process. Tells a pid used again."""
    try:
        return Path(f"/proc/{pid}/stat").read_text(encoding="utf-8").rpartition(")")[2].split()[19]
    except (OSError, IndexError):
        return None
