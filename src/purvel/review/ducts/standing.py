"""How a choice of gates stands: what each run carries and whether it moves, which hood and which run are
worst off.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from purvel.airflow.flows import GateSetFlow, HoodFlow
from purvel.airflow.segments import Hood, Layout
from purvel.catalogue import transport
from purvel.shop import Shop
from purvel.shop.things import Carries

ChipState = Literal["idle", "moving", "slow", "settling"]


def is_working(layout: Layout, flows: GateSetFlow, index: int) -> bool:
    """Whether a hood at work draws through a segment in this gate set."""
    return any(True for _ in _drawn_through(layout, flows, index))


def _drawn_through(layout: Layout, flows: GateSetFlow, index: int) -> Iterator[HoodFlow]:
    """The hoods at work whose air goes through a segment: those above it; all others where it is drawn away
    from the first source.
    """
    away = flows.segments[index].flow < 0
    return (hood for hood in flows.hoods if hood.at_work and (index in layout.way(hood.segment)) != away)


def carried(layout: Layout, flows: GateSetFlow, index: int) -> Carries:
    """What a segment carries in this gate set: chips as soon as one hood at work on it gives off chips."""
    hoods = (layout.segments[hood.segment].hood for hood in _drawn_through(layout, flows, index))
    return "chips" if any(hood is not None and hood.carries == "chips" for hood in hoods) else "dust"


def chip_state(layout: Layout, flows: GateSetFlow, index: int) -> ChipState:
    """idle, moving, slow (between the least speed and the one wanted) or settling."""
    if not is_working(layout, flows, index):
        return "idle"
    limits = transport(carried(layout, flows, index))
    speed = abs(flows.segments[index].speed)
    return "moving" if speed >= limits.want else "slow" if speed >= limits.least else "settling"


def wanted_flow(shop: Shop, hood: Hood) -> float:
    """What is wanted of a hood, for what the shop is after [m3/s]."""
    return hood.fine_flow if shop.ducts.target == "fine" else hood.chips_flow


@dataclass(frozen=True, slots=True)
class Worst:
    """What is worst off in one choice of gates: the number of the hood at work that gets the smallest share
    of what it is to get, and of the segment that has the smallest share of the speed that it wants; the
    shares [-]. None where nothing is at work.
    """

    hood: int | None
    hood_share: float
    segment: int | None
    speed_share: float


def worst_of_choice(shop: Shop, layout: Layout, flows: GateSetFlow) -> Worst:
    """What is worst off in a choice of gates, by what the shop is after."""
    hoods: dict[int, float] = {}
    for column, hood in enumerate(flows.hoods):
        end = layout.segments[hood.segment].hood
        if hood.at_work and end is not None:
            hoods[column] = hood.flow / wanted_flow(shop, end)
    speeds = {
        index: abs(flows.segments[index].speed) / transport(carried(layout, flows, index)).want
        for index in range(len(layout.segments))
        if is_working(layout, flows, index)
    }
    hood_at = min(hoods, key=lambda column: hoods[column], default=None)
    slow = min(speeds, key=lambda index: speeds[index], default=None)
    return Worst(
        hood_at,
        1.0 if hood_at is None else hoods[hood_at],
        slow,
        1.0 if slow is None else speeds[slow],
    )
