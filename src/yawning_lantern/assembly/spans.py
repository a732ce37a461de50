"""A length that remembers its sum: named terms, and which parameter moves each."""

from __future__ import annotations

from msgspec import Struct


class Lever(Struct, frozen=True):
    """The parameter that a term hangs on, and what the term gains when the parameter grows by one."""

    element: str
    parameter: str
    slope: float = 1.0

    @property
    def is_place(self) -> bool:
        """Whether it is where a guest sits, and not a measurement of it."""
        return self.parameter in PLACES


PLACES = ("place-x", "place-y")
"""Levers of a guest's own place: across and up its face, mm off the middle."""


class Term(Struct, frozen=True):
    """One summand, mm, with its sign in the value, and the lever that moves it where there is one."""

    label: str
    value: float
    lever: Lever | None = None

    def times(self, factor: float) -> Term:
        """The term and its lever, multiplied."""
        lever = self.lever and Lever(self.lever.element, self.lever.parameter, self.lever.slope * factor)
        return Term(self.label, self.value * factor, lever)


class Span(Struct, frozen=True):
    """A sum of terms, mm."""

    terms: tuple[Term, ...] = ()

    @property
    def value(self) -> float:
        """The sum, mm."""
        return sum([term.value for term in self.terms])

    def plus(self, *terms: Term) -> Span:
        """With further terms; those of zero are left out."""
        return Span((*self.terms, *[term for term in terms if term.value]))

    def __add__(self, other: Span) -> Span:
        return Span(self.terms + other.terms)

    def __sub__(self, other: Span) -> Span:
        return Span((*self.terms, *[term.times(-1.0) for term in other.terms]))

    def merged(self) -> Span:
        """Terms of one label and lever added up: two half boxes become one box."""
        sums: dict[tuple[str, str, str], Term] = {}
        for term in self.terms:
            key = (term.label, term.lever.element, term.lever.parameter) if term.lever else (term.label, "", "")
            old = sums.get(key)
            if old is None:
                sums[key] = term
                continue
            slope = (old.lever.slope if old.lever else 0.0) + (term.lever.slope if term.lever else 0.0)
            lever = term.lever and Lever(term.lever.element, term.lever.parameter, slope)
            sums[key] = Term(term.label, old.value + term.value, lever)
        return Span(
            tuple([term for term in sums.values() if abs(term.value) > 1e-9 or (term.lever and term.lever.is_place)])
        )


def span(label: str, value: float, element: str = "", parameter: str = "", slope: float = 1.0) -> Span:
    """A span of one term; with an element and a parameter it has a lever."""
    return Span((Term(label, value, Lever(element, parameter, slope) if parameter else None),))
