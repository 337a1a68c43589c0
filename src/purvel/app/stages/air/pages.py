"""The day as a page of the binder: its course with the limit, and the work under it."""

from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.catalogue import limits
from purvel.libraries import np
from purvel.quantities import format_number
from purvel.review import Answers
from purvel.review.air.answers import AirAnswers
from purvel.roomair.day import Day
from purvel.roomair.stretches import BANDS

WIDE, HIGH = 12.0, 5.0  # the chart, in the page's own metres
ROW = 0.55  # a row of work
STEPS = (10, 15, 30, 60, 120)  # min between the marks of the axis


def _day(answers: Answers) -> Day | None:
    return answers.of(AirAnswers).day


def _headline(answers: Answers) -> str:
    day = _day(answers)
    if day is None:
        return "The day."
    course = day.courses["central"]
    return (
        f"The day: breathed over 8 h {format_number(course.personal_8h)} mg/m³ of inhalable dust"
        f" ({format_number(day.courses['low'].personal_8h)} to {format_number(day.courses['high'].personal_8h)});"
        f" limit {limits()[answers.base.air.limit].value:g}."
    )


def _bounds(answers: Answers) -> tuple[float, float, float, float]:
    rows = len(answers.base.air.session.work) + len(answers.base.air.session.spells)
    return (-1.2, -1.2 - ROW * rows, WIDE + 0.4, HIGH + 0.7)


def _draw(sheet: Sheet, answers: Answers) -> None:
    day = _day(answers)
    if day is None:
        return
    last, limit = day.shown_until, limits()[answers.base.air.limit].value
    seen = day.times <= last
    central = day.courses["central"]
    top = max(float(central.personal[seen].max()), limit) * 1.1
    palette = sheet.palette

    def points(values: np.ndarray) -> list[tuple[float, float]]:
        step = max(1, int(seen.sum()) // 600)
        return [
            (WIDE * minute / last, HIGH * min(value, top) / top)
            for minute, value in zip(day.times[seen][::step], values[seen][::step])
        ]

    step = next((one for one in STEPS if last / one <= 12), STEPS[-1])
    for mark in range(0, int(last) + 1, step):
        x = WIDE * mark / last
        sheet.line([(x, 0.0), (x, HIGH)], sheet.pen(palette.rule, 0.6))
        sheet.text(sheet.at(x, -0.3), f"{mark}", palette.ink, factor=0.7)
    sheet.text(sheet.at(WIDE / 2, -0.75), "minutes from the start", palette.ink, factor=0.75)
    for share in (0.0, 0.25, 0.5, 0.75, 1.0):
        sheet.line([(0.0, HIGH * share), (WIDE, HIGH * share)], sheet.pen(palette.rule, 0.6))
        sheet.text(sheet.at(-0.6, HIGH * share), f"{top * share:.2g}", palette.ink, factor=0.7)
    sheet.text(sheet.at(0.4, HIGH + 0.35), "mg/m³", palette.ink, factor=0.75)
    y = HIGH * limit / top
    sheet.line([(0.0, y), (WIDE, y)], sheet.pen(palette.stop, 1.5, dashes=(5, 3)))
    sheet.text(sheet.at(WIDE - 1.4, y + 0.2), f"8 h limit {limit:g}", palette.stop, factor=0.75)
    for band in (BANDS[0], BANDS[2]):
        sheet.line(points(day.courses[band].total), sheet.pen(palette.pencil, 0.8, dashes=(2, 2)))
    sheet.line(points(central.personal), sheet.pen(palette.air_coarse, 1.0))
    sheet.line(points(central.total), sheet.pen(palette.ink, 2.0))
    for room, courses in day.rooms.items():
        if room:
            sheet.line(points(courses["central"].total), sheet.pen(palette.air_mid, 1.2, dashes=(4, 2)))
    _key(sheet, day)
    _work(sheet, answers, last)


def _key(sheet: Sheet, day: Day) -> None:
    """What the lines are, over the chart."""
    palette = sheet.palette
    lines = [
        ("the room", sheet.pen(palette.ink, 2.0)),
        ("at the tool", sheet.pen(palette.air_coarse, 1.0)),
        ("the least and the most it may be", sheet.pen(palette.pencil, 0.8, dashes=(2, 2))),
    ]
    if len(day.rooms) > 1:
        lines.append(("rooms beyond", sheet.pen(palette.air_mid, 1.2, dashes=(4, 2))))
    x, y = 1.4, HIGH + 0.35
    for words, pen in lines:
        sheet.line([(x, y), (x + 0.5, y)], pen)
        wide = sheet.size_of(words, 0.7)[0] / sheet.scale
        sheet.text(sheet.at(x + 0.6 + wide / 2, y), words, palette.ink, factor=0.7)
        x += 0.6 + wide + 0.4


def _work(sheet: Sheet, answers: Answers, last: float) -> None:
    session = answers.base.air.session
    pieces = [(one.name or one.operation, one.start, one.minutes) for one in session.work]
    pieces += [(one.name or "switched", one.start, one.minutes) for one in session.spells]
    for number, (name, start, minutes) in enumerate(pieces):
        y = -1.15 - ROW * number
        a, b = WIDE * start / last, WIDE * min(start + minutes, last) / last
        box = [(a, y), (b, y), (b, y - ROW * 0.7), (a, y - ROW * 0.7)]
        sheet.fill(box, sheet.brush(sheet.palette.wood, 0.5), sheet.pen(sheet.palette.ink, 0.8))
        words = f"{name}, {start:.0f} to {start + minutes:.0f} min"
        is_left = b < WIDE * 0.6
        x = b + 0.15 if is_left else a - 0.15
        wide = sheet.size_of(words, 0.75)[0] / sheet.scale
        middle = x + wide / 2 if is_left else x - wide / 2
        sheet.text(sheet.at(middle, y - ROW * 0.35), words, sheet.palette.ink, factor=0.75)


PAGES = (Page(lambda answers: _day(answers) is not None, _headline, _draw, _bounds, has_scale=False),)
