"""Showing lengths: inches as fractions of the board's groove, millimetres with one decimal."""

from __future__ import annotations

import math
import re
from fractions import Fraction
from typing import Literal

from yawning_lantern.measure.lengths import MM_PER_INCH

Units = Literal["in", "mm"]
_EXACT = 0.02  # mm: closer than this to a fraction counts as that fraction
THIN = 1.5
"""Below this, mm, a length among inches that is no fraction is told in mm."""
_GLYPHS = {
    Fraction(1, 8): "⅛",
    Fraction(1, 4): "¼",
    Fraction(3, 8): "⅜",
    Fraction(1, 2): "½",
    Fraction(5, 8): "⅝",
    Fraction(3, 4): "¾",
    Fraction(7, 8): "⅞",
}


def _fraction_text(value: Fraction, glyphs: bool) -> str:
    whole, rest = divmod(value, 1)
    if rest == 0:
        return str(whole)
    if glyphs and rest in _GLYPHS:
        return f"{whole or ''}{' ' if whole else ''}{_GLYPHS[rest]}"
    part = f"{rest.numerator}/{rest.denominator}"
    return f"{whole} {part}" if whole else part


def format_length(
    mm: float, units: Units = "in", *, denominator: int = 32, glyphs: bool = False, mark: bool = True
) -> str:
    """A length (mm) as text. Inches: a fraction where one fits within 0.02 mm, else three decimals; what is thinner
    than any groove and no fraction, as the thickness of paper is, in mm.

    `mark` adds the unit sign (″ or mm; mm among inches always has it). `glyphs` uses ⅛ ¼ … where a glyph exists.
    """
    if units == "mm":
        thin = abs(mm) < THIN and abs(mm * 10 - round(mm * 10)) > 0.05
        text = f"{mm:.2f}" if thin else f"{mm:.1f}"
        text = text[1:] if text == "-0.0" else text
        return f"{text} mm" if mark else text
    if abs(mm) < THIN and not _is_fraction(mm, denominator):
        return f"{mm:.2f} mm".replace("-", "−")
    return _in_inches(mm, denominator, glyphs, mark)


def _is_fraction(mm: float, denominator: int) -> bool:
    value = Fraction(round(abs(mm) / MM_PER_INCH * denominator), denominator)
    return abs(abs(mm) - float(value) * MM_PER_INCH) <= _EXACT


def _in_inches(mm: float, denominator: int, glyphs: bool, mark: bool) -> str:
    sign = "−" if mm < 0 else ""
    value = Fraction(round(abs(mm) / MM_PER_INCH * denominator), denominator)
    if _is_fraction(mm, denominator):
        text = _fraction_text(value, glyphs)
        sign = sign if value else ""
    else:
        text = f"{abs(mm) / MM_PER_INCH:.3f}"
    return f"{sign}{text}″" if mark else f"{sign}{text}"


def format_fine(mm: float, units: Units = "in", *, glyphs: bool = False) -> str:
    """A gap or residual (mm): in inches the nearest 1/32 with “about” where it is not exact, in mm two decimals."""
    if units == "mm":
        return f"{mm:.2f} mm".replace("-", "−")
    size = abs(mm)
    value = Fraction(round(size / MM_PER_INCH * 32), 32)
    sign = "−" if mm < 0 else ""
    if abs(size - float(value) * MM_PER_INCH) <= _EXACT:
        return f"{sign if value else ''}{_fraction_text(value, glyphs)}″"
    if value == 0:
        return f"{sign}under 1/32″"
    return f"about {sign}{_fraction_text(value, glyphs)}″"


_TOLD = re.compile(r"\{([~<>]?)(-?\d+(?:\.\d+)?) mm\}")


def told(mm: float, fine: bool = False) -> str:
    """A length (mm) inside a text whose reader's units are not known yet; `speak` puts it into words, a `fine` one as
    gaps are told: to the nearest 1/32 in."""
    return f"{{{'~' if fine else ''}{mm:.4f} mm}}"


def at_most(mm: float) -> str:
    """An upper limit (mm) inside a text, for `speak`: rounded down, so that who obeys it is within it."""
    return f"at most {{<{mm:.6f} mm}}"


def give_at_most(most: float, least: float, otherwise: str) -> str:
    """What would help against too much of something that is `least` at least (both mm): a limit that can be kept, else
    what else would help."""
    return f"Give {at_most(most)}." if most >= least + MM_PER_INCH / 32 else otherwise


def at_least(mm: float) -> str:
    """A lower limit (mm) inside a text, for `speak`: rounded up."""
    return f"at least {{>{mm:.6f} mm}}"


def _format_limit(mm: float, units: Units, up: bool) -> str:
    """A limit (mm) on its own side: to 1/32 in, or to tenths of a mm, and to hundredths of what is thin."""
    thin = abs(mm) < THIN
    step = 0.01 if thin and not _is_fraction(mm, 32) else 0.1 if units == "mm" else MM_PER_INCH / 32
    whole = math.ceil(mm / step - 1e-5) if up else math.floor(mm / step + 1e-5)
    return format_length(whole * step, units)


def speak(text: str, units: Units) -> str:
    """A text with the lengths that were `told` in it shown in the reader's units."""

    def word(found: re.Match[str]) -> str:
        mm = float(found[2])
        if found[1] in ("<", ">"):
            return _format_limit(mm, units, found[1] == ">")
        return (format_fine if found[1] else format_length)(mm, units)

    return _TOLD.sub(word, text)


def format_size(parts: tuple[float, ...], units: Units = "in", *, glyphs: bool = False) -> str:
    """Several lengths (mm) with × between them and the unit once."""
    if units == "in":
        return " × ".join(_in_inches(part, 32, glyphs, False) for part in parts) + "″"
    texts = [format_length(part, units, mark=False) for part in parts]
    return " × ".join(texts) + " mm"
