"""How pages and commands speak to the maker: in passing, or in a strip that stays until it is closed."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct

from yawning_lantern.errors import LanternError


class Voice(Struct, frozen=True):
    """`say` tells something in passing; `complain` tells what went wrong, and what follows from it."""

    say: Callable[[str], None]
    complain: Callable[[LanternError, str], None]
