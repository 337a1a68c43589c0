"""How a choice of gates stands: what each run carries and whether it moves, which hood and which run are
worst off.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from purvel.airflow.flows import GateSetFlow
from purvel.airflow.segments import Hood, Layout
from purvel.catalogue import Transport, transport
from purvel.shop import Shop
from purvel.shop.things import Carries

ChipState = Literal["idle", "moving", "slow", "settling"]


@dataclass(frozen=True, slots=True)
class Carried:
    """What a segment carries in a choice of gates: chips as soon as one hood at work on it gives off chips;
    and whether that moves: idle, moving, slow (between the least speed and the one wanted) or settling.
    """

    what: Carries
    state: ChipState

    @property
    def limits(self) -> Transport:
        """The speeds that keep it moving."""
        return transport(self.what)


def carried(layout: Layout, flows: GateSetFlow) -> tuple[Carried, ...]:
    """What each segment carries in this choice of gates: the air of the hoods at work above it; that of all
    others where it is drawn away from the first source.
    """
    at_work = [
        (frozenset(layout.way(hood.segment)), _gives_off(layout.segments[hood.segment].hood))
        for hood in flows.hoods
        if hood.at_work
    ]
    found = list[Carried]()
    for index, segment in enumerate(flows.segments):
        is_away = segment.flow < 0
        through = [given_off for way, given_off in at_work if (index in way) != is_away]
        what: Carries = "chips" if "chips" in through else "dust"
        found.append(Carried(what, _chip_state(transport(what), abs(segment.speed)) if through else "idle"))
    return tuple(found)


def _gives_off(hood: Hood | None) -> Carries:
    return "dust" if hood is None else hood.carries


def _chip_state(limits: Transport, speed: float) -> ChipState:
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
        index: abs(flows.segments[index].speed) / one.limits.want
        for index, one in enumerate(carried(layout, flows))
        if one.state != "idle"
    }
    hood_at = min(hoods, key=lambda column: hoods[column], default=None)
    slow = min(speeds, key=lambda index: speeds[index], default=None)
    return Worst(
        hood_at,
        1.0 if hood_at is None else hoods[hood_at],
        slow,
        1.0 if slow is None else speeds[slow],
    )
