"""Light: how bright it is on a level plane, directly from luminaires and by what the room throws back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, cos, log, pi, radians, sin

from purvel.libraries import Array, np
from purvel.shop.power import Luminaire

PIECE = 0.20  # m: a long luminaire is reckoned as points no farther apart than this
BENCH = 0.85  # m above the floor: the height at which it is told where nothing else is said


@dataclass(frozen=True, slots=True)
class RoomLight:
    """What a room makes of its light: floor area and perimeter [m2, m], ceiling height [m], reflectances of
    ceiling, walls and floor [-], and the share of light left by dirt and age [-].
    """

    area: float
    perimeter: float
    height: float
    ceiling: float
    walls: float
    floor: float
    upkeep: float

    @property
    def surface(self) -> float:
        """Of ceiling, walls and floor together [m2]."""
        return 2 * self.area + self.perimeter * self.height

    @property
    def reflectance(self) -> float:
        """Their mean, by area [-]."""
        walls = self.perimeter * self.height
        return (self.area * (self.ceiling + self.floor) + walls * self.walls) / self.surface


def exponent(half_angle: float) -> float:
    """The exponent m of a beam I = I0 cos^m that is half as strong at this angle [deg] from its axis.

    m = ln 0.5 / ln cos(angle). 1 to 89 degrees.

    An even matt face (Lambert) is half as strong at 60 degrees:

    >>> round(exponent(60.0), 3)
    1.0
    """
    return log(0.5) / log(cos(radians(half_angle)))


def direct(luminaires: Sequence[Luminaire], points: Array) -> Array:
    """Illuminance on level planes straight from the luminaires [lx], new and clean; points (n, 3) [m] ->
    (n,).

    E = I0 cos^m(t) cos(t) / d^2 with I0 = (m + 1) F / (2 pi), inverse square and cosine law; what is above a
    luminaire gets nothing from it. Nothing stands in the way.

    1000 lm with m = 1 (I0 = 318.3 cd), 2 m straight below:

    >>> bulb = Luminaire(id="bulb", x=0.0, y=0.0, z=3.0, lumens=1000.0, half_angle=60.0, length=0.0)
    >>> [round(float(one), 1) for one in direct([bulb], np.array([[0.0, 0.0, 1.0]]))]
    [79.6]
    """
    found: Array = np.zeros(len(points))
    for one in luminaires:
        m = exponent(one.half_angle)
        strength = (m + 1) * one.lumens / (2 * pi)
        pieces = _pieces(one)
        away = points[:, None, :] - pieces[None]
        down = -away[..., 2]
        square = (away**2).sum(axis=-1)
        cosine = np.clip(down, 0.0, None) / np.sqrt(np.maximum(square, 1e-9))
        found += (strength * cosine ** (m + 1) / np.maximum(square, 1e-9)).mean(axis=1)
    return found


def _pieces(one: Luminaire) -> Array:
    """The points that a luminaire is reckoned as; (k, 3)."""
    count = max(1, ceil(one.length / PIECE))
    along = (np.arange(count) + 0.5) / count * one.length - one.length / 2
    x, y = one.x + along * cos(radians(one.angle)), one.y + along * sin(radians(one.angle))
    return np.stack([x, y, np.full(count, one.z)], axis=1)


def reflected(luminaires: Sequence[Luminaire], room: RoomLight) -> float:
    """What comes back from ceiling, walls and floor, the same everywhere [lx], new and clean.

    E = F r / (A (1 - r)), the formula of the integrating sphere, with the room's whole surface A and its mean
    reflectance r. Confidence M: within a fifth in rooms that are not long and low.

    1000 lm in 4 x 5 x 2.5 m (85 m2) of which half comes back everywhere:

    >>> bulb = Luminaire(id="bulb", x=0.0, y=0.0, z=2.5, lumens=1000.0)
    >>> round(reflected([bulb], RoomLight(20.0, 18.0, 2.5, 0.5, 0.5, 0.5, 0.8)), 2)
    11.76
    """
    flux = sum(one.lumens for one in luminaires)
    return flux * room.reflectance / (room.surface * (1.0 - room.reflectance))


def illuminance(luminaires: Sequence[Luminaire], points: Array, room: RoomLight) -> Array:
    """Illuminance on level planes [lx] with upkeep; points (n, 3) -> (n,)."""
    found: Array = room.upkeep * (direct(luminaires, points) + reflected(luminaires, room))
    return found


def room_index(area: float, perimeter: float, height: float) -> float:
    """k = L W / (H (L + W)), of any floor as 2 area / (height perimeter) [-]; height from the bench up
    [m].

    6 x 4 m, 2 m above the bench:

    >>> room_index(24.0, 20.0, 2.0)
    1.2
    """
    return 2.0 * area / (height * perimeter)


def how_many(
    lumens: float,
    target: float,
    room: RoomLight,
    height: float,
    factors: tuple[Sequence[float], Sequence[float]],
) -> int:
    """How many luminaires of this light give the room a mean [lx], by the lumen method.

    n = E A / (F UF MF), rounded up; UF by room index. `factors`: indices and utilisation factors. Example: 30
    m2, 500 lx, UF 0.55, MF 0.8 ask for 34 091 lm.
    """
    k = room_index(room.area, room.perimeter, height)
    use = float(np.interp(k, factors[0], factors[1]))
    return ceil(target * room.area / (lumens * use * room.upkeep) - 1e-9)
