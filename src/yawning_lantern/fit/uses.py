"""What each kind of gap wants, by school. Every figure here is common practice of the trade, with no source."""

from __future__ import annotations

from dataclasses import dataclass

from yawning_lantern.measure import inches


@dataclass(frozen=True, slots=True)
class Use:
    """A kind of gap, mm: `bands` are the upper ends of clash, tight, snug and easy; `wants` the range by school."""

    code: str
    label: str
    bands: tuple[float, float, float, float]
    wants: dict[str, tuple[float, float]]


def _use(code: str, label: str, bands: tuple[float, float, float], **wants: tuple[float, float]) -> Use:
    tight, snug, easy = (inches(b) for b in bands)
    return Use(code, label, (0.0, tight, snug, easy), {k: (inches(a), inches(b)) for k, (a, b) in wants.items()})


USES: dict[str, Use] = {
    use.code: use
    for use in (
        _use(
            "lid", "Lid over box", (0.0, 1 / 32, 1 / 8), snug=(0, 1 / 32), easy=(1 / 32, 5 / 32), loose=(1 / 8, 1 / 4)
        ),
        _use("layer", "Layer in layer", (1 / 64, 1 / 32, 1 / 2), easy=(1 / 32, 1 / 2)),
        _use("tray", "Tray in its place", (1 / 64, 1 / 32, 1 / 8), easy=(1 / 32, 1 / 8)),
        _use("contents", "Contents", (1 / 32, 1 / 16, 1 / 4), easy=(1 / 16, 1 / 4)),
        _use("headroom", "Headroom", (1 / 64, 1 / 32, 36), easy=(1 / 32, 12)),
        _use(
            "wall-height",
            "Layer's wall under the outer's",
            (0.0, 1 / 32, 1 / 2),
            stepped=(0, 1 / 2),
            easy=(0, 12),
            level=(0, 1 / 8),
        ),
        _use("mat", "Mat on panel", (1 / 16, 3 / 32, 3 / 8), easy=(1 / 16, 3 / 8)),
        _use("pocket", "Tag in pocket", (1 / 16, 3 / 32, 1 / 2), easy=(1 / 16, 1 / 2)),
        _use("rim", "Rim against wall", (0.0, 0.0, 36), easy=(0, 12)),
        _use("place", "Place on the face", (0.0, 0.0, 36), easy=(0, 36)),
        _use("stock", "Stock takes the fold", (1 / 64, 1 / 32, 36), easy=(0, 36)),
        _use("panel", "Panel wide enough to fold", (1 / 32, 1 / 16, 36), easy=(0, 36)),
        _use("joint", "Glued joint holds", (1 / 16, 1 / 8, 36), easy=(0, 36)),
        _use("floor", "Flat between walls", (1 / 64, 1 / 32, 36), easy=(1 / 32, 36)),
        _use("beside", "Beside one another", (0.0, 1 / 32, 36), easy=(0, 36)),
        _use("flaps", "Flaps on their base", (0.0, 0.0, 36), easy=(0, 36)),
        _use("step", "Step clears the tab", (0.0, 0.0, 36), easy=(0, 36)),
        _use("wrap", "Wrapper around the stack", (0.0, 1 / 32, 3 / 16), easy=(0, 3 / 16)),
        _use("stack", "Stack in the wrapper's height", (0.0, 1 / 32, 36), easy=(0, 36)),
        _use("strap", "Strap long enough", (0.0, 1 / 16, 36), easy=(0, 36)),
        _use("spine", "Spine takes the pages", (0.0, 1 / 32, 1 / 4), easy=(0, 2)),
        _use("cover", "Cover over the pages", (0.0, 1 / 16, 1 / 4), easy=(1 / 16, 2)),
        _use("ring", "Pleats around the ring", (0.0, 1 / 4, 36), easy=(0, 96)),
        _use("inside-card", "Inside the shut card", (0.0, 1 / 16, 36), easy=(0, 36)),
        _use("leaves", "Front leaves over the centre", (0.0, 0.0, 1 / 16), easy=(0, 1 / 16)),
        _use("flat-tube", "Walls fold flat in pairs", (0.0, 0.0, 1 / 64), easy=(0, 1 / 64)),
        _use("glue", "Width left for glue", (1 / 8, 1 / 4, 36), easy=(1 / 8, 36)),
        _use("band", "Band around", (1 / 128, 1 / 64, 1 / 8), easy=(1 / 16, 1 / 4)),
        _use("sheet", "Sheet holds piece", (0.0, 0.0, 36), any=(0, 36)),
    )
}
