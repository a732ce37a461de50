"""What there is to choose from: the maker's drawer where there is one, else what ships with the program."""

from __future__ import annotations

from pathlib import Path

from yawning_lantern.folders import workshop_path
from yawning_lantern.stock import Catalogue, builtin_catalogue
from yawning_lantern.workshop import Workshop


def shelf(drawer: Path | None = None) -> Catalogue:
    """Everything that can be named. Raises WriteError where the drawer is damaged."""
    path = drawer or workshop_path()
    if not path.exists():
        return builtin_catalogue()
    workshop = Workshop(path)
    try:
        return workshop.catalogue()
    finally:
        workshop.close()
