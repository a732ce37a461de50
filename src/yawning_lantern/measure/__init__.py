"""Lengths: read them as people write them, show them as a board reads, snap them to a tool's grid."""

from yawning_lantern.measure.grid import Snapped, snap
from yawning_lantern.measure.lengths import (
    MM_PER_INCH,
    inches,
    parse_length,
    parse_lengths,
    parse_signed,
    parse_spoken,
    row_of,
)
from yawning_lantern.measure.show import (
    Units,
    at_least,
    at_most,
    format_fine,
    format_length,
    format_size,
    give_at_most,
    speak,
    told,
)

__all__ = [
    "MM_PER_INCH",
    "Snapped",
    "Units",
    "at_least",
    "at_most",
    "format_fine",
    "format_length",
    "format_size",
    "give_at_most",
    "inches",
    "parse_length",
    "parse_lengths",
    "parse_signed",
    "parse_spoken",
    "row_of",
    "snap",
    "speak",
    "told",
]
