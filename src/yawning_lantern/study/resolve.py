"""Settling every size in the nest: needs go up, then rooms come down.

Some things know how thick they are only once they know their room (as many flaps as fit): their thickness is then told
upwards and the two passes run again, three times at most. What still does not agree shows in the fits.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from functools import lru_cache

from msgspec import Struct
from msgspec.structs import replace

from yawning_lantern.assembly import Gap, Need, Part, Room, Span, edge_gaps, seat_shift, sits_on
from yawning_lantern.design import Design, Element, Place, catalogue_for, walk
from yawning_lantern.errors import FaceError, LanternError, ParameterError, UnknownNameError, nearest
from yawning_lantern.fit import wanted
from yawning_lantern.measure import Units, inches, speak
from yawning_lantern.stock import Catalogue, Paper
from yawning_lantern.structures import Family, GuestNeed, Situation, Sized, checked_settings, family, parameter
from yawning_lantern.structures.making import laid, with_making_fits

_DEEPEST = 24  # parts in one another
_ROUNDS = 3  # how often all is worked out anew because something is thicker than it told
_TRIES = 6  # with more and more kept free beside what fills its face
_SAME = 1e-6  # mm: what is short by less is not short
_NO_END = inches(36)  # mm: more room than there ever is
THINNEST, THICKEST = 0.005, 20.0  # mm: what a sheet can be
FARTHEST = 2000.0  # mm: how far off the middle of a face a guest can be


class Resolved(Struct, frozen=True):
    """One element settled: the situations it was settled and built in, its sizes, faces, need and part.

    `up_sizes` and `up_need` are those on the way up. `gaps` are those to its host; its own are in the part. `depth` is
    how far down the nest it is. `shift` sets it in the middle of what is free on its face, mm; it is `alone` there or
    not.
    """

    element: Element
    family: Family
    upward: Situation
    up_sizes: Mapping[str, Sized]
    up_need: Need
    final: Situation
    sizes: Mapping[str, Sized]
    rooms: Mapping[str, Room]
    need: Need
    part: Part
    host: str
    place: Place
    gaps: tuple[Gap, ...]
    depth: int
    shift: tuple[float, float] = (0.0, 0.0)
    alone: bool = True

    @property
    def seat(self) -> tuple[float, float]:
        """Where its middle lies off the middle of its face, mm: its place, and what sets it amid what is free."""
        return self.place.x + self.shift[0], self.place.y + self.shift[1]


class _Up(Struct, frozen=True):
    """An element on the way up: its situation without a room, its need, and its guests likewise. Where `same`, it and
    all that is on it were asked for like this before: a guest's own stock may change and its need may not."""

    element: Element
    situation: Situation
    sizes: Mapping[str, Sized]
    need: Need
    guests: tuple[_Up, ...]
    same: bool = False


@lru_cache(maxsize=128)
def paper_of(paper: Paper, caliper: float | None) -> Paper:
    """A paper with the maker's own measured thickness (mm), where there is one. The same paper each time."""
    return paper if caliper is None else replace(paper, measured=caliper)


def _height_of(span: Span | None) -> float:
    return span.value if span is not None else 0.0


def _is_its_own(r: Resolved) -> bool:
    """Whether the height is the guest's own: what was open on the way up was to fill its room, if that is bounded."""
    return r.up_need.height is not None or r.final.room is None or r.final.room.height is None


def _short(gaps: Sequence[Gap]) -> tuple[float, float]:
    """How much less is left beside a guest than is asked, across and up its face, mm."""
    across = up = 0.0
    for gap in gaps:
        if gap.angle is not None and gap.value < (least := wanted(gap)[0] * gap.share) - _SAME:
            across += (least - gap.value) * abs(math.cos(gap.angle))
            up += (least - gap.value) * abs(math.sin(gap.angle))
    return across, up


def _height(need: Need) -> float:
    return _height_of(need.height)


