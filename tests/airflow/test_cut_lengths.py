"""The pieces of pipe that are cut: elbows taken off, cut at branches and gates."""

from dataclasses import replace

import pytest

from purvel.airflow.cut_lengths import cut_lengths
from purvel.airflow.paths import run_paths
from purvel.shop import Ducts, Gate, Join, Run, Vertex


def at(x: float, y: float, z: float = 2.0) -> Vertex:
    return Vertex(x=x, y=y, z=z)


def pieces(*runs: Run) -> list[tuple[str, float]]:
    ducts = Ducts(runs=runs)
    return [(one.run, one.length) for one in cut_lengths(ducts, run_paths(ducts, ()))]


def test_an_elbow_takes_its_radius_off_both_legs() -> None:
    """3 m, a 90 degree elbow of radius 1.5 D in 150 mm, 2 m: 0.225 off each; at 45 degrees 0.0932."""
    run = Run(id="r", diameter=0.15, points=(at(0, 0), at(3, 0), at(3, 2)))
    assert pieces(run) == [("r", pytest.approx(2.775)), ("r", pytest.approx(1.775))]
    gentle = replace(run, points=(at(0, 0), at(3, 0), at(4, 1)))
    off = 1.5 * 0.15 * 0.41421356
    assert [length for _, length in pieces(gentle)] == pytest.approx([3 - off, 2**0.5 - off])
    tight = replace(run, elbow="short-turn")
    assert [length for _, length in pieces(tight)] == pytest.approx([3 - 0.1125, 2 - 0.1125])


def test_pipe_is_cut_at_gates_and_branches_and_hose_is_not() -> None:
    main = Run(id="main", diameter=0.15, points=(at(0, 0), at(5, 0)), gates=(Gate(id="g", at=1.0),))
    branch = Run(id="b", diameter=0.1, joins=Join(run="main", at=3.5), points=(at(3.5, 2),))
    hose = Run(id="h", diameter=0.1, material="ribbed-hose", joins=Join(run="b"), points=(at(3.5, 4),))
    assert pieces(main, branch, hose) == [
        ("main", pytest.approx(1.0)),
        ("main", pytest.approx(2.5)),
        ("main", pytest.approx(1.5)),
        ("b", pytest.approx(2.0)),
    ]


def test_what_is_laid_by_eye_is_one_piece_and_elbow_on_elbow_leaves_none() -> None:
    bent = Run(id="r", diameter=0.1, points=(at(0, 0), at(2, 0), at(4, 0.1)))  # 3 degrees
    ((_, length),) = pieces(bent)
    assert length == pytest.approx(2 + (4 + 0.01) ** 0.5)
    close = Run(id="r", diameter=0.15, points=(at(0, 0), at(2, 0), at(2, 0.4), at(4, 0.4)))
    assert [length for _, length in pieces(close)] == pytest.approx([1.775, 1.775])  # 0.4 is both elbows
