"""The air of the room over a session."""

from purvel.review.air.answers import AirAnswers
from purvel.review.air.remedies import PROGRESS, REMEDIES
from purvel.review.air.report import report, summary
from purvel.review.air.rules import RULES
from purvel.review.stage import Stage

STAGE = Stage(
    key="air",
    title="Air",
    question="How long does the dust hang?",
    applies=lambda answers: answers.of(AirAnswers).day is not None,
    rules=RULES,
    remedies=REMEDIES,
    progress=PROGRESS,
    report=report,
    summary=summary,
)
