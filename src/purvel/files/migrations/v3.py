"""Version 3 to 4: names stand on one line and print; two items of different kinds may no longer have one id,
which the reader sees to; a shut gate's gap has a width and no longer an area; a vac's curve holds its own
filter; a port says what it carries; at a mitre saw the board lies still.
"""

from math import pi
from typing import Any

from purvel.shop.fields import one_line

NAMES = ("name", "wood", "work", "channel")
SAWDUST = (
    "table-saw",
    "mitre-saw",
    "bench-mitre-saw",
    "bandsaw",
    "track-saw",
    "drum-sander",
    "disc-sander",
    "hand-sander",
)
"""Kinds that give off sawdust and fine dust; all others are taken to give off chips."""
CROSSCUT = ("mitre-saw", "bench-mitre-saw")
"""Kinds at which the board lies still."""
_USUAL_DUCT, _WIDEST_GAP = 0.15, 0.005  # m


def step(document: dict[str, Any]) -> dict[str, Any]:
    """A document of version 3 as one of version 4."""
    shop = _on_one_line(document.get("shop"))
    if isinstance(shop, dict):
        if isinstance(shop.get("ducts"), dict):
            shop["ducts"] = _with_gap(shop["ducts"])
        for thing in shop["things"] if isinstance(shop.get("things"), list) else ():
            if isinstance(thing, dict):
                _own_filter(thing.get("source"))
                _carrying(thing.get("kind"), thing.get("ports"))
                if thing.get("kind") in CROSSCUT and isinstance(thing.get("feed"), dict):
                    thing["feed"]["how"] = "across"
    return {**document, "shop": shop}


def _on_one_line(value: Any) -> Any:
    if isinstance(value, dict):
        return {
            key: one_line(inner) if key in NAMES and isinstance(inner, str) else _on_one_line(inner)
            for key, inner in value.items()
        }
    return [_on_one_line(inner) for inner in value] if isinstance(value, list) else value


def _with_gap(ducts: dict[str, Any]) -> dict[str, Any]:
    """The area that every shut gate left, as the gap that it is on average round the gates that are there."""
    area = ducts.pop("leak_area", None)
    if not _is_number(area):
        return ducts if area is None else {**ducts, "gate_gap": area}
    runs = ducts.get("runs")
    wide = [
        run.get("diameter", _USUAL_DUCT)
        for run in (runs if isinstance(runs, list) else ())
        if isinstance(run, dict) and run.get("gates")
    ]
    wide = [one for one in wide if _is_number(one) and one > 0] or [_USUAL_DUCT]
    return {**ducts, "gate_gap": min(area / (pi * sum(wide) / len(wide)), _WIDEST_GAP)}


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _own_filter(source: Any) -> None:
    """The filter that a vac of the catalogue came with is in its curve already."""
    is_vac = isinstance(source, dict) and source.get("kind") == "vac"
    if is_vac and source.get("curve_from", "representative") == "representative":
        source.pop("filter", None)


def _carrying(kind: Any, ports: Any) -> None:
    for port in ports if isinstance(ports, list) and kind in SAWDUST else ():
        if isinstance(port, dict):
            port["carries"] = "dust"
