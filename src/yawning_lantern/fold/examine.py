"""What a ring tells over its whole swing: glue that does not meet or is missing, slack that the paper must give."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from yawning_lantern.assembly import Assembly, Ring
from yawning_lantern.fold.rings import RingPath, ring_path
from yawning_lantern.measure import Units, format_fine

MEETS = 0.05
"""Glued edges closer than this coincide, mm."""
_HALVINGS = 12  # how often the step in which a ring jams is halved


class Finding(Struct, frozen=True):
    """One thing a ring tells. `amount` is mm, or the ways it still moves; `at` how far open (0 to 1) it begins or is
    greatest; `closure` the glued joint concerned."""

    code: Literal["crooked", "missing-glue", "slack"]
    element: str
    closure: str
    amount: float
    at: float

    def words(self, name: str, units: Units) -> str:
        """What it tells, in a sentence, of a part that is called `name`."""
        if self.code == "missing-glue":
            return f"{name}: it can still move in {self.amount:.0f} ways; a glued joint is missing."
        size, where = format_fine(self.amount, units), f"{round(self.at * 100)} % open"
        if self.code == "crooked":
            return f"{name}: {self.closure} is off by {size} ({where}): glued crooked, or walls that are no pairs."
        return f"{name}: {self.closure} asks the paper to give {size} ({where})."


def _worst(path: RingPath) -> tuple[float, float, str]:
    """The greatest residual, where it is, and at which joint."""
    at, pose = max(path.poses, key=lambda found: found[1].residual)
    left, _ = path.solver.equations(at, pose.angles)
    k = 0
    parts: list[tuple[float, str]] = []
    for closure in path.solver.ring.loop.closures:
        size = 3 * len(closure.points)
        parts.append((path.solver.residual(left[k : k + size]), closure.label))
        k += size
    return pose.residual, at, max(parts)[1] if parts else ""


def jam(path: RingPath) -> float | None:
    """How far open the ring is when its glue first stops meeting on the way from shut, or None. By halving the step."""
    poses = path.poses
    bad = next((k for k, (_, pose) in enumerate(poses) if pose.residual > MEETS), None)
    if bad is None:
        return None
    if bad == 0:
        return poses[0][0]
    lo, hi = poses[bad - 1][0], poses[bad][0]
    for _ in range(_HALVINGS):
        middle = (lo + hi) / 2
        lo, hi = (lo, middle) if path.at(middle).residual > MEETS else (middle, hi)
    return hi


def examine(assembly: Assembly, ring: Ring) -> tuple[Finding, ...]:
    """All that a ring tells. Flat ends are left out when its freedom is counted: every ring is loose there."""
    plain, thick = ring_path(assembly, ring, plain=True), ring_path(assembly, ring)
    findings: list[Finding] = []
    residual, at, closure = _worst(plain)
    if residual > MEETS:
        findings.append(Finding("crooked", ring.element, closure, residual, jam(plain) or at))
    inner = plain.poses[len(plain.poses) // 3 : -len(plain.poses) // 3 or None]
    loose = min((plain.solver.freedom(p, pose.angles) for p, pose in inner), default=0)
    if loose:
        findings.append(Finding("missing-glue", ring.element, "", float(loose), inner[0][0]))
    half = assembly.nodes[ring.joints[0][0]].piece.stock.caliper / 2 if ring.joints else 0.0
    residual, at, closure = _worst(thick)
    if residual > max(half, MEETS) and not any(f.code == "crooked" for f in findings):
        findings.append(Finding("slack", ring.element, closure, residual, at))
    return tuple(findings)
