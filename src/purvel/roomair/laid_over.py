"""A simulated day laid over a log: where it begins there, how many times as much the monitor shows."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.libraries import Array, np

GRID = 30.0  # s: how finely both are compared
LEAST = 12  # points of the grid in which they must overlap
_AGREES = 0.6  # correlation from which a place is believed [choice]


@dataclass(frozen=True, slots=True)
class Laid:
    """Where a day begins in a log [s], how many times what it expects the monitor shows, above what `level`,
    and how closely both go together (correlation).
    """

    at: float
    times: float
    level: float
    together: float

    @property
    def is_believed(self) -> bool:
        """Whether the day is told in the log at all."""
        return self.together >= _AGREES


def laid(seconds: Array, values: Array, clock: Array, expected: Array) -> Laid | None:
    """The place at which a day's course `expected` at `clock` [s] follows a log best, by least squares for
    scale and level at every place on a grid; None where there is too little of either.
    """
    seen = np.isfinite(values)
    if seen.sum() < LEAST or len(clock) < 2:
        return None
    t, c = seconds[seen], values[seen]
    log_grid = np.arange(0.0, float(t[-1]) + GRID, GRID)
    log = np.interp(log_grid, t, c)
    day_grid = np.arange(float(clock[0]), float(clock[-1]) + GRID, GRID)
    day = np.interp(day_grid, clock, expected)
    if len(log) < LEAST or len(day) < LEAST or day.std() <= 0 or log.std() <= 0:
        return None
    shortest = max(LEAST, min(len(log), len(day)) // 2)
    best: Laid | None = None
    for shift in range(shortest - len(day), len(log) - shortest + 1):
        a, b = max(0, shift), min(len(log), shift + len(day))
        y, x = log[a:b], day[a - shift : b - shift]
        if len(x) < shortest or x.std() <= 0 or y.std() <= 0:
            continue
        together = float(np.corrcoef(x, y)[0, 1])
        if together > (-1.0 if best is None else best.together):
            times = together * float(y.std() / x.std())
            best = Laid(shift * GRID, times, float(y.mean() - times * x.mean()), together)
    return best


def envelope(seconds: Array, values: Array, columns: int) -> tuple[Array, Array]:
    """A log for a chart of so many columns: of each column the least and the highest reading, so that no peak
    is lost; a column without a reading stays a hole (nan). A short log stays as it is.
    """
    if len(values) <= 4 * columns:
        return seconds, values
    edges = np.linspace(0, len(values), columns + 1).astype(int)[:-1]
    seen = np.isfinite(values)
    low = np.minimum.reduceat(np.where(seen, values, np.inf), edges)
    high = np.maximum.reduceat(np.where(seen, values, -np.inf), edges)
    low[~np.isfinite(low)] = np.nan
    high[~np.isfinite(high)] = np.nan
    return np.repeat(seconds[edges], 2), np.stack([low, high], axis=1).ravel()
