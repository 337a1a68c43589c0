"""Plain numbers as people write them."""

import re

_THOUSANDS = re.compile(r"[-+]?[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?")


def read_number(text: str) -> float:
    """The number that `text` says: 350, 12.5, 12,5, or 1,200 as it is written here for twelve hundred.

    Raises ValueError.
    """
    tidy = text.strip()
    return float(tidy.replace(",", "") if _THOUSANDS.fullmatch(tidy) else tidy.replace(",", "."))
