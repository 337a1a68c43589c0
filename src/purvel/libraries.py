"""Libraries that take as long to load as the rest of the start, loaded at their first use: the window is
painted before they are there.
"""

import os
from importlib import import_module
from threading import RLock
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt
    import shapely as shapely

    Array = npt.NDArray[np.float64]
    Indices = npt.NDArray[np.intp]
    Mask = npt.NDArray[np.bool_]
    Shapes = npt.NDArray[np.object_]
else:
    # Matrices here are small: threads for them would only keep the processor from who paints meanwhile.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

    _LOADING = RLock()

    class _AtFirstUse:
        """Stands for a module; each of its names is looked up once.

        One thread loads at a time, and NumPy first and whole: Shapely begins to load it from the inside, and
        where two threads load it from both ends Python gives one of them half a module.
        """

        def __init__(self, name: str) -> None:
            self._name = name

        def __getattr__(self, wanted: str) -> Any:
            with _LOADING:
                import_module("numpy")
                found = getattr(import_module(self._name), wanted)
            setattr(self, wanted, found)
            return found

    np = _AtFirstUse("numpy")
    shapely = _AtFirstUse("shapely")
    Array = Indices = Mask = Shapes = Any

__all__ = ["Array", "Indices", "Mask", "Shapes", "np", "shapely"]
