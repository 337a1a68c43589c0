"""The plan with its ducts, for the binder."""

from purvel.app.plan import draw_ducts, draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.review import Answers, Figures
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.room.answers import RoomAnswers


def _draw(sheet: Sheet, answers: Answers) -> None:
    draw_room.room(sheet, answers.of(RoomAnswers).shell, None, answers.shop.units)
    draw_things.things(sheet, answers.shop, None, {}, quiet=True)
    draw_ducts.ducts(sheet, answers, None, None, Figures(answers.shop.units))


def _headline(answers: Answers) -> str:
    ducts = answers.of(DuctAnswers)
    chosen = " and ".join(f"“{ducts.choice_name(network.sets[0].id)}”" for network in ducts.networks)
    return f"Ducts, with gate choice {chosen}." if chosen else "Ducts."


PAGES = (Page(lambda answers: bool(answers.shop.ducts.runs), _headline, _draw, is_plan=True),)
