"""The room as it was taped."""

from purvel.review.room.remedies import REMEDIES
from purvel.review.room.report import report, summary
from purvel.review.room.rules import RULES
from purvel.review.stage import Stage

STAGE = Stage(
    key="room",
    title="Room",
    question="Does the tape walk close?",
    applies=lambda answers: bool(answers.shop.room.walls),
    rules=RULES,
    remedies=REMEDIES,
    report=report,
    summary=summary,
)
