"""Jobs: how far one walks, and whether the board gets there."""

from purvel.review.flow.remedies import PROGRESS, REMEDIES
from purvel.review.flow.report import report, tables
from purvel.review.flow.rules import RULES, SEARCHES
from purvel.review.stage import Stage

STAGE = Stage(
    key="flow",
    about_work=True,
    title="Flow",
    question="How far do I walk, and does the board get there?",
    applies=lambda answers: bool(answers.shop.jobs),
    rules=RULES,
    searches=SEARCHES,
    remedies=REMEDIES,
    progress=PROGRESS,
    report=report,
    tables=tables,
)
