"""NumPy, loaded when something of it is first used, and what its arrays are called in signatures."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from yawning_lantern.on_use import Late

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    """Lengths in mm, unit ways or shares; shapes are told where they are used."""
    Ranks = NDArray[np.intp]
    """Which of some things: ranks of bodies, nodes, pairs."""
    Truths = NDArray[np.bool_]
else:
    np = Late("numpy")  # seventeen megabytes
    Floats = Ranks = Truths = Any

__all__ = ["Floats", "Ranks", "Truths", "np"]
