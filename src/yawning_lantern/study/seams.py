"""Seams that show: laps and tabs whose outer face is seen, and two of one part that lie on different faces."""

from __future__ import annotations

from yawning_lantern.assembly import Bonded
from yawning_lantern.bench.glue_map import glued_face
from yawning_lantern.study.study import Study


def seams_that_show(study: Study) -> dict[str, str]:
    """For each act that makes a seam which is seen, what to heed."""
    seen: dict[str, list[tuple[Bonded, str]]] = {}
    for bonded in study.assembly.joints:
        if not bonded.joint.seam or study.assembly.nodes[bonded.a].shape is not None:
            continue
        panels = {one.node: one for one in study.seen(bonded.element)}
        glued = glued_face(study.assembly, study.shut_frames, bonded)
        outer = panels[bonded.a].back if glued == "front" else panels[bonded.a].front
        if outer != "never":
            when = "when it is shut" if outer == "shut" else "when it is opened"
            seen.setdefault(bonded.element, []).append((bonded, when))
    seams: dict[str, str] = {}
    for own in seen.values():
        several = len({_way(study, bonded) for bonded, _ in own}) > 1
        for bonded, when in own:
            words = f"This seam shows {when}: keep it to the side that is looked at least."
            seams[bonded.act] = f"{words} Its seams lie on different faces." if several else words
    return seams


def _way(study: Study, bonded: Bonded) -> tuple[int, int, int]:
    """Where the outer face of a seam looks when all is shut, in tenths."""
    f = study.shut_frames[bonded.a]
    sign = -1 if glued_face(study.assembly, study.shut_frames, bonded) == "front" else 1
    return round(f[6] * sign * 10), round(f[7] * sign * 10), round(f[8] * sign * 10)
