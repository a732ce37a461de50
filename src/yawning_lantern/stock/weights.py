"""Weight of paper: US basis weights to grammage, and thickness estimated from grammage and bulk.

Basis weight is the weight in pounds of 500 sheets of the basic size (definition; TAPPI T 410 states grammage in g/m²).
The international pound is 453.59237 g exactly (1959), the inch 25.4 mm exactly.
"""

from __future__ import annotations

from yawning_lantern.errors import ParameterError

GRAMS_PER_POUND = 453.59237
SQUARE_METRES_PER_SQUARE_INCH = 0.0254**2
SHEETS_PER_REAM = 500
BASIC_SIZES = {"text": (25.0, 38.0), "cover": (20.0, 26.0), "index": (25.5, 30.5)}
"""Basic size (in × in) of each kind of paper, by definition of its basis weight."""

USUAL_BULK = 1.25  # cm³/g: the middle of cardstock's 1.2 to 1.3; common practice, no source


def grammage_from_pounds(pounds: float, kind: str) -> float:
    """Grammage in g/m² of paper of so many `pounds` basis weight.

    Raises:
        ParameterError: the kind is none of text, cover and index, or the weight is not above zero.
    """
    if kind not in BASIC_SIZES:
        raise ParameterError(f"There is no basis weight “{kind}”.", remedy=f"Choose {', '.join(BASIC_SIZES)}.")
    if pounds <= 0:
        raise ParameterError("A basis weight must be above zero.")
    width, height = BASIC_SIZES[kind]
    return pounds * GRAMS_PER_POUND / (SHEETS_PER_REAM * width * height * SQUARE_METRES_PER_SQUARE_INCH)


def caliper_from_grammage(grammage: float, bulk: float = USUAL_BULK) -> float:
    """Thickness in mm: grammage (g/m²) × bulk (cm³/g) / 1000.

    Raises:
        ParameterError: the grammage is not above zero, or the bulk is outside what paper can have.
    """
    if grammage <= 0:
        raise ParameterError("A grammage must be above zero.", remedy="Copy paper is 80, sturdy cardstock 216 g/m².")
    if not 0.5 <= bulk <= 3.0:
        raise ParameterError("That bulk is no paper's.", remedy="Paper lies between 1.0 and 1.4 cm³/g.")
    return grammage * bulk / 1000.0
