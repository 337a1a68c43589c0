"""What is due, how the bin fills, how the parts come out of the stock."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.days import today
from purvel.review.flow.answers import FlowAnswers
from purvel.shop import WorkInterval
from purvel.shop.upkeep import CutPart, CutStock, Duty
from purvel.upkeep.bins import DAYS, Fill, Removed, fill, removed, removed_by_day
from purvel.upkeep.due import Due, day_of, due, hours_a_month
from purvel.upkeep.sheets import Piece, SheetsPlan, cut_sheets
from purvel.upkeep.sticks import StickPlan, cut_sticks

SAME = 0.0006  # m that thicknesses and widths may differ and still be one


@dataclass(frozen=True, slots=True)
class StockPlan:
    """How parts come out of one stock: the parts, piece by piece, and the plan."""

    stock: CutStock
    pieces: tuple[CutPart, ...]
    plan: SheetsPlan | StickPlan


class KeepAnswers:
    """Upkeep of the shop."""

    def __init__(self, answers: Answers) -> None:
        self._answers, self._shop, self._ask = answers, answers.shop, answers.ask

    @property
    def today(self) -> date:
        """The day that it is."""
        return today()

    @once
    def hours(self) -> dict[str, float]:
        """Hours of use a month by thing: by the jobs, by the day of the Air stage where there are none;
        sources and cleaners run with the machines.
        """
        uses: dict[str, list[tuple[float, float]]] = {}
        for flow in self._answers.of(FlowAnswers).jobs.values():
            for station in flow.stations:
                if station.thing is not None:
                    uses.setdefault(station.thing, []).append((station.step.minutes, flow.job.per_month))
        if not self._shop.jobs:
            for work, days in self._days:
                for one in work:
                    if one.thing is not None:
                        uses.setdefault(one.thing, []).append((one.minutes, days))
        found = hours_a_month(uses)
        with_dust = {thing.id for thing in self._shop.things if thing.ports}
        dusty = sum(hours for thing, hours in found.items() if thing in with_dust)
        for thing in self._shop.things:
            if thing.source is not None or thing.cleaner is not None:
                found[thing.id] = found.get(thing.id, 0.0) + dusty
        return found

    @once
    def begun(self) -> date:
        """The first day that is known of: of the journal, or of anything done; today where nothing is."""
        upkeep = self._shop.upkeep
        days = [day_of(one.day) for one in upkeep.journal] + [day_of(one.done_on) for one in upkeep.duties]
        return min((day for day in days if day is not None), default=self.today)

    @once
    def due(self) -> list[Due]:
        """What is due, the soonest first."""
        found = [self._due(duty) for duty in self._shop.upkeep.duties]
        return sorted(found, key=lambda one: one.days)

    def _due(self, duty: Duty) -> Due:
        hours = self.hours.get(duty.thing or "", 0.0)
        return due(duty, hours, self.today, self.begun, self.counted.get(duty.thing or ""))

    @once
    def counted(self) -> dict[str, dict[date, float]]:
        """By thing the hours of each day on which a switch box counted them."""
        found: dict[str, dict[date, float]] = {}
        for one in self._shop.ducts.ran:
            day = day_of(one.day)
            if day is not None:
                by_day = found.setdefault(one.thing, {})
                by_day[day] = by_day.get(day, 0.0) + one.hours
        return found

    @once
    def removed(self) -> Removed:
        """What is taken off a month: by the jobs, by the days of the Air stage where there are none."""
        density = self._shop.upkeep.density
        if self._shop.jobs:
            return removed(self._shop.jobs, density)
        found = [removed_by_day(work, days, density) for work, days in self._days]
        sums = (sum(getattr(one, key) for one in found) for key in ("solid", "mass", "low", "high"))
        return Removed(*sums)

    @property
    def _days(self) -> list[tuple[tuple[WorkInterval, ...], float]]:
        """The work of the session and of day B, each with how many such days there are in a month."""
        air = self._shop.air
        other = air.other.work if air.other is not None else ()
        return [(work, days * DAYS / 7) for work, days in zip((air.session.work, other), air.days)]

    @once
    def bin(self) -> Fill | None:
        """How the bin fills; None without one, or where nothing is taken off."""
        return None if self._shop.upkeep.bin is None else fill(self._shop.upkeep.bin, self.removed)

    def cuts(self) -> list[StockPlan]:
        """Parts on the stock that is bought: a search."""
        return [self._plan(stock, pieces) for stock, pieces in self.by_stock if pieces]

    def _plan(self, stock: CutStock, pieces: tuple[CutPart, ...]) -> StockPlan:
        cuts = self._shop.upkeep.cuts
        if stock.kind == "stick":
            lengths = tuple(piece.length for piece in pieces)
            return StockPlan(stock, pieces, self._ask(cut_sticks, lengths, stock.length, cuts.kerf))
        sized = tuple(
            Piece(number, piece.length, piece.width, piece.grain == "along")
            for number, piece in enumerate(pieces)
        )
        plan = self._ask(cut_sheets, sized, stock.length, stock.width, cuts.kerf, cuts.trim)
        return StockPlan(stock, pieces, plan)

    @once
    def by_stock(self) -> list[tuple[CutStock, tuple[CutPart, ...]]]:
        """Every stock with the pieces that are cut from it: of its thickness, and of its width if it is
        a stick.
        """
        cuts = self._shop.upkeep.cuts
        found: list[tuple[CutStock, tuple[CutPart, ...]]] = []
        left = list(cuts.parts)
        sticks_first = sorted(cuts.stock, key=lambda one: one.kind == "sheet")
        for stock in sticks_first:
            mine = [part for part in left if _comes_from(part, stock)]
            left = [part for part in left if part not in mine]
            found.append((stock, tuple(part for part in mine for _ in range(part.count))))
        return found

    @once
    def without_stock(self) -> list[CutPart]:
        """Parts that no stock is there for."""
        stock = self._shop.upkeep.cuts.stock
        return [
            part for part in self._shop.upkeep.cuts.parts if not any(_comes_from(part, one) for one in stock)
        ]


def _comes_from(part: CutPart, stock: CutStock) -> bool:
    if abs(part.thickness - stock.thickness) > SAME:
        return False
    return stock.kind == "sheet" or abs(part.width - stock.width) <= SAME
