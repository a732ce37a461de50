"""One structure on every wall of a box at once: inside, outside, or on both sides."""

from __future__ import annotations

from typing import Literal, get_args

from msgspec.structs import replace

from yawning_lantern.design import Design, Element, Place, add_guest
from yawning_lantern.errors import ParameterError
from yawning_lantern.structures import family, new_guest
from yawning_lantern.study.study import Study

Which = Literal["walls-outside", "walls-inside", "walls"]
WORDS: tuple[Which, ...] = get_args(Which)


def wall_faces(study: Study, element: str, which: Which) -> tuple[str, ...]:
    """The faces of a part's walls that carry nothing yet, in the order they are declared."""
    r = study.resolved[element]
    taken = {guest.place.face for guest in r.element.guests if guest.place}
    sides = ("-inside", "-outside") if which == "walls" else (which.removeprefix("walls"),)
    return tuple(
        face
        for face, words in r.family.faces
        if face in r.rooms and face not in taken and face.endswith(sides) and "wall" in words
    )


def on_all_walls(study: Study, element: str, which: Which, like: Element) -> Design:
    """The design with one such guest on every wall that is free.

    Raises:
        ParameterError: no wall is free, or the part has none.
    """
    design = study.design
    faces = wall_faces(study, element, which)
    if not faces:
        r = study.resolved[element]
        raise ParameterError(
            f"{r.final.name} has no wall that is free for it.", "Walls",
            "Take off what is there, or choose a box.",
        )  # fmt: skip
    for k, face in enumerate(faces, 1):
        fresh = new_guest(design, family(like.family), "")
        name = f"{like.name} {k}" if like.name else fresh.name
        design = add_guest(design, element, replace(like, id=fresh.id, name=name), Place(face))
    return design
