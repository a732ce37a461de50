"""Libraries that are loaded where they are first used, so that the first window need not wait for them.

Two threads that load numpy at once, one of them by way of a library that needs it, leave it half made: one at a time.
"""

from __future__ import annotations

import importlib
from threading import RLock
from typing import Any

_lock = RLock()


def load(name: str) -> Any:
    """A library by its name. Raises ImportError."""
    with _lock:
        return importlib.import_module(name)


class Late:
    """Stands for a library until something of it is used: what the first window does not need, it does not load."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, name: str) -> Any:
        value = getattr(load(self._name), name)
        setattr(self, name, value)
        return value
