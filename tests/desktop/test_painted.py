"""What is painted against rays: a pixel within a sheet has the colour of the sheet that is nearest to the eye there.

Rays are cast with numpy at whole sheets, so that neither the painter's tree nor what it splits has a part in it.
"""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtGui import QImage, QPainter
from pytestqt.qtbot import QtBot

from yawning_lantern.desktop.shared.scene import ScenePainter
from yawning_lantern.desktop.shared.theme import DAY
from yawning_lantern.exchange.design_file import read_design
from yawning_lantern.fold import PaintTree
from yawning_lantern.fold.camera import Camera, Projection
from yawning_lantern.study import Study

from ..conftest import DEMO, designed

WIDE, HIGH = 400, 300
RIM = 3  # pixels about an edge that pens may have


def nearest(view: Projection, tree: PaintTree) -> np.ndarray:
    """Per pixel which facet is nearest to the eye, −1 for none and −2 where two lie in one place, or nearly."""
    x, y = np.meshgrid(np.arange(WIDE) + 0.5, np.arange(HIGH) + 0.5)
    lens = view.scale * view.distance
    across, up = (x - view.origin[0]) / lens, (view.origin[1] - y) / lens
    ways = np.array(view.ahead) + across[..., None] * np.array(view.right) + up[..., None] * np.array(view.up)
    far, who = np.full(x.shape, np.inf), np.full(x.shape, -1)
    for k, facet in enumerate(tree.source):
        normal, corners = np.array(facet.normal), np.array(view.points(facet.points))
        with np.errstate(divide="ignore", invalid="ignore"):
            away = (np.array(facet.points[0]) - np.array(view.eye)) @ normal / (ways @ normal)
        sides = np.array([
            (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0])
            for p, q in zip(corners, np.roll(corners, -1, axis=0), strict=True)
        ])  # fmt: skip
        hit = ((sides >= 0).all(axis=0) | (sides <= 0).all(axis=0)) & (away > 0)
        beside = hit & (np.abs(away - far) < 0.02)
        closer = hit & (away < far) & ~beside
        far[closer], who[closer] = away[closer], k
        who[beside] = -2
    return who


def amid(who: np.ndarray) -> np.ndarray:
    """Pixels about which all is of one facet."""
    same = who >= 0
    for dy in range(-RIM, RIM + 1):
        for dx in range(-RIM, RIM + 1):
            same &= np.roll(who, (dy, dx), axis=(0, 1)) == who
    return same


@pytest.mark.parametrize(("kind", "at"), [
    ("set", 0.0), ("set", 0.2), ("set", 0.55), ("rosette", 0.0), ("v-fold", 0.6), ("gate-bag", 0.6),
    ("waterfall", 0.4), ("casing", 0.0), ("roof", 0.0),
])  # fmt: skip
@pytest.mark.parametrize("camera", [Camera(), Camera().turned(0.6, 0.1), Camera().turned(-1.1, 0.3)])
def test_every_sheet_is_seen_where_it_is_nearest(kind: str, at: float, camera: Camera, qtbot: QtBot) -> None:
    study = Study(read_design(DEMO.with_name("comet-night-set.lantern")) if kind == "set" else designed(kind))
    image = QImage(WIDE, HIGH, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFF)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    scene = ScenePainter(study, at, camera, (float(WIDE), float(HIGH)), DAY._replace(patterned=False))
    scene.paint(painter)
    painter.end()
    seen = np.frombuffer(image.constBits(), np.uint8).reshape(HIGH, WIDE, 4)[:, :, :3].astype(int)
    assert scene._tree is not None
    who = nearest(scene._view, scene._tree)
    inner, off = amid(who), []
    for k in np.unique(who[inner]):
        own = seen[inner & (who == k)]
        colours, count = np.unique(own, axis=0, return_counts=True)
        off.append(np.abs(own - colours[count.argmax()]).max(axis=1))
    away = np.concatenate(off)
    assert len(away) > 2000
    assert (away > 12).mean() < 0.0025 and (away > 40).mean() < 0.0005  # hairlines along what was split
