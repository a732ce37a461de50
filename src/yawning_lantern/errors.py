"""Errors that a person can cause. Each says what is wrong, where, and what would help."""

from __future__ import annotations

from collections.abc import Callable


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
        """All there is to say, as one line."""
        head = f"{self.where}: {self.what}" if self.where else self.what
        return f"{head} {self.remedy}" if self.remedy else head


class LengthError(LanternError):
    """A text that cannot be read as a length."""


class ParameterError(LanternError):
    """A parameter has an impossible value, or no such parameter exists."""


class UnknownNameError(LanternError):
    """A family, stock, tool or face of that name does not exist."""


class DesignFileError(LanternError):
    """A design file is damaged, foreign, too new or too large."""


class WriteError(LanternError):
    """A file could not be written; what was there before is untouched."""
