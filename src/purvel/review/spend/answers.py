"""What can be done, what is lacking, what is bought when, and in which better order."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.catalogue import trade_operations
from purvel.catalogue.money import schools
from purvel.catalogue.trade import HowWell
from purvel.money.abilities import best, wanted
from purvel.money.balance import Bought, balance, still_to_buy
from purvel.money.orders import Candidate, Order, area, best_order, school_order
from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.power.answers import PowerAnswers
from purvel.shop import Thing
from purvel.shop.money import Item

AIRLESS = ("workbench", "assembly-table", "outfeed-table", "timber-rack", "sheet-rack", "cabinet")


@dataclass(frozen=True, slots=True)
class Readiness:
    """What the plan has for an item before it is bought: a place, a circuit, a dust connection. None where it
    needs none.
    """

    place: bool | None
    circuit: bool | None
    dust: bool | None

    @property
    def lacks(self) -> list[str]:
        """What is missing, in words."""
        words = (
            ("a place in the plan", self.place),
            ("a circuit", self.circuit),
            ("a dust connection", self.dust),
        )
        return [word for word, there in words if there is False]


class SpendAnswers:
    """Money and abilities of the shop."""

    def __init__(self, answers: Answers) -> None:
        self._answers, self._shop, self._ask = answers, answers.shop, answers.ask

    # ---- what can be done

    @once
    def bought_kinds(self) -> frozenset[str]:
        """Kinds that are here: what stands in the plan and is not still to be bought, and what was paid."""
        coming = {item.thing for item in still_to_buy(self._shop.budget)}
        here = {thing.kind for thing in self._shop.things if thing.id not in coming}
        return frozenset(
            here | {item.kind for item in self._shop.budget.items if item.paid is not None and item.kind}
        )

    @once
    def kinds_in_all(self) -> frozenset[str]:
        """Kinds that are here or on the list."""
        return self.bought_kinds | {item.kind for item in self._shop.budget.items if item.kind}

    @once
    def wants(self) -> dict[str, float]:
        """How much each operation is wanted by the jobs."""
        return wanted(self._shop.jobs)

    def how(self, operation: str, *, after: bool = False) -> HowWell | None:
        """How well an operation can be done now, or after all is bought."""
        return best(operation, self.kinds_in_all if after else self.bought_kinds)

    @once
    def lacking(self) -> list[str]:
        """Operations that jobs want and that nothing here or on the list does."""
        return [key for key in self.wants if key in trade_operations() and self.how(key, after=True) is None]

    # ---- what is in the plan for an item

    def thing_of(self, item: Item) -> Thing | None:
        """What stands for an item in the plan."""
        if item.thing is not None:
            return self._shop.thing(item.thing)
        return next((thing for thing in self._shop.things if thing.kind == item.kind), None)

    def ready(self, item: Item) -> Readiness:
        """What the plan has for an item."""
        if item.kind is None or item.group not in ("machine", "dust"):
            return Readiness(None, None, None)
        thing = self.thing_of(item)
        if thing is None:
            return Readiness(False, None, None)
        power = self._answers.of(PowerAnswers)
        needs_current = thing.id in power.draws and bool(self._shop.power.circuits)
        circuit = power.plugs.get(thing.id) is not None if needs_current else None
        ends = {run.port.thing for run in self._shop.ducts.runs if run.port is not None}
        dust = thing.id in ends if thing.ports and item.kind not in AIRLESS else None
        return Readiness(True, circuit, dust)

    # ---- when

    @once
    def steps(self) -> list[Bought]:
        """Every item when there is money for it, at the middle of its price."""
        return balance(self._shop.budget)

    @once
    def dear_steps(self) -> list[Bought]:
        """The same at the high end."""
        return balance(self._shop.budget, 1.0)

    @once
    def cheap_steps(self) -> list[Bought]:
        """The same at the low end."""
        return balance(self._shop.budget, 0.0)

    @once
    def candidates(self) -> tuple[Candidate, ...]:
        """What is still to be bought, for ordering."""
        return tuple(
            Candidate(
                item.id,
                (item.low + max(item.high, item.low)) / 2,
                item.kind,
                frozenset(item.needs),
                not self.ready(item).lacks,
            )
            for item in still_to_buy(self._shop.budget)
        )

    @property
    def _money(self) -> tuple[float, float]:
        budget = self._shop.budget
        return budget.start, budget.monthly

    def best(self) -> Order:
        """The order that gives most of what is wanted soonest: a search."""
        return self._ask(best_order, self.candidates, self.bought_kinds, self.wants, *self._money)

    def area_of(self, ids: tuple[str, ...]) -> float:
        """What an order gives, measured as the best one is."""
        by_id = {one.id: one for one in self.candidates}
        order = [by_id[one] for one in ids]
        until = max(self._until, 1e-9)
        return area(order, self.bought_kinds, self.wants, *self._money, until)

    @property
    def _until(self) -> float:
        from purvel.money.balance import month_for
        from purvel.money.orders import NEVER

        until = min(month_for(sum(one.price for one in self.candidates), *self._money), NEVER)
        return until if until > 0 else 1.0

    def school(self, key: str) -> tuple[str, ...]:
        """The items in a school's order."""
        return school_order(self.candidates, schools()[key].order)

    # ---- ducts

    def duct_price(self) -> tuple[float, float]:
        """What the drawn ducts cost by the parts list, low and high."""
        return self._answers.of(DuctAnswers).price
