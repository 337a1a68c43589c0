"""What is found in the demo shops, word by word, as it was read through when it was last changed.

`tools/tell_demos.py` writes the texts. Figures may differ in their last place, which another machine may
round the other way.
"""

import re
from pathlib import Path

import pytest

from purvel.review.keep import answers as keep_answers

ROOT = Path(__file__).parents[2]
NUMBER = re.compile(r"\d[\d,]*(?:\.\d+)?")


def value(text: str) -> float:
    return float(text.replace(",", ""))


def unlike(text: str, other: str) -> bool:
    """Whether two figures differ by more than their last place, or by more than half a per cent."""
    a, b = value(text), value(other)
    places = len(text.partition(".")[2])
    return abs(a - b) > max(1.01 * 10.0**-places, 0.006 * abs(a))


def test_what_is_said_of_the_demos(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(ROOT / "tools")
    from tell_demos import DAY, TOLD, pages

    monkeypatch.setattr(keep_answers, "today", lambda: DAY)
    told = dict(pages())
    assert told.keys() == {path.name for path in TOLD.iterdir()}
    for name, text in told.items():
        was, now = (TOLD / name).read_text("utf-8").split("\n"), text.split("\n")
        assert len(was) == len(now), name
        for before, after in zip(was, now):
            assert NUMBER.sub("#", after) == NUMBER.sub("#", before), name
            pairs = list(zip(NUMBER.findall(before), NUMBER.findall(after), strict=True))
            assert not [pair for pair in pairs if unlike(*pair)], (name, before, after)
