"""Weight of paper: US basis weights to grammage, and thickness estimated from grammage and bulk.

Basis weight is the weight in pounds of 500 sheets of the basic size (definition; TAPPI T 410 states grammage in g/m²).
The international pound is 453.59237 g exactly (1959), the inch 25.4 mm exactly.
"""

from __future__ import annotations

from yawning_lantern.errors import ParameterError

GRAMS_PER_POUND = 453.59237  # grams in a pound, by definition
SQUARE_METRES_PER_SQUARE_INCH = 0.0254**2  # an inch is 0.0254 m, by definition
SHEETS_PER_REAM = 500  # sheets whose pounds are the basis weight, by definition
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


def parse_weight(told: str, where: str = "Weight") -> float:
    """A weight in g/m², told as 216, 216 g/m2, or in pounds: 80 lb cover, 65# text, 110 lb index.

    Raises:
        ParameterError: it is no weight.
    """
    words = told.lower().replace("g/m²", " g").replace("g/m2", " g").replace("gsm", " g")
    words = words.replace("lbs", " lb").replace("lb", " lb ").replace("#", " lb ")
    parts = words.split()
    remedy = "Give it as 216 g/m² or as 80 lb cover (or text, or index)."
    try:
        value = float(parts[0].replace(",", "."))
        if len(parts) == 1 or parts[1:] == ["g"]:
            grammage = value
        elif parts[1] == "lb":
            grammage = grammage_from_pounds(value, parts[2] if len(parts) > 2 else "cover")
        else:
            raise ValueError(told)
        caliper_from_grammage(grammage)
    except (ValueError, IndexError) as error:
        raise ParameterError(f"“{told}” is no weight of paper.", where, remedy) from error
    return grammage


def weight_words(grammage: float) -> str:
    """A weight in both systems: “216 g/m² (80 lb cover, 146 lb text)”, the pounds to the nearest whole."""
    cover, text = (grammage / grammage_from_pounds(1.0, kind) for kind in ("cover", "text"))
    return f"{grammage:g} g/m² ({cover:.0f} lb cover, {text:.0f} lb text)"
