"""Judging gaps. Codes and numbers only; the words are made in `fit.words`."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Literal

from msgspec import Struct

from yawning_lantern.assembly import Gap

Verdict = Literal["clash", "tight", "snug", "easy", "loose"]
_ROUNDING = 1e-6  # mm: what is nearer than this to what is asked is as asked


class Check(Struct, frozen=True):
    """One gap, judged. `want` is the range asked for, mm; `against` tells how the gap lies to it."""

    gap: Gap
    want: tuple[float, float]
    verdict: Verdict
    against: Literal["below", "within", "above"]

    @property
    def is_clash(self) -> bool:
        """Whether two things would have to be in one place."""
        return self.verdict == "clash"

    @property
    def is_fine(self) -> bool:
        """Whether the gap is what was asked for."""
        return self.against == "within" and not self.is_clash


def wanted(gap: Gap) -> tuple[float, float]:
    """What is asked of a gap in all: its own range, that of its school, or what its use asks as a rule, mm."""
    return gap.want or gap.use.wanted(gap.school)


def judge(gap: Gap) -> Check:
    """One gap against what its use wants."""
    use, value, share = gap.use, gap.value, gap.share
    least, most = wanted(gap)
    want = (least * share, most * share)
    floor = min(0.0, want[0])
    clash, tight, snug, easy = [band * share for band in use.bands]
    verdict: Verdict
    if value < clash + floor - _ROUNDING:
        verdict = "clash"
    elif -_ROUNDING <= value < tight - _ROUNDING:
        verdict = "tight"
    elif value <= snug + _ROUNDING:
        verdict = "snug"
    elif value < easy - _ROUNDING or (use.upto and value <= easy + _ROUNDING):
        verdict = "easy"
    else:
        verdict = "loose"
    if value < want[0] - _ROUNDING:
        return Check(gap, want, verdict, "below")
    return Check(gap, want, verdict, "above" if value > want[1] + _ROUNDING else "within")


def check_gaps(gaps: Iterable[Gap], known: Mapping[int, Check] | None = None) -> tuple[Check, ...]:
    """Every gap judged, in the order given. Gaps that are the very same as those of `known` checks, which are told by
    the ids of these, are not judged again."""
    if not known:
        return tuple(map(judge, gaps))
    return tuple(known.get(id(gap)) or judge(gap) for gap in gaps)
