"""The rule of light: whether every station has what its work asks for."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.catalogue.power import utilisation
from purvel.power.light import BENCH, how_many
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.power.answers import PowerAnswers, TaskLight
from purvel.shop.parts import name_of
from purvel.shop.power import Luminaire

DIM = 0.5  # of what a task asks for: below this it is dark


def lux(value: float, say: Figures) -> str:
    """Illuminance: lux, or footcandles."""
    return f"{value:.0f} lx" if say.system == "metric" else f"{value / 10.764:.0f} fc"


def light(answers: Answers, say: Figures) -> Iterator[Finding]:
    power = answers.of(PowerAnswers)
    if not answers.shop.power.luminaires:
        return
    for grade, dim in _by_grade(power.tasks).items():
        yield _dim(answers, power, grade, dim, say)
    if power.tasks and all(task.lux >= task.wanted for task in power.tasks):
        least = min(power.tasks, key=lambda task: task.lux / task.wanted)
        yield Finding(
            "light",
            Grade.GOOD,
            (),
            f"Every station has the light its work asks for; the dimmest is {name_of(answers.shop, least.thing)}"
            f" with {lux(least.lux, say)}.",
            f"{lux(least.wanted, say)} are asked for there. Eyes over fifty want twice as much.",
            _light_basis(),
            Where((least.thing,)),
            {"lux": least.lux, "wanted": least.wanted, "stations": 0.0},
        )


def _by_grade(tasks: list[TaskLight]) -> dict[Grade, list[TaskLight]]:
    """Stations that are dark, and those that are only dim; the worst first."""
    found: dict[Grade, list[TaskLight]] = {}
    for task in sorted(tasks, key=lambda task: task.lux / task.wanted):
        if light_grade(task) != Grade.GOOD:
            found.setdefault(light_grade(task), []).append(task)
    return found


def light_grade(task: TaskLight) -> Grade:
    """What the light at a station is worth; its finding and its colour on the plan go by it."""
    if task.lux < DIM * task.wanted:
        return Grade.MEND
    return Grade.WATCH if task.lux < task.wanted else Grade.GOOD


def _light_basis() -> Basis:
    return Basis(
        "published practice",
        "EN 12464-1: 500 lx at woodworking machines, 300 lx at benches. Direct light by inverse square and"
        " cosine, what the room throws back evenly (to a fifth); bodies and your own shadow are not looked at.",
    )


def _dim(answers: Answers, power: PowerAnswers, grade: Grade, dim: list[TaskLight], say: Figures) -> Finding:
    """Stations without enough light, in one finding."""
    shop, worst = answers.shop, dim[0]
    listed = ", ".join(
        f"{name_of(shop, one.thing)} {lux(one.lux, say)} of {lux(one.wanted, say)}" for one in dim
    )
    word = "dark" if grade == Grade.MEND else "a little dim"
    what = f"{name_of(shop, worst.thing)} is" if len(dim) == 1 else f"{len(dim)} stations are"
    flux, number = sum(one.lumens for one in shop.power.luminaires), len(shop.power.luminaires)
    return Finding(
        "light",
        grade,
        (grade.word.lower(),),
        f"{what} {word}: {listed}.",
        f"{'One luminaire gives' if number == 1 else f'{number} luminaires give'} {flux:,.0f} lm,"
        f" of which {shop.power.upkeep:.0%} is left by dust and age.{_more(answers, power, max(one.wanted for one in dim), say)} Eyes over fifty want"
        " twice as much.",
        _light_basis(),
        Where(tuple(one.thing for one in dim)),
        {"lux": worst.lux, "wanted": worst.wanted, "stations": float(len(dim))},
    )


def brightest(answers: Answers) -> Luminaire:
    """Of the luminaires that hang here."""
    return max(answers.shop.power.luminaires, key=lambda one: one.lumens)


def number_wanted(answers: Answers, target: float) -> int:
    """How many like the brightest here the whole room asks for, by the lumen method; 0 while it is open."""
    room, usual, factors = answers.of(PowerAnswers).room_light, brightest(answers), utilisation()
    if room is None or usual.lumens <= 0:
        return 0
    height = max(0.3, usual.z - BENCH)
    return how_many(usual.lumens, target, room, height, (factors.index, factors.factor))


def _more(answers: Answers, power: PowerAnswers, target: float, say: Figures) -> str:
    number = number_wanted(answers, target)
    if not number:
        return ""
    usual = brightest(answers)
    return (
        f" For {lux(target, say)} all over the room {number} of {usual.lumens:,.0f} lm are wanted (lumen method),"
        f" {max(0, number - sum(one.lumens >= usual.lumens for one in answers.shop.power.luminaires))} more."
    )
