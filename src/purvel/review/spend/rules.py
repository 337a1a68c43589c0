"""Rules of spending: what jobs lack, what is bought too early, what there is no money for, what came down."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from math import inf

from purvel.catalogue import kinds, trade_operations
from purvel.catalogue.trade import RANK
from purvel.money.balance import claims, price_of, still_to_buy
from purvel.review.answers import Answers
from purvel.review.days import today
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.spend.answers import SpendAnswers
from purvel.review.stage import Rule
from purvel.shop.parts import name_of

GUESSED = 0.5  # of the sum: from here on that prices are guesses is worth saying
BETTER = 1.10  # times the area of the list's order: a better order is worth saying
_WEIGHT = {"a place in the plan": 4, "a circuit": 2, "a dust connection": 1}  # what comes first
_LIST = Basis(
    "trade practice", "Nothing is bought until it has a place in the plan, a circuit, and a dust connection."
)
_PRICE = Basis("a guess", "Prices as bands; what you have seen or were quoted beats the catalogue's.")


def money(value: float, currency: str) -> str:
    """A sum without cents."""
    sign = "−" if value < -0.5 else ""
    return f"{sign}{currency}{abs(value):,.0f}"


def months(value: float) -> str:
    """A time from now."""
    if value == inf:
        return "never"
    return "now" if value < 0.05 else f"in {value:.1f} months"


def _lacking(answers: Answers, say: Figures) -> Iterator[Finding]:
    spend = answers.of(SpendAnswers)
    for operation in spend.lacking:
        known = trade_operations()[operation]
        names = [
            job.name for job in answers.shop.jobs if any(step.operation == operation for step in job.steps)
        ]
        by = ", ".join(f"{kinds()[kind].name} ({how})" for kind, how in known.by.items() if kind in kinds())
        stand_in = known.stand_ins[0]
        yield Finding(
            "lacking",
            Grade.MEND,
            (operation,),
            f"Neither here nor on the list: {known.name.lower()}, which {' and '.join(names)} {'needs' if len(names) == 1 else 'need'}.",
            f"It is done by {by}. Standing in: {stand_in.name} ({stand_in.how}; {stand_in.lacks}).",
            Basis("trade practice", "What does which operation, and how well."),
            Where(),
            {"wanted": spend.wants[operation]},
        )


def _early(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Items whose place, circuit or dust connection is not in the plan."""
    spend = answers.of(SpendAnswers)
    for item in still_to_buy(answers.shop.budget):
        lacks = spend.ready(item).lacks
        if lacks:
            thing = spend.thing_of(item)
            yield Finding(
                "bought-early",
                Grade.MEND,
                (item.id,),
                f"{item.name} has no {' and no '.join(one.removeprefix('a ') for one in lacks)} yet.",
                "The worked-out order holds it back until the plan has that.",
                _LIST,
                Where((item.id,) if thing is None else (item.id, thing.id)),
                {"lacks": float(sum(_WEIGHT[one] for one in lacks))},
            )


def _before_needs(answers: Answers, say: Figures) -> Iterator[Finding]:
    order = [item.id for item in answers.shop.budget.items]
    paid = {item.id for item in answers.shop.budget.items if item.paid is not None}
    for item in still_to_buy(answers.shop.budget):
        late = [
            need
            for need in item.needs
            if need in order and need not in paid and order.index(need) > order.index(item.id)
        ]
        if late:
            names = ", ".join(name_of(answers.shop, need) for need in late)
            yield Finding(
                "needs-first",
                Grade.MEND,
                (item.id,),
                f"{item.name} comes before {names}, which it needs.",
                "By your own list.",
                _LIST,
                Where((item.id, *late)),
                {"late": float(len(late))},
            )


def _money_left(answers: Answers, say: Figures) -> Iterator[Finding]:
    spend, budget = answers.of(SpendAnswers), answers.shop.budget
    steps, dear = spend.steps, spend.dear_steps
    if not steps:
        return
    never = [step.item for step in dear if step.month == inf]
    low, high = spend.cheap_steps[-1].month, dear[-1].month
    if never and steps[-1].month == inf:
        short = -min(step.left for step in steps)
        yield Finding(
            "money",
            Grade.MEND,
            (),
            f"The money ends before {name_of(answers.shop, next(s.item for s in steps if s.month == inf))}: {money(short, budget.currency)}"
            " are short for the whole list.",
            "With what there is and nothing coming in, at the middle of the prices.",
            _PRICE,
            Where((next(s.item for s in steps if s.month == inf),)),
            {"short": short},
        )
        return
    grade = Grade.WATCH if never else Grade.GOOD
    yield Finding(
        "money",
        grade,
        (),
        f"The whole list costs {money(sum(s.price for s in spend.cheap_steps), budget.currency)} to"
        f" {money(sum(s.price for s in dear), budget.currency)}; all of it is there {months(steps[-1].month)}.",
        f"At the low prices {months(low)}, at the high ones {months(high)}.",
        _PRICE,
        Where(),
        {"month": min(steps[-1].month, 1e6), "left": steps[-1].left},
    )


