"""What all tests share."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings
from msgspec.structs import replace

from yawning_lantern.design import Design, Value
from yawning_lantern.measure import inches
from yawning_lantern.stock import builtin_catalogue
from yawning_lantern.structures import family as kind
from yawning_lantern.structures import parameter, start_design
from yawning_lantern.study import Study

settings.register_profile("house", deadline=None, max_examples=60, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("house")

DEMO = Path(__file__).parent.parent / "src" / "yawning_lantern" / "examples" / "comet-night-box.lantern"
Maker = Callable[..., Study]


@pytest.fixture
def studied() -> Maker:
    """Study of a family with settings in inches (counts and words as they are)."""

    def make(family: str, **settings: float | str) -> Study:
        return Study(designed(family, **settings))

    return make


def designed(family: str, **settings: float | str) -> Design:
    """A design of a family; lengths in inches, counts and words as they are, underscores for hyphens."""
    given: dict[str, Value] = {}
    for key, value in settings.items():
        name = key.replace("_", "-")
        plain = isinstance(value, str) or parameter(kind(family), name).kind == "count"
        given[name] = value if plain else inches(value)  # type: ignore[arg-type]  # not a word here
    return start_design(family, given)


@pytest.fixture
def no_rounding(monkeypatch: pytest.MonkeyPatch) -> None:
    """Tools of a grid so fine that nothing is rounded."""
    catalogue = builtin_catalogue()
    catalogue = catalogue.under((replace(catalogue.tool("trimmer-mm"), id="free", grid=1e-4),))
    monkeypatch.setattr("yawning_lantern.study.study.catalogue_for", lambda design: catalogue)
