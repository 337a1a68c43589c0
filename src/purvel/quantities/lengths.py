"""The tape-measure reader and writer.

Reads what people write off a tape: `13' 6 1/2"`, `4.12 m`, `4 m 12 cm`, `4,120 mm`,
`162 1/2`, `5 ft 3`. A bare number is
inches in the feet-and-inches system and millimetres in the metric one; a bare fraction is inches in both,
since no metric tape has any.
"""

import re
from fractions import Fraction
from functools import lru_cache

from purvel.quantities.systems import System

INCH = 0.0254  # m, exact by definition (international yard and pound agreement, 1959)
FOOT = 12 * INCH
LONGEST = 200.0  # m: no home shop is larger; a longer reading is a slip of the unit

_METRIC = {"m": Fraction(1), "dm": Fraction(1, 10), "cm": Fraction(1, 100), "mm": Fraction(1, 1000)}
_NUMBER = r"(?:\d+\s*/\s*\d+|\d+[ -]\d+\s*/\s*\d+|\d+[.,]\d*|[.,]\d+|\d+)"
_METRIC_PART = re.compile(rf"(?P<number>{_NUMBER})\s*(?P<unit>mm|cm|dm|m)\s*")
_THOUSANDS = re.compile(r"(?<![\d.,])([1-9]\d{0,2}),(\d{3})(?=\s*mm)")  # no tape has parts of a millimetre
_FEET_TEXT = re.compile(
    rf"(?:(?P<feet>{_NUMBER})\s*(?:'|ft\.?|feet|foot))?\s*-?\s*(?:(?P<inches>{_NUMBER})\s*(?P<inch_mark>\"|''|in\.?|inch(?:es)?)?)?",
)
_TWO_WAYS = re.compile(r"(?<![\d.,])[1-9]\d{0,2},\d{3}(?![\d.,])")  # thousands to some, a fraction to others
_VULGAR = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}
_QUOTES = str.maketrans(
    {"′": "'", "’": "'", "‘": "'", "″": '"', "”": '"', "“": '"', "−": "-", "⁄": "/", "\u00a0": " "}
)


class LengthError(ValueError):
    """A text that cannot be read as a length. Carries the text and what would be accepted."""

    def __init__(self, text: str, reason: str) -> None:
        self.text = text
        self.reason = reason
        super().__init__(reason)


def accepted(system: System) -> str:
    """What a length field takes, for its hint and its refusal."""
    bare = "inches" if system == "imperial" else "mm"
    return f"""Write a length such as 13' 6 1/2", 4.12 m, 412 cm or 162 1/2 (a bare number is {bare})."""


def parse_length(text: str, system: System = "imperial") -> float:
    """The length in metres [m] that `text` says.

    Raises LengthError for anything that is not clearly one length, for negative lengths and for lengths over
    200 m.
    """
    tidy = text.translate(_QUOTES).strip().lower()
    for sign, fraction in _VULGAR.items():
        tidy = tidy.replace(sign, f" {fraction}")
    tidy = re.sub(r"\s+", " ", tidy).strip()
    if not tidy:
        raise LengthError(text, f"No length given. {accepted(system)}")
    if tidy.startswith("-"):
        raise LengthError(text, f"A length cannot be negative. {accepted(system)}")
    tidy = _THOUSANDS.sub(r"\1\2", tidy)
    metres = _read(tidy, system)
    if metres is None:
        raise LengthError(text, f"“{text.strip()}” is not a length. {accepted(system)}")
    if (comma := _TWO_WAYS.search(tidy)) and metres * 1000 <= LONGEST:
        one, other = comma[0].replace(",", "."), comma[0].replace(",", "")
        raise LengthError(
            text, f"“{text.strip()}” can be read in two ways. Write {one} or {other}. {accepted(system)}"
        )
    if metres > LONGEST:
        raise LengthError(
            text, f"“{text.strip()}” is {metres:,.0f} m, longer than any room here. {accepted(system)}"
        )
    return metres


def _read(tidy: str, system: System) -> float | None:
    if re.search("[md]", tidy):
        return _read_metric(tidy)
    match = _FEET_TEXT.fullmatch(tidy)
    if match is None or (match["feet"] is None and match["inches"] is None):
        return None
    feet = _number(match["feet"]) if match["feet"] else Fraction(0)
    inches = _number(match["inches"]) if match["inches"] else Fraction(0)
    if feet is None or inches is None:
        return None
    if match["feet"] is None and not match["inch_mark"] and system == "metric" and "/" not in tidy:
        return float(inches * _METRIC["mm"])
    return float((12 * feet + inches) * Fraction("0.0254"))


def _read_metric(tidy: str) -> float | None:
    """Metres, then centimetres, then millimetres, each once at the most."""
    total, at, units = Fraction(0), 0, list[str]()
    while at < len(tidy):
        part = _METRIC_PART.match(tidy, at)
        number = _number(part["number"]) if part else None
        if part is None or number is None:
            return None
        total += number * _METRIC[part["unit"]]
        units.append(part["unit"])
        at = part.end()
    falls = [_METRIC[unit] for unit in units]
    return float(total) if falls == sorted(set(falls), reverse=True) else None


def _number(text: str) -> Fraction | None:
    """Reads 6, 6.5, 6,5, 1/2, `6 1/2` or `6-1/2`; None where a fraction has a zero below the line."""
    text = text.strip().replace(",", ".")
    total = Fraction(0)
    try:
        for part in re.split(r"[ -](?=\d+\s*/)", text):
            total += Fraction(part.replace(" ", ""))
    except ZeroDivisionError:
        return None
    return total


@lru_cache(maxsize=64)
def _lowest(part: int, denominator: int) -> str:
    return str(Fraction(part, denominator))


def format_length(metres: float, system: System = "imperial", *, denominator: int = 16) -> str:
    """A length [m] as it is read off a tape: `13' 6 1/2"`, or whole millimetres."""
    if system == "metric":
        return f"{round(metres * 1000):d} mm".replace("-0 mm", "0 mm")
    return _in_inches(metres, denominator)


@lru_cache(maxsize=4096)  # most lengths are said again at every movement
def _in_inches(metres: float, denominator: int) -> str:
    sign = "-" if metres < 0 else ""
    sixteenths = round(abs(metres) / INCH * denominator)
    feet, rest = divmod(sixteenths, 12 * denominator)
    inches, part = divmod(rest, denominator)
    if not sixteenths:
        return '0"'
    fraction = _lowest(part, denominator) if part else ""
    inch_text = " ".join(
        piece for piece in (f"{inches}" if inches or feet or not fraction else "", fraction) if piece
    )
    return f"{sign}{feet}' {inch_text}\"" if feet else f'{sign}{inch_text}"'
