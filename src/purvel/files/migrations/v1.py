"""Version 1 to 2: the field's own words, and work at a thing that is gone is work at no thing.

`how` a length was got is its `provenance`; the `spells` of a session are its `work`. Scenes and attachments
are new.
"""

from typing import Any


def step(document: dict[str, Any]) -> dict[str, Any]:
    """A document of version 1 as one of version 2."""
    shop = _renamed_everywhere(document.get("shop"))
    if isinstance(shop, dict):
        session = _at(shop, "air", "session")
        if isinstance(session, dict) and "spells" in session:
            session = {("work" if key == "spells" else key): value for key, value in session.items()}
            session["work"] = _without_lost_things(session["work"], shop.get("things"))
            shop = {**shop, "air": {**shop["air"], "session": session}}
    return {**document, "shop": shop}


def _renamed_everywhere(value: Any) -> Any:
    """`how` of walls, openings, fixtures and things is `provenance` now."""
    if isinstance(value, dict):
        return {
            ("provenance" if key == "how" else key): _renamed_everywhere(inner)
            for key, inner in value.items()
        }
    return [_renamed_everywhere(inner) for inner in value] if isinstance(value, list) else value


def _at(value: Any, *keys: str) -> Any:
    for key in keys:
        value = value.get(key) if isinstance(value, dict) else None
    return value


def _without_lost_things(work: Any, things: Any) -> Any:
    """Version 1 let work stand at a thing that was not there."""
    if not isinstance(work, list):
        return work
    named = (thing.get("id") for thing in things or () if isinstance(thing, dict))
    there = {name for name in named if isinstance(name, str)}
    return [{**one, "thing": None} if _is_lost(one, there) else one for one in work]


def _is_lost(work: Any, things: set[str]) -> bool:
    thing = work.get("thing") if isinstance(work, dict) else None
    return isinstance(thing, str) and thing not in things
