"""Cutting by machine: what is done to a bed, and a simulated machine that shows what a file really does."""

from yawning_lantern.machine.knife import compensated
from yawning_lantern.machine.paths import Bed, Layer, Path, bed_of_piece, beds_on_sheets, once
from yawning_lantern.machine.plotter import Fault, Plotter, Report, Stroke, run

__all__ = [
    "Bed",
    "Fault",
    "Layer",
    "Path",
    "Plotter",
    "Report",
    "Stroke",
    "bed_of_piece",
    "beds_on_sheets",
    "compensated",
    "once",
    "run",
]
