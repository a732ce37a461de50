"""Writing files so that nothing is ever lost: a new file beside the old one, then one rename."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

from yawning_lantern.errors import WriteError


def write_atomically(path: Path, data: bytes) -> None:
    """Put `data` at `path`, whole or not at all.

    Raises:
        WriteError: it cannot be written; what was there before is untouched.
    """
    try:
        target = path.resolve()
    except (OSError, RuntimeError, ValueError) as error:  # links that lead in a ring, a name that is none
        raise WriteError("Nothing can be written there.", str(path), "Choose another name.") from error
    try:
        handle, name = tempfile.mkstemp(prefix=f".{target.name}.", dir=target.parent)
    except (OSError, ValueError) as error:
        raise WriteError(
            f"Nothing can be written there ({getattr(error, 'strerror', None) or 'the name is none'}).",
            str(path),
            "Choose another folder.",
        ) from error
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(name, _mode(target))
        os.replace(name, target)
    except OSError as error:
        Path(name).unlink(missing_ok=True)
        raise WriteError(
            f"It could not be written ({error.strerror}).", str(path), "The file that was there before is untouched."
        ) from error


def _mode(target: Path) -> int:
    """The permissions of the file that is replaced, or what the system gives a new file."""
    try:
        return target.stat().st_mode & 0o777
    except OSError:
        mask = os.umask(0)
        os.umask(mask)
        return 0o666 & ~mask
