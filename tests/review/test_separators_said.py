"""What is said of separators: what gets past, and what holds a bucket on its foot."""

from dataclasses import replace
from math import pi

import pytest

from purvel.airflow.separators import GRAVITY, ballast_wanted, cut_size, inlet_width
from purvel.catalogue import make_thing
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Grade, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Separator, Shop
from purvel.shop.edits import change
from tests.review.test_rules import fired, piped

__all__ = ["piped"]


def test_moments_about_the_edge_balance() -> None:
    """40 N at 0.55 m against (2.5 + ballast) kg on half of 0.28 m."""
    ballast = ballast_wanted(40.0, 0.55, 0.28, 2.5)
    assert (2.5 + ballast) * GRAVITY * 0.14 == pytest.approx(40.0 * 0.55)
    assert ballast_wanted(5.0, 0.3, 0.4, 5.0) == 0.0
    assert ballast_wanted(60.0, 0.5, 0.27, 2.5) > ballast_wanted(20.0, 0.5, 0.27, 2.5)


def test_the_cut_of_a_cyclone_falls_with_its_speed_and_grows_with_its_width() -> None:
    one = cut_size(0.1, 15.0, 1.81e-5, 1000.0)
    assert one == pytest.approx((9 * 1.81e-5 * 0.1 / (2 * pi * 5.5 * 15 * 1000)) ** 0.5)
    assert cut_size(0.1, 60.0, 1.81e-5, 1000.0) == pytest.approx(one / 2)
    assert cut_size(0.4, 15.0, 1.81e-5, 1000.0) == pytest.approx(2 * one)
    assert 2 * inlet_width(0.15) ** 2 == pytest.approx(pi / 4 * 0.15**2)


def vac_shop() -> Shop:
    """A vac on hose with a bucket before it."""
    shop = loads(demo_bytes("single-garage")).shop
    thing = shop.thing("vac")
    assert thing is not None and thing.source is not None
    bucket = Separator(kind="bucket", inlet_diameter=0.063, loss=3.0)
    return change(shop, "vac", source=replace(thing.source, separator=bucket))


def test_a_bucket_on_a_hose_is_told_to_tip_until_ballast_holds_it() -> None:
    shop = vac_shop()
    (tips,) = fired(shop, "separator-tips")
    thing = shop.thing("vac")
    assert thing is not None and thing.source is not None and thing.source.separator is not None
    assert tips.grade == Grade.WATCH and 0 < tips.figures["ballast_low"] < tips.figures["ballast_high"]

    def with_ballast(kilos: float) -> Shop:
        assert thing is not None and thing.source is not None and thing.source.separator is not None
        separator = replace(thing.source.separator, ballast=kilos)
        return change(shop, "vac", source=replace(thing.source, separator=separator))

    held = fired(with_ballast(tips.figures["ballast_high"] + 0.1), "separator-tips")
    assert [one.grade for one in held] == [Grade.GOOD]
    (between,) = fired(with_ballast(tips.figures["ballast_low"] + 0.1), "separator-tips")
    assert between.grade == Grade.WATCH and between.figures["ballast_low"] == 0.0


def test_what_gets_past_is_told_of_every_separator_and_tipping_of_none_on_pipe(piped: Shop) -> None:
    assert fired(piped, "separator-passes") == []
    cyclone = make_thing("cyclone", "c").source
    assert cyclone is not None and cyclone.separator is not None
    shop = change(piped, "collector", source=cyclone)
    (past,) = fired(shop, "separator-passes")
    (network,) = Answers(shop, Memory()).of(DuctAnswers).networks
    speed = max(one.flow for one in network.sets) / (pi / 4 * cyclone.separator.inlet_diameter**2)
    cut = cut_size(inlet_width(cyclone.separator.inlet_diameter), speed, network.air.viscosity)
    assert past.figures["cut_size"] == pytest.approx(cut) and 1e-6 < cut < 30e-6
    assert fired(shop, "separator-tips") == []
    drum = replace(cyclone, separator=Separator(kind="drum", inlet_diameter=0.15, loss=3.0))
    on_pipe = change(piped, "collector", source=drum)
    assert fired(on_pipe, "separator-tips") == [] and len(fired(on_pipe, "separator-passes")) == 1
