"""Keep's share of the report: hours, what is due, the bin, the cut plans."""

from collections.abc import Iterator
from math import inf
from typing import Any

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.keep.answers import KeepAnswers, StockPlan
from purvel.review.keep.rules import days
from purvel.review.stage import Table
from purvel.shop.parts import name_of
from purvel.upkeep.sheets import SheetsPlan


def report(answers: Answers) -> dict[str, Any]:
    """`upkeep` and `cuts`."""
    keep = answers.of(KeepAnswers)
    gone, found = keep.removed, keep.bin
    return {
        "upkeep": {
            "hours": [{"thing": thing, "hours": hours} for thing, hours in keep.hours.items()],
            "counted": [
                {"thing": thing, "day": day.isoformat(), "hours": hours}
                for thing, by_day in keep.counted.items()
                for day, hours in by_day.items()
            ],
            "due": [
                {
                    "duty": one.duty,
                    "day": one.day.isoformat() if one.day else None,
                    "days": None if one.days == inf else one.days,
                }
                for one in keep.due
            ],
            "removed": {
                "solid": gone.solid,
                "mass": gone.mass,
                "loose_low": gone.low,
                "loose_high": gone.high,
            },
            "bin": None
            if found is None
            else {
                "share": list(found.share),
                "days_to_full": list(found.days),
                "full_mass": list(found.mass),
            },
        },
        "cuts": [_plan(one) for one in keep.cuts()],
    }


def _plan(one: StockPlan) -> dict[str, Any]:
    made: dict[str, Any] = {
        "stock": one.stock.id,
        "pieces": [piece.id for piece in one.pieces],
        "proven": one.plan.is_proven,
    }
    if isinstance(one.plan, SheetsPlan):
        made["sheets"] = [
            {
                "laid": [[laid.part, laid.x, laid.y, laid.length, laid.width] for laid in sheet.laid],
                "straight_cuts": [[cut.x0, cut.y0, cut.x1, cut.y1] for cut in sheet.cuts],
            }
            for sheet in one.plan.sheets
        ]
        made["left_out"] = list(one.plan.too_large)
    else:
        made["sticks"] = [list(stick) for stick in one.plan.sticks]
        made["left_out"] = list(one.plan.too_long)
    return made


def tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """The upkeep card and the cut list."""
    keep, shop = answers.of(KeepAnswers), answers.shop
    if keep.due:
        rows = [
            (
                name_of(shop, one.duty),
                one.day.isoformat() if one.day else "by need",
                "" if one.days == inf else days(one.days),
                "",
            )
            for one in keep.due
        ]
        yield Table("Upkeep card", ("What", "Due on", "", "Done on"), rows)
    for plan in keep.cuts():
        yield _cut_table(plan, say)
    if shop.upkeep.journal:
        pages = [(entry.day, entry.text, entry.why) for entry in shop.upkeep.journal]
        yield Table("Journal", ("Day", "What", "Why"), pages)


def _cut_table(plan: StockPlan, say: Figures) -> Table:
    heads = ("Number", "Part", "Long", "Wide")
    rows = []
    if isinstance(plan.plan, SheetsPlan):
        for number, sheet in enumerate(plan.plan.sheets, start=1):
            for laid in sheet.laid:
                piece = plan.pieces[laid.part]
                rows.append(
                    (str(number), piece.name or piece.id, say.length(piece.length), say.length(piece.width))
                )
    else:
        for number, stick in enumerate(plan.plan.sticks, start=1):
            for k in stick:
                piece = plan.pieces[k]
                rows.append(
                    (str(number), piece.name or piece.id, say.length(piece.length), say.length(piece.width))
                )
    return Table(f"Cut from {plan.stock.name or plan.stock.id}", heads, rows)
