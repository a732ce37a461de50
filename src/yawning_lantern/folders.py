"""Where the program keeps what is the maker's own."""

from __future__ import annotations

import os
from pathlib import Path

NAME = "yawning-lantern"


def workshop_path() -> Path:
    """Where the maker's drawer is: the file that `LANTERN_WORKSHOP` names, or one in the user's data folder."""
    named = os.environ.get("LANTERN_WORKSHOP")
    if named:
        return Path(named)
    from platformdirs import user_data_path

    return user_data_path(NAME) / "workshop.sqlite"


def state_folder() -> Path:
    """Where settings and autosaves are, in the user's state folder."""
    from platformdirs import user_state_path

    return user_state_path(NAME, appauthor=False)
