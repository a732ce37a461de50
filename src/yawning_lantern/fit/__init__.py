"""Fit: every gap judged against what its use wants, with the formula in figures and what would cure it."""

from yawning_lantern.fit.checks import Check, Verdict, check_gaps, wanted
from yawning_lantern.fit.remedies import Candidate, candidates
from yawning_lantern.fit.words import asked, formula, headline, sentence, sums

__all__ = [
    "Candidate",
    "Check",
    "Verdict",
    "asked",
    "candidates",
    "check_gaps",
    "formula",
    "headline",
    "sentence",
    "sums",
    "wanted",
]
