"""The electrician's sheet and the light, for the binder."""

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.app.stages.power import drawing
from purvel.review import Answers, Figures
from purvel.review.room.answers import RoomAnswers


def _cords(sheet: Sheet, answers: Answers) -> None:
    draw_room.room(sheet, answers.of(RoomAnswers).shell, None, answers.shop.units)
    draw_things.things(sheet, answers.shop, None, {}, quiet=True)
    drawing.cords(sheet, answers, None)


def _light(sheet: Sheet, answers: Answers) -> None:
    draw_room.room(sheet, answers.of(RoomAnswers).shell, None, answers.shop.units)
    draw_things.things(sheet, answers.shop, None, {}, quiet=True)
    drawing.light(sheet, answers, None, Figures(answers.shop.units))


PAGES = (
    Page(
        lambda answers: bool(answers.shop.power.circuits),
        lambda _: "For the electrician, who decides and does it: outlets with their circuits, and cords.",
        _cords,
    ),
    Page(
        lambda answers: bool(answers.shop.power.luminaires),
        lambda _: "Light at bench height, and what each station has of what its work asks for.",
        _light,
    ),
)
