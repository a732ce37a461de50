"""Errors that a person can cause. Each says what is wrong, where, and what would help."""

from __future__ import annotations

import difflib
from collections.abc import Callable, Iterable

_LONGEST = 240  # letters of a message that are told


def _line(text: str) -> str:
    """A text on one line; of a long one the middle is left out."""
    plain = " ".join("".join(c if c.isprintable() else " " for c in text).split())
    return plain if len(plain) <= _LONGEST else f"{plain[: _LONGEST // 2]} … {plain[-_LONGEST // 2 :]}"


class LanternError(Exception):
    """A person can cause this and can cure it.

    `what` is a full sentence; `where` names the field, part or line; `remedy` is a sentence that says what would help.
    `element` is the id of the part that it came from, where that is known.
    """

    element: str = ""

    def __init__(self, what: str, where: str = "", remedy: str = "") -> None:
        self.what = what
        self.where = where
        self.remedy = remedy
        super().__init__(self.sentence())

    def reworded(self, change: Callable[[str], str]) -> None:
        """Put all its words through a change: lengths into the units of who reads it."""
        self.what, self.where, self.remedy = change(self.what), change(self.where), change(self.remedy)
        self.args = (self.sentence(),)

    def sentence(self) -> str:
        """All there is to say, as one line; what was typed or read is repeated only so far."""
        where, what, remedy = (_line(text) for text in (self.where, self.what, self.remedy))
        head = f"{where}: {what}" if where else what
        return f"{head} {remedy}" if remedy else head


def nearest(name: str, known: Iterable[str], otherwise: str) -> str:
    """One suggestion for a name that was missed by a little, else all there are after the words `otherwise`."""
    names = list(known)
    near = difflib.get_close_matches(name, names, 1, 0.55)
    return f"Did you mean {near[0]}?" if near else f"{otherwise} {', '.join(names)}."


class LengthError(LanternError):
    """A text that cannot be read as a length."""


class ParameterError(LanternError):
    """A parameter has an impossible value, or no such parameter exists."""


class FaceError(ParameterError):
    """A part cannot be on a face of that kind, however large it is."""


class UnknownNameError(LanternError):
    """A family, stock, tool or face of that name does not exist."""


class DesignFileError(LanternError):
    """A design file is damaged, foreign, too new or too large."""


class WriteError(LanternError):
    """A file could not be written; what was there before is untouched."""
