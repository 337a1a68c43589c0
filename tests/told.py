"""What was told and read through, against what is told now."""

import re
from itertools import zip_longest

NUMBER = re.compile(r"\d[\d,]*(?:\.\d+)?(?:e[+-]\d+)?")


def differences(before: str, now: str, within: float) -> list[tuple[str, str]]:
    """The lines that differ in their words; or in figures by more than a share `within`, and by more than the
    last decimal, which another machine may round the other way. Whole numbers have none.
    """
    lines = zip_longest(before.split("\n"), now.split("\n"), fillvalue="(no line)")
    return [(old, new) for old, new in lines if _differ(old, new, within)]


def _differ(old: str, new: str, within: float) -> bool:
    if NUMBER.sub("#", old) != NUMBER.sub("#", new):
        return True
    pairs = zip(NUMBER.findall(old), NUMBER.findall(new), strict=True)
    return any(_unlike(*pair, within) for pair in pairs)


def _unlike(text: str, other: str, within: float) -> bool:
    a, b = (float(one.replace(",", "")) for one in (text, other))
    places = 0 if "e" in text else len(text.partition(".")[2])
    last = 1.01 * 10.0**-places if places else 0.0
    return abs(a - b) > max(last, within * abs(a))
