"""The ducts: flow, speed and suction for every choice of gates."""

from purvel.review.ducts.remedies import REMEDIES
from purvel.review.ducts.report import report, tables
from purvel.review.ducts.rules import RULES, SEARCHES
from purvel.review.stage import Stage

STAGE = Stage(
    key="ducts",
    title="Ducts",
    question="Does this gate choice keep chips moving?",
    applies=lambda answers: bool(answers.shop.things or answers.shop.ducts.runs),
    rules=RULES,
    searches=SEARCHES,
    remedies=REMEDIES,
    report=report,
    tables=tables,
)
