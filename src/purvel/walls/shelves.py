"""How far shelves sag."""

from __future__ import annotations

from dataclasses import dataclass

GRAVITY = 9.80665  # m/s2, standard
LOOKS = 360.0  # of the span: the eye sees more sag than this part of it [trade practice, M]
THREE_SPANS = (
    0.52  # of the sag of one span: the end bays of a board over three or more equal ones [beam tables, H]
)
TWO_SPANS = 0.415  # the same over two [beam tables, H]


@dataclass(frozen=True, slots=True)
class Sag:
    """How far a shelf sags in the middle of a bay [m]: at once, and over the years at least and at most."""

    at_once: float
    low: float
    high: float
    span: float

    @property
    def ratio(self) -> float:
        """The span over the greatest sag [-]; infinite without any."""
        return self.span / self.high if self.high > 0 else float("inf")


def second_moment(depth: float, thickness: float) -> float:
    """Second moment of area of a board lying flat [m4]: b h^3 / 12.

    300 x 19 mm:

    >>> round(1e9 * second_moment(0.3, 0.019), 1)
    171.5
    """
    return depth * thickness**3 / 12.0


def even_sag(load: float, span: float, stiffness: float) -> float:
    """Sag in the middle under an even load [m]: 5 w L^4 / (384 E I), ends free to turn.

    Parameters: load [N/m], span [m], stiffness E I [N m2]. Small bending, no creep (engineer's beam theory).

    306.5 N/m over 0.8 m of MDF, 300 x 19 mm, E 3 GPa, in mm:

    >>> round(1000 * even_sag(306.5, 0.8, 3e9 * second_moment(0.3, 0.019)), 2)
    3.18
    """
    return 5.0 * load * span**4 / (384.0 * stiffness)


def middle_sag(force: float, span: float, stiffness: float) -> float:
    """Sag in the middle under a force there [m]: P L^3 / (48 E I).

    200 N over 0.9 m, 8 GPa, 300 x 18 mm, in mm:

    >>> round(1000 * middle_sag(200.0, 0.9, 8e9 * second_moment(0.3, 0.018)), 2)
    2.6
    """
    return force * span**3 / (48.0 * stiffness)


def shelf_sag(
    mass: float,
    width: float,
    spans: int,
    depth: float,
    thickness: float,
    e: float,
    creep: tuple[float, float],
) -> Sag:
    """The sag of a shelf with a mass spread evenly over all of it [kg], its own included.

    `width` of all its bays together [m], modulus `e` [Pa], `creep` as multiples of the sag at once. Over two
    bays it is 0.415, over more 0.52 times that of one bay.
    """
    span = width / spans
    less = 1.0 if spans == 1 else TWO_SPANS if spans == 2 else THREE_SPANS
    at_once = less * even_sag(mass * GRAVITY / width, span, e * second_moment(depth, thickness))
    return Sag(at_once, at_once * creep[0], at_once * creep[1], span)


def most_mass(
    width: float, spans: int, depth: float, thickness: float, e: float, creep: tuple[float, float]
) -> float:
    """What a shelf may carry until it has come to a 360th of its span over the years [kg].

    19 mm MDF of 300 mm over 0.8 m, before it creeps:

    >>> round(most_mass(0.8, 1, 0.3, 0.019, 3e9, (1.0, 1.0)))
    17
    """
    one = shelf_sag(1.0, width, spans, depth, thickness, e, creep)
    return one.span / LOOKS / one.high
