"""How far the thing is: the standing view with only what is made so far."""

from __future__ import annotations

from collections.abc import Mapping, Set

from yawning_lantern.bench import Act, Walk, made_nodes
from yawning_lantern.desktop.shared.session import Session
from yawning_lantern.desktop.shared.standing_view import StandingView
from yawning_lantern.fold import State


class BenchStanding(StandingView):
    """Shows the piece in hand with all that is joined to it: flat, then open, until it is rehearsed."""

    def __init__(self, session: Session) -> None:
        self._only: frozenset[int] | None = None
        self._open = 1.0
        super().__init__(session)
        self.setAccessibleName("How far the thing is")

    def show_walk(self, walk: Walk | None, acts: Mapping[str, Act]) -> None:
        """Show what a walk has made."""
        study = self._session.study
        self._only = None
        if study is not None and walk is not None:
            step = walk.step
            piece = next((p for p in study.pieces if step is not None and p.id == step.piece), None)
            same = study.copies(piece) if piece is not None else ()
            self._only = made_nodes(study.assembly, walk, acts, same)
            shut = step is None or step.kind in ("put", "rehearse", "tie")
            flat = step is not None and step.kind in ("cut", "score", "slit", "trim", "punch")
            self._open = 0.0 if shut else -1.0 if flat else 1.0
            self.setAccessibleDescription(f"{len(self._only)} panels hang together so far.")
        self._disturbed()

    def shown(self) -> float | State:
        return self._open

    def only(self) -> Set[int] | None:
        return self._only
