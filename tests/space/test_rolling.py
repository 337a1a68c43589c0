"""How a disc rolls where points on edges lie closer: against the same with points close everywhere."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.shop import Opening
from purvel.space.aisles import LEAST, aisles, entries, way_in
from purvel.space.ground import Footprint
from purvel.space.rolling import Density, covering, diagram, reaches
from purvel.space.shell import shell
from purvel.space.triangles import Around
from tests.conftest import box_room

DOOR = Opening(id="door", kind="swing", wall="D", offset=0.2, width=1.0, head=2.0, entry=True, swing="out")
ENTRY = way_in(shell(box_room(3.0, 2.5, openings=(DOOR,))), entries((DOOR,)))


def test_what_a_disc_between_points_may_lack_between_edges() -> None:
    """Points 0.1 m apart, but 0.02 m within 1 m of (2, 0) and within 0.5 m of (4, 0). A disc is in a circle
    with all that it touches, or it is not; so are all on a straight way whose ends are.
    """
    dense = Density(0.1, 0.02, np.array([(2.0, 0.0), (4.0, 0.0)]), np.array([1.0, 0.5]))
    discs = [(2.0, 0.5, 0.5), (2.0, 0.5, 0.51), (1.2, 0.0, 0.19), (4.0, 0.2, 0.25), (9.0, 0.0, 0.1)]
    ways = [(0, 0), (1, 1), (2, 2), (0, 2), (0, 1), (2, 0), (3, 3), (0, 3), (4, 4)]
    places = np.array([[discs[one][:2], discs[other][:2]] for one, other in ways])
    radius = np.array([[discs[one][2], discs[other][2]] for one, other in ways])
    fine = [True, False, True, True, False, True, True, False, False]
    assert dense.slack(places, radius) == pytest.approx([0.0001 if one else 0.0025 for one in fine])
    assert Density(0.1).slack(places, radius) == pytest.approx([0.0025] * len(ways))


@settings(max_examples=25, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.floats(0.4, 2.8), st.floats(0.2, 2.3), st.sampled_from([0.0, 90.0, 30.0]), st.floats(0.1, 0.9)
        ),
        min_size=2,
        max_size=9,
    )
)
def test_points_that_lie_closer_where_it_is_narrow_tell_what_all_of_them_would(
    bodies: list[tuple[float, float, float, float]],
) -> None:
    assert ENTRY is not None
    blockers = tuple(
        Footprint(f"b{k}", x, y, angle, size, 0.3) for k, (x, y, angle, size) in enumerate(bodies)
    )
    goals = {"far": (2.9, 2.4), "below": (2.5, 0.1), "first": (bodies[0][0], bodies[0][1] - 0.155)}
    ways = diagram(
        Around(ENTRY.edges, 0.005).triangles(blockers),
        Density(0.005),
        ENTRY.on_floor,
        list(ENTRY.gaps),
        LEAST / 2,
    )
    exact = covering(ways, *reaches(ways, ways.starts), np.array([*goals.values()]))
    for one, radius, most in zip(aisles(blockers, goals, ENTRY), exact.radius, exact.most):
        if one.width:
            assert one.width <= 2 * most + 1e-5 and one.most >= 2 * radius - 1e-5
            assert one.error <= 0.018


def test_a_goal_beside_an_edge_needs_no_closer_points_elsewhere(monkeypatch: pytest.MonkeyPatch) -> None:
    """The disc that comes in by the door of 1 m covers what is 0.2 mm from the wall; what is on it has no
    way. The disc that there is room for reaches from wall to wall.
    """
    taken: list[Density] = []

    def density(*of: Any) -> Density:
        taken.append(Density(*of))
        return taken[-1]

    monkeypatch.setattr("purvel.space.aisles.Density", density)
    found = aisles((), {"off": (2.9998, 1.22), "on": (3.0 - 5e-6, 1.25), "at": (3.0, 1.25)}, ENTRY)
    assert [one.width > 0 for one in found] == [True, False, False]
    assert 0.98 <= found[0].width <= 1.0
    assert [one.step for one in taken] == [0.1, 0.1]  # once, and once with some that lie closer
