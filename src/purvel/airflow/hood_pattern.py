"""A hood's pattern for a mock-up of cardboard: a box with a hole for the duct behind and its opening in
front, laid flat, to be cut and folded.
"""

from __future__ import annotations

from dataclasses import dataclass

from purvel.airflow.hoods import HoodOpening

FLAP = 0.02  # m: of the flaps that are glued [choice]
FLANGE = (
    0.10  # m of flange round an opening; ACGIH asks for the square root of its area, no more than it can get
)
RIM = 0.02  # m of cardboard that is to stay round the duct's hole
LEAST_PLENUM = 0.15  # m that the box behind a slot is high, so that the slot draws evenly [trade practice]

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Pattern:
    """What is cut, closed outlines; what is folded, from end to end; and the holes, middle and radius; all in
    metres from the lower left of its bounds, whose size is `width` by `height`.
    """

    cuts: tuple[tuple[Point, ...], ...]
    folds: tuple[tuple[Point, Point], ...]
    holes: tuple[tuple[float, float, float], ...]
    width: float
    height: float


def pattern(opening: HoodOpening, depth: float, outlet: float) -> Pattern:
    """The net of the box of an opening, so deep, with a round outlet in the middle of its back [m]. Round the
    back lie its four sides; what has a flange has one along the free edge of each; a slot is cut into a front
    that hangs on the upper side. Raises ValueError where the outlet does not fit its back.
    """
    is_slot = opening.kind in ("slot", "flanged slot")
    width = opening.width
    high = max(opening.height, outlet + 2 * RIM, LEAST_PLENUM) if is_slot else opening.height
    if outlet + 2 * RIM > min(width, high) + 1e-9:
        raise ValueError(
            f"An outlet of {outlet * 1000:.0f} mm does not fit a back of {width * 1000:.0f} by {high * 1000:.0f} mm."
        )
    edge = FLANGE if opening.kind == "flanged" else 0.0
    reach = depth + edge
    front = high if is_slot else 0.0
    left, low = max(reach, FLAP), reach
    right, up = left + width, low + high
    folds = [
        ((left, low), (right, low)),
        ((left, up), (right, up)),
        ((left, low), (left, up)),
        ((right, low), (right, up)),
    ]
    if edge > 0:
        folds += [
            ((left, low - depth), (right, low - depth)),
            ((left, up + depth), (right, up + depth)),
            ((left - depth, low), (left - depth, up)),
            ((right + depth, low), (right + depth, up)),
        ]
    cuts = [_outline((left, low), (right, up), reach, front), *_flaps(left, right, low, up, depth)]
    if is_slot:
        folds.append(((left, up + depth), (right, up + depth)))
        middle = up + depth + high / 2
        half = opening.height / 2
        cuts.append(
            ((left, middle - half), (right, middle - half), (right, middle + half), (left, middle + half))
        )
    hole = ((left + right) / 2, (low + up) / 2, outlet / 2)
    return Pattern(tuple(cuts), tuple(folds), (hole,), right + reach, up + reach + front)


def _outline(lower: Point, upper: Point, reach: float, front: float) -> tuple[Point, ...]:
    """Of the back between two corners with its four sides, and a front on the upper one."""
    (left, low), (right, up) = lower, upper
    return (
        (left, low),
        (left, low - reach),
        (right, low - reach),
        (right, low),
        (right + reach, low),
        (right + reach, up),
        (right, up),
        (right, up + reach + front),
        (left, up + reach + front),
        (left, up),
        (left - reach, up),
        (left - reach, low),
    )


def _flaps(left: float, right: float, low: float, up: float, depth: float) -> list[tuple[Point, ...]]:
    """One at each corner, on the lower and the upper side, glued behind the sides left and right."""
    found: list[tuple[Point, ...]] = []
    for x, out in ((left, -1.0), (right, 1.0)):
        for y, way in ((low, -1.0), (up, 1.0)):
            far = y + way * depth
            slant = min(FLAP, depth / 3)
            found.append(
                ((x, y), (x + out * FLAP, y + way * slant), (x + out * FLAP, far - way * slant), (x, far))
            )
    return found
