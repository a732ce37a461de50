"""The check that everything passes that leaves the program: every piece is whole paper."""

from __future__ import annotations

from yawning_lantern.errors import LanternError
from yawning_lantern.pattern.validity import faults
from yawning_lantern.study.study import Study


def sound(study: Study) -> Study:
    """The study, if every piece of it is sound.

    Raises:
        LanternError: a piece is not; that is the family's fault and not the maker's.
    """
    for piece in study.pieces:
        if wrong := faults(piece):
            told = ", ".join(f"{fault.code} {' and '.join(fault.names)}" for fault in wrong[:6])
            raise LanternError(f"{piece.name} is not sound: {told}.", remedy="The family that made it is at fault.")
    return study