@contextmanager
def _blamed(element: str, units: Units) -> Iterator[None]:
    """Note in an error whose it is, its lengths in the design's units."""
    try:
        yield
    except LanternError as error:
        error.element = error.element or element
        error.reworded(lambda text: speak(text, units))
        raise


def _stands_alone(up: _Up) -> bool:
    """Whether an element could be made by itself."""
    kind = family(up.element.family)
    try:
        kind.build(up.situation, up.sizes, kind.rooms(up.situation, up.sizes))
    except LanternError:
        return False
    return True


@contextmanager
def _cramped(up: _Up, room: Room | None) -> Iterator[None]:
    """Say of what could be made by itself and is refused on its face that a larger face would help. A family that
    refuses its face and has no other advice leaves it to this."""
    try:
        yield
    except ParameterError as error:
        lies = room is not None and room.relation in ("inside", "onto") and not isinstance(error, FaceError)
        if lies and not error.remedy:
            error.remedy = "Put it on a larger face."
        elif lies and _stands_alone(up):
            error.remedy += " Or put it on a larger face."
        raise


class _Resolver:
    def __init__(
        self, design: Design, catalogue: Catalogue, before: Mapping[str, Resolved], told: Mapping[str, Span]
    ) -> None:
        self.told = told
        self.design, self.catalogue, self.before = design, catalogue, before
        self.glue = catalogue.adhesive(design.adhesive).thickness
        self.score, self.cut = catalogue.tool(design.score_tool), catalogue.tool(design.cut_tool)
        self.found: dict[str, Resolved] = {}
        self.seen: set[str] = set()

    def _paper(self, element: Element) -> Paper:
        name = element.stock or self.design.stock
        caliper = self.design.calipers.get(name)
        if caliper is not None and not THINNEST <= caliper <= THICKEST:
            raise ParameterError(
                f"A thickness of {caliper:g} mm for {name} cannot be.",
                "Stock",
                f"It can be {THINNEST:g} to {THICKEST:g} mm.",
            )
        return paper_of(self.catalogue.paper(name), caliper)

    def up(self, element: Element, depth: int) -> _Up:
        """Needs from the innermost outwards."""
        if element.id in self.seen:
            raise ParameterError(f"Two parts are both called “{element.id}”.", remedy="Give each its own id.")
        if depth > _DEEPEST:
            raise ParameterError(f"The nest is more than {_DEEPEST} deep.", element.name or element.id)
        self.seen.add(element.id)
        kind = family(element.family)
        guests = tuple(self.up(guest, depth + 1) for guest in element.guests)
        faces = dict(kind.faces)
        needs = []
        for guest in guests:
            place = guest.element.place or Place("")
            if not (abs(place.x) <= FARTHEST and abs(place.y) <= FARTHEST and abs(place.turn) < 1000):
                raise ParameterError(
                    "It is put far off the face it sits on.", guest.situation.name, "Put it nearer to the middle."
                )
            if place.face not in faces:
                raise _no_face(kind, place.face, guest.situation.name)
            need = guest.need
            if guest.element.id in self.told:
                need = replace(need, height=self.told[guest.element.id])
            needs.append(
                GuestNeed(guest.element.id, guest.situation.name, place.face, place.turn, (place.x, place.y), need)
            )
        name = element.name or kind.name
        old = self.before.get(element.id)
        given = checked_settings(kind, element.settings, self.design.units)
        lays = tuple((piece, lay.turn, lay.over) for piece, lay in element.lays.items())
        situation = Situation(
            element.id, name, given, self._paper(element), self.glue, self.score, self.cut, tuple(needs), lays=lays
        )
        if old is not None and old.upward == situation:
            same = all(guest.same for guest in guests)
            return _Up(element, old.upward, old.up_sizes, old.up_need, guests, same)
        with _blamed(element.id, self.design.units):
            sizes = kind.size(situation)
        return _Up(element, situation, sizes, kind.need(situation, sizes), guests)

    def down(self, up: _Up, host: str, host_name: str, room: Room | None, depth: int, alone: bool = True) -> Need:
        """Rooms from the outside in; gives the element's final need. It is `alone` on its face or not."""
        kind = family(up.element.family)
        place = up.element.place or Place("")
        old = self.before.get(up.element.id)
        seen = room.turned(place.turn) if room is not None else None
        if old is not None and old.depth == depth and self._same_nest(up, seen, host, host_name, alone):
            self.found.update((e.id, self.before[e.id]) for e in walk(up.element))
            return old.need
        placed = replace(up.situation, room=seen) if seen is not None else up.situation
        same = old is not None and old.upward == up.situation and old.final.room == seen and old.host == host
        if same and old is not None:
            sizes, rooms = old.sizes, old.rooms
        else:
            with _blamed(up.element.id, self.design.units), _cramped(up, room):
                sizes = up.sizes if room is None else kind.size(placed)
                if room is not None and alone and not (place.x or place.y):
                    sizes = self._fitted(kind, placed, sizes, room, place.turn)
                rooms = kind.rooms(placed, sizes)
        finals = []
        for guest, asked in zip(up.guests, up.situation.guests, strict=True):
            with _blamed(guest.element.id, self.design.units):
                self._check_seat(kind, guest, rooms, asked.mount)
            only = sum(other.mount == asked.mount for other in up.situation.guests) == 1
            settled = self.down(
                guest, up.element.id, up.situation.name, rooms[asked.mount].on_glue(self.glue), depth + 1, only
            )
            finals.append(replace(asked, need=settled))
        final = replace(placed, guests=tuple(finals)) if finals else placed
        if same and old is not None and old.final == final:
            need, part = old.need, old.part
        else:
            with _blamed(up.element.id, self.design.units), _cramped(up, room):
                need = kind.need(final, sizes)
                set_on = need.relation == "onto" or (room is not None and need.relation == "inside")
                part = laid(with_making_fits(kind.build(final, sizes, rooms), set_on), final.lays)
        gaps: tuple[Gap, ...] = ()
        shift = (0.0, 0.0)
        if same and old is not None and old.need is need and self._seated_as(old, place, host_name, alone):
            gaps, shift = old.gaps, old.shift
        elif room is not None:
            shift = seat_shift(room, need, place.turn)
            names = (host_name, up.situation.name)
            gaps = edge_gaps(host, up.element.id, names, room, need, place.turn, (place.x, place.y), place.face)
            if not alone or place.x or place.y:
                gaps = tuple(_as_loose_as_placed(gap) for gap in gaps)
        self.found[up.element.id] = Resolved(
            up.element,
            kind,
            up.situation,
            up.sizes,
            up.need,
            final,
            sizes,
            rooms,
            need,
            part,
            host,
            place,
            gaps,
            depth,
            shift,
            alone,
        )
        return need

    @staticmethod
    def _fitted(
        kind: Family, placed: Situation, sizes: Mapping[str, Sized], room: Room, turn: int
    ) -> Mapping[str, Sized]:
        """What fills its face and then has less left beside it than is asked, for what its folds stand beyond, in other
        sizes: with so much kept free of the room. If that does not help, as it was."""
        if not any(sized.origin == "fill" for sized in sizes.values()):
            return sizes
        now, across, high = sizes, 0.0, 0.0
        for _ in range(_TRIES):
            short = _short(edge_gaps("", "", ("", ""), room, kind.need(placed, now), turn, (0.0, 0.0)))
            if not any(short):
                return now
            # what is rounded to the marks may not move for less than half a mark
            step = [max(mm, placed.cut.grid / 2) if mm > _SAME else 0.0 for mm in short]
            across, high = across + step[0], high + step[1]
            try:
                now = kind.size(replace(placed, room=room.narrowed(across, high).turned(turn)))
            except LanternError:  # so little room that it cannot be made: rather too large, and the fit says so
                return sizes
        return sizes

    def _seated_as(self, old: Resolved, place: Place, host_name: str, alone: bool) -> bool:
        """Whether an element sits where it sat, among as many, on a host of the same name."""
        host = self.before.get(old.host)
        return old.place == place and old.alone == alone and (host.final.name if host else "") == host_name

    def _same_nest(self, up: _Up, room: Room | None, host: str, host_name: str, alone: bool) -> bool:
        """Whether a whole nest was asked for before, from the same room: then all of it is as it was."""
        old = self.before.get(up.element.id)
        return (
            old is not None
            and up.same
            and old.element is up.element
            and old.upward is up.situation
            and old.host == host
            and old.final.room == room
            and self._seated_as(old, old.place, host_name, alone)
        )

    @staticmethod
    def _check_seat(kind: Family, guest: _Up, rooms: Mapping[str, Room], face: str) -> None:
        """Raise an error where a guest cannot sit on a face at all."""
        host, words = kind.name.lower(), dict(kind.faces).get(face, face)
        if face not in rooms:
            raise UnknownNameError(
                f"The {host} offers nothing on its face “{words}” as it is now.",
                guest.situation.name,
                "Put that part on another face.",
            )
        relation, room = family(guest.element.family).relation, rooms[face].relation
        if sits_on(relation, room):
            return
        how = {"over": "goes over walls", "around": "goes around a whole thing"}.get(
            relation, "lies on a face or floor"
        )
        there = {"over": "is a mouth for a lid", "around": "is for a band"}.get(room, "is a plain face")
        raise FaceError(
            f"It {how}, but “{words}” of the {host} {there}.", guest.situation.name, "Put it on another face."
        )


