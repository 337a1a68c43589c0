"""The plan with its ducts, a page for each choice of gates, for the binder."""

from functools import partial

from purvel.airflow.flows import GateSetFlow
from purvel.app.plan import draw_ducts, draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.review import Answers, Figures
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.room.answers import RoomAnswers

MOST = 10  # choices of gates that have a page of their own


def _choices(answers: Answers) -> list[GateSetFlow]:
    return [flows for network in answers.of(DuctAnswers).networks for flows in network.sets]


def _wanted(number: int, answers: Answers) -> bool:
    is_first = number == 0 and bool(answers.shop.ducts.runs)  # also where they lead to no source yet
    return is_first or number < len(_choices(answers))


def _headline(number: int, answers: Answers) -> str:
    choices = _choices(answers)
    if not choices:
        return "Ducts."
    more = len(choices) - MOST if number == MOST - 1 else 0
    others = f" {more} more choices stand in the gate card." if more > 0 else ""
    return f"Ducts, with gate choice “{answers.of(DuctAnswers).choice_name(choices[number].id)}”.{others}"


def _draw(number: int, sheet: Sheet, answers: Answers) -> None:
    choices = _choices(answers)
    chosen = choices[number].id if choices else None
    draw_room.room(sheet, answers.of(RoomAnswers).shell, None, answers.shop.units)
    draw_things.things(sheet, answers.shop, None, {}, quiet=True)
    say = Figures(answers.shop.units)
    draw_ducts.ducts(sheet, answers, chosen, None, say)
    draw_ducts.heights(sheet, answers, say)


PAGES = tuple(
    Page(partial(_wanted, number), partial(_headline, number), partial(_draw, number), is_plan=number == 0)
    for number in range(MOST)
)
