"""Keeping: what is due, the bin, the journal, the cut list."""

from purvel.review.answers import Answers
from purvel.review.keep.remedies import PROGRESS, REMEDIES
from purvel.review.keep.report import report, tables
from purvel.review.keep.rules import RULES, SEARCHES
from purvel.review.stage import Stage


def _applies(answers: Answers) -> bool:
    upkeep = answers.shop.upkeep
    return bool(upkeep.duties or upkeep.bin or upkeep.journal or upkeep.cuts.parts)


STAGE = Stage(
    key="keep",
    title="Keep",
    question="What is due?",
    applies=_applies,
    rules=RULES,
    searches=SEARCHES,
    remedies=REMEDIES,
    progress=PROGRESS,
    report=report,
    tables=tables,
)
