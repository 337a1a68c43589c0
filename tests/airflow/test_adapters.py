"""Chains of adapters: what fits, the fewest, and what is to be worked where nothing does."""

import itertools
from math import inf

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.airflow.adapters import MOST, SLACK, Adapter, Chain, End, chain, fits, gap


def spigot(mm: float, most: float | None = None) -> End:
    return End("spigot", mm / 1000, (most or mm) / 1000)


def socket(mm: float, most: float | None = None) -> End:
    return End("socket", mm / 1000, (most or mm) / 1000)


def test_what_fits_in_what() -> None:
    assert SLACK == 0.0008
    assert fits(spigot(100), socket(100)) and fits(socket(100.8), spigot(100))
    assert not fits(spigot(100), socket(100.9)) and not fits(spigot(100.1), socket(100))
    assert fits(spigot(100), socket(101.5), slack=0.0015)
    assert not fits(spigot(100), spigot(100)) and gap(socket(10), socket(10)) == inf
    taper = spigot(98, 103)  # goes in until it holds
    assert fits(taper, socket(98)) and fits(taper, socket(103.8)) and not fits(taper, socket(103.9))
    assert not fits(taper, socket(97.9))
    rubber = socket(98, 106)  # is drawn together or stretched
    assert fits(rubber, spigot(106)) and fits(rubber, spigot(97.2)) and not fits(rubber, spigot(97.1))
    inch = End("male thread", thread="1 in")
    assert fits(inch, End("female thread", thread="1 in"))
    assert not fits(inch, End("female thread", thread="2 in")) and not fits(inch, spigot(25))


COUPLING = Adapter("coupling 100", socket(100.5), socket(100.5))
REDUCER = Adapter("100 to 63", socket(100.5), spigot(63))
NIPPLE = Adapter("nipple 63", spigot(63), spigot(63))
INCH = Adapter("4 to 2.5", socket(102.1), spigot(63.5))


def test_the_fewest_adapters_are_taken_and_a_kind_twice_if_need_be() -> None:
    kinds = [COUPLING, REDUCER, NIPPLE]
    assert chain(spigot(100), socket(100.3), kinds) == Chain(())
    assert chain(spigot(100), socket(63.5), kinds) == Chain((1,))
    assert chain(socket(63.5), spigot(100), kinds) == Chain((1,))  # the other way round
    assert chain(spigot(100), spigot(100), kinds) == Chain((0,))
    # down to 63 and up again: the reducer twice, a nipple does not go between spigots
    assert chain(spigot(100), spigot(100), [REDUCER, Adapter("sleeve", socket(63.5), socket(63.5))]) == Chain(
        (0, 1, 0)
    )


def test_where_nothing_fits_the_least_work_at_one_joint() -> None:
    found = chain(spigot(100), socket(99.6), [])
    assert found is not None and found.adapters == () and found.misfit is not None
    assert found.misfit.sand == pytest.approx(0.0004) and found.misfit.fill == 0.0
    found = chain(spigot(100), socket(102.1), [])
    assert found is not None and found.misfit is not None
    assert found.misfit.fill == pytest.approx(0.0013)  # beyond the slack
    assert found.misfit.layers == 5  # 0.65 mm to a side, of 0.15 mm each
    # through the inch reducer: 0.8 mm of slack is passed by 1.3 before it; 63.5 into 63.9 fits
    found = chain(spigot(100), socket(63.9), [INCH])
    assert found is not None and found.adapters == (0,) and found.misfit is not None
    assert found.misfit.joint == 0 and found.misfit.fill == pytest.approx(0.0013)
    assert chain(spigot(100), socket(150), []) is None and chain(socket(10), socket(10), []) is None


def every_chain(start: End, end: End, kinds: list[Adapter], most: int) -> int | None:
    """The fewest adapters by trying all sequences."""
    for many in range(most + 1):
        for used in itertools.product([way for one in kinds for way in one.ways()], repeat=many):
            ends = [start, *itertools.chain.from_iterable(used), end]
            if all(fits(a, b) for a, b in zip(ends[::2], ends[1::2])):
                return many
    return None


ends = st.builds(
    lambda form, mm, more: End(form, mm / 1000, (mm + more) / 1000),
    st.sampled_from(["spigot", "socket"]),
    st.sampled_from([50.0, 50.4, 63.0, 63.5, 63.9, 100.0, 100.5]),
    st.sampled_from([0.0, 0.0, 1.0]),
)


@settings(max_examples=150, deadline=None)
@given(ends, ends, st.lists(st.builds(Adapter, st.just("a"), ends, ends), max_size=4))
def test_no_shorter_chain_is_there(start: End, end: End, kinds: list[Adapter]) -> None:
    fewest = every_chain(start, end, kinds, 3)
    found = chain(start, end, kinds)
    if fewest is not None:
        assert found is not None and found.misfit is None and len(found.adapters) == fewest
    elif found is not None and found.misfit is None:
        assert 3 < len(found.adapters) <= MOST
