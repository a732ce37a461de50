"""Board that a family brings itself, as thick as it is told: it lies in no drawer under that name."""

from __future__ import annotations

from msgspec.structs import replace

from yawning_lantern.stock import Paper


def board_of(paper: Paper, thick: float) -> Paper:
    """Board `thick` mm, in the format of a paper. Each thickness is a stock of its own."""
    return replace(
        paper, id=f"board-{thick:g}", name=f"Board {thick:.1f} mm", kind="board", measured=thick, front="#b79f7c",
        back="#b79f7c", front_motif=None, back_motif=None, grain="none", coated=False,
    )  # fmt: skip
