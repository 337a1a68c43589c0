"""How high a person reaches: bands of height from the stature."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.shop.storage import Use

# of stature [Drillis and Contini 1966; knuckle and grip confidence M]
KNEE, KNUCKLE, HIP, ELBOW, SHOULDER, EYE, GRIP = 0.285, 0.43, 0.53, 0.63, 0.818, 0.936, 1.18
# m that the grip comes lower when one reaches over a bench 0.6 m deep: median man and small woman [computed,
# M]
OVER_BENCH = (0.27, 0.35)
_BENCH = 0.6  # m deep, for which that holds
HEAVY = 5.0  # kg: from here on it is lifted with two hands, between knee and elbow [trade practice]


@dataclass(frozen=True, slots=True)
class Reach:
    """Heights above the floor [m] of a person of a stature, at a wall with a bench so deep before it."""

    stature: float
    bench: float = 0.0

    @property
    def knee(self) -> float:
        """Knee."""
        return KNEE * self.stature

    @property
    def knuckle(self) -> float:
        """Knuckles of a hanging hand."""
        return KNUCKLE * self.stature

    @property
    def hip(self) -> float:
        """Hip."""
        return HIP * self.stature

    @property
    def elbow(self) -> float:
        """Elbow."""
        return ELBOW * self.stature

    @property
    def shoulder(self) -> float:
        """Shoulder."""
        return SHOULDER * self.stature

    @property
    def eye(self) -> float:
        """Eye."""
        return EYE * self.stature

    @property
    def grip(self) -> float:
        """Highest grip; over a bench less, in proportion to its depth."""
        less = (OVER_BENCH[0] + OVER_BENCH[1]) / 2 * self.bench / _BENCH
        return GRIP * self.stature - less

    def band(self, use: Use) -> tuple[float, float]:
        """From where to where the hand grips what is used so often: daily between hip and eye, weekly between
        knuckle and the highest grip, rarely anywhere up to that.
        """
        if use == "daily":
            return self.hip, min(self.eye, self.grip)
        return (self.knuckle, self.grip) if use == "weekly" else (0.0, self.grip)

    def heavy_band(self) -> tuple[float, float]:
        """From where to where heavy things are lifted."""
        return self.knee, self.elbow
