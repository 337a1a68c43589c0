"""The plan with the ways of each job, for the binder."""

from functools import partial

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.app.stages.flow import drawing
from purvel.review import Answers, Figures
from purvel.review.flow.answers import FlowAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.space.legs import JobFlow

MOST = 6  # jobs that have a page of their own


def _flow(number: int, answers: Answers) -> JobFlow:
    return list(answers.of(FlowAnswers).jobs.values())[number]


def _wanted(number: int, answers: Answers) -> bool:
    return number < len(answers.of(FlowAnswers).jobs)


def _headline(number: int, answers: Answers) -> str:
    flow, say = _flow(number, answers), Figures(answers.shop.units)
    return (
        f"Job card: {flow.job.name}. {say.distance(flow.distance)} on foot each time; numbers are its steps."
    )


def _draw(number: int, sheet: Sheet, answers: Answers) -> None:
    flow = _flow(number, answers)
    draw_room.room(sheet, answers.of(RoomAnswers).shell, None, answers.shop.units)
    draw_things.things(sheet, answers.shop, None, {})
    drawing.legs(sheet, flow, longest=max(flow.legs, key=lambda leg: leg.distance, default=None))


PAGES = tuple(
    Page(partial(_wanted, number), partial(_headline, number), partial(_draw, number))
    for number in range(MOST)
)
