"""A pose as a mesh: every panel a slab of its paper's thickness, in Wavefront OBJ, mm, z up."""

from __future__ import annotations

from pathlib import Path

from yawning_lantern.exchange.files import write_atomically
from yawning_lantern.fold import State, flat_parts, pose
from yawning_lantern.study import Study


def obj(study: Study, state: State) -> str:
    """The text of an OBJ file: one object for every panel, named `element.instance.panel`, closed and facing
    outwards."""
    lines = [f"# {study.design.name}", "# mm, z up"]
    base = 1
    for node, frame in zip(study.assembly.nodes, pose(study.assembly, state), strict=True):
        half = node.piece.stock.caliper / 2
        lines.append(f"o {node.element}.{node.instance}.{node.panel.name}")
        for points, normal, _ in flat_parts(node, frame, state.make):
            count = len(points)
            for side in (-half, half):
                lines += [f"v {x + side * normal[0]:.5f} {y + side * normal[1]:.5f} {z + side * normal[2]:.5f}"
                          for x, y, z in points]  # fmt: skip
            low, high = range(base, base + count), range(base + count, base + 2 * count)
            lines.append("f " + " ".join(str(k) for k in reversed(low)))
            lines.append("f " + " ".join(str(k) for k in high))
            for k in range(count):
                n = (k + 1) % count
                lines.append(f"f {low[k]} {low[n]} {high[n]} {high[k]}")
            base += 2 * count
    return "\n".join([*lines, ""])


def write_pose(study: Study, state: State, path: Path) -> None:
    """The pose as an OBJ file. Raises WriteError."""
    write_atomically(path, obj(study, state).encode("utf-8"))