def _as_loose_as_placed(gap: Gap) -> Gap:
    """Of two things on one face, and of one that was put off the middle, nobody asks that they fill their place."""
    if not gap.use.fills or gap.where == "up":
        return gap
    return replace(gap, want=(wanted(gap)[0], _NO_END))


def _no_face(kind: Family, face: str, guest: str) -> UnknownNameError:
    """What is said of a face that a structure does not have, with the nearest one."""
    known = [name for name, _ in kind.faces]
    return UnknownNameError(
        f"{kind.name} has no face “{face}” for “{guest}”.", remedy=nearest(face, known, "Its faces are")
    )


def known_names(design: Design, catalogue: Catalogue | None = None) -> None:
    """See that everything a design names is known here: structures and their parameters, stock, glue and tools.

    Raises:
        UnknownNameError: something is not.
    """
    shelf = catalogue or catalogue_for(design)
    shelf.adhesive(design.adhesive)
    shelf.tool(design.score_tool)
    shelf.tool(design.cut_tool)
    shelf.paper(design.stock)
    for element in walk(design.root):
        kind = family(element.family)
        for name in element.settings:
            parameter(kind, name)
        if element.stock is not None:
            shelf.paper(element.stock)
        faces = dict(kind.faces)
        for guest in element.guests:
            if guest.place is None or guest.place.face not in faces:
                raise _no_face(kind, guest.place.face if guest.place else "", guest.name or guest.id)


def resolve(design: Design, catalogue: Catalogue, before: Mapping[str, Resolved] | None = None) -> dict[str, Resolved]:
    """Every element settled and built, by id, in the order of the nest (hosts before guests).

    What `before` holds is used again for elements whose situation did not change.

    Raises:
        LanternError: a name is unknown or values make no such structure.
    """
    told: dict[str, Span] = {}
    known = before or {}
    for _ in range(_ROUNDS):
        resolver = _Resolver(design, catalogue, known, told)
        resolver.down(resolver.up(design.root, 0), "", "", None, 0)
        thicker = {
            name: r.need.height
            for name, r in resolver.found.items()
            if r.need.height is not None
            and _is_its_own(r)
            and r.need.height.value > max(_height(r.up_need), _height_of(told.get(name))) + _SAME
        }
        if not thicker:
            break
        told, known = {**told, **thicker}, resolver.found
    return {element.id: resolver.found[element.id] for element in walk(design.root)}
