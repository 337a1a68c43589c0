"""The stages in the order of the work. Nothing else lists them."""

from importlib import import_module

from purvel.review.stage import Stage

ORDER = (
    "room",
    "place",
    "flow",
    "power",
    "ducts",
    "air",
    "walls",
    "spend",
    "keep",
)
STAGES: tuple[Stage, ...] = tuple(import_module(f"purvel.review.{key}").STAGE for key in ORDER)


def stage_of(key: str) -> Stage:
    """The stage with this key."""
    return next(stage for stage in STAGES if stage.key == key)
