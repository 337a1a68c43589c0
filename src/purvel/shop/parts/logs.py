"""Marked stretches of logs, as a part."""

from dataclasses import replace

from purvel.shop.air import LogStretch
from purvel.shop.part import Part, Ref
from purvel.shop.shop import Shop


def _put(shop: Shop, stretches: tuple[LogStretch, ...]) -> Shop:
    return replace(shop, air=replace(shop.air, stretches=stretches))


STRETCHES = Part(
    "log stretch",
    LogStretch,
    lambda shop: shop.air.stretches,
    _put,
    refs=(Ref("attachment", lambda one: (one.log,), lambda *_: None, "is marked in a log"),),
    unique=True,
)
