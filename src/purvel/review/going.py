"""What would have to go for a finding to end, where no small change helps."""

from __future__ import annotations

from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.finding import Finding
from purvel.review.reviewing import About, grades_of
from purvel.review.scenes import tried
from purvel.review.stages import stage_of
from purvel.review.trying import can_try
from purvel.shop import Shop, Thing
from purvel.shop.edits import Edit, remove
from purvel.shop.parts import name_of
from purvel.space.clearances import polygon
from purvel.stopping import go_on

_SUSPECTS = 6  # things that are tried, those the finding is about first, then the nearest


def would_go(finding: Finding, answers: Answers) -> tuple[str, ...]:
    """The ids of the things without any one of which the finding would be better; what it is about itself is
    not among them. Empty where no single thing would do, and for findings that no thing is the cause of.
    """
    key: About = (finding.rule, finding.about)
    stage, found = stage_of(finding.stage), list[str]()
    for thing in _suspects(finding, answers.shop):
        go_on()
        now = grades_of(stage, tried(answers, _remover(thing.id))).get(key)
        if now is None or now > finding.grade:
            found.append(thing.id)
    return tuple(found)


def _suspects(finding: Finding, shop: Shop) -> list[Thing]:
    own = finding.about[0] if finding.about else ""
    subject = shop.thing(own)
    near: shapely.Geometry | None = None if subject is None else polygon(subject)
    if finding.where.point is not None:
        near = shapely.Point(finding.where.point)
    others = [thing for thing in shop.things if thing.id != own]
    if near is None:
        return [thing for thing in others if thing.id in finding.where.items][:_SUSPECTS]
    ordered = sorted(
        others, key=lambda one: (one.id not in finding.where.items, polygon(one).distance(near), one.id)
    )
    return ordered[:_SUSPECTS]


def _remover(thing: str) -> Edit:
    return lambda shop: remove(shop, thing)


def nothing_small(finding: Finding, answers: Answers) -> str:
    """What is said where no remedy was found; nothing of what none is known for."""
    if not can_try(finding):
        return ""
    tried_all = "Tried small changes; none helps without making something else worse."
    if not stage_of(finding.stage).about_things:
        return tried_all
    names = [name_of(answers.shop, one) for one in would_go(finding, answers)]
    if names:
        return f"{tried_all} {' or '.join(names)} would have to go from there."
    about = finding.about[0] if finding.about else ""
    itself = f"; {name_of(answers.shop, about)} itself would have to" if answers.shop.thing(about) else ""
    return f"{tried_all} No single thing would have to go{itself}."
