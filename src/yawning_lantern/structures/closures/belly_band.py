"""Belly band: a loose loop that holds a thing shut."""

from __future__ import annotations

from yawning_lantern.assembly import uses
from yawning_lantern.measure import inches
from yawning_lantern.structures.kit.around import Band, band_play
from yawning_lantern.structures.kit.declare import Parameter, Situation, Sized, fact
from yawning_lantern.structures.kit.lying import usual_length, within
from yawning_lantern.structures.kit.solving import up_to_cut

BREADTH = inches(1)
OVERLAP = inches(1 / 2)
PLAY = inches(1 / 8)
"""Breadth, overlap and play of a belly band, mm. Common practice, no source."""


class BellyBand(Band):
    """2·(width + closed thickness) + overlap + play; a bridging piece where the sheet is too short."""

    id = "belly-band"
    name = "Belly band"
    about = "A loose paper loop that holds a shut thing; make it last, when the bulk is known."
    shelf = "Closures and hinges"
    parameters = (
        fact("over-width", "Thing, width", "What it goes around, across.", "Thing", 3.0),
        fact("over-thick", "Thing, thickness", "What it goes around, shut, with all bulk.", "Thing", 0.1),
        Parameter("breadth", "Breadth", "length", "Of the band itself.", "Band", 6.0, default=BREADTH),
        Parameter("overlap", "Overlap", "length", "Where it is glued to itself.", "Band", 3.0, default=OVERLAP),
        Parameter("play", "Play", "length", "Room in all, once around.", "Band", most=30.0, default=PLAY),
        Parameter("strip", "Cut to", "length", "Length of the strip.", "Band", derived=True),
    )

    def size(self, situation: Situation) -> dict[str, Sized]:
        """Breadth, overlap, and the strip. Raises ParameterError where the overlap goes on around the next edge."""
        s = situation
        sizes = self.thing(s)
        high = s.room.nominal[1] if s.room is not None and s.room.use == uses.BAND else None
        sizes["breadth"] = usual_length(s, "breadth", BREADTH, 2 * BREADTH if high is None else high / 2)
        sizes["play"] = band_play(s, max(PLAY, 4 * s.paper.caliper))
        across = self.panels(s, sizes)[0]
        sizes["overlap"] = usual_length(s, "overlap", OVERLAP, across)
        within(sizes, "overlap", "Overlap", across, "the side")
        exact = 2 * (sizes["over-width"].length + sizes["over-thick"].length) + sizes["overlap"].length
        sizes["strip"] = up_to_cut(s, exact + sizes["play"].length, "auto")
        return sizes


FAMILY = BellyBand()
