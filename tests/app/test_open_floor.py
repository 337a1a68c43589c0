"""The largest clear rectangle, told and drawn where its finding is open."""

from tests.app.conftest import Bench


def test_it_is_drawn_where_its_finding_is_open(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    bench.settle(whole=True)
    said = next(one for one in bench.window.reviews.latest.of("place") if one.rule == "open-floor")
    assert "2240 mm by 1700 mm" in said.sentence and said.where.point is not None
    bench.settle(whole=True)
    spot = bench.at(said.where.point[0] + 0.9, said.where.point[1] + 0.7)
    before = bench.window.plan.grab().toImage().pixelColor(spot)
    bench.window.findings.reveal(said)
    bench.settle(whole=True)
    after = bench.window.plan.grab().toImage().pixelColor(spot)
    assert after != before and after.green() > after.red()
