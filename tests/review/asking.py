"""One stage asked by itself: the others may have long searches to do."""

from purvel.review import Answers, Finding, Memory
from purvel.review.reviewing import findings_of, searched
from purvel.review.stages import stage_of
from purvel.shop import Shop


def asked(shop: Shop) -> Answers:
    """What is known of a shop that nobody has reviewed."""
    return Answers(shop, Memory())


def found_in(stage: str, shop: Shop, rule: str) -> list[Finding]:
    """What one stage finds by a rule, long searches among it."""
    one, answers = stage_of(stage), asked(shop)
    return [found for found in (*findings_of(one, answers), *searched(one, answers)) if found.rule == rule]
