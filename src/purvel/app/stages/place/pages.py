"""The plan with its lanes, for the binder."""

from purvel.app.plan import draw_lanes, draw_room, draw_things
from purvel.app.plan.draw_set_out import set_out_marks
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.review import Answers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers


def _draw(sheet: Sheet, answers: Answers) -> None:
    draw_room.room(sheet, answers.of(RoomAnswers).shell, None, answers.shop.units)
    for lane in answers.of(PlaceAnswers).lanes.values():
        draw_lanes.lane(sheet, lane, answers.shop, strong=False)
    draw_things.things(sheet, answers.shop, None, {})


def _draw_set_out(sheet: Sheet, answers: Answers) -> None:
    shell = answers.of(RoomAnswers).shell
    draw_room.room(sheet, shell, None)
    draw_things.things(sheet, answers.shop, None, {}, quiet=True)
    set_out_marks(sheet, answers.shop, shell)


PAGES = (
    Page(
        lambda answers: bool(answers.shop.things) and answers.of(RoomAnswers).traverse.is_closed,
        lambda _: "Set-out: from the marked corner of each, square to two walls.",
        _draw_set_out,
        is_plan=True,
    ),
    Page(
        lambda _: True,
        lambda _: (
            "Plan with feed lanes; the figure at each machine is the longest board that it takes there."
        ),
        _draw,
        is_plan=True,
    ),
)
