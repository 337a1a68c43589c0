"""Walls: where it hangs, whether it holds, whether one reaches it."""

from purvel.review.answers import Answers
from purvel.review.stage import Stage
from purvel.review.walls.remedies import PROGRESS, REMEDIES
from purvel.review.walls.report import report, tables
from purvel.review.walls.rules import RULES


def _applies(answers: Answers) -> bool:
    return bool(answers.shop.storage.units or answers.shop.storage.tools)


STAGE = Stage(
    key="walls",
    title="Walls",
    question="Where does it hang, does it hold, can I reach it?",
    applies=_applies,
    rules=RULES,
    remedies=REMEDIES,
    progress=PROGRESS,
    report=report,
    tables=tables,
)