def _guesses(answers: Answers, say: Figures) -> Iterator[Finding]:
    items = still_to_buy(answers.shop.budget)
    total = sum(price_of(item, 0.5) for item in items)
    guessed = sum(price_of(item, 0.5) for item in items if item.known == "guess")
    if total > 0 and guessed > GUESSED * total:
        yield Finding(
            "price-guess",
            Grade.WATCH,
            (),
            f"{guessed / total:.0%} of the sum are guesses: look up the dearest first.",
            ", ".join(
                item.name
                for item in sorted(items, key=lambda one: -price_of(one, 0.5))[:3]
                if item.known == "guess"
            )
            + " weigh most.",
            _PRICE,
            Where(tuple(item.id for item in items if item.known == "guess")),
            {"share": guessed / total},
        )


def _needless(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What a later purchase does as well or better, in everything."""
    items = [item for item in still_to_buy(answers.shop.budget) if item.kind is not None]
    for number, item in enumerate(items):
        does = {
            key: one.by[item.kind or ""] for key, one in trade_operations().items() if item.kind in one.by
        }
        for later in items[number + 1 :]:
            if (
                does
                and later.kind != item.kind
                and all(_as_well(later.kind or "", key, how) for key, how in does.items())
            ):
                yield Finding(
                    "needless",
                    Grade.WATCH,
                    (item.id, later.id),
                    f"{later.name}, which comes later, does all that {item.name} does: could that wait?",
                    f"{item.name}: {', '.join(trade_operations()[key].name.lower() for key in does)}.",
                    Basis("trade practice", "Postpone what a later purchase replaces."),
                    Where((item.id, later.id)),
                    {"price": price_of(item, 0.5)},
                )
                break


def _as_well(kind: str, operation: str, how: str) -> bool:
    other = trade_operations()[operation].by.get(kind)
    return other is not None and RANK[other] <= RANK[how]  # type: ignore[index]


def _claims(answers: Answers, say: Figures) -> Iterator[Finding]:
    budget = answers.shop.budget
    days = {item.id: _ordinal(item.paid_on) for item in budget.items if item.paid_on is not None}
    known = [item for item in budget.items if item.paid_on is None or days.get(item.id)]
    for item, less, left in claims(known, today().toordinal(), days):
        yield Finding(
            "price-drop",
            Grade.WATCH,
            (item.id,),
            f"{item.name} came down by {money(less, budget.currency)}: {left} day{'' if left == 1 else 's'} left to claim it.",
            f"Paid {money(item.paid or 0.0, budget.currency)} on {item.paid_on}, seen at"
            f" {money(item.seen or 0.0, budget.currency)} since; the shop gives {item.claim_days} days.",
            Basis("maker's figure", "The seller's own terms decide."),
            Where((item.id,)),
            {"less": less, "days": float(left)},
        )


def _ordinal(day: str | None) -> int:
    """A day of the calendar; 0 for one that is none, such as the 31st of February."""
    try:
        return date.fromisoformat(day or "").toordinal()
    except ValueError:
        return 0


# ---- by a long search


def _better(answers: Answers, say: Figures) -> Iterator[Finding]:
    spend = answers.of(SpendAnswers)
    if len(spend.candidates) < 2 or not spend.wants:
        return
    now, found = tuple(one.id for one in spend.candidates), spend.best()
    have = spend.area_of(now)
    could = spend.area_of(found.items)
    if have > 0 and could > BETTER * have and found.items != now:
        first = ", ".join(name_of(answers.shop, one) for one in found.items[:3])
        yield Finding(
            "order-better",
            Grade.WATCH,
            (),
            f"Another order gives {could / have - 1:.0%} more of what your jobs want, for the same money: {first} first.",
            "Ability at hand, summed over the months until all is bought; operations weighed by how often your jobs"
            " need them and how well they are done. What has no place, circuit or dust connection yet comes last.",
            Basis("a guess", "Done well counts 1, fair 0.6, rough 0.3."),
            Where(found.items[:3]),
            {"gain": could / have - 1},
        )


RULES: tuple[Rule, ...] = (_lacking, _early, _before_needs, _money_left, _guesses, _needless, _claims)
SEARCHES: tuple[Rule, ...] = (_better,)
