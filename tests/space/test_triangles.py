"""Delaunay's triangles: what the definition says, and a body that moves against all looked for at once."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.libraries import Array
from purvel.space.ground import Footprint
from purvel.space.triangles import Around, Triangles, sampled, triangulated, with_more

ROOM = np.array(
    [[(0.0, 0.0), (6.0, 0.0)], [(6.0, 0.0), (6.0, 5.0)], [(6.0, 5.0), (0.0, 5.0)], [(0, 5), (0, 0)]]
)
BENCH = Footprint("bench", 2.0, 2.0, 0.0, 1.5, 0.6)
SAW = Footprint("saw", 4.0, 3.0, 30.0, 0.9, 0.9)


def triples(found: Triangles) -> set[frozenset[tuple[float, ...]]]:
    """The triangles within the room, by what their corners are."""
    return {
        frozenset(tuple(found.points[k].tolist()) for k in corners)
        for corners in found.corners
        if (corners >= 4).all()
    }


def is_right(found: Triangles) -> bool:
    """Nothing lies in a circle, each circle goes through its three corners, every edge has its two triangles,
    and there are as many triangles as Euler says.
    """
    away = np.hypot(*(found.middles[:, None] - found.points).transpose(2, 0, 1))
    through = np.take_along_axis(away, found.corners, axis=1)
    shared = [set(found.corners[a]) & set(found.corners[b]) for a, b in found.edges[:, 2:]]
    return (
        bool((away >= found.radius[:, None] - 1e-9).all())
        and np.allclose(through, found.radius[:, None], rtol=1e-6)
        and shared == [{p, q} for p, q in found.edges[:, :2].tolist()]
        and len(found.corners) == 2 * len(found.points) - 6
        and 2 * len(found.edges) == 3 * len(found.corners) - 4
    )


def test_triangles_are_what_delaunay_says() -> None:
    found = triangulated(sampled(ROOM, 0.5))
    assert len(found.points) == 2 * (12 + 10) + 4
    assert is_right(found)
    hall = triangulated(sampled(60.0 * ROOM, 20.0))  # larger than the points around are far
    assert is_right(hall) and triples(hall)
    inside = (hall.points[4:] > hall.points[0]) & (hall.points[4:] < hall.points[2])
    assert inside.all()


def test_a_body_more_makes_the_triangles_that_all_make_together() -> None:
    base = triangulated(sampled(ROOM, 0.25))
    square = sampled(
        np.array([[(2.0, 2.0), (3.0, 2.1)], [(3.0, 2.1), (2.0, 2.0)], [(1.0, 4.0), (1.1, 4.2)]]), 0.1
    )
    grown = with_more(base, square)
    assert grown is not None and is_right(grown)
    together = triangulated(np.concatenate([sampled(ROOM, 0.25), square]))
    assert triples(grown) == triples(together)


@pytest.mark.parametrize("x", [-500.0, -100.5, 106.5, 400.0])
@pytest.mark.parametrize("y", [0.0, 2.0, -400.0])
def test_outside_of_all_that_was_there_it_says_that_it_cannot(x: float, y: float) -> None:
    square = sampled(np.array([[(x, y), (x + 1, y)], [(x + 1, y), (x, y + 1.0)]]), 0.25)
    assert with_more(triangulated(sampled(ROOM, 0.5)), square) is None
    asked = Around(ROOM, 0.25)
    for on_the_way in (4.0, 4.1):
        asked.triangles((BENCH, replace(SAW, x=on_the_way)))
    away = (BENCH, replace(SAW, x=x, y=y))
    assert triples(asked.triangles(away)) == triples(Around(ROOM, 0.25).triangles(away))


@settings(max_examples=15, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.sampled_from(["bench", "saw"]), st.floats(0.8, 5.2), st.floats(0.8, 4.2), st.floats(0, 180)
        ),
        min_size=2,
        max_size=6,
    )
)
def test_whatever_moves_the_triangles_are_those_of_where_things_stand(
    moves: list[tuple[str, float, float, float]],
) -> None:
    asked, standing = Around(ROOM, 0.25), {"bench": BENCH, "saw": SAW}
    for name, x, y, angle in moves:
        standing[name] = replace(standing[name], x=x, y=y, angle=angle)
        bodies = tuple(standing.values())
        assert triples(asked.triangles(bodies)) == triples(Around(ROOM, 0.25).triangles(bodies))


@pytest.mark.parametrize("y", [0.3, 2.0, 2.6])
def test_what_touches_a_wall_or_another_thing_shares_its_points(y: float) -> None:
    """The saw's corner lies on the bench's, or the bench's side on the wall, point on point."""
    asked = Around(ROOM, 0.25)
    for on_the_way in (4.0, 4.1, 4.2):
        asked.triangles((BENCH, replace(SAW, angle=0.0, width=1.5, x=on_the_way)))
    bodies = (BENCH, replace(SAW, angle=0.0, width=1.5, depth=0.6, x=3.5, y=y))
    found = asked.triangles(bodies)
    assert is_right(found)
    assert triples(found) == triples(Around(ROOM, 0.25).triangles(bodies))


