"""The design file: JSON with a format name and a version. Reading never trusts it; writing never loses it."""

from __future__ import annotations

import hashlib
import json
import math
import re
import stat
from pathlib import Path
from typing import Any

import msgspec

from yawning_lantern.design import FORMAT, VERSION, Design, with_copies, without_shipped
from yawning_lantern.errors import DesignFileError, ParameterError
from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.stock import Item, check_item

SUFFIX = ".lantern"
LARGEST = 4_000_000
"""Bytes. A design of two hundred parts has under 100,000."""
MOST_PARTS = 2000
"""Parts a design may have; one of two hundred is large."""
_HERE = "Choose another file, or a copy of it that is whole."


class _NoNumberError(Exception):
    """A word that some writers of JSON put where a number belongs."""


def _no_number(word: str) -> Any:
    raise _NoNumberError(word)


def to_bytes(design: Design) -> bytes:
    """The design as it stands in a file, with a copy of all stock, glue and tools that it uses."""
    return msgspec.json.format(msgspec.json.encode(with_copies(design)), indent=2) + b"\n"


def write_design(design: Design, path: Path) -> None:
    """Save a design. Raises WriteError."""
    write_atomically(path, to_bytes(design))


def read_design(path: Path) -> Design:
    """Read a design.

    Raises:
        DesignFileError: it is missing, too large, damaged, foreign, or from a newer version.
    """
    try:
        known = path.stat()
        if not stat.S_ISREG(known.st_mode):
            raise DesignFileError("It is no file that holds a design.", path.name, _HERE)
        if known.st_size > LARGEST:
            size = known.st_size / 1e6
            raise DesignFileError(f"The file is {size:.1f} MB, far more than a design holds.", path.name, _HERE)
        data = path.read_bytes()
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "its name is none"
        raise DesignFileError(f"It cannot be read ({why}).", path.name, _HERE) from error
    return from_bytes(data, path.name)


def fingerprint(path: Path) -> str | None:
    """What tells a file's content from another; None where there is no file that can be read."""
    try:
        return hashlib.sha256(path.read_bytes()).hexdigest() if path.is_file() else None
    except OSError:
        return None


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
    except ValueError as error:  # a number of thousands of digits
        raise DesignFileError("It holds a number that is far too long.", where, _HERE) from error
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
        json.dumps(raw, ensure_ascii=False).encode("utf-8")
    except UnicodeEncodeError as error:
        raise DesignFileError("It holds half a character, which cannot be saved again.", where, _HERE) from error
    except ValueError as error:
        raise DesignFileError("It holds a number that is far too long.", where, _HERE) from error
    try:
        design = msgspec.convert({**raw, "version": VERSION}, Design)  # 1 had no lays and no copies, 2 nothing as built
        _check_whole(design, where)
        return without_shipped(with_copies(design))  # what is not used, or told twice, goes
    except msgspec.ValidationError as error:
        raise DesignFileError(_plainly(str(error)), where, _HERE) from error
    except RecursionError as error:
        raise DesignFileError("It is nested far too deep for a design.", where, _HERE) from error


def _check_whole(design: Design, where: str) -> None:
    """See that a design can be kept and read back. Raises DesignFileError."""
    count = 0
    todo = [design.root]
    while todo:
        element = todo.pop()
        todo.extend(element.guests)
        count += 1
        if count > MOST_PARTS:
            raise DesignFileError(f"It holds more than {MOST_PARTS} parts.", where, _HERE)
        if not element.id.strip():
            raise DesignFileError(f"A part “{element.name}” has no id.", where, _HERE)
        numbers = [v for v in element.settings.values() if not isinstance(v, str)]
        if element.place is not None:
            numbers += [element.place.x, element.place.y]
        if not all(math.isfinite(number) for number in numbers):
            raise DesignFileError(f"The part “{element.id}” has a number that is out of bounds.", where, _HERE)
        if not all(0 <= lay.turn < 4 for lay in element.lays.values()):
            raise DesignFileError(f"A piece of “{element.id}” is turned by no quarter.", where, _HERE)
    carried: tuple[Item, ...] = (*design.papers, *design.adhesives, *design.tools)
    for item in carried:
        try:
            check_item(item)
        except ParameterError as error:
            raise DesignFileError(error.sentence(), where, _HERE) from error
    for name, caliper in design.calipers.items():
        if not math.isfinite(caliper):
            raise DesignFileError(f"A thickness of {caliper:g} mm for {name} cannot be.", where, _HERE)


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
