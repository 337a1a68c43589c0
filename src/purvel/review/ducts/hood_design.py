"""A hood as it is designed: what it is to catch, how far it does with its flow, what would be needed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from purvel.airflow.hoods import (
    FINE_DUST_SPEED,
    HoodOpening,
    OpeningKind,
    caught_to,
    face_speed,
    flow_for,
    speed_at,
)
from purvel.review.figures import Figures


@dataclass(frozen=True, slots=True)
class HoodIdea:
    """A kind of hood to begin from: its name, its opening [m], the speeds that catch there, low and high
    [m/s], how far off that is wanted [m], and what there is to say of it.
    """

    name: str
    opening: HoodOpening
    speeds: tuple[float, float]
    distance: float
    says: str


# speeds: ACGIH hood-design table (high confidence); which wood work is which: trade practice (medium)
IDEAS: dict[str, HoodIdea] = {
    "shroud": HoodIdea(
        "Mitre-saw shroud",
        HoodOpening("booth", 0.9, 0.6),
        (0.5, 1.0),
        0.0,
        "It catches what flies into it: put it in the path, close above and beside.",
    ),
    "guard": HoodIdea(
        "Over-blade guard",
        HoodOpening("on a surface", 0.25, 0.06),
        (1.0, 2.5),
        0.08,
        "What the teeth throw forward is caught by the guard's skirt, not by suction.",
    ),
    "box": HoodIdea(
        "Below-table box",
        HoodOpening("booth", 0.3, 0.15),
        (1.0, 2.5),
        0.0,
        "The opening is all the gaps together: the smaller they are, the faster the air in them.",
    ),
    "stand": HoodIdea(
        "Stand of an open saw, closed",
        HoodOpening("booth", 0.6, 0.4),
        (1.0, 2.5),
        0.0,
        "Close its sides and bottom with board, and leave gaps only where chips fall: the same flow then draws faster.",
    ),
    "fence": HoodIdea(
        "Router fence",
        HoodOpening("on a surface", 0.06, 0.06),
        (1.0, 2.5),
        0.05,
        "A cutter buried in the work needs suction below the table too.",
    ),
    "lathe": HoodIdea(
        "Lathe hood",
        HoodOpening("flanged", 0.3, 0.2),
        (0.5, 1.0),
        0.2,
        "For sanding: shavings fly past it.",
    ),
    "sanding": HoodIdea(
        "Sanding table",
        HoodOpening("downdraught", 1.0, 0.6),
        (0.5, 1.3),
        0.0,
        "Cover what the work leaves open; a side wall behind and beside keeps draughts off.",
    ),
    "slot": HoodIdea(
        "Slot behind a bench",
        HoodOpening("flanged slot", 0.9, 0.025),
        (FINE_DUST_SPEED, 0.5),
        0.3,
        "Short of it things fall: a slot draws fine dust, not chips.",
    ),
}

KINDS: tuple[tuple[OpeningKind, str], ...] = (
    ("plain", "plain opening"),
    ("flanged", "opening with a flange"),
    ("on a surface", "opening on a table"),
    ("slot", "slot"),
    ("flanged slot", "slot with a flange"),
    ("booth", "booth, box or shroud"),
    ("downdraught", "table that draws down"),
)


def designed(
    idea: HoodIdea, opening: HoodOpening, distance: float, flow: float, say: Figures
) -> Iterator[str]:
    """What an opening does with a flow [m3/s] for something `distance` [m] before it, line by line."""
    low, high = idea.speeds
    face = face_speed(opening, flow)
    yield f"In its opening the air has {say.speed(face)}; {say.speed(low)} to {say.speed(high)} catch here."
    if opening.kind in ("booth", "downdraught"):
        if face >= high:
            yield "What stays within is caught."
        else:
            yield f"Closed to {face / high:.0%} of its opening the air in it would have {say.speed(high)}."
    else:
        near, far = caught_to(opening, flow, high), caught_to(opening, flow, low)
        at = speed_at(opening, flow, distance)
        yield f"It catches to {say.length(near)} off, what drifts slowly to {say.length(far)}."
        yield f"At {say.length(distance)} off there are {say.speed(at)}."
    least, most = flow_for(opening, low, distance), flow_for(opening, high, distance)
    yield f"That wants {say.flow(least)} to {say.flow(most)}; it has {say.flow(flow)}."
    yield f"{idea.says} Formulas of DallaValle, Silverman and ACGIH, good to a quarter; draughts defeat the low speeds."