@pytest.mark.parametrize("fine", [0.1, 0.02])
def test_points_that_lie_closer_somewhere_are_among_the_others(fine: float) -> None:
    """On a side of the bench, beside the saw, and about a corner of the room."""
    asked, bodies = Around(ROOM, 0.25), (BENCH, replace(SAW, angle=0.0, x=3.25, y=2.75))
    middles, radii = np.array([(2.2, 2.3), (0.0, 0.0)]), np.array([0.46, 0.3])
    base = asked.triangles(bodies)
    found = asked.closer(base, bodies, fine, middles, radii)
    assert is_right(found)
    old, points = base.points[4:], found.points[4:]
    assert {tuple(one) for one in old} <= {tuple(one) for one in points}
    away = np.hypot(*(points[:, None] - middles).transpose(2, 0, 1))
    new = points[(np.hypot(*(points[:, None] - old).transpose(2, 0, 1)).min(axis=1) > 0)]
    assert (
        len(new) and (np.hypot(*(new[:, None] - middles).transpose(2, 0, 1)) <= radii + 0.5).any(axis=1).all()
    )
    for (x, y), radius in zip(middles, radii):  # along the edge through it no gap that it meets is wider
        along = np.sort(points[np.abs(points[:, 1] - y) < 1e-5, 0])
        met = (along[1:] > x - radius) & (along[:-1] < x + radius)
        assert np.diff(along)[met].max() <= fine + 1e-5
    assert (away <= radii).any(axis=1).sum() > (0.4 / fine)


def test_two_move_together() -> None:
    asked = Around(ROOM, 0.25)
    third = Footprint("third", 1.0, 4.0, 45.0, 0.5, 0.5)
    asked.triangles((BENCH, SAW, third))
    for x in (2.1, 2.2, 2.3):
        bodies = (replace(BENCH, x=x), replace(SAW, x=x + 2.0), third)
        assert triples(asked.triangles(bodies)) == triples(Around(ROOM, 0.25).triangles(bodies))


def test_what_has_gone_is_gone() -> None:
    asked = Around(ROOM, 0.25)
    both, one = asked.triangles((BENCH, SAW)), asked.triangles((BENCH,))
    assert len(both.points) - len(one.points) == _count(SAW)
    assert len(asked.triangles((BENCH, SAW)).points) == len(both.points)
    assert len(asked.triangles(()).points) == len(both.points) - _count(SAW) - _count(BENCH)


def _count(body: Footprint) -> int:
    """How many points, 0.25 m apart at the most, are on a body's four sides."""
    many: Array = 2 * np.ceil(np.array([body.width, body.depth]) / 0.25)
    return int(many.sum())
