"""Commands as declared: menus, keys, the search, the help page and tests are made from them."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

MENUS = ("&Design", "&Edit", "&View", "&Go", "&Opening", "&Sheets", "&Bench", "&Window", "&Help")
"""The menu bar, from left to right. It stands before there is any command."""


def always() -> bool:
    """Of a command that can always be done."""
    return True


class Command(NamedTuple):
    """One thing the maker can have done. `do` does it, `when` says whether it can be done now.

    `checked` tells whether it is switched on, of a command that is a switch. `about` is what the search says of it.
    """

    id: str
    menu: str
    words: str
    do: Callable[[], object]
    shortcut: str = ""
    when: Callable[[], bool] = always
    checked: Callable[[], bool] | None = None
    ends_group: bool = False
    about: str = ""

    @property
    def plain(self) -> str:
        """The words as they are read, without the mark of the menu's key."""
        return self.words.replace("&", "").removesuffix(" …")
