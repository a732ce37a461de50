"""The design file: JSON with a format name and a version. Reading never trusts it; writing never loses it."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import msgspec

from yawning_lantern.design import FORMAT, VERSION, Design
from yawning_lantern.errors import DesignFileError
from yawning_lantern.exchange.files import write_atomically

SUFFIX = ".lantern"
LARGEST = 4_000_000
"""Bytes. A design of two hundred parts has under 100,000."""
_HERE = "The open design stays as it was."


class _NoNumberError(Exception):
    """A word that some writers of JSON put where a number belongs."""


def _no_number(word: str) -> Any:
    raise _NoNumberError(word)


def to_bytes(design: Design) -> bytes:
    """The design as it stands in a file."""
    return msgspec.json.format(msgspec.json.encode(design), indent=2) + b"\n"


def write_design(design: Design, path: Path) -> None:
    """Save a design. Raises WriteError."""
    write_atomically(path, to_bytes(design))


def read_design(path: Path) -> Design:
    """Read a design.

    Raises:
        DesignFileError: it is missing, too large, damaged, foreign, or from a newer version.
    """
    try:
        size = path.stat().st_size
        if size > LARGEST:
            raise DesignFileError(f"The file is {size / 1e6:.1f} MB, far more than a design holds.", path.name, _HERE)
        data = path.read_bytes()
    except OSError as error:
        raise DesignFileError(f"It cannot be read ({error.strerror}).", path.name, _HERE) from error
    return from_bytes(data, path.name)


def from_bytes(data: bytes, where: str = "design") -> Design:
    """A design from the bytes of a file. Raises DesignFileError."""
    try:
        raw: Any = json.loads(data.decode("utf-8"), parse_constant=_no_number)
    except UnicodeDecodeError as error:
        raise DesignFileError(
            f"It is no text from byte {error.start} on.", where, f"It may be damaged, or not a design. {_HERE}"
        ) from error
    except _NoNumberError as error:
        raise DesignFileError(f"It holds {error}, which is no number.", where, _HERE) from error
    except json.JSONDecodeError as error:
        raise DesignFileError(
            f"It breaks off or is damaged at line {error.lineno}, column {error.colno}.", where, _HERE
        ) from error
    except RecursionError as error:
        raise DesignFileError("It is nested far too deep for a design.", where, _HERE) from error
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise DesignFileError("It is not a Yawning Lantern design.", where, _HERE)
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DesignFileError(f"Its version is {version!r}, which is none.", where, _HERE)
    if version > VERSION:
        raise DesignFileError(
            f"It was made by a newer version (file version {version}, this program reads {VERSION}).",
            where,
            f"Update the program. {_HERE}",
        )
    try:
        return msgspec.convert(raw, Design)
    except msgspec.ValidationError as error:
        raise DesignFileError(_plainly(str(error)), where, _HERE) from error
    except RecursionError as error:
        raise DesignFileError("It is nested far too deep for a design.", where, _HERE) from error


def _plainly(text: str) -> str:
    """A decoder's message as a sentence: “at root, settings: expected a number or word, found an array.”"""
    message, _, path = text.partition(" - at `")
    place = re.sub(r"\$\.?|`", "", path).replace("[...]", "").replace(".", ", ").strip()
    words = message.replace("`", "“", 1).replace("`", "”", 1).replace("`", "“", 1).replace("`", "”", 1)
    return f"At {place}: {words}." if place else f"{words}."


def schema() -> dict[str, Any]:
    """The published JSON schema of a design file, made from the document types."""
    made = msgspec.json.schema(Design)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Yawning Lantern design", **made}
