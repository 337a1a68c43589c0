"""The walls' elevations, for the binder."""

from functools import partial

from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.app.stages.walls.drawing import WallDrawing
from purvel.review import Answers
from purvel.review.walls.answers import WallsAnswers

MOST = 12  # walls that have a page of their own
MARGIN = 0.25  # m round a wall


def _walls(answers: Answers) -> list[str]:
    """Walls with something on them."""
    return list(dict.fromkeys(unit.wall for unit in answers.of(WallsAnswers).units.values()))


def _wanted(number: int, answers: Answers) -> bool:
    return number < len(_walls(answers))


def _headline(number: int, answers: Answers) -> str:
    return f"Wall {_walls(answers)[number]} from inside; where every tool is stands in the table."


def _draw(number: int, sheet: Sheet, answers: Answers) -> None:
    side = answers.of(WallsAnswers).sides[_walls(answers)[number]]
    WallDrawing(sheet, answers, side, None, {}).draw()


def _bounds(number: int, answers: Answers) -> tuple[float, float, float, float]:
    side = answers.of(WallsAnswers).sides[_walls(answers)[number]]
    return -MARGIN, -MARGIN, side.length + MARGIN, answers.shop.room.ceiling.height + MARGIN


PAGES = tuple(
    Page(
        partial(_wanted, number), partial(_headline, number), partial(_draw, number), partial(_bounds, number)
    )
    for number in range(MOST)
)
