"""Pop-ups over their whole swing against plane geometry that knows nothing of creases or rings.

In the plane across the gutter the pages are two rays. What is glued to them at known distances is then a triangle or a
parallelogram. Sheets have a thickness, so lines may lie up to three calipers off. Worked geometry, no source.
"""

from __future__ import annotations

import math

import numpy as np
import pytest

from yawning_lantern.errors import LanternError
from yawning_lantern.fold import State, corners, extent, pose
from yawning_lantern.structures import families, start_design
from yawning_lantern.study import Study

STATIONS = (0.1, 0.25, 0.4, 0.5, 0.6, 0.75, 0.9, 1.0)
OFF = 3.0  # calipers


class Swing:
    """A pop-up card at a share of its opening: corners of its panels, and unit vectors along both pages."""

    def __init__(self, study: Study, share: float) -> None:
        frames = pose(study.assembly, State(1.0, (share,) * len(study.assembly.motions)))
        self.panels = {
            node.panel.name: np.array(corners(node, frame))
            for node, frame in zip(study.assembly.nodes, frames, strict=True)
        }
        right, left = self.panels["page-right"], self.panels["page-left"]
        near = np.linalg.norm(right[:, None] - left[None], axis=2)
        self.gutter = right[np.argsort(near.min(axis=1))[:2]].mean(axis=0)
        self.along = right[np.argsort(near.min(axis=1))[:2]]
        self.axis = (self.along[1] - self.along[0]) / np.linalg.norm(self.along[1] - self.along[0])
        self.right, self.left = (self._ray(page) for page in (right, left))

    def _ray(self, page: np.ndarray) -> np.ndarray:
        way = page.mean(axis=0) - self.gutter
        way = way - self.axis * (way @ self.axis)
        return way / np.linalg.norm(way)

    @property
    def angle(self) -> float:
        """Between the pages, radians."""
        return math.acos(float(np.clip(self.right @ self.left, -1.0, 1.0)))

    def edge(self, a: str, b: str) -> np.ndarray:
        """The middle of the crease between two panels, across the gutter only, from the gutter."""
        one, two = self.panels[a], self.panels[b]
        near = np.linalg.norm(one[:, None] - two[None], axis=2)
        middle = one[np.argsort(near.min(axis=1))[:2]].mean(axis=0) - self.gutter
        return middle - self.axis * (middle @ self.axis)


def made(kind: str, **given: float) -> tuple[Study, float]:
    """A pop-up with settings in mm, and its caliper."""
    study = Study(start_design(kind, {k.replace("_", "-"): v for k, v in given.items()}))
    return study, study.assembly.nodes[0].piece.stock.caliper


@pytest.mark.parametrize(("foot", "side"), [(20.0, 45.0), (30.0, 38.0), (12.0, 50.0)])
def test_ridge_of_a_tent_is_the_apex_of_a_triangle(foot: float, side: float) -> None:
    # feet at u on both rays, sides L: the ridge is on the halving line, u cos φ + √(L² − u² sin² φ) off the gutter
    study, t = made("tent", foot=foot, side=side, page_width=110.0, page_height=120.0)
    highest = 0.0
    for share in STATIONS:
        at = Swing(study, share)
        half = at.angle / 2
        far = foot * math.cos(half) + math.sqrt(side**2 - (foot * math.sin(half)) ** 2)
        ridge = at.edge("panel-1", "panel-2")
        assert np.linalg.norm(ridge) == pytest.approx(far, abs=OFF * t)
        between = at.right + at.left
        if at.angle < math.pi - 0.2:
            assert ridge @ between / np.linalg.norm(between) == pytest.approx(far, abs=OFF * t)
        highest = far
    # open flat it stands √(L² − u²) high
    assert highest == pytest.approx(math.sqrt(side**2 - foot**2), abs=0.05)
    assert float(study.resolved["tent"].sizes["stands"].length) == pytest.approx(highest, abs=0.05)


@pytest.mark.parametrize(("out", "up"), [(45.0, 25.0), (30.0, 30.0), (20.0, 40.0)])
def test_floating_layer_is_a_parallelogram_at_every_angle(out: float, up: float) -> None:
    # attached at u on one ray and v on the other with panels v and u long: the crease is at u r + v l, so the top
    # stays parallel to the lying page all the while
    study, t = made("floating-layer", out=out, up=up, page_width=110.0, page_height=120.0)
    for share in STATIONS:
        at = Swing(study, share)
        crease = at.edge("panel-1", "panel-2")
        assert np.linalg.norm(crease - (out * at.right + up * at.left)) < OFF * t, share
        top = at.panels["panel-2"]
        normal = np.cross(top[1] - top[0], top[2] - top[1])
        normal /= np.linalg.norm(normal)
        page = np.cross(at.axis, at.right)
        assert abs(normal @ page) > math.cos(math.radians(4.0))


