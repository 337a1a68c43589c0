"""How far in front of an opening the air still moves."""

from dataclasses import dataclass
from math import sqrt

from purvel.shop.ducts import HoodShape

# m/s; 50 fpm: the speed at which drifting fine dust is still drawn in quiet air [ACGIH, low end; high
# confidence]
FINE_DUST_SPEED = 0.254

OpeningKind = HoodShape


_SLOTS: dict[str, float] = {"slot": 3.7, "flanged slot": 2.6}  # [-], of L V X
_SPREADS: dict[str, tuple[float, float]] = {
    # [-], of V (spread X^2 + A)
    "plain": (1.0, 10.0),
    "flanged": (0.75, 10.0),
    "on a surface": (1.0, 5.0),
}


@dataclass(frozen=True, slots=True)
class HoodOpening:
    """An opening that air is drawn into: its width and height [m], for a slot its length and width; a booth
    and a downdraught table are entered through the whole of it.
    """

    kind: OpeningKind
    width: float
    height: float

    @property
    def area(self) -> float:
        """Face [m2]."""
        return self.width * self.height


def face_speed(opening: HoodOpening, flow: float) -> float:
    """Mean speed in the face [m/s] at a flow [m3/s]: Q / A.

    >>> round(face_speed(HoodOpening("plain", 0.2, 0.1), 0.2), 3)
    10.0
    """
    return flow / opening.area


def flow_for(opening: HoodOpening, speed: float, distance: float) -> float:
    """The flow [m3/s] that draws with a speed [m/s] at a distance [m] before an opening: V (10 X^2 + A)
    plain, three quarters of it flanged, V (5 X^2 + A) resting on a surface (DallaValle; ACGIH hood table);
    3.7 and 2.6 L V X for a slot and a flanged one (Silverman; ACGIH); V A for booths and tables. Good to 25 %
    up to 1.5 times the size of an opening, high confidence; on a surface medium.

    50 fpm at 15 in before a 6 in opening, here a square one of its area; a free slot of 1.2 m, 0.5 m/s at
    0.3 m; a booth of 0.9 by 0.6 m at 0.75 m/s:

    >>> round(flow_for(HoodOpening("plain", 0.13506, 0.13506), 0.254, 0.381), 3)
    0.373
    >>> round(flow_for(HoodOpening("slot", 1.2, 0.02), 0.5, 0.3), 3)
    0.666
    >>> round(flow_for(HoodOpening("booth", 0.9, 0.6), 0.75, 0.0), 3)
    0.405
    """
    if opening.kind in ("booth", "downdraught"):
        return speed * opening.area
    if opening.kind in ("slot", "flanged slot"):
        return speed * max(_SLOTS[opening.kind] * opening.width * distance, opening.area)
    share, spread = _SPREADS[opening.kind]
    return share * speed * (spread * distance**2 + opening.area)


def speed_at(opening: HoodOpening, flow: float, distance: float) -> float:
    """The speed [m/s] at a distance [m] before an opening, with a flow [m3/s].

    A flanged round opening of 0.2 m, here a square one of the same area, 0.3 m3/s at 0.3 m:

    >>> round(speed_at(HoodOpening("flanged", 0.17725, 0.17725), 0.3, 0.3), 3)
    0.429
    """
    return flow / flow_for(opening, 1.0, distance)


def caught_to(opening: HoodOpening, flow: float, speed: float) -> float:
    """How far before an opening [m] the air still has a speed [m/s] with a flow [m3/s]; 0 where it has it
    nowhere, and for what is caught within. The formulas of `flow_for`, solved for X.

    >>> round(caught_to(HoodOpening("plain", 0.13506, 0.13506), 0.3733, 0.254), 3)
    0.381
    """
    if opening.kind in ("booth", "downdraught") or face_speed(opening, flow) < speed:
        return 0.0
    if opening.kind in ("slot", "flanged slot"):
        return flow / speed / opening.width / _SLOTS[opening.kind]
    share, spread = _SPREADS[opening.kind]
    return sqrt(max(0.0, (flow / (share * speed) - opening.area) / spread))
