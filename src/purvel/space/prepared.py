"""Areas that are asked about many places, from any thread.

GEOS prepares an area once so that asking is fast, but a prepared one keeps notes while it answers: two
threads that ask it at once bring the process down. So nothing that threads share is prepared itself; it has a
twin here that is asked by one at a time.
"""

from __future__ import annotations

from threading import Lock

from purvel.libraries import Array, Mask, np, shapely


class Prepared:
    """An area `shape` that is quick to ask."""

    def __init__(self, shape: shapely.Geometry) -> None:
        self.shape = shape
        self._twin = shapely.from_wkb(shapely.to_wkb(shape))
        shapely.prepare(self._twin)
        self._lock = Lock()

    def covers(self, shapes: np.ndarray) -> Mask:
        """Which shapes lie in it, its edge too."""
        with self._lock:
            return np.asarray(shapely.covers(self._twin, shapes))

    def contains(self, shapes: np.ndarray) -> Mask:
        """Which shapes lie in it and not only on its edge."""
        with self._lock:
            return np.asarray(shapely.contains(self._twin, shapes))

    def holds(self, x: Array, y: Array) -> Mask:
        """Which places [m] lie inside it."""
        with self._lock:
            return np.asarray(shapely.contains_xy(self._twin, x, y))
