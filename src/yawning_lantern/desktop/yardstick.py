"""A plain loop of the interpreter: what a time is told against, since a machine is not equally quick all day."""

from __future__ import annotations

import time

USUAL = 10.8
"""Milliseconds the loop takes where the goals in milliseconds were set: there one edit of then took 69 ms to the
repainted page, and it takes 6.4 loops."""
_COUNT = 200_000


def plain_loop() -> float:
    """Seconds that 200,000 squares added up one by one take just now, with all that breaks in on them."""
    begin, total = time.perf_counter(), 0
    for k in range(_COUNT):
        total += k * k
    return time.perf_counter() - begin
