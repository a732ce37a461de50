"""A study at the bench: what its parts hint at."""

from __future__ import annotations

from yawning_lantern.bench import Before
from yawning_lantern.study.study import Study


def rules(study: Study) -> tuple[Before, ...]:
    """What the parts of a design say of the order of their acts."""
    return tuple(
        Before(f"{element}.{hint.first}", f"{element}.{hint.then}", hint.because)
        for element, r in study.resolved.items()
        for hint in r.part.hints
    )
