"""What is found in the demo shops, word by word, as it was read through when it was last changed.

`tools/tell_demos.py` writes the texts.
"""

from pathlib import Path

import pytest

from purvel.review.keep import answers as keep_answers
from tests.told import assert_told

ROOT = Path(__file__).parents[2]


def test_what_is_said_of_the_demos(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(ROOT / "tools")
    from tell_demos import DAY, TOLD, pages

    monkeypatch.setattr(keep_answers, "today", lambda: DAY)
    told = dict(pages())
    others = ("-report.txt", "-routes.txt", "-lists.txt")  # whose tests are elsewhere
    assert told.keys() == {path.name for path in TOLD.iterdir() if not path.name.endswith(others)}
    for name, text in told.items():
        assert_told(name, (TOLD / name).read_text("utf-8"), text, within=0.006)
