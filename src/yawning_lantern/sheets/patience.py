"""How long something is looked for: until a time is up, or until whoever asked has had enough."""

from __future__ import annotations

import time
from collections.abc import Callable


class Patience:
    """So many seconds from now, cut short by `enough`, which is asked now and then."""

    def __init__(self, seconds: float, enough: Callable[[], bool] | None = None) -> None:
        self._until = time.monotonic() + seconds
        self._enough = enough

    @property
    def is_over(self) -> bool:
        """Whether to stop."""
        return time.monotonic() > self._until or (self._enough is not None and self._enough())
