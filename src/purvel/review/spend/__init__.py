"""Spending: what first, and what is left."""

from purvel.review.spend.remedies import PROGRESS, REMEDIES
from purvel.review.spend.report import report, tables
from purvel.review.spend.rules import RULES, SEARCHES
from purvel.review.stage import Stage

STAGE = Stage(
    key="spend",
    title="Spend",
    question="What first, and what is left?",
    applies=lambda answers: bool(answers.shop.budget.items),
    rules=RULES,
    searches=SEARCHES,
    remedies=REMEDIES,
    progress=PROGRESS,
    report=report,
    tables=tables,
)
