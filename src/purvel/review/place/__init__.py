"""Machines and benches: lanes, standing room, ways."""

from purvel.review.place.open_rules import open_floor
from purvel.review.place.remedies import PROGRESS, REMEDIES
from purvel.review.place.report import report, tables
from purvel.review.place.rules import RULES
from purvel.review.place.scene_rules import roll_outs
from purvel.review.stage import Stage

STAGE = Stage(
    key="place",
    about_things=True,
    title="Place",
    question="Can this board be fed here?",
    applies=lambda answers: bool(answers.shop.things),
    rules=RULES,
    searches=(open_floor, roll_outs),
    remedies=REMEDIES,
    progress=PROGRESS,
    report=report,
    tables=tables,
)
