"""The JSON Schema of shop.json, made from the dataclasses that read it."""

from typing import Any

import msgspec

from purvel.files.reading import FORMAT, VERSION
from purvel.shop import Shop


def schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of shop.json."""
    (shop,), definitions = msgspec.json.schema_components([Shop], ref_template="#/$defs/{name}")
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "shop.json in a .purvel file",
        "description": (
            "SI units: metres, degrees counter-clockwise, m3/s, Pa, kg/m3, minutes. Fields with a default may"
            " be left out."
        ),
        "type": "object",
        "properties": {"format": {"const": FORMAT}, "version": {"const": VERSION}, "shop": shop},
        "required": ["format", "version", "shop"],
        "additionalProperties": False,
        "$defs": definitions,
    }
