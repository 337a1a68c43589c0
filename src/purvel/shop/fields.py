"""The kinds of field a document has, with the bounds that reading enforces.

Lengths in metres, angles in degrees.
"""

import re
from typing import Annotated, Literal

from msgspec import Meta

Id = Annotated[str, Meta(min_length=1, max_length=64, pattern=r"^[\w.:-]+$")]
CONTROLS = "\x00-\x1f\x7f-\x9f\u2028\u2029\ufffe\uffff"
"""Letters that no name has: they end lines, and some may not stand in an SVG."""
Name = Annotated[str, Meta(max_length=200, pattern=f"^[^{CONTROLS}]*$")]
Text = Annotated[str, Meta(max_length=20_000)]
Length = Annotated[float, Meta(ge=0, le=200, description="[m]")]
Size = Annotated[float, Meta(ge=0.001, le=50, description="[m]")]
Coordinate = Annotated[float, Meta(ge=-500, le=500, description="[m]")]
Degrees = Annotated[float, Meta(ge=-3600, le=3600, description="[deg], counter-clockwise")]
Share = Annotated[float, Meta(ge=0, le=1, description="[-]")]
Diameter = Annotated[float, Meta(ge=0.01, le=1.0, description="[m], inside")]
Flow = Annotated[float, Meta(ge=0, le=10, description="[m3/s]")]
Need = Annotated[float, Meta(gt=0, le=10, description="[m3/s]")]
Pressure = Annotated[float, Meta(ge=0, le=100_000, description="[Pa]")]
Coefficient = Annotated[float, Meta(ge=0, le=1000, description="[-]")]
Minutes = Annotated[float, Meta(ge=0, le=1440, description="[min]")]

Provenance = Literal["paced", "plate", "measured", "laser"]
"""How a length was got: paced or guessed, read off a plate or drawing, taped, measured with a distance
meter.
"""


def one_line(text: str) -> str:
    """The text as a name may be: on one line, without letters that do not print."""
    return re.sub(f" *[{CONTROLS}\ud800-\udfff]+ *", " ", text).strip()