@pytest.mark.parametrize(("foot", "panel"), [(15.0, 30.0), (20.0, 32.0)])
def test_fin_of_a_stand_lies_between_the_pages(foot: float, panel: float) -> None:
    # symmetry: both carrying panels are alike, so the fin is in the plane that halves the pages
    study, t = made("stand", foot=foot, panel=panel, page_width=110.0, page_height=120.0)
    for share in STATIONS[2:]:
        at = Swing(study, share)
        middle = at.right + at.left
        if np.linalg.norm(middle) < 0.3:
            continue
        middle /= np.linalg.norm(middle)
        fin = np.vstack([at.panels["panel-2"], at.panels["panel-3"]]).mean(axis=0) - at.gutter
        fin -= at.axis * (fin @ at.axis)
        half = at.angle / 2
        root = foot * math.cos(half) + math.sqrt(max(panel**2 - (foot * math.sin(half)) ** 2, 0.0))
        assert fin @ middle == pytest.approx(root + panel / 2, abs=OFF * t)
        assert np.linalg.norm(fin - middle * (fin @ middle)) < OFF * t


@pytest.mark.parametrize("kind", ["tent", "floating-layer", "stand", "v-fold", "gate-bag", "box-card"])
def test_no_panel_is_stretched_or_torn_while_it_opens(kind: str) -> None:
    # paper keeps its lengths: every panel is as large as on the sheet, and creased neighbours stay together
    study, _ = made(kind)
    for share in STATIONS:
        frames = pose(study.assembly, State(1.0, (share,) * len(study.assembly.motions)))
        for node, frame in zip(study.assembly.nodes, frames, strict=True):
            if node.shape is not None:
                continue
            flat = np.array(node.panel.outline)
            stood = np.array(corners(node, frame))
            for k in range(len(flat)):
                want = np.linalg.norm(flat[k] - flat[k - 1])
                assert np.linalg.norm(stood[k] - stood[k - 1]) == pytest.approx(want, abs=1e-6)
            turn = np.array(frame[:9]).reshape(3, 3)
            assert np.allclose(turn @ turn.T, np.eye(3), atol=1e-9)
            assert np.linalg.det(turn) == pytest.approx(1.0)


@pytest.mark.parametrize("kind", ["tent", "floating-layer", "stand", "v-fold", "gate-bag", "box-card"])
def test_a_pop_up_lies_inside_its_shut_card(kind: str) -> None:
    # fact of the trade: nothing may look out of the shut card
    study, t = made(kind)
    shut = {n.panel.name: np.array(corners(n, f)) for n, f in zip(study.assembly.nodes, study.shut_frames, strict=True)}
    pages = [points for name, points in shut.items() if name.startswith(("page", "centre", "left", "right"))]
    low, high = extent(study.assembly, study.shut_frames)
    outline = np.vstack(pages) if pages else np.array([low, high])
    for points in shut.values():
        assert (points[:, :2] >= outline[:, :2].min(axis=0) - 2 * t).all()
        assert (points[:, :2] <= outline[:, :2].max(axis=0) + 2 * t).all()
    assert high[2] - low[2] == pytest.approx(study.closed[2], abs=0.05)
    for share in STATIONS:
        opened = study.size_at(share)
        assert all(math.isfinite(x) and x > 0 for x in opened)
        if share >= 0.5:
            assert opened[2] > study.closed[2] or opened[0] > study.closed[0]


@pytest.mark.parametrize("kind", ["tent", "floating-layer", "stand"])
def test_pages_open_as_far_as_they_say(kind: str) -> None:
    for opens in (90, 120, 180):
        try:
            study, _ = made(kind, opens=opens, page_width=110.0, page_height=120.0)
        except LanternError as error:
            assert error.remedy, error
            continue
        angles = [Swing(study, share).angle for share in STATIONS]
        assert angles == sorted(angles)
        assert math.degrees(angles[-1]) == pytest.approx(opens, abs=0.6)


@pytest.mark.parametrize("kind", ["tent", "stand", "floating-layer", "v-fold", "gate-bag", "box-card", "card-stand"])
def test_what_follows_from_a_small_card_fits_in_it(kind: str) -> None:
    tried = 0
    for wide, high in ((34.0, 50.0), (41.0, 38.0), (55.0, 70.0), (90.0, 120.0)):
        sizes = {"page-width": wide, "page-height": high, "box-width": wide / 2, "wall-height": high, "width": wide}
        known = {p.id for p in families()[kind].parameters}
        try:
            study = Study(start_design(kind, {name: mm for name, mm in sizes.items() if name in known}))
        except LanternError:
            continue
        assert not study.has_clash, [check.gap.between for check in study.checks if check.is_clash]
        tried += 1
    assert tried >= 2
