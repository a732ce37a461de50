"""The pipeline. A Study belongs to one Design; what did not change is taken over from the study before it."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping
from functools import cached_property

from msgspec.structs import replace

from yawning_lantern.assembly import Assembly, Gap, Guest, join
from yawning_lantern.assembly.joined import Frame
from yawning_lantern.assembly.spans import PLACES
from yawning_lantern.design import Design, catalogue_for
from yawning_lantern.fit import Check, check_gaps
from yawning_lantern.fold import (
    BulkMap,
    Cut,
    Finding,
    PaintTree,
    PanelSeen,
    Posed,
    Scene,
    State,
    apply,
    build_tree,
    bulk_map,
    cut_through,
    examine,
    extent,
    extent_of,
    facets,
    looks,
    opening_state,
    panels_seen,
    pose,
    shut_facets,
    shut_pose,
    unmoved,
)
from yawning_lantern.fold.bsp import Facet
from yawning_lantern.pattern import Piece, Point
from yawning_lantern.stock import Catalogue
from yawning_lantern.structures.making import glued_panels
from yawning_lantern.study.beside import Beside, find_beside
from yawning_lantern.study.fastened import fastening_gaps
from yawning_lantern.study.pierced import Hole, holes, pierced
from yawning_lantern.study.resolve import Resolved, resolve
from yawning_lantern.study.rounded import rounded_gaps

_KEPT_TREES = 4  # drawn poses that are kept
GROWTH = 1.2  # a tree of so many times the fragments is built anew


class Study:
    """All that follows from one design. Every stage is computed when first asked for, then kept.

    Threads: a study is made and first asked by one thread at a time. The window makes it in its own thread or lets a
    worker make it whole, and takes it over only when the worker is done; after that several threads may ask the same
    study (the opening is looked for beside the window), since every stage gives the same and what is kept is only ever
    added. A study that was `before` another is not asked for pictures any more: its newest tree goes over to the next.
    """

    def __init__(
        self,
        design: Design,
        catalogue: Catalogue | None = None,
        before: Study | None = None,
        settled: dict[str, Resolved] | None = None,
    ) -> None:
        """Settle the design, if it is not `settled` already.

        Raises:
            LanternError: a name in it is unknown, or values in it make no such structure.
        """
        self.design = design
        self.catalogue = catalogue or catalogue_for(design)
        self.resolved: dict[str, Resolved] = settled or resolve(
            design, self.catalogue, before.resolved if before else None
        )
        self._before: Study | None = before
        self._like: PaintTree | None = None
        self._known: tuple[Check, ...] = ()
        self._beside: Beside | None = None
        if before is not None:
            before._before = None
            self._like = before._tree_like()
            self._known = before.__dict__.get("checks", before._known)
            self._beside = before._beside
        self._seen: dict[str, tuple[PanelSeen, ...]] = {}
        self._looks: tuple[list[list[Frame]], list[Scene]] | None = None
        self._sections: dict[tuple[int, float], list[Cut]] = {}
        self._trees: OrderedDict[object, tuple[list[Frame], PaintTree | None]] = OrderedDict()

    @cached_property
    def assembly(self) -> Assembly:
        """Every panel in one tree."""
        before = self._before
        if before is not None and "assembly" in before.__dict__ and self._same_parts(before):
            return before.assembly
        glue = self.catalogue.adhesive(self.design.adhesive).thickness
        guests = [Guest(r.part, r.host, r.place.face, r.seat, r.place.turn, glue) for r in self.resolved.values()]
        return join(guests, before.__dict__.get("assembly") if before is not None else None)

    def _same_parts(self, other: Study) -> bool:
        return (
            self.design.adhesive == other.design.adhesive
            and list(self.resolved) == list(other.resolved)
            and all(
                a.part is b.part and a.host == b.host and a.place == b.place and a.shift == b.shift
                for a, b in zip(self.resolved.values(), other.resolved.values(), strict=True)
            )
        )

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        """Every piece as it lies against the fence, hosts before guests. Equal ones are one, with their number."""
        return tuple(
            replace(same[0], quantity=sum(piece.quantity for piece in same)) if len(same) > 1 else same[0]
            for same in self._equal_pieces.values()
        )

    @cached_property
    def _equal_pieces(self) -> Mapping[object, tuple[Piece, ...]]:
        groups: dict[object, tuple[Piece, ...]] = {}
        for r in self.resolved.values():
            for piece in (pierced(one, self.holes).laid for one in r.part.pieces):
                key = (
                    piece.name,
                    piece.stock,
                    piece.outline,
                    piece.holes,
                    piece.lines,
                    piece.note,
                    piece.bought,
                    piece.way,
                    piece.edge,
                )
                groups[key] = (*groups.get(key, ()), piece)
        return groups

    @cached_property
    def holes(self) -> tuple[Hole, ...]:
        """What parts go through of the panels they are put on."""
        if not any(r.part.pierces for r in self.resolved.values()):
            return ()
        return holes(self.resolved, self.assembly, self.shut_frames)

    @cached_property
    def glued(self) -> Mapping[str, tuple[tuple[Point, ...], ...]]:
        """By the id of one of `pieces` the outlines of its panels that are glued face on face, mm."""
        names = {piece: panels for r in self.resolved.values() for piece, panels in glued_panels(r.part).items()}
        return {
            piece.id: tuple(panel.outline for panel in piece.panels if panel.name in names[piece.id])
            for piece in self.pieces
        }

    def copies(self, piece: Piece) -> tuple[str, ...]:
        """The ids of all pieces that one of `pieces` stands for, its own first."""
        same = next((s for s in self._equal_pieces.values() if s[0].id == piece.id), ())
        return tuple(one.id for one in same)

    @cached_property
    def checks(self) -> tuple[Check, ...]:
        """Every gap judged, in the order of the nest: to the host first, then the element's own; then those between
        things that no host brings together."""
        known, self._known = {id(check.gap): check for check in self._known}, ()
        own, shut = check_gaps(self.own_gaps, known), Posed(self.assembly, self.shut_frames)
        self._beside = find_beside(self.resolved, shut, self.mount_frames, own, self._beside)
        fastened = fastening_gaps(self.resolved, self.assembly, self.shut_frames)
        cornered = rounded_gaps(self.resolved, self.assembly, self.shut_frames)
        return (*own, *check_gaps((*self._beside.gaps, *fastened, *cornered), known))

    @cached_property
    def own_gaps(self) -> tuple[Gap, ...]:
        """The gaps that hosts and families tell of."""
        return tuple(gap for r in self.resolved.values() for gap in (*r.gaps, *r.part.gaps))

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """What the rings tell over their whole swing. Every ring is solved through: a tenth of a second each."""
        return tuple(f for ring in self.assembly.rings for f in examine(self.assembly, ring))

    @cached_property
    def bulk(self) -> BulkMap:
        """How many sheets lie where when everything is shut. Some ten milliseconds."""
        return bulk_map(self.assembly, self.shut_frames)

    def seen(self, element: str) -> tuple[PanelSeen, ...]:
        """Which sides of an element's panels show, and which way is up on them: worked out once, in some ten
        milliseconds."""
        if element in self._seen:
            return self._seen[element]
        nodes = [k for k, n in enumerate(self.assembly.nodes) if n.element == element]
        if self._looks is None:
            self._looks = looks(self.assembly, self.shut_frames)
        self._seen[element] = panels_seen(self.assembly, *self._looks, nodes)
        return self._seen[element]

    @property
    def has_clash(self) -> bool:
        """Whether something cannot be built as it stands."""
        return any(check.is_clash for check in self.checks)

    @cached_property
    def shut_frames(self) -> list[Frame]:
        """The frames when everything is shut."""
        return shut_pose(self.assembly, _shut(self._before, "shut_frames"))

    @cached_property
    def shut_facets(self) -> list[Facet]:
        """Every panel's mid-surface as polygons when everything is shut."""
        before = _shut(self._before, "shut_facets")
        known = self._before.shut_facets if self._before is not None and before is not None else ()
        return shut_facets(Posed(self.assembly, self.shut_frames), before, known)

    def picture(self, position: float) -> tuple[list[Frame], PaintTree | None]:
        """Frames and painter's tree at a place from flat (−1) over shut (0) to open (1); the last few are kept."""
        return self.picture_of(opening_state(self.assembly, round(position, 4)))

    def picture_of(self, state: State) -> tuple[list[Frame], PaintTree | None]:
        """Frames and painter's tree in a state; the last few are kept."""
        key = (state.make, state.progress, tuple(sorted(state.rests.items())))
        if key in self._trees:
            self._trees.move_to_end(key)
            return self._trees[key]
        shut = state.make == 1.0 and not any(state.progress)
        frames = self.shut_frames if shut else pose(self.assembly, state)
        shown = self.shut_facets if shut else facets(self.assembly, frames, state.make)
        like = self._tree_like()
        tree = build_tree(shown, like)
        if tree is not None and like is not None and tree.fragments > GROWTH * like.fragments:
            tree = build_tree(shown)  # the old planes cut too much by now
        self._trees[key] = (frames, tree)
        if len(self._trees) > _KEPT_TREES:
            self._trees.popitem(last=False)
        return self._trees[key]

    def _tree_like(self) -> PaintTree | None:
        """The newest tree of these very panels, here or in the study before."""
        if self._trees:
            return next(reversed(self._trees.values()))[1]
        return self._like

    def size_at(self, position: float) -> tuple[float, float, float]:
        """Width, depth and height of everything at a place from flat (−1) over shut (0) to open (1), mm."""
        if position == 0.0:
            return self.closed
        frames = pose(self.assembly, opening_state(self.assembly, position))
        lo, hi = extent(self.assembly, frames, 1.0 + min(position, 0.0))
        return hi[0] - lo[0], hi[1] - lo[1], hi[2] - lo[2]

    @cached_property
    def closed(self) -> tuple[float, float, float]:
        """Width, depth and height of the shut thing, mm."""
        lo, hi = extent_of(self.assembly, self.shut_facets)
        return hi[0] - lo[0], hi[1] - lo[1], hi[2] - lo[2]

    def section(self, axis: int, at: float = 0.0) -> list[Cut]:
        """The section through the shut thing by the plane where `axis` (0: x, 1: y) is `at` mm."""
        key = (axis, at)
        if key not in self._sections:
            self._sections[key] = cut_through(self.assembly, self.shut_facets, axis, at)
        return self._sections[key]

    @cached_property
    def mount_frames(self) -> Mapping[tuple[str, str], Frame]:
        """The frame of every mount when shut: x right, y up in the face, z away from it; origin on the face."""
        at = {(n.element, n.instance, n.panel.name): k for k, n in enumerate(self.assembly.nodes)}
        frames: dict[tuple[str, str], Frame] = {}
        before = _shut(self._before, "mount_frames")
        known = self._before.mount_frames if self._before is not None and before is not None else {}
        stayed = unmoved(Posed(self.assembly, self.shut_frames), before) if before is not None else frozenset[str]()
        for element, r in self.resolved.items():
            for mount in r.part.mounts:
                if element in stayed:
                    frames[element, mount.id] = known[element, mount.id]
                    continue
                f = self.shut_frames[at[element, mount.instance, mount.panel]]
                x, y = mount.origin
                ux, uy = mount.up
                rx, ry = uy * mount.side, -ux * mount.side
                z = self.assembly.nodes[at[element, mount.instance, mount.panel]].piece.stock.caliper / 2 * mount.side
                o = apply(f, x, y, z)
                frames[element, mount.id] = (
                    f[0] * rx + f[3] * ry, f[1] * rx + f[4] * ry, f[2] * rx + f[5] * ry,
                    f[0] * ux + f[3] * uy, f[1] * ux + f[4] * uy, f[2] * ux + f[5] * uy,
                    f[6] * mount.side, f[7] * mount.side, f[8] * mount.side, *o,
                )  # fmt: skip
        return frames

    def current(self, element: str, parameter: str) -> float | None:
        """A settled length or count, mm, or a place on a face, or None where there is none."""
        if parameter in PLACES and element in self.resolved:
            place = self.resolved[element].place
            return place.x if parameter == PLACES[0] else place.y
        sized = self.resolved[element].sizes.get(parameter) if element in self.resolved else None
        return None if sized is None or isinstance(sized.value, str) else float(sized.value)


def _shut(study: Study | None, stage: str) -> Posed | None:
    """Everything of a study where it is when all is shut, if it has come as far as to a stage."""
    if study is None or stage not in study.__dict__:
        return None
    return Posed(study.assembly, study.shut_frames)
