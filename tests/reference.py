"""The reference cases as the tests use them."""

import json
from pathlib import Path
from typing import Any

CASES: dict[str, dict[str, Any]] = {
    case["id"]: case
    for case in json.loads((Path(__file__).parent / "data" / "reference_cases.json").read_text())["cases"]
}
IN_WG, CFM, FPM = 249.08891, 0.0004719474432, 0.00508


def holds(case: str, output: str, value: float) -> bool:
    """Whether a value is the case's output within its tolerance."""
    expected = CASES[case]["expected"][output]
    return abs(value - expected["value"]) <= expected["rtol"] * abs(expected["value"])
