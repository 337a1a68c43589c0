"""What was told and read through, against what is told now."""

import re

NUMBER = re.compile(r"\d[\d,]*(?:\.\d+)?(?:e[+-]\d+)?")


def assert_told(name: str, before: str, now: str, within: float) -> None:
    """The same lines with the same words; figures differ in their last place, which another machine may round
    the other way, or by a share `within`.
    """
    was, lines = before.split("\n"), now.split("\n")
    assert [NUMBER.sub("#", line) for line in lines] == [NUMBER.sub("#", line) for line in was], name
    for old, new in zip(was, lines):
        pairs = zip(NUMBER.findall(old), NUMBER.findall(new), strict=True)
        assert not [pair for pair in pairs if _unlike(*pair, within)], (name, old, new)


def _unlike(text: str, other: str, within: float) -> bool:
    a, b = (float(one.replace(",", "")) for one in (text, other))
    places = 0 if "e" in text else len(text.partition(".")[2])
    return abs(a - b) > max(1.01 * 10.0**-places if places else 0.0, within * abs(a))
