"""What a switch box is told of the shop: for each machine its gates, its source, and the times."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

from purvel.devices.switch_box import Switch
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.choices import gates_on_way
from purvel.shop import Ran, Shop, Switched


def switches(answers: Answers) -> list[Switch]:
    """Every machine that ducts lead to, with what is switched for it; what is switched by hand is left
    out.
    """
    shop, found = answers.shop, dict[str, Switch]()
    how = {one.thing: one for one in shop.ducts.switched}
    for network in answers.of(DuctAnswers).networks:
        for index in network.layout.hoods:
            hood = network.layout.segments[index].hood
            assert hood is not None  # that is what the layout lists them by
            by = how.get(hood.thing, Switched(thing=hood.thing))
            gates = gates_on_way(network.layout, index)
            known = found.get(hood.thing)
            if known is not None:
                gates = tuple(dict.fromkeys((*known.gates, *gates)))
            if by.how != "by hand":
                source = network.layout.source_thing
                found[hood.thing] = Switch(hood.thing, source, gates, by.delay, by.run_on)
    return list(found.values())


def with_hours(shop: Shop, hours: dict[str, float], today: date) -> Shop:
    """The shop with hours that a box counted today added to what is known of the day; those of things that
    are not in it are left out. No day has more than 24.
    """
    day, there = today.isoformat(), {thing.id for thing in shop.things}
    ran = {(one.thing, one.day): one for one in shop.ducts.ran}
    for thing, more in hours.items():
        if thing in there and more > 0:
            known = ran.get((thing, day), Ran(thing=thing, day=day, hours=0.0))
            ran[thing, day] = replace(known, hours=min(24.0, known.hours + more))
    return replace(shop, ducts=replace(shop.ducts, ran=tuple(ran.values())))
