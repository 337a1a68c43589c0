"""Electricity and light: what may run together, whether the cord reaches, how bright it is."""

from purvel.review.answers import Answers
from purvel.review.power.remedies import PROGRESS, REMEDIES
from purvel.review.power.report import report, tables
from purvel.review.power.rules import RULES
from purvel.review.stage import Stage


def _applies(answers: Answers) -> bool:
    power = answers.shop.power
    return bool(power.circuits or power.outlets or power.luminaires)


STAGE = Stage(
    key="power",
    about_work=True,
    title="Power",
    question="What may run together, does the cord reach, is it bright enough?",
    applies=_applies,
    rules=RULES,
    remedies=REMEDIES,
    progress=PROGRESS,
    report=report,
    tables=tables,
)
