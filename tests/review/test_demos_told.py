"""What is found in the demo shops, word by word, as it was read through when it was last changed.

`tools/tell_demos.py` writes the texts.
"""

from pathlib import Path

import pytest

from purvel.review.keep import answers as keep_answers
from tests.told import differences

ROOT = Path(__file__).parents[2]


def test_what_is_said_of_the_demos(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(ROOT / "tools")
    from tell_demos import DAY, TOLD, pages

    monkeypatch.setattr(keep_answers, "today", lambda: DAY)
    told = dict(pages())
    others = ("-report.txt", "-routes.txt", "-lists.txt")  # whose tests are elsewhere
    assert told.keys() == {path.name for path in TOLD.iterdir() if not path.name.endswith(others)}
    for name, text in told.items():
        assert differences((TOLD / name).read_text("utf-8"), text, within=0.006) == [], name


@pytest.mark.parametrize(
    ("before", "now", "differ"),
    [
        ("1.50 m", "1.51 m", False),
        ("1.50 m", "1.53 m", True),
        ("43 to mend", "44 to mend", True),
        ("1,200 Pa", "1,201 Pa", False),
        ("1.8e-05", "1.9e-05", True),
        ("gate", "gates", True),
        ("one\ntwo", "one", True),
    ],
)
def test_what_counts_as_told_otherwise(before: str, now: str, differ: bool) -> None:
    assert bool(differences(before, now, within=1e-3)) == differ
