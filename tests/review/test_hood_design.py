"""What is said of a hood as it is designed."""

from dataclasses import replace

from purvel.airflow.hoods import HoodOpening
from purvel.review import Figures
from purvel.review.ducts.hood_design import IDEAS, KINDS, designed

SAY = Figures("metric")


def test_a_smaller_opening_is_told_where_the_air_is_too_slow() -> None:
    box = IDEAS["box"]
    lines = list(designed(box, box.opening, 0.0, 0.07, SAY))
    # 0.07 in 0.045 m2 is 1.56 m/s; 2.5 m/s in 0.028 m2
    assert lines[0].startswith("In its opening the air has 1.6 m/s; 1.0 m/s to 2.5 m/s catch here.")
    assert lines[1] == "Closed to 62% of its opening the air in it would have 2.5 m/s."
    assert "it has 252 m³/h" in lines[2]
    fast = list(designed(box, replace(box.opening, height=0.05), 0.0, 0.07, SAY))
    assert fast[1] == "What stays within is caught."


def test_how_far_an_opening_catches_is_told_for_both_speeds() -> None:
    lathe = IDEAS["lathe"]
    lines = list(designed(lathe, HoodOpening("flanged", 0.2, 0.1), 0.2, 0.345, SAY))
    # 0.345 = 0.75 V (10 X^2 + 0.02): 0.3 m at 0.5 m/s, 0.21 m at 1.0
    assert lines[1] == "It catches to 210 mm off, what drifts slowly to 300 mm."
    assert lines[2] == "At 200 mm off there are 1.1 m/s."


def test_every_idea_is_of_a_kind_that_is_known_and_makes_sense() -> None:
    kinds = {kind for kind, _ in KINDS}
    for idea in IDEAS.values():
        assert idea.opening.kind in kinds and 0 < idea.speeds[0] < idea.speeds[1] <= 10.0
        assert len(list(designed(idea, idea.opening, idea.distance, 0.2, SAY))) >= 3
