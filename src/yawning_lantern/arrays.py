"""NumPy, loaded when something of it is first used, and what its arrays are called in signatures."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from yawning_lantern.on_use import load

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    """Lengths in mm, unit ways or shares; shapes are told where they are used."""
    Ranks = NDArray[np.intp]
    """Which of some things: ranks of bodies, nodes, pairs."""
    Truths = NDArray[np.bool_]
else:

    class _Numpy:
        """Stands for the library until it is wanted: seventeen megabytes that the first window need not have."""

        def __getattr__(self, name: str) -> Any:
            found = getattr(load("numpy"), name)
            setattr(self, name, found)
            return found

    np = _Numpy()
    Floats = Ranks = Truths = Any

__all__ = ["Floats", "Ranks", "Truths", "np"]
