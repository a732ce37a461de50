"""One step at the bench, as plain data; and how long steps take where nobody has measured them."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from yawning_lantern.bench.score_plan import Placing
from yawning_lantern.bench.scores import Face

Kind = Literal[
    "cut", "score", "slit", "trim", "punch", "fold", "decorate", "glue", "tie", "insert", "fit", "put", "wait",
    "rehearse",
]  # fmt: skip
State = Literal["sure", "by eye", "trim to fit", "shave until it holds", "decide at the end"]
"""What is not told by a number stays open, and is told as that."""
KINDS: dict[Kind, str] = {
    "cut": "Cut",
    "score": "Score",
    "slit": "Slit",
    "trim": "Cut the outline",
    "punch": "Punch",
    "fold": "Fold",
    "decorate": "Decorate",
    "glue": "Glue",
    "tie": "Tie",
    "insert": "Insert",
    "fit": "Dry fit",
    "put": "Put together",
    "wait": "Wait",
    "rehearse": "Rehearse",
}
"""What a step is called, by its kind."""

MINUTES: dict[str, float] = {
    "cut": 0.8, "cut each": 0.7, "placing": 0.2, "number": 0.2, "slit": 0.4, "trim": 0.2, "punch": 0.4, "fold": 0.12,
    "decorate": 0.8, "glue": 1.2, "tie": 1.0, "insert": 0.3, "fit": 0.6, "put": 0.3, "rehearse": 2.0,
}  # fmt: skip
"""Minutes of hands: of a step of that kind, of each further copy, of each placing, number, line or crease. From
memory; to be replaced by what a maker has measured."""
SETS = 5.0
"""Minutes until wet glue holds enough to go on with the part. From memory: the maker's label decides."""


class Step(Struct, frozen=True):
    """What is done at once.

    `piece` and `placing` tell what lies at the fence, `face` which side of it is up, `lines` which of its lines are
    meant (their ranks); `act` what is glued. `needs` are the ids of steps that come before it, `because` says why where
    that is not plain. `minutes` are of hands for all copies, `wait` what must pass after it before the part is used.
    Lengths in texts are `told`, so that each reader sees own units.
    """

    id: str
    kind: Kind
    text: str
    element: str = ""
    piece: str = ""
    parts: tuple[str, ...] = ()
    face: Face | None = None
    placing: Placing | None = None
    lines: tuple[int, ...] = ()
    act: str = ""
    needs: tuple[str, ...] = ()
    because: str = ""
    heed: str = ""
    minutes: float = 0.0
    wait: float = 0.0
    caution: str = ""
    state: State = "sure"
    copies: int = 1
    tools: tuple[str, ...] = ()


class Thing(Struct, frozen=True):
    """A part of the design as the bench sees it: its name, the face it goes on and that face's part.

    `turn` counts quarter turns to the left on that face. `flat`: a mat or a photo. `inside`: it goes between walls or
    about them, `within`: between them. `seated`: it is put there without glue.
    `inserts` are what slides into it (names), `bends` what is glued in and bends as it likes, so that it is
    nowhere drawn (piece, name, how many, what its piece says), `wares` what is bought by length for it, `holds` what
    the maker said stands in it (width, depth, height, mm), `shaves` what of it is cut a hair too wide; `under`: it is
    laid before what is glued over it. `fits` say how it sits on its host, in words. `holes` go through the panel it is
    put on where they are not drawn on its piece: across, and from the piece's left and foot as it lies, mm.
    """

    element: str
    name: str
    host: str = ""
    host_name: str = ""
    face: str = ""
    turn: int = 0
    flat: bool = False
    inside: bool = False
    within: bool = False
    seated: bool = False
    inserts: tuple[str, ...] = ()
    bends: tuple[tuple[str, str, int, str], ...] = ()
    wares: tuple[tuple[str, int, float], ...] = ()
    holds: tuple[float, float, float] | None = None
    shaves: str = ""
    under: bool = False
    fits: tuple[str, ...] = ()
    holes: tuple[tuple[float, float, float], ...] = ()
