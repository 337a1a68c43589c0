"""The two systems a reader can choose between."""

from typing import Literal

System = Literal["imperial", "metric"]
