"""Cut diagrams, for the binder."""

from functools import partial

from PySide6.QtCore import QRectF

from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.app.stages.keep.cut_diagram import draw_sheet
from purvel.review import Answers, Figures
from purvel.review.keep.answers import KeepAnswers, StockPlan
from purvel.upkeep.sheets import SheetPlan, SheetsPlan

MOST = 24  # sheets that have a page of their own


def _sheets(answers: Answers) -> list[tuple[StockPlan, SheetPlan]]:
    return [
        (plan, sheet)
        for plan in answers.of(KeepAnswers).cuts()
        if isinstance(plan.plan, SheetsPlan)
        for sheet in plan.plan.sheets
    ]


def _wanted(number: int, answers: Answers) -> bool:
    has_parts = bool(answers.shop.upkeep.cuts.parts)
    return has_parts and number < len(_sheets(answers))


def _headline(number: int, answers: Answers) -> str:
    plan, _ = _sheets(answers)[number]
    return f"Cut diagram {number + 1}: {plan.stock.name or plan.stock.id}. Numbers are the cuts in order."


def _draw(number: int, sheet: Sheet, answers: Answers) -> None:
    plan, one = _sheets(answers)[number]
    a, b = sheet.at(0.0, plan.stock.width), sheet.at(plan.stock.length, 0.0)
    draw_sheet(sheet, plan, one, QRectF(a, b), Figures(answers.shop.units))


def _bounds(number: int, answers: Answers) -> tuple[float, float, float, float]:
    plan, _ = _sheets(answers)[number]
    return 0.0, 0.0, plan.stock.length, plan.stock.width


PAGES = tuple(
    Page(
        partial(_wanted, number), partial(_headline, number), partial(_draw, number), partial(_bounds, number)
    )
    for number in range(MOST)
)
