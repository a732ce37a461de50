"""Words for checks, made once for every place that shows them."""

from __future__ import annotations

from yawning_lantern.fit.checks import Check
from yawning_lantern.measure import Units, format_fine, format_length, inches

ENDLESS = inches(12)
"""mm: a range that ends beyond this has no end that matters."""
_SHOWN: dict[Units, float] = {"in": 0.02, "mm": 0.005}
"""What is less is nothing in figures, mm."""
_AGAINST = {"below": "less than asked", "above": "more than asked", "within": ""}


def headline(check: Check) -> str:
    """What the check is about, in a few words: “Lid over box: Lid, across”."""
    return f"{check.gap.use.label}: {check.gap.between[0]} · {check.gap.between[1]}"


def sentence(check: Check, units: Units) -> str:
    """The verdict in words, without the subject."""
    gap = check.gap.value
    if check.gap.lacks:
        return check.gap.lacks
    if check.is_clash:
        return f"{format_fine(-gap, units)} too large: it clashes"
    if abs(gap) < 1e-6:
        return f"nothing to spare, {check.verdict}"
    if gap < 0:
        return f"{format_fine(-gap, units)} above, as asked"
    text = f"{format_fine(gap, units)} to spare, {check.verdict}"
    against = _AGAINST[check.against]
    return f"{text}, {against}" if against else text


def sums(check: Check, units: Units) -> str:
    """What it is about, its sum and what is asked, in a line each; where something is missing, what that is."""
    if check.gap.lacks:
        return f"{headline(check)}\n{check.gap.lacks[0].upper()}{check.gap.lacks[1:]}."
    return f"{headline(check)}\n{formula(check, units)}\nAsked: {asked(check, units)}."


def asked(check: Check, units: Units) -> str:
    """The range that is asked for, in words."""
    low, high = check.want
    if high >= ENDLESS:
        return f"at least {format_length(low, units)}" if low > 0 else "not less than nothing"
    return f"{format_length(low, units)} to {format_length(high, units)}"


def formula(check: Check, units: Units) -> str:
    """The sum behind the gap, in figures: “3 3/16 lid top − 3 box − 0.011 sheet = 0.10”; of what is missing none."""
    if check.gap.lacks:
        return ""
    parts: list[str] = []
    for term in check.gap.span.terms:
        if abs(term.value) < _SHOWN[units]:
            continue  # where a thing sits in the middle, nothing is to be said of that
        size = format_length(abs(term.value), units, mark=False) if units == "in" else f"{abs(term.value):.2f}"
        if parts:
            parts.append(f"{'−' if term.value < 0 else '+'} {size} {term.label}")
        else:
            parts.append(f"{'−' if term.value < 0 else ''}{size} {term.label}")
    value = check.gap.value / 25.4 if units == "in" else check.gap.value
    total = f"{round(value, 3) + 0.0:.3f}″" if units == "in" else f"{round(value, 2) + 0.0:.2f} mm"
    return f"{' '.join(parts)} = {total.replace('-', '−')}"
