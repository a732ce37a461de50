"""Design → Study: everything that follows from a design, each stage computed once, on demand, and kept."""

from yawning_lantern.study.admit import Admission, admission
from yawning_lantern.study.cures import applied, lever_label, remedies
from yawning_lantern.study.from_sheet import fill_sheet
from yawning_lantern.study.opened import opening_in_order, opening_of, state_at
from yawning_lantern.study.resolve import Resolved, known_names, resolve
from yawning_lantern.study.soundness import sound
from yawning_lantern.study.study import Study

__all__ = [
    "Admission",
    "Resolved",
    "Study",
    "admission",
    "applied",
    "fill_sheet",
    "known_names",
    "lever_label",
    "opening_in_order",
    "opening_of",
    "remedies",
    "resolve",
    "sound",
    "state_at",
]
